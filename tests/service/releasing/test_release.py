"""Releases: the draft stays unseen, a release writes what changed and no more, going back restores."""

from __future__ import annotations

from dataclasses import replace

import pytest
from sqlalchemy import func, select

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.display.surfaces import LINE, QUICK, product_surfaces
from young_fabric.core.pages.document import from_json
from young_fabric.core.pages.listed import of_type
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.foreseeing import counted
from young_fabric.service.products import products
from young_fabric.service.releasing import differing, pending, release
from young_fabric.service.writing import writes
from young_fabric.store.repos import changes as change_rows
from young_fabric.store.repos import listings, releases
from young_fabric.store.tables import LiveDocumentRow


def easel(work: Work) -> products.AssessedProduct:
    return products.search(work, products.Filters(words="Groyne Studio"), None).rows[0]


def live_price(work: Work, product_id: int) -> str:
    return live_text(work, product_id, "price")


def live_text(work: Work, product_id: int, field: str) -> str:
    rows = {row.surface: row for row in releases.documents_of(work.session, "product", product_id)}
    entries = from_json(rows["product_page"].document).entries()
    return next(entry.text for entry in entries if entry.field == field)


def cards(work: Work, type_key: str) -> tuple[list[LiveDocumentRow], int]:
    listing = str(of_type(type_key))
    parts = listings.parts(work.session, listing)
    rows = listings.cards(work.session, "listing_card", listing, parts, 0, 10, "en-x-icu")
    return rows, sum(part.cards for part in parts)


def rows_ever(work: Work) -> int:
    return work.session.scalar(select(func.count()).where(LiveDocumentRow.surface == "product_page")) or 0


def test_the_demo_leaves_three_changes_open(work: Work) -> None:
    found = pending.pending(work)
    assert found.count == 3
    things = {thing.key: thing for thing in found.things}
    assert things["ss_paper_weight"].lines == ["largest 850 → 640"]
    granul = things["type:watercolour/ss_granul/listing_card"]
    assert (granul.group, granul.surfaces["product_page"], granul.surfaces["listing_card"]) == ("How it shows", 0, 14)
    assert granul.lines == ["now shown on the listing card, by Watercolour"]


def test_one_changed_product_writes_one_page(work: Work) -> None:
    release.release(work, "first")
    before = rows_ever(work)
    groyne = easel(work)
    products.fill(work, groyne.product.id, groyne.version, {"price": "399"})
    assert live_price(work, groyne.product.id) == "€389.00", "a draft is not seen"
    done = release.release(work, "dearer")
    priced = [code for code, surface in product_surfaces().items() if not surface.reckoned]
    assert (done.things, done.counts) == (1, dict.fromkeys(priced, 1)), (
        "a line of the basket is reckoned when it is looked at"
    )
    assert rows_ever(work) == before + 1
    assert live_price(work, groyne.product.id) == "€399.00"
    assert change_rows.unreleased_count(work.session) == 0


def test_taking_a_change_back_leaves_nothing_to_release(work: Work) -> None:
    release.release(work, "first")
    groyne = easel(work)
    changed = products.fill(work, groyne.product.id, groyne.version, {"price": "399"})
    assert pending.pending_count(work) == 1
    products.fill(work, groyne.product.id, changed.version, {"price": "389"})
    assert pending.pending_count(work) == 0
    with pytest.raises(Refusal) as caught:
        release.release(work, "nothing")
    assert caught.value.code == "nothing"


def test_a_definition_renders_only_the_types_it_changes(work: Work) -> None:
    release.release(work, "first")
    definitions.display(work, Scope("type", "easels"), "ss_wood", "product_page", {"shown": False}, None)
    done = release.release(work, "woods")
    assert done.counts == {"product_page": 4}
    wood, version = writes.need_current(work, "field", "ss_wood")
    definitions.change(work, "field", "ss_wood", version, {"help": "Ask the joiner"})
    silent = release.release(work, "words for staff")
    assert (silent.things, silent.counts) == (1, {})
    assert wood.key == "ss_wood"


def test_a_setting_for_one_product_touches_one_page(work: Work) -> None:
    release.release(work, "first")
    groyne = easel(work)
    definitions.display(
        work, Scope("product", str(groyne.product.id)), "ss_wood", "product_page", {"shown": False}, None
    )
    found = pending.pending(work)
    assert [(thing.surfaces["product_page"], thing.example) for thing in found.things] == [(1, groyne.product.id)]
    done = release.release(work, "one only")
    assert (done.things, done.counts) == (1, {"product_page": 1})


def test_what_will_change_of_single_products_is_what_the_release_then_writes(work: Work) -> None:
    release.release(work, "first")
    groyne = easel(work)
    version = groyne.version

    def fill(**values: str) -> None:
        nonlocal version
        version = products.fill(work, groyne.product.id, version, values).version

    def will_change() -> dict[str, int]:
        found = pending.pending(work)
        [thing] = [thing for thing in found.things if thing.noun == "product"]
        assert thing.surfaces == {code: found.surfaces[code] for code in thing.surfaces}
        return {code: count for code, count in thing.surfaces.items() if count}

    fill(unit_cost="31")
    assert will_change() == {}, "what staff alone read is on no page"
    fill(description="Made for wind")
    assert will_change()["product_page"] == 1
    assert "basket_line" not in will_change()
    fill(price="151")
    asked = will_change()
    assert {"product_page", "listing_card"} <= asked.keys()
    assert release.release(work, "dearer").counts == asked
    products.remove(work, groyne.product.id, version)
    gone = will_change()
    assert gone == dict.fromkeys(product_surfaces(), 1)
    release.release(work, "gone")
    products.create(work, "easels", "Another")
    assert will_change() == dict.fromkeys(product_surfaces(), 1)


def test_kept_out_and_removed_products_leave_the_shop(work: Work) -> None:
    release.release(work, "first")
    changed, other = easel(work), products.search(work, products.Filters(words="Jetty Table"), None).rows[0]
    products.fill(work, changed.product.id, changed.version, {}, offered=False)
    products.remove(work, other.product.id, other.version)
    total = cards(work, "easels")[1]
    release.release(work, "two fewer")
    assert releases.documents_of(work.session, "product", changed.product.id) == []
    assert releases.documents_of(work.session, "product", other.product.id) == []
    assert cards(work, "easels")[1] == total - 2


def test_a_new_type_and_product_go_live_together(work: Work) -> None:
    made = definitions.create(work, "product_type", "Inks", {"sets": ["origin"]})
    ink = products.create(work, made.thing.key, "Cuttle Ink")
    products.fill(work, ink.product.id, ink.version, {"sku": "CTL-1", "price": "7.5", "ss_maker": "Longshore Oils"})
    assert any(thing.name == "Inks" and thing.lines == ["new"] for thing in pending.pending(work).things)
    release.release(work, "inks")
    shown, total = cards(work, "inks")
    assert total == 1
    assert [entry.text for entry in from_json(shown[0].document).entries()] == ["Cuttle Ink", "€7.50", "Longshore Oils"]


def test_going_back_restores_what_was_live_and_keeps_the_draft(work: Work) -> None:
    first = release.release(work, "first")
    groyne = easel(work)
    products.fill(work, groyne.product.id, groyne.version, {"price": "399"})
    wood, version = writes.need_current(work, "field", "ss_wood")
    definitions.change(work, "field", "ss_wood", version, {"label": "Timber"})
    release.release(work, "second")
    back = release.go_back(work, first.number)
    assert back.back_to == first.number
    assert live_price(work, groyne.product.id) == "€389.00"
    assert products.get(work, groyne.product.id).product.values["price"] == "399", "the draft stays"
    assert {thing.key for thing in pending.pending(work).things} == {str(groyne.product.id), "ss_wood"}
    again = release.release(work, "forward again")
    assert live_price(work, groyne.product.id) == "€399.00"
    assert again.counts["product_page"] == 4
    assert next(row.number for row, _ in release.history(work)) == again.number
    with pytest.raises(Refusal):
        release.go_back(work, again.number)
    assert wood.label == "Wood"


def test_only_who_may_release_releases(work: Work) -> None:
    editor = replace(work, actor=replace(work.actor, rights=frozenset({Right.LOOK, Right.EDIT})))
    for attempt in (lambda: release.release(editor, ""), lambda: release.go_back(editor, 1)):
        with pytest.raises(Refusal) as caught:
            attempt()
        assert caught.value.code == "forbidden"


def test_what_really_differs_is_found_by_rendering(work: Work) -> None:
    def touched_surfaces(noun: str, key: str) -> set[tuple[str, ...]]:
        return {(row.title, *row.surfaces) for row in differing.differing(work, noun, key).rows}

    showing = [code for code, surface in product_surfaces().items() if surface.page not in (QUICK, LINE)]
    assert touched_surfaces("field", "ss_paper_weight") == {("Tideline Board 850", *showing)}, (
        "its weight no longer keeps the limit"
    )
    found = differing.differing(work, "display_setting", "type:watercolour/ss_granul/listing_card")
    assert found.whole
    assert len(found.rows) == 14
    assert {row.surfaces for row in found.rows} == {("listing_card",)}
    estuary = products.search(work, products.Filters(words="Estuary Easel"), None).rows[0]
    everywhere = tuple(code for code, surface in product_surfaces().items() if not surface.reckoned)
    assert touched_surfaces("product", str(estuary.product.id)) == {("Estuary Easel", *everywhere)}
    wood, version = writes.need_current(work, "field", "ss_wood")
    definitions.change(work, "field", "ss_wood", version, {"help": f"{wood.help} Ask."})
    assert touched_surfaces("field", "ss_wood") == set(), "shoppers see no help"
    release.release(work, "all")
    assert touched_surfaces("field", "ss_paper_weight") == set()


def test_only_so_many_are_looked_at(work: Work, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(counted, "MOST_RENDERED", 2)
    monkeypatch.setattr(differing, "BATCH", 4)
    monkeypatch.setattr(differing, "MOST_SHOWN", 5)
    found = differing.differing(work, "display_setting", "type:watercolour/ss_granul/listing_card")
    assert (len(found.rows), found.whole) == (5, False)
    monkeypatch.setattr(differing, "MOST_LOOKED_AT", 4)
    monkeypatch.setattr(differing, "MOST_SHOWN", 50)
    found = differing.differing(work, "display_setting", "type:watercolour/ss_granul/listing_card")
    assert (len(found.rows), found.whole) == (4, False)
