"""News over the API: who may hear, what of others is told, and from which window it came."""

from __future__ import annotations

from typing import Any

import pytest

from tests.web.conftest import Api
from young_fabric.service.acting import news
from young_fabric.web.auth import CSRF_HEADER, WINDOW_HEADER

HERE = {"window": "aaaaaaaa", "noun": "field", "key": "ss_hair"}
THERE = {"window": "bbbbbbbb", "noun": "field", "key": "ss_hair"}


@pytest.fixture(autouse=True)
def always_fresh(monkeypatch: pytest.MonkeyPatch) -> None:
    """Each question looks anew: what others wrote is there at once."""
    monkeypatch.setattr(news, "FRESH", 0.0)


def hear(api: Api, of: dict[str, Any], since: int | None = None) -> dict[str, Any]:
    answer = api.send("POST", "/api/news", {**of, "since": since})
    assert answer.status_code == 200, answer.get_data(as_text=True)
    found: dict[str, Any] = answer.get_json()
    return found


def test_a_write_is_heard_in_other_windows_with_who_made_it(rosa: Api) -> None:
    mark = hear(rosa, HERE)["mark"]
    version = rosa.get("/api/fields/ss_hair")["version"]
    headers = {WINDOW_HEADER: THERE["window"]}
    rosa.send("PATCH", "/api/fields/ss_hair", {"label": "Tuft", "version": version}, headers=headers)
    written = {"noun": "field", "key": "ss_hair", "version": version + 1}
    found = [item for item in hear(rosa, HERE, mark)["items"] if item["things"] == [written]]
    assert [(item["mine"], item["nouns"], bool(item["by"])) for item in found] == [(True, ["field"], True)]
    own = [item["things"] for item in hear(rosa, THERE, mark)["items"]]
    assert [written] not in own


def test_nothing_is_told_of_what_is_taken_back(rosa: Api) -> None:
    mark = hear(rosa, HERE)["mark"]
    before = {item["id"] for item in hear(rosa, HERE, mark)["items"]}
    assert rosa.refused("PATCH", "/api/fields/ss_hair", {"kind": "gone", "version": 1})[0] == 422
    assert {item["id"] for item in hear(rosa, HERE, mark)["items"]} == before


def test_only_those_signed_in_hear_and_only_from_the_studio(rosa: Api, stranger: Api) -> None:
    assert stranger.refused("POST", "/api/news", HERE)[1]["code"] == "signed_out"
    assert rosa.client.post("/api/news", json=HERE).get_json()["code"] == "csrf"
    assert rosa.client.post("/api/news", json=HERE, headers={CSRF_HEADER: "x"}).status_code == 403
    for wrong in ({"window": "short"}, {"window": "z" * 20}, {"window": "a" * 41}, {**HERE, "since": -1}):
        assert rosa.refused("POST", "/api/news", wrong)[0] == 422
    assert rosa.send("POST", "/api/news", {**HERE, "window": "a" * 40}).status_code == 200
