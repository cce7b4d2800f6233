"""Nothing anybody sends makes a route break: awkward ids, keys, texts and bodies, to every route."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any
from urllib.parse import quote

import pytest
from flask import Flask
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from openapi_spec_validator import validate

from tests.contract.test_contract import routes
from tests.web.conftest import Api, app, rosa, stranger, wired  # noqa: F401
from young_fabric.web.auth import PUBLIC

ROOT = Path(__file__).parents[2]
AWKWARD = [
    "\x00",
    "a\x00b",
    "\r\nX: y",
    "../../x",
    "a/b",
    "-1",
    "0",
    str(2**31),
    str(2**63),
    "9" * 400,
    "x" * 3000,
    "product:1",
    "%ZZ",
    "‮ﷺ",
    "1e309",
    "NaN",
    "null",
    "[]",
]
DEEP = "[" * 3000 + "]" * 3000
BODIES = [
    "",
    "null",
    "[]",
    "3",
    "{",
    '"\\ud800"',
    DEEP,
    '{"values": ' + DEEP + "}",
    '{"name": "\\u0000", "version": 1}',
    '{"name": "\\ud800", "title": "\\udfff", "type": "easels", "version": 1}',
    '{"version": 1e400, "name": "x"}',
    '{"version": 99999999999999999999999, "name": "x"}',
    '{"version": -1, "values": {"\\u0000": 1}}',
    '{"version": 1, "values": {"price": {"amount": "1"}, "ss_x": {"amount": 1e300}}}',
    '{"scope": "type:\\u0000", "field": "title", "surface": "nowhere", "set": {}, "version": null}',
    '{"changes": {"values": 3, "sections": {}, "needs": []}}',
    '{"key": "title", "texts": ["\\ud800"], "changes": {"limits": {"min": ' + "9" * 500 + "}}}",
]


def filled(path: str, text: str) -> str:
    """A rule of a route with every part of it replaced."""
    return re.sub(r"<[^>]+>", quote(text, safe=""), path)


def answers_plainly(response: Any, at: object) -> None:
    response.close()
    assert response.status_code < 500, (at, response.status_code)


@pytest.mark.parametrize("text", AWKWARD, ids=range(len(AWKWARD)))
def test_no_part_of_an_address_breaks_a_route(app: Flask, rosa: Api, stranger: Api, text: str) -> None:  # noqa: F811
    for rule in app.url_map.iter_rules():
        if rule.endpoint == "static":
            continue
        for method in (rule.methods or set()) & {"GET", "DELETE", "POST"}:
            if rule.endpoint == "session.session_sign_out":
                continue
            path = filled(rule.rule, text)
            answers_plainly(rosa.send(method, path, {} if method == "POST" else None), (method, path))
            if app.view_functions[rule.endpoint].allowed_to == PUBLIC:  # type: ignore[attr-defined]
                answers_plainly(stranger.send(method, path, {} if method == "POST" else None), (method, path))


def query_names() -> list[tuple[str, list[str]]]:
    """Every address that is asked with GET, with what its query can name."""
    api = json.loads((ROOT / "frontend/openapi.json").read_text())
    return [
        (path, [parameter["name"] for parameter in rule["get"].get("parameters", []) if parameter["in"] == "query"])
        for path, rule in api["paths"].items()
        if "get" in rule
    ]


ALIKE = {"a\x00b", "0", "%ZZ", "1e309", "null", "[]"}
"""Those that a query reads as it reads others of them."""
ASKED = [text for text in AWKWARD if text not in ALIKE]


@pytest.mark.parametrize("text", ASKED, ids=range(len(ASKED)))
def test_no_query_breaks_a_route(rosa: Api, text: str) -> None:  # noqa: F811
    for path, names in query_names():
        address = re.sub(r"\{[^}]+\}", "1", path)
        sound = {"product": "1", "field": "title", "surface": "product_page", "noun": "field", "key": "title"}
        for name in [*names, "page", "q\x00"]:
            query = {**{other: sound[other] for other in names if other in sound}, name: text}
            answers_plainly(rosa.client.get(address, query_string=query), (address, query))
    for address in ("/shop/", "/shop/c/paper", "/shop/p/fen-etching-300", "/proof/product/1", "/proof/type/paper"):
        answers_plainly(rosa.client.get(address, query_string={"page": text, "against": text}), (address, text))


@pytest.mark.parametrize("body", BODIES, ids=range(len(BODIES)))
def test_no_body_breaks_a_route(app: Flask, rosa: Api, body: str) -> None:  # noqa: F811
    for endpoint, method, path in routes(app):
        if method in ("POST", "PATCH", "PUT") and endpoint != "session.session_sign_in":
            headers = {"X-CSRF-Token": rosa.csrf, "Content-Type": "application/json"}
            answers_plainly(rosa.client.open(path, method=method, data=body, headers=headers), (endpoint, body[:80]))


json_values = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=12),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)
TARGETS = [
    ("PATCH", "/api/products/{product}", "values"),
    ("PATCH", "/api/fields/ss_wood", "limits"),
    ("PATCH", "/api/fields/ss_wood", "default"),
    ("PATCH", "/api/fields/ss_wood", "options"),
    ("PATCH", "/api/field_sets/origin", "sections"),
    ("PATCH", "/api/product_types/easels", "needs"),
    ("PATCH", "/api/value_lists/wood", "values"),
    ("POST", "/api/fields/ss_wood/consequences", "changes"),
    ("PATCH", "/api/display_settings", "set"),
]
FILLED = ("price", "ss_wood", "ss_folds", "ss_holds", "pictures", "contents", "gtin", "title", "sku", "slug")


@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(target=st.sampled_from(TARGETS), field=st.sampled_from(FILLED), value=json_values)
def test_whatever_is_written_nothing_breaks_for_its_readers(
    rosa: Api,  # noqa: F811
    target: tuple[str, str, str],
    field: str,
    value: Any,
) -> None:
    method, path, member = target
    row = rosa.get("/api/products?q=Groyne")["rows"][0]
    path = path.format(product=row["id"])
    given_value = {field: value} if member == "values" and "products" in path else value
    body: dict[str, Any] = {member: given_value}
    if "consequences" not in path:
        body["version"] = rosa.get(path)["version"] if "display" not in path else None
    if "display" in path:
        body |= {"scope": "shop", "field": field, "surface": "product_page"}
    text = json.dumps(body)
    headers = {"X-CSRF-Token": rosa.csrf, "Content-Type": "application/json"}
    answers_plainly(rosa.client.open(path, method=method, data=text, headers=headers), text)
    for reader in (
        f"/api/products/{row['id']}",
        "/api/changes",
        "/api/pending",
        "/api/checks",
        "/api/fields",
        f"/api/why?product={row['id']}&field={field}&surface=product_page",
        f"/proof/product/{row['id']}",
        f"/proof/type/{row['type']}",
    ):
        answers_plainly(rosa.client.get(reader), (reader, text))


def test_the_description_of_the_api_is_valid() -> None:
    validate(json.loads((ROOT / "frontend/openapi.json").read_text()))
