"""Housekeeping: what is unused, never filled or alike is found, and two fields become one without losing a value."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy import Engine

from tests.conftest import person
from young_fabric.core.base.errors import Refusal
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import definitions, field_merging, housekeeping
from young_fabric.service.defining.field_merging import FieldMerge
from young_fabric.service.long_work import job_runs
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.values import judging, recount
from young_fabric.service.writing import writes
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import products as product_rows
from young_fabric.store.repos import stored_values
from young_fabric.store.repos.stored_values import Holding

TWICE = FieldMerge("ss_made_at", "ss_made_in")


def found(work: Work, sort: str) -> set[tuple[str, str | None]]:
    return {(finding.key, finding.other) for finding in housekeeping.findings(work) if finding.sort == sort}


def held(work: Work, key: str) -> dict[int, tuple[Any, Any]]:
    rows = product_rows.stream_where(work.session, Holding(key).where(stored_values.OF_PRODUCTS), 0, 500)
    return {product.id: (product.values.get(key), product.unread.get(key)) for product in rows}


def twin(work: Work, count: int = 3) -> list[int]:
    """A second field for where things are made, on easels, with values of some of them instead of the first."""
    key = definitions.create(work, "field", "Made at", {"kind": "text"}).thing.key
    easels = writes.need_current(work, "product_type", "easels")
    fields = {"fields": [*easels.thing.fields, key], "needs": {**easels.thing.needs, key: "required"}}
    definitions.change(work, "product_type", "easels", easels.version, fields)
    asked = {"condition": {"field": key, "op": "is", "typed": "Ostrey"}, "order": key}
    definitions.create(work, "collection", "Of Ostrey", asked)
    rows = products.search(work, products.Filters(type="easels"), None).rows[:count]
    for row in rows:
        products.fill(work, row.product.id, row.version, {key: "Ostrey", "ss_made_in": None})
    return [row.product.id for row in rows]


def test_what_is_unused_or_never_filled_is_found_with_when_it_was_changed(work: Work) -> None:
    spare = definitions.create(work, "field", "Spare", {"kind": "text"}).thing.key
    definitions.create(work, "value_list", "Spare list", {})
    definitions.create(work, "field_set", "Spare set", {})
    definitions.create(work, "product_type", "Spare type", {})
    unused = found(work, "unused")
    assert {(spare, None), ("spare_list", None), ("spare_set", None), ("spare_type", None)} <= unused
    assert ("ss_old_note", None) in unused
    easels = writes.need_current(work, "product_type", "easels")
    definitions.change(work, "product_type", "easels", easels.version, {"fields": [*easels.thing.fields, spare]})
    assert (spare, None) in found(work, "unfilled")
    assert (spare, None) not in found(work, "unused")
    finding = next(finding for finding in housekeeping.findings(work) if finding.key == spare)
    assert finding.changed is not None
    assert "4 products have it" in finding.words


def test_fields_and_lists_that_look_alike_are_found(work: Work) -> None:
    definitions.create(work, "field", "Fibres", {"kind": "text"})
    definitions.create(work, "field", "Leaves", {"kind": "text"})
    wood = writes.need_current(work, "value_list", "wood").thing
    copied = [{"code": value.code, "label": value.label.upper()} for value in wood.values]
    definitions.create(work, "value_list", "Timber", {"values": copied})
    alike = found(work, "alike")
    assert ("ss_fibres", "ss_fibre") in alike, "the one with fewer values goes"
    assert ("timber", "wood") in alike
    assert not {pair for pair in alike if "ss_leaves_2" in pair and "ss_leaves" in pair}, "of another kind"


def test_two_fields_become_one_and_one_undo_parts_them(work: Work) -> None:
    ids = twin(work)
    before = held(work, "ss_made_in"), held(work, "ss_made_at")
    touched = field_merging.reach(work, TWICE)
    assert (touched.moves, touched.differ) == (3, 0)
    assert {"Easels", "Of Ostrey"} <= set(touched.definitions)
    assert field_merging.merge_fields(work, TWICE) is None
    defs = plans.draft(work.session)
    assert "ss_made_at" not in defs.fields
    assert all(held(work, "ss_made_in")[number] == ("Ostrey", None) for number in ids)
    assert defs.things["collection"]["of_ostrey"].order == "ss_made_in"
    assert defs.types["easels"].needs["ss_made_in"] == "required"
    assert product_rows.get(work.session, ids)[ids[0]].product.collections
    assert not recount.recount(work.session)
    history.undo_last(work)
    assert (held(work, "ss_made_in"), held(work, "ss_made_at")) == before
    assert not recount.recount(work.session)


def test_values_that_differ_hold_both_fields_in_place(work: Work) -> None:
    ids = twin(work)
    row = products.search(work, products.Filters(type="easels"), None).rows[0]
    products.fill(work, row.product.id, row.version, {"ss_made_in": "Elsewhere"})
    touched = field_merging.reach(work, TWICE)
    assert (touched.moves, touched.differ, int(touched.examples[0][1].key) in ids) == (2, 1, True)
    with pytest.raises(Refusal) as caught:
        field_merging.merge_fields(work, TWICE)
    assert caught.value.code == "differ"
    again = products.search(work, products.Filters(type="easels"), None).rows[0]
    products.fill(work, row.product.id, again.version, {"ss_made_in": "Ostrey"})
    assert field_merging.reach(work, TWICE).differ == 0, "the same in both is no matter"


@pytest.mark.parametrize(
    ("merge", "code"),
    [
        (FieldMerge("ss_made_in", "ss_made_in"), "twice"),
        (FieldMerge("ss_made_in", "gone"), "not_found"),
        (FieldMerge("title", "ss_made_in"), "not_found"),
        (FieldMerge("ss_made_in", "ss_maker_since"), "kind"),
    ],
)
def test_fields_that_can_not_be_one_are_refused(work: Work, merge: FieldMerge, code: str) -> None:
    for attempt in (field_merging.reach, field_merging.merge_fields):
        with pytest.raises(Refusal) as caught:
            attempt(work, merge)
        assert caught.value.code == code


def test_more_products_than_fit_a_request_are_merged_by_a_job(
    own_engine: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    shop = make_sessions(own_engine)
    with shop() as session:
        rosa = person(session, 0)
    with unit_of_work(shop, rosa) as work:
        twin(work)
    monkeypatch.setattr(judging, "MOST_AT_ONCE", 2)
    monkeypatch.setattr(field_merging, "BATCH", 2)
    asked: list[int] = []
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        assert field_merging.merge_fields(work, TWICE) is not None
    assert job_runs.run(shop, asked[0]) == "done"
    with unit_of_work(shop, rosa) as work:
        assert "ss_made_at" not in plans.draft(work.session).fields
        assert sum(value == "Ostrey" for value, _ in held(work, "ss_made_in").values()) == 3
