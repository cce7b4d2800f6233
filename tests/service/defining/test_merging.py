"""Merging two values of a list: every use follows, nothing is lost, and one stroke takes it back."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy import Engine

from tests.conftest import person
from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import definitions, value_lists, value_merging
from young_fabric.service.defining.value_merging import ValueMerge, without_value
from young_fabric.service.long_work import job_runs
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.values import judging, recount
from young_fabric.service.writing import writes
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import products as product_rows
from young_fabric.store.repos import stored_values
from young_fabric.store.repos.stored_values import Holding

SUITS = ValueMerge("suits", "etching", "watercolour")


def held(work: Work, key: str) -> dict[int, Any]:
    found = product_rows.stream_where(work.session, Holding(key).where(stored_values.OF_PRODUCTS), 0, 500)
    return {product.id: product.values.get(key) for product in found}


def used(work: Work, key: str) -> dict[str, int]:
    return {use.code: use.held.get("product", 0) for use in value_lists.usage(work, key)}


def merged(codes: Any, merge: ValueMerge) -> Any:
    return list(dict.fromkeys(merge.into if code == merge.code else code for code in codes))


def test_every_use_follows_and_one_undo_brings_all_back(work: Work) -> None:
    before, uses = held(work, "ss_suits"), used(work, "suits")
    touched = value_merging.reach(work, SUITS)
    assert touched.held["product"] == uses["etching"] > 0
    assert value_merging.merge_values(work, SUITS) is None
    assert held(work, "ss_suits") == {number: merged(codes, SUITS) for number, codes in before.items()}
    values = writes.need_current(work, "value_list", "suits").thing
    assert "etching" not in values.by_code
    assert values.find("Etching") == "watercolour", "its names are read as the other"
    assert not recount.recount(work.session)
    history.undo_last(work)
    assert held(work, "ss_suits") == before
    assert used(work, "suits") == uses
    history.redo_last(work)
    assert "etching" not in used(work, "suits")


def test_defaults_conditions_collections_and_rows_follow_too(work: Work) -> None:
    columns = [{"key": "wood", "label": "Wood", "kind": "one_of", "options": {"list": "wood"}}]
    rows = definitions.create(work, "field", "Parts", {"kind": "rows", "options": {"columns": columns}}).thing.key
    of_it = {"kind": "one_of", "options": {"list": "wood"}}
    default = definitions.create(work, "field", "Legs", {**of_it, "default": "Elm"}).thing.key
    easels = writes.need_current(work, "product_type", "easels")
    definitions.change(work, "product_type", "easels", easels.version, {"fields": [*easels.thing.fields, rows]})
    easel = products.search(work, products.Filters(type="easels"), None).rows[0]
    products.fill(work, easel.product.id, easel.version, {rows: [{"wood": "Elm"}, {"wood": "Ash"}]})
    asked = {"field": "ss_wood", "op": "any_of", "typed": ["Elm", "Ash"]}
    made = definitions.create(work, "collection", "Of elm", {"condition": asked}).thing.key
    before = used(work, "wood")
    assert before["elm"] >= 1
    touched = value_merging.reach(work, ValueMerge("wood", "elm", "ash"))
    assert {name for _, _, name in touched.definitions} == {"Legs", "Of elm"}
    value_merging.merge_values(work, ValueMerge("wood", "elm", "ash"))
    defs = plans.draft(work.session)
    assert defs.fields[default].default == "ash"
    assert defs.things["collection"][made].condition["value"] == ["ash"]
    assert held(work, rows)[easel.product.id] == [{"wood": "ash"}, {"wood": "ash"}]
    history.undo_last(work)
    defs = plans.draft(work.session)
    assert defs.fields[default].default == "elm"
    assert list(defs.things["collection"][made].condition["value"]) == ["elm", "ash"]
    assert used(work, "wood") == before


@pytest.mark.parametrize(
    ("merge", "code", "where"),
    [
        (ValueMerge("suits", "gone", "watercolour"), "choice", ("code",)),
        (ValueMerge("suits", "etching", "gone"), "choice", ("into",)),
        (ValueMerge("suits", "etching", "etching"), "twice", ("into",)),
        (ValueMerge("gone", "a", "b"), "not_found", ()),
    ],
)
def test_what_can_not_be_merged_is_refused(work: Work, merge: ValueMerge, code: str, where: tuple[str, ...]) -> None:
    for attempt in (value_merging.reach, value_merging.merge_values):
        with pytest.raises(Refusal) as caught:
            attempt(work, merge)
        assert (caught.value.code, caught.value.where) == (code, where)


def test_names_of_the_one_lead_to_the_other_and_stand_once() -> None:
    both = (ListValue("ash", "Ash", ("esche",)), ListValue("a", "ASH wood", ("Esche", "frêne", "ash")))
    kept = without_value(ValueList("wood", "Wood", both), ValueMerge("wood", "a", "ash"))
    assert kept.values == (ListValue("ash", "Ash", ("esche", "a", "ASH wood", "Esche", "frêne")),)


def test_unused_values_are_told(work: Work) -> None:
    wood = writes.need_current(work, "value_list", "wood")
    pasted = value_lists.paste_values(work, "wood", "Yew", wood.version, apply=True)
    assert pasted.reading.added[0].code == "yew"
    uses = {use.code: use for use in value_lists.usage(work, "wood")}
    assert (uses["yew"].held, uses["yew"].definitions) == ({}, ())
    assert sum(use.held.get("product", 0) for use in uses.values()) == len(held(work, "ss_wood"))


def test_more_products_than_fit_a_request_are_merged_by_a_job(
    own_engine: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    shop = make_sessions(own_engine)
    with shop() as session:
        rosa = person(session, 0)
    monkeypatch.setattr(judging, "MOST_AT_ONCE", 1)
    monkeypatch.setattr(value_merging, "BATCH", 3)
    asked: list[int] = []
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        before = held(work, "ss_suits")
        assert value_merging.merge_values(work, SUITS) is not None
        assert held(work, "ss_suits") == before, "the job does it"
    with unit_of_work(shop, rosa) as work, pytest.raises(Refusal) as caught:
        value_merging.merge_values(work, SUITS)
    assert caught.value.code == "busy"
    assert [job_runs.run(shop, number) for number in asked] == ["done"]
    with unit_of_work(shop, rosa) as work:
        assert held(work, "ss_suits") == {number: merged(codes, SUITS) for number, codes in before.items()}
        assert "etching" not in used(work, "suits")
    asked.clear()
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        assert history.undo_last(work).job is not None, "as many are taken back by a job"
    with unit_of_work(shop, rosa) as work, pytest.raises(Refusal) as caught:
        history.undo_last(work)
    assert caught.value.code == "busy"
    assert [job_runs.run(shop, number) for number in asked] == ["done"]
    asked.clear()
    both = [SUITS, ValueMerge("suits", "ink", "watercolour")]
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        assert held(work, "ss_suits") == before
        assert "etching" in used(work, "suits")
        assert value_merging.merge_values(work, *both) is not None
    assert [job_runs.run(shop, number) for number in asked] == ["done"]
    with unit_of_work(shop, rosa) as work:
        after = {number: merged(merged(codes, SUITS), both[1]) for number, codes in before.items()}
        assert held(work, "ss_suits") == after
        assert not {"etching", "ink"} & set(used(work, "suits"))


def test_several_become_one_of_them_and_each_holder_counts_once(work: Work) -> None:
    before, uses = held(work, "ss_suits"), used(work, "suits")
    first, second = next(codes for codes in before.values() if len(codes or ()) == 2)
    into = next(code for code in uses if code not in (first, second))
    both = [ValueMerge("suits", code, into) for code in (first, second)]
    holders = {number for number, codes in before.items() if {first, second} & set(codes or ())}
    assert value_merging.reach(work, *both).held["product"] == len(holders) < uses[first] + uses[second]
    assert value_merging.merge_values(work, *both) is None
    after = {number: merged(merged(codes, both[0]), both[1]) for number, codes in before.items()}
    assert held(work, "ss_suits") == after
    assert not {first, second} & set(used(work, "suits"))
    history.undo_last(work)
    assert held(work, "ss_suits") == before
    assert used(work, "suits") == uses
