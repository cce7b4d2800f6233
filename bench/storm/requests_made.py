"""Generated requests for every operation of the API's description, with what hostile people would send put into them."""

from __future__ import annotations

import random
import threading
import warnings
from typing import Any
from urllib.parse import quote

import requests
import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings
from people import Client, Gone

HOSTILE: list[Any] = [
    "1e999999999", "-1e999999999", "9" * 400, "NaN", "\x00", "\ud800", "‮", "{{7*7}}", "<script>", "%s%n", "'; --", "../../x",
    "a" * 20_000, "[[[[", "{a{b", "(a+)+$", ".{0,1000}" * 20, -1, 2**31, 2**63, 1e308, True, None, [], {}, [[]] * 50, "storm_covers",
]  # fmt: skip
PASSED_OVER = frozenset({("POST", "/api/session/password"), ("DELETE", "/api/session")})
"""What would lock the generator out."""


def described(openapi: dict[str, Any]) -> list[Any]:
    """Every operation there is, as schemathesis reads the description."""
    schema = schemathesis.openapi.from_dict(openapi)
    results: list[Any] = list(schema.get_all_operations())
    found = (result.ok() for result in results)
    return [operation for operation in found if (operation.method.upper(), operation.path) not in PASSED_OVER]


class Generator:
    """Asks for operations in turn, a few cases each time."""

    def __init__(self, client: Client, operations: list[Any], known: dict[str, list[str]]) -> None:
        self.client, self.rng = client, client.rng
        self.operations, self.known = operations, known

    def act(self, stop: threading.Event) -> None:
        """One operation, a few cases."""
        operation = self.rng.choice(self.operations)

        @seed(self.rng.randrange(2**32))
        @settings(
            max_examples=4,
            database=None,
            deadline=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(case=operation.as_strategy())
        def ask(case: Any) -> None:
            if not stop.is_set():
                self.send(case)

        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            ask()

    def send(self, case: Any) -> None:
        """One case, mutated now and then. An answer that is none is passed over, as what is killed can't answer."""
        path = case.operation.path
        for name, value in (case.path_parameters or {}).items():
            path = path.replace("{" + name + "}", self._part(name, value))
        body = case.body if isinstance(case.body, dict | list) else None
        if body is not None and self.rng.random() < 0.4:
            body = mutated(body, self.rng)
        query = [(name, value) for name, value in (case.query or {}).items() if isinstance(value, str | int)]
        try:
            prepared = self.client.http.prepare_request(requests.Request("GET", f"http://x{path}", params=query))
            self.client.send(case.method.upper(), prepared.path_url, body=body)
            self.client.book.count("generated")
        except Gone:
            pass
        except (ValueError, UnicodeError, OverflowError):
            self.client.book.count("unsendable")

    def _part(self, name: str, value: Any) -> str:
        if self.known.get(name) and self.rng.random() < 0.7:
            return self.rng.choice(self.known[name])
        return quote(str(value), safe="", errors="replace")


def mutated(body: Any, rng: random.Random) -> Any:
    """A body with something hostile at one place."""
    if isinstance(body, dict) and body and rng.random() < 0.8:
        key = rng.choice(list(body))
        return {**body, key: mutated(body[key], rng)}
    if isinstance(body, list) and body and rng.random() < 0.5:
        index = rng.randrange(len(body))
        return [*body[:index], mutated(body[index], rng), *body[index + 1 :]]
    return rng.choice(HOSTILE)
