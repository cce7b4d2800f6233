"""One reader, one state; what a shopper meets is a page of the shop; what can be asked about is answered."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable
from typing import Any

import pytest
from flask import Flask
from sqlalchemy import Connection, Engine, text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from tests.web.conftest import SECRET, Api
from tests.web.test_basket import TUBES, html, number, send
from tests.web.test_feed import read
from young_fabric.config import Settings
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.nouns.fields.built_in import TITLE
from young_fabric.service.acting import keys
from young_fabric.service.acting.actors import Actor, Right, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.planning import plans
from young_fabric.service.releasing import feed, pending, release
from young_fabric.web.app import create_app
from young_fabric.web.auth import snapshots, work


@pytest.fixture
def key(work: Work) -> str:
    return keys.make(work, "The till")[1]


def give_field(work: Work, name: str) -> str:
    from young_fabric.service.defining import definitions
    from young_fabric.service.writing import writes

    made = definitions.create(work, "field", name, {"kind": "text", "audience": "feeds"}).thing.key
    easels = writes.need_current(work, "product_type", "easels")
    fields = [*easels.thing.fields, made]
    definitions.change(work, "product_type", "easels", easels.version, {"fields": fields})
    return made


def test_a_table_by_cursor_has_the_columns_of_its_own_release(app: Flask, key: str, work: Work) -> None:
    first = read(app, key, "?format=csv&limit=5")
    rows = list(csv.reader(io.StringIO(first.get_data(as_text=True))))
    following = re.search(r"<([^>]+)>", first.headers["Link"])
    assert following is not None
    give_field(work, "Barcode place")
    release.release(work, "")
    answer = app.test_client().get(following[1], headers={"Authorization": f"Bearer {key}"})
    assert {len(row) for row in csv.reader(io.StringIO(answer.get_data(as_text=True)))} == {len(rows[0])}
    newest = read(app, key, "?format=csv&limit=5")
    assert len(next(csv.reader(io.StringIO(newest.get_data(as_text=True))))) == len(rows[0]) + 1
    assert newest.headers["ETag"] != first.headers["ETag"]


@pytest.fixture
def old_release(work: Work) -> None:
    """The release that is live was made before there were feeds, quick looks and comparisons."""
    work.session.execute(text("DELETE FROM live_document WHERE surface IN ('feed', 'quick_look', 'compare')"))
    work.session.commit()


def test_surfaces_that_a_release_never_made_say_so(app: Flask, key: str, stranger: Api, old_release: None) -> None:
    answer = read(app, key)
    assert (answer.status_code, answer.get_json()["code"]) == (409, "not_made"), "no empty feed"
    quick = stranger.client.get(f"/shop/q/{TUBES}")
    assert (quick.status_code, quick.headers["Location"]) == (303, f"/shop/p/{TUBES}")
    page = html(stranger, f"/shop/compare?p={TUBES}", 409)
    assert "can&#39;t be shown just now" in page or "can't be shown just now" in page


def test_a_feed_of_nothing_at_all_is_empty(work: Work) -> None:
    for table in ("live_document", "live_thing"):
        work.session.execute(text(f"DELETE FROM {table}"))
    assert feed.page(work.session, None, None, 10, "").items == []


@pytest.fixture
def served(own_engine: Engine, tmp_path: Any) -> Flask:
    settings = Settings(DATABASE_URL="postgresql://unused", secret=SECRET, files=tmp_path)  # type: ignore[arg-type]
    return create_app(settings, own_engine, lambda _job: None)


def test_what_only_looks_sees_one_state_throughout(
    served: Flask, shop: Callable[[], Session], rosa: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    looking = Api(served.test_client()).sign_in(2)
    original = pending.draft_states

    def released_meanwhile(unit: Work, asked: Any) -> Any:
        found = original(unit, asked)
        with unit_of_work(shop, rosa) as other:
            for thing in list(plans.draft(other.session).things["collection"])[:1]:
                other.session.execute(
                    text("DELETE FROM live_thing WHERE noun = 'collection' AND key = :key"), {"key": thing}
                )
                other.session.execute(
                    text("DELETE FROM unreleased WHERE noun = 'collection' AND key = :key"), {"key": thing}
                )
        return found

    before = looking.get("/api/pending")
    monkeypatch.setattr(pending, "draft_states", released_meanwhile)
    assert looking.get("/api/pending")["count"] == before["count"]
    with served.test_request_context():
        for session in (snapshots(),):
            assert session.scalar(text("SHOW transaction_isolation")) == "repeatable read"
            session.close()


def test_routes_say_by_their_right_whether_they_see_one_state(served: Flask) -> None:
    levels = {}
    with served.test_request_context("/api/pending") as context:
        from flask_login import login_user

        from young_fabric.web.auth import SignedIn

        with served.extensions["sessions"]() as session:
            row = session.execute(text("SELECT id FROM person ORDER BY id LIMIT 1")).scalar_one()
            from young_fabric.store.repos import people

            login_user(SignedIn(people.get(session, row), "token"))
        for endpoint, view in served.view_functions.items():
            if getattr(view, "allowed_to", None) in (Right.LOOK, Right.EDIT) and view.allowed_to not in levels:
                context.request.url_rule = next(iter(served.url_map.iter_rules(endpoint)))
                with work() as unit:
                    levels[view.allowed_to] = unit.session.scalar(text("SHOW transaction_isolation"))
    assert levels == {Right.LOOK: "repeatable read", Right.EDIT: "read committed"}


@pytest.mark.parametrize(("code", "status"), [("40001", 200), ("40P01", 200), ("57014", 500), ("57P01", 503)])
def test_what_only_met_another_transaction_is_done_again(
    rosa: Api, monkeypatch: pytest.MonkeyPatch, code: str, status: int
) -> None:
    from young_fabric.web.api.release import pending as api

    tries: list[int] = []
    original = api.pending.pending

    def met(unit: Work) -> Any:
        tries.append(1)
        if len(tries) < 3:
            raise OperationalError("SELECT", {}, type("Met", (Exception,), {"sqlstate": code})())
        return original(unit)

    monkeypatch.setattr(api.pending, "pending", met)
    assert rosa.client.get("/api/pending").status_code == status
    assert len(tries) == (3 if status == 200 else 1), "what may have been done is not done again"


def form_of(api: Api) -> dict[str, Any]:
    return {".product": number(api), "colour": "fen-green", "tube_size": "t15"}


def test_whatever_went_wrong_a_shopper_meets_a_page_of_the_shop(stranger: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    from young_fabric.web.shop import live

    def broken(*_: Any) -> Any:
        raise RuntimeError("no room")

    ways = live.ways_of
    with monkeypatch.context() as patched:
        patched.setattr(live, "_cards", broken)
        page = html(stranger, "/shop/c/paint", 500)
        assert "Something broke on our side" in page
        assert 'href="/shop/"' in page, "with a way on"
    with monkeypatch.context() as patched:
        patched.setattr(live, "ways_of", broken)
        assert 'href="/shop/"' in html(stranger, "/shop/c/paint", 500), "even where no page can be made"
    assert live.ways_of is ways
    refused = stranger.client.delete("/shop/checkout")
    assert (refused.status_code, "<main" in refused.get_data(as_text=True)) == (405, True)
    assert "<main" in html(stranger, "/shop/nothing-here", 404)


@pytest.mark.parametrize(
    "more", [{"colour": "fen\x00green"}, {"engraving": "\x00"}, {"printed_picture": "\x00"}, {".quantity": "\x00"}]
)
def test_a_form_with_what_can_not_be_kept_is_told_so(stranger: Api, more: dict[str, str]) -> None:
    status, page = send(stranger, "/shop/basket", {**form_of(stranger), **more})
    assert (status, "<main" in page) == (422, True)


def test_an_optional_choice_that_is_gone_is_told_and_never_dropped(stranger: Api) -> None:
    status, page = send(
        stranger, "/shop/basket", {**form_of(stranger), ".options": "colour tube_size gift", "gift": "yes"}
    )
    assert status == 422
    assert "no longer offered" in page
    assert send(stranger, "/shop/basket", {**form_of(stranger), ".options": "gift", "gift": ""})[0] == 303
    easel = re.search(r'href="/shop/p/([^"?]*easel[^"?]*)"', html(stranger, "/shop/c/easels"))
    assert easel is not None
    wood = {".product": number(stranger, easel[1]), "wood": "unobtainium"}
    assert send(stranger, "/shop/basket", wood)[0] == 422


def test_two_first_puts_with_one_cookie_are_one_basket(served: Flask, shop: Callable[[], Session]) -> None:
    from threading import Thread

    token = "a-cookie-that-two-tabs-have-in-common"
    found = Api(served.test_client())
    form = form_of(found)
    answers: list[int] = []

    def put() -> None:
        client = served.test_client()
        client.set_cookie("basket", token, path="/shop")
        answers.append(client.post("/shop/basket", data=form, headers={"Sec-Fetch-Site": "same-origin"}).status_code)

    threads = [Thread(target=put) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(120)
    assert answers == [303] * 4
    with shop() as session:
        assert session.execute(text("SELECT count(*), sum(quantity) FROM basket_line")).one() == (1, 4)
        assert session.scalar(text("SELECT count(*) FROM basket")) == 1


def test_a_double_click_on_order_leads_to_the_one_order(stranger: Api) -> None:
    assert send(stranger, "/shop/basket", form_of(stranger))[0] == 303
    page = html(stranger, "/shop/checkout")
    hidden = dict(re.findall(r'type="hidden" name="(\w+)" value="([^"]+)"', page))
    form = {"name": "Wren", **hidden}
    sent = [
        stranger.client.post("/shop/checkout", data=form, headers={"Sec-Fetch-Site": "same-origin"}) for _ in range(2)
    ]
    assert [answer.status_code for answer in sent] == [303, 303]
    assert sent[0].headers["Location"] == sent[1].headers["Location"]
    assert "Wren" in html(stranger, sent[0].headers["Location"])


@pytest.mark.parametrize("path", ["/api/pictures", "/api/files"])
def test_a_form_without_a_file_name_is_refused_in_words(rosa: Api, path: str) -> None:
    answer = rosa.client.post(path, data={"file": "x"}, headers={"X-CSRF-Token": rosa.csrf})
    assert (answer.status_code, answer.get_json()["code"]) == (422, "shape")


def test_a_long_file_name_keeps_its_ending(rosa: Api) -> None:
    file = (io.BytesIO(b"%PDF-1.4 x"), f"{'a' * 200}.pdf")
    answer = rosa.client.post("/api/files", data={"file": file}, headers={"X-CSRF-Token": rosa.csrf})
    assert answer.status_code == 200, answer.get_json()
    kept = answer.get_json()
    assert (len(kept["name"]), kept["name"][-4:]) == (113, ".pdf")
    text_file = (io.BytesIO(b"words"), "a.txt")
    kept = rosa.client.post("/api/files", data={"file": text_file}, headers={"X-CSRF-Token": rosa.csrf}).get_json()
    with rosa.client.get(f"/downloads/{kept['file']}") as found:
        assert found.headers["Content-Type"] == "text/plain; charset=utf-8"


@pytest.mark.parametrize("base", ["1e999999999", "1e10000", "9" * 60, "NaN", "Infinity", "-1e5", "x"])
def test_a_price_to_try_is_read_as_prices_are(lena: Api, base: str) -> None:
    body = {"changes": {}, "choices": {}, "quantity": 1, "base": base[:40]}
    status, problem = lena.refused("POST", "/api/option_sets/easel_woods/try", body)
    assert status == 422
    assert problem["where"][0] == "base"


def test_what_removing_any_type_would_change_is_answered(lena: Api, connection: Connection) -> None:
    for (name,) in connection.execute(text("SELECT key FROM definition WHERE noun = 'product_type'")).all():
        answer = lena.send("POST", f"/api/product_types/{name}/consequences", {"remove": True})
        assert answer.status_code == 200, name
    assert lena.refused("POST", "/api/product_types/nothing/consequences", {"remove": True})[0] == 404


def test_a_step_of_a_layout_with_an_unknown_op_is_refused_in_words(rosa: Api) -> None:
    made = rosa.send("POST", "/api/layouts", {"name": "Odd"}).get_json()
    step = {"key": "s1", "op": "spin", "id": "title"}
    body = {"version": made["version"], "steps": [step]}
    status, problem = rosa.refused("PATCH", f"/api/layouts/{made['thing']['key']}", body)
    assert (status, problem["where"][0]) == (422, "steps")


def test_a_pattern_is_bounded_by_what_it_costs(lena: Api) -> None:
    for pattern, sound in ((".{0,1000}" * 20, False), (".{0,1000}", True), (".{0,1000}" * 2, False), ("(a+)+$", True)):
        body = {
            "key": "ss_wood",
            "changes": {"kind": "text", "options": {}, "limits": {"pattern": pattern}},
            "texts": ["a" * 400],
        }
        answer = lena.send("POST", "/api/fields/try", body)
        assert (answer.status_code == 200) is sound, (pattern, answer.get_json())
        if not sound:
            assert answer.get_json()["code"] == "pattern_size"


def test_prices_of_variants_that_can_not_be_read_stand_in_a_check(rosa: Api, connection: Connection) -> None:
    row = connection.execute(text("SELECT product_id, id, version FROM variant WHERE NOT retired LIMIT 1")).one()
    body = {"edits": [{"id": row[1], "version": row[2], "values": {"price": "a lot"}}]}
    answer = rosa.send("PATCH", f"/api/products/{row[0]}/variants", body)
    assert answer.status_code == 200, answer.get_json()
    told = [check["text"] for check in rosa.get("/api/checks")["checks"]]
    assert any("Price of 1 variant is not understood" in words for words in told)


def test_a_property_that_means_nothing_for_a_field_is_refused(rosa: Api) -> None:
    surface = SURFACES["product_page"]
    idle = next(code for code, prop in PROPERTIES.items() if not prop.whole and not prop.means(TITLE, surface))
    cell = {"scope": "shop", "field": "title", "surface": "product_page", "version": None}
    value = next((choice.code for choice in PROPERTIES[idle].choices), "x")
    status, problem = rosa.refused("PATCH", "/api/display_settings", {**cell, "set": {idle: value}})
    assert (status, problem["code"], problem["where"]) == (422, "no_meaning", ["set", idle])
    sound = {**cell, "field": "ss_paper_weight", "set": {"label": "above"}}
    assert rosa.send("PATCH", "/api/display_settings", sound).status_code == 200
