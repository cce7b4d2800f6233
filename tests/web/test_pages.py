"""Pages of the shop besides listings: quick looks, comparisons, what was saved, and the proof of every surface."""

from __future__ import annotations

import re
from typing import Any

import pytest

from tests.web.conftest import Api
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.kinds.shown import Text
from young_fabric.core.listing.comparing import MOST_COMPARED, compare
from young_fabric.core.pages.document import Entry, RenderDoc, ShownBlock, ShownRegion
from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import release

PAINTS = ["barley-ochre-artist-watercolour", "fen-green-artist-watercolour", "peat-artist-watercolour"]


def html(api: Api, path: str, status: int = 200) -> str:
    answer = api.client.get(path)
    assert answer.status_code == status, path
    return str(answer.get_data(as_text=True))


def test_a_quick_look_is_a_page_of_its_own_that_leads_on(stranger: Api) -> None:
    page = html(stranger, f"/shop/q/{PAINTS[0]}")
    assert 'id="quick"' in page
    assert "Barley Ochre" in page
    assert f'href="/shop/p/{PAINTS[0]}"' in page
    assert "Contents" in page
    assert "Lightfastness" not in page, "it is not shown on quick looks"
    html(stranger, "/shop/q/nobody", 404)


def test_products_are_compared_on_the_fields_of_the_surface(stranger: Api) -> None:
    page = html(stranger, f"/shop/compare?p={PAINTS[0]}&p={PAINTS[1]}")
    assert page.count("data-compared=") == 2
    same, differs = page.count('<tr class="same">'), page.count('<tr class="differs">')
    assert same
    assert differs
    only = html(stranger, f"/shop/compare?p={PAINTS[0]}&p={PAINTS[1]}&only=differs")
    assert only.count('<tr class="differs">') == differs
    assert '<tr class="same">' not in only
    assert f'href="/shop/compare?p={PAINTS[1]}"' in page, "one is taken out by a link"
    alone = html(stranger, f"/shop/compare?p={PAINTS[0]}")
    assert "Only what differs" not in alone


def test_no_more_than_four_are_compared_each_once_and_those_there_are(stranger: Api) -> None:
    listed = re.findall(r'data-compare="([^"]+)"', html(stranger, "/shop/c/paint"))
    many = list(dict.fromkeys(listed))[:6]
    asked = "&".join(f"p={name}" for name in [many[0], *many, "nobody"])
    assert html(stranger, f"/shop/compare?{asked}").count("data-compared=") == MOST_COMPARED
    assert html(stranger, f"/shop/compare?p={many[0]}&p=nobody").count("data-compared=") == 1
    assert "Nothing is being compared" in html(stranger, "/shop/compare")


def test_rows_stand_where_the_first_that_has_them_has_them() -> None:
    def doc(number: int, **texts: str) -> RenderDoc:
        entries = tuple(Entry(key, key.upper(), "beside", Text(text), text, ()) for key, text in texts.items())
        return RenderDoc("compare", number, ShownRegion("main", (ShownBlock("facts", "fields", "", entries),)))

    found = compare([doc(1, a="1", c="3"), doc(2, a="1", b="2", c="4")])
    assert [(row.field, row.same) for row in found.rows] == [("a", True), ("b", False), ("c", False)]
    assert found.rows[1].cells[0] is None
    assert compare([]).rows == ()


def test_cards_of_what_a_browser_saved_are_given_for_numbers_there_are(stranger: Api) -> None:
    assert "data-saved-list" in html(stranger, "/shop/saved")
    ids = re.findall(r'data-product="(\d+)"', html(stranger, "/shop/c/paint"))[:2]
    cards = html(stranger, f"/shop/cards?ids={ids[1]},{ids[0]},{ids[1]},x,99999,-1,")
    assert re.findall(r'data-product="(\d+)"', cards) == [ids[1], ids[0]]
    assert "data-product" not in html(stranger, "/shop/cards?ids=")


def test_counts_of_parts_are_written_as_the_shop_writes_numbers(stranger: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    counts = plans.live_counts
    plans.set_back()
    monkeypatch.setattr(plans, "live_counts", lambda session: dict.fromkeys(counts(session), 1692))
    assert "<span>1,692</span>" in html(stranger, "/shop/c/paint")


@pytest.mark.parametrize("surface", product_surfaces())
def test_the_proof_is_byte_for_byte_what_is_live_once_it_is_released(rosa: Api, work: Work, surface: str) -> None:
    release.release(work, "all of it")
    found = products.search(work, products.Filters(), None).rows
    for number in [row.product.id for row in found if row.product.offered][::7]:
        draft = plain(html(rosa, f"/proof/surface/{surface}/{number}"))
        live = plain(html(rosa, f"/proof/live/{surface}/{number}"))
        assert draft == live, (surface, number)


def plain(page: str) -> str:
    """The middle of a page, without where its links and forms lead: in the proof to proofs."""
    found = re.search(r"<main.*</main>", page, re.DOTALL)
    assert found is not None
    page = re.sub(r' (href|data-compare|data-compared|action|method|enctype|formaction|data-buy)="[^"]*"', "", found[0])
    return re.sub(r"&#34;id&#34;: \d+", "", page)


def test_the_proof_tries_a_layout_and_edits_and_says_what_is_wrong_with_them(rosa: Api) -> None:
    number = rosa.get("/api/products?q=Barley+Ochre")["rows"][0]["id"]
    tried = html(rosa, f"/proof/surface/product_page/{number}?layout=in_panels")
    assert 'data-panels="tabs"' in tried
    assert "Asked in the shop" in tried
    edits = '[{"op":"set","id":"asked","props":{"heading":"Of our own"}}]'
    more = html(rosa, f"/proof/surface/product_page/{number}?layout=in_panels&edited=in_panels&edits={edits}")
    assert "Of our own" in more
    assert "Of our own" not in html(rosa, f"/proof/surface/product_page/{number}?layout=in_panels")
    for query in (
        "layout=gone",
        "edited=in_panels&edits=broken",
        "edited=page&edits=[{}]",
        "edited=in_panels&edits=[1]",
    ):
        assert rosa.client.get(f"/proof/surface/product_page/{number}?{query}").status_code in (404, 422), query
    assert rosa.client.get(f"/proof/surface/moon/{number}").status_code in (404, 422)


def test_words_and_marks_of_a_layout_are_escaped(rosa: Api) -> None:
    rosa.send("POST", "/api/layouts", {"name": "Marks", "base": "page", "surface": "product_page"})
    block = {"kind": "words", "heading": "<i>H</i>", "words": "<script>alert(1)</script> & {title}"}
    answer = rosa.send(
        "POST",
        "/api/layouts/marks/edits",
        {"edits": [{"op": "add", "block": block, "region": "main", "after": None}], "version": 1},
    )
    assert answer.status_code == 200
    page = html(rosa, "/proof/surface/product_page/1?layout=marks")
    assert "&lt;script&gt;alert(1)&lt;/script&gt; &amp;" in page
    assert "&lt;i&gt;H&lt;/i&gt;" in page


def test_many_cells_are_set_as_one_change_with_what_they_touch(rosa: Api) -> None:
    cells: list[dict[str, Any]] = [
        {"field": field, "surface": surface, "set": {"shown": True}, "version": None}
        for field in ("ss_opacity", "ss_staining")
        for surface in ("listing_card", "quick_look")
    ]
    body = {"scope": "type:watercolour", "cells": cells}
    places = [{"field": cell["field"], "surface": cell["surface"]} for cell in cells]
    tried = {"cells": places, "sets": [{"shown": True}, {"shown": False}]}
    asked = {"scope": body["scope"], **tried}
    show, hide = rosa.send("POST", "/api/display_settings/several/consequences", asked).get_json()["touched"]
    assert {code: count for code, count in show["surfaces"].items() if count} == {"listing_card": 14, "quick_look": 14}
    assert not any(hide["surfaces"].values())
    assert rosa.send("PATCH", "/api/display_settings/several", body).get_json()["versions"] == [1, 1, 1, 1]
    shown = {
        row["key"]: row for group in rosa.get("/api/weave?scope=type:watercolour")["groups"] for row in group["rows"]
    }
    states = {cell["surface"]: cell["state"] for cell in shown["ss_opacity"]["cells"]}
    assert states["listing_card"] == states["quick_look"] == "here"
    rosa.send("POST", "/api/undo", {})
    shown = {
        row["key"]: row for group in rosa.get("/api/weave?scope=type:watercolour")["groups"] for row in group["rows"]
    }
    assert {cell["state"] for cell in shown["ss_opacity"]["cells"] if cell["surface"] == "quick_look"} == {"off"}
    twice = rosa.send("PATCH", "/api/display_settings/several", {**body, "cells": [cells[0], cells[0]]})
    assert twice.get_json()["code"] == "twice"


def test_a_cell_opens_with_all_that_can_be_set_there_and_where_it_comes_from(rosa: Api) -> None:
    found = rosa.get("/api/weave/cell?scope=type:watercolour&field=ss_granul&surface=product_page")
    by_code = {prop["code"]: prop for prop in found["properties"]}
    assert by_code["label_text"]["own"] is True
    assert by_code["label_text"]["value"] == "Granulates"
    assert {"yes_words", "no_words", "condition", "before", "order"} <= by_code.keys()
    assert "unit" not in by_code
    measure = rosa.get("/api/weave/cell?scope=type:paper&field=ss_paper_weight&surface=listing_card")
    units = next(prop for prop in measure["properties"] if prop["code"] == "unit")["choices"]
    assert {"g/m²"} <= {choice["value"] for choice in units}
    assert "ml" not in {choice["value"] for choice in units}
    row = rosa.get("/api/weave/cell?scope=shop&field=*&surface=compare")
    assert next(prop for prop in row["properties"] if prop["code"] == "shown")["own"] is True


def test_a_condition_typed_in_a_cell_is_read_and_decides_what_shows(rosa: Api) -> None:
    condition = {"field": "ss_opacity", "op": "is", "typed": "Transparent"}
    body = {
        "scope": "type:watercolour",
        "field": "ss_pigment",
        "surface": "product_page",
        "set": {"condition": condition},
    }
    assert rosa.send("PATCH", "/api/display_settings", body).status_code == 200
    cell = rosa.get("/api/weave/cell?scope=type:watercolour&field=ss_pigment&surface=product_page")
    kept = next(prop for prop in cell["properties"] if prop["code"] == "condition")["value"]
    assert kept["field"] == "ss_opacity"
    assert "typed" not in kept
    shows = []
    for number in [row["id"] for row in rosa.get("/api/products?type=watercolour")["rows"]]:
        why = rosa.get(f"/api/why?product={number}&field=ss_pigment&surface=product_page")
        page = html(rosa, f"/proof/surface/product_page/{number}")
        assert why["shows"] == ('data-field="ss_pigment"' in page)
        shows.append(why["shows"])
        if not why["shows"]:
            failed = next(step for step in why["steps"] if step["ok"] is False)
            assert failed["name"] in ("condition", "value")
    assert True in shows
    assert False in shows
    wrong = {**body, "set": {"condition": {"field": "ss_gone", "op": "filled"}}}
    assert rosa.send("PATCH", "/api/display_settings", wrong).get_json()["code"] == "unknown_field"


def test_pages_of_records_are_byte_for_byte_what_is_live_once_they_are_released(rosa: Api, work: Work) -> None:
    made = rosa.send(
        "POST", "/api/layouts", {"name": "Makers", "surface": "record_page", "base": "of_record"}
    ).get_json()["thing"]["key"]
    block = {"kind": "words", "words": "{title} works in {ss_maker_place}.", "heading": "In short"}
    rosa.send(
        "POST",
        f"/api/layouts/{made}/edits",
        {"edits": [{"op": "add", "block": block, "region": "main", "after": "title"}], "version": 1},
    )
    before = html(rosa, "/proof/record/driftline_bindery")
    assert "In short" not in before
    assert "In short" in html(rosa, f"/proof/record/driftline_bindery?layout={made}")
    chosen = {"scope": "record_type:maker", "field": "*", "surface": "record_page", "set": {"layout": made}}
    rosa.send("PATCH", "/api/display_settings", {**chosen, "version": None})
    draft = html(rosa, "/proof/record/driftline_bindery")
    assert "Driftline Bindery works in Port Callan." in draft
    assert plain(draft) != plain(html(rosa, "/proof/live/record/driftline_bindery"))
    pending = rosa.get("/api/pending")
    assert pending["surfaces"]["record_page"] == len(rosa.get("/api/records?type=maker")["rows"])
    release.release(work, "makers")
    assert plain(draft) == plain(html(rosa, "/proof/live/record/driftline_bindery"))
    assert plain(draft) == plain(html(rosa, "/shop/c/driftline-bindery"))
    assert rosa.client.get("/proof/record/nobody").status_code == 404
    assert "Not live yet" in html(rosa, "/proof/live/record/nobody")


def test_others_stand_beside_a_product_and_never_the_product_itself(rosa: Api, stranger: Api) -> None:
    page = html(stranger, "/shop/p/estuary-easel")
    number = rosa.get("/api/products?q=Estuary+Easel")["rows"][0]["id"]
    shown = re.findall(r'<article class="card[^"]*" data-product="(\d+)"', page)
    assert 0 < len(shown) <= 4
    assert str(number) not in shown
    assert "More to look at" in page
    assert html(rosa, f"/proof/product/{number}").count('<article class="card') == len(shown)
