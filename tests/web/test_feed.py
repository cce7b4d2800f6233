"""The feed: a key, pages of one release, only what changed, as lines of JSON and as a table."""

from __future__ import annotations

import csv
import io
import json
from datetime import timedelta
from typing import Any

import pytest
from flask import Flask
from sqlalchemy.orm import Session
from werkzeug.test import TestResponse

from tests.conftest import NOW
from tests.web.conftest import Api
from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting import keys
from young_fabric.service.acting.actors import Work
from young_fabric.service.products import products
from young_fabric.service.releasing import feed, release


@pytest.fixture
def key(work: Work) -> str:
    return keys.make(work, "The till")[1]


def read(app: Flask, key: str, query: str = "", **headers: str) -> TestResponse:
    asked = {"Authorization": f"Bearer {key}", **headers}
    return app.test_client().get(f"/delivery/v1/feed{query}", headers=asked)


def lines(response: TestResponse) -> list[dict[str, Any]]:
    assert response.status_code == 200, response.get_data(as_text=True)
    return [json.loads(line) for line in response.get_data(as_text=True).splitlines()]


def easel(work: Work) -> Any:
    return products.search(work, products.Filters(words="Groyne Studio"), None).rows[0].product


def test_only_a_key_that_holds_is_let_in(app: Flask, rosa: Api, lena: Api, work: Work) -> None:
    made = rosa.send("POST", "/api/keys", {"name": "The till"}).get_json()
    assert read(app, made["key"]).status_code == 200
    listed = rosa.get("/api/keys")
    assert listed["keys"][0]["tail"] == made["key"][-4:]
    assert made["key"] not in json.dumps(listed)
    assert listed["keys"][0]["used"]
    for wrong in ("", "x", made["key"][:-1], f"{made['key']}x"):
        answer = read(app, wrong)
        assert (answer.status_code, answer.get_json()["code"]) == (401, "signed_out")
    assert app.test_client().get("/delivery/v1/feed").status_code == 401
    assert rosa.client.get("/delivery/v1/feed").status_code == 401, "a session is no key"
    assert rosa.send("DELETE", f"/api/keys/{made['id']}").status_code == 200
    assert read(app, made["key"]).status_code == 401
    assert rosa.refused("DELETE", f"/api/keys/{made['id']}")[1]["code"] == "not_found"
    assert lena.refused("POST", "/api/keys", {"name": "Mine"})[0] == 403


def test_keys_have_names_and_there_are_not_too_many(work: Work) -> None:
    for name, code in ((" ", "required"), ("x" * (keys.LONGEST_NAME + 1), "long")):
        with pytest.raises(Refusal) as caught:
            keys.make(work, name)
        assert caught.value.code == code
    for _ in range(keys.MOST_OPEN - len(keys.listed(work))):
        keys.make(work, "x" * keys.LONGEST_NAME)
    with pytest.raises(Refusal) as caught:
        keys.make(work, "one more")
    assert caught.value.code == "too_many"


def test_use_is_noted_once_a_minute(session: Session, work: Work, key: str) -> None:
    assert keys.admits(session, key, NOW)
    assert keys.admits(session, key, NOW + timedelta(seconds=59))
    assert keys.listed(work)[0].used == NOW
    assert keys.admits(session, key, NOW + timedelta(seconds=60))
    assert keys.listed(work)[0].used == NOW + timedelta(seconds=60)


def test_pages_lead_through_all_live_products_of_one_release(app: Flask, work: Work, key: str) -> None:
    whole = lines(read(app, key, "?limit=1000"))
    assert len(whole) == len({row["id"] for row in whole}) == 65
    seen: list[dict[str, Any]] = []
    response = read(app, key, "?limit=25")
    products.fill(work, easel(work).id, None, {"price": "1.23"})
    release.release(work, "meanwhile")
    while True:
        seen += lines(response)
        link = response.headers.get("Link")
        if link is None:
            break
        assert response.headers["X-Release"] == "1"
        response = app.test_client().get(link.split(">")[0][1:], headers={"Authorization": f"Bearer {key}"})
    assert seen == whole, "what was released meanwhile is not among them"
    assert read(app, key).headers["X-Release"] == "2"


def test_a_record_holds_what_its_readers_may_get(app: Flask, work: Work, key: str) -> None:
    number = easel(work).id
    row = next(row for row in lines(read(app, key)) if row["id"] == number)
    assert row["type"] == "easels"
    assert row["address"].endswith("/shop/p/groyne-studio-easel")
    assert row["fields"]["price"] == {"label": "Price", "value": "389", "text": "€389.00"}
    assert "slug" not in row["fields"], "staff fields never leave the studio"


def test_an_etag_stands_for_a_release(app: Flask, work: Work, key: str) -> None:
    first = read(app, key)
    assert read(app, key, **{"If-None-Match": first.headers["ETag"]}).status_code == 304
    assert read(app, key, "?format=csv", **{"If-None-Match": first.headers["ETag"]}).status_code == 200
    products.fill(work, easel(work).id, None, {"price": "1.23"})
    assert read(app, key, **{"If-None-Match": first.headers["ETag"]}).status_code == 304
    release.release(work, "dearer")
    assert read(app, key, **{"If-None-Match": first.headers["ETag"]}).status_code == 200


def test_only_what_changed_since_a_release(app: Flask, work: Work, key: str) -> None:
    release.release(work, "what the demo left")
    assert lines(read(app, key, "?since=2")) == []
    groyne = easel(work)
    gone = products.search(work, products.Filters(words="Estuary Easel"), None).rows[0]
    products.fill(work, groyne.id, None, {"price": "1.23"})
    products.remove(work, gone.product.id, gone.version)
    release.release(work, "third")
    rows = {row["id"]: row for row in lines(read(app, key, "?since=2"))}
    assert rows.keys() == {groyne.id, gone.product.id}
    assert rows[gone.product.id] == {"id": gone.product.id, "gone": True}
    assert rows[groyne.id]["fields"]["price"]["value"] == "1.23"
    assert len(lines(read(app, key, "?since=2&limit=1"))) == 1
    assert len(lines(read(app, key, "?since=0"))) == 65, "all there are, and the one that went"
    assert read(app, key, "?since=9").status_code == 404


def test_a_table_reads_back_to_the_values(app: Flask, key: str) -> None:
    response = read(app, key, "?format=csv")
    assert response.mimetype == "text/csv"
    rows = list(csv.DictReader(io.StringIO(response.get_data(as_text=True), newline="")))
    assert len(rows) == 65
    row = next(row for row in rows if row["title"] == "Spinnaker Linen Canvas 50 × 70")
    assert (row["type"], row["gone"]) == ("canvas", "")
    assert "slug" not in row
    assert row["ss_care_guide"] == "Keeping a canvas taut <https://guides.saltmarsh.example/canvas>"
    second = read(app, key, f"?format=csv&cursor=1.{row['id']}").get_data(as_text=True)
    assert not second.startswith("id,"), "the names of columns stand once"


@pytest.mark.parametrize("query", ["?cursor=x", "?cursor=1", "?cursor=1.x", "?cursor=-1.2", f"?cursor=1.{'9' * 30}"])
def test_a_page_mark_that_can_t_be_read_is_told(app: Flask, key: str, query: str) -> None:
    answer = read(app, key, query)
    assert (answer.status_code, answer.get_json()["code"]) == (422, "cursor")


@pytest.mark.parametrize("query", ["?limit=0", "?limit=1001", "?format=xml", "?since=-1", "?odd=1"])
def test_what_can_t_be_asked_is_told(app: Flask, key: str, query: str) -> None:
    assert read(app, key, query).status_code == 422
    assert read(app, key, "?limit=1").status_code == read(app, key, "?limit=1000").status_code == 200


def test_a_cursor_reads_back() -> None:
    assert str(feed.read_cursor("12.345")) == "12.345"
