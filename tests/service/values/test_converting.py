"""Changing a filled field's kind: values follow, what can't is kept aside and comes back, at once or by a job."""

from __future__ import annotations

from typing import Any

import pytest
from sqlalchemy import Engine

from tests.conftest import person
from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import definitions, holders
from young_fabric.service.foreseeing import value_effects
from young_fabric.service.long_work import job_runs
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.values import judging, recount
from young_fabric.service.writing import writes
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import products as product_rows
from young_fabric.store.repos import stored_values
from young_fabric.store.repos.stored_values import Holding


def change_field(work: Work, key: str, **given: Any) -> None:
    _, version = writes.need_current(work, "field", key)
    definitions.change(work, "field", key, version, given)


def effects_of(work: Work, key: str, **given: Any) -> value_effects.ValueEffects:
    thing = definitions.changed_thing(work, "field", key, given)
    found = definitions.consequences(work, "field", key, thing).effects
    assert found is not None
    return found


def held(work: Work, key: str) -> dict[int, tuple[Any, Any]]:
    """Product → (value, what was typed and not understood)."""
    found = product_rows.stream_where(work.session, Holding(key).where(stored_values.OF_PRODUCTS), 0, 500)
    return {product.id: (product.values.get(key), product.unread.get(key)) for product in found}


@pytest.mark.parametrize(
    ("key", "given"),
    [
        ("ss_paper_weight", {"options": {"unit": "kg/m²"}, "limits": {}}),
        ("ss_paper_weight", {"kind": "whole", "options": {}, "limits": {}}),
        ("ss_hair", {"kind": "text", "options": {}, "limits": {}}),
        ("ss_maker_since", {"kind": "date", "options": {}, "limits": {}}),
        ("ss_maker_since", {"kind": "text", "options": {}, "limits": {}, "many": True}),
    ],
)
def test_every_value_follows_or_is_kept_aside_and_undoing_gives_all_back(
    work: Work, key: str, given: dict[str, Any]
) -> None:
    before = held(work, key)
    told = effects_of(work, key, **given)
    assert told.values == sum(1 for value, _ in before.values() if value is not None)
    change_field(work, key, **given)
    after = held(work, key)
    assert after.keys() == before.keys()
    aside = [number for number, (value, typed) in after.items() if value is None and typed is not None]
    assert len(aside) == told.lost
    assert not recount_differs(work)
    history.undo_last(work)
    assert held(work, key) == before
    assert not recount_differs(work)
    history.redo_last(work)
    assert held(work, key) == after


def recount_differs(work: Work) -> bool:
    return bool(recount.recount(work.session))


def test_what_is_kept_aside_comes_back_when_the_kind_does(work: Work) -> None:
    before = held(work, "ss_hair")
    change_field(work, "ss_hair", kind="whole", options={}, limits={})
    aside = held(work, "ss_hair")
    assert {typed for _, typed in aside.values()} >= {"Goat"}
    assert all(value is None for value, _ in aside.values())
    wrong = value_effects.wrong_values(work, "ss_hair", 0)
    assert (len(wrong), wrong[0].reason) == (len(before), "“Sable blend” is not a number")
    change_field(work, "ss_hair", kind="one_of", options={"list": "hair"})
    assert held(work, "ss_hair") == before


def test_a_value_taken_out_of_a_list_is_told_first_and_stays_marked(work: Work) -> None:
    hair, version = writes.need_current(work, "value_list", "hair")
    kept = [state_of(value) for value in hair.values if value.code != "goat"]
    thing = definitions.changed_thing(work, "value_list", "hair", {"values": kept})
    effects = definitions.consequences(work, "value_list", "hair", thing).effects
    assert effects is not None
    holding = stored_values.item_counts(work.session, stored_values.OF_PRODUCTS, ['$."ss_hair"[*]'])["goat"]
    assert effects.wrong == holding > 0
    assert {effect.before for effect in effects.examples} == {"Goat"}
    definitions.change(work, "value_list", "hair", version, {"values": kept})
    assert products.search(work, products.Filters(wrong="ss_hair"), None).total == holding
    assert len(held(work, "ss_hair")) == effects.values, "nothing is lost"
    history.undo_last(work)
    assert products.search(work, products.Filters(wrong="ss_hair"), None).total == 0


def test_values_of_collections_follow_too(work: Work) -> None:
    made = definitions.create(work, "field", "Harvest", {"kind": "text", "subject": "collection"}).thing
    autumn = next(iter(sorted(plans.draft(work.session).things["collection"])))
    version = writes.need_current(work, "collection", autumn).version
    holders.fill(work, "collection", autumn, version, {made.key: "autumn"})
    effects = effects_of(work, made.key, kind="yes_no")
    assert (effects.values, effects.lost, effects.examples[0].noun) == (1, 1, "collection")
    change_field(work, made.key, kind="yes_no")
    filled = writes.need_current(work, "collection", autumn).thing.filled
    assert filled[made.key] == ("typed", "autumn")
    change_field(work, made.key, kind="long_text")
    assert writes.need_current(work, "collection", autumn).thing.filled[made.key] == ("value", "autumn")
    history.undo_last(work)
    assert writes.need_current(work, "collection", autumn).thing.filled[made.key] == ("typed", "autumn")


def test_a_condition_that_asks_for_it_holds_a_kind_in_place(work: Work) -> None:
    defs = plans.draft(work.session)
    asked = next(
        reference.key
        for collection in defs.things["collection"].values()
        for reference in NOUNS["collection"].referring.refers(collection)
        if reference.place.startswith("condition") and getattr(defs.fields.get(reference.key), "kind", "") == "one_of"
    )
    with pytest.raises(Refusal) as caught:
        change_field(work, asked, kind="whole", options={}, limits={})
    assert caught.value.code == "in_use"


def test_what_a_field_is_recorded_of_stays_while_values_are_there(work: Work) -> None:
    with pytest.raises(Refusal) as caught:
        change_field(work, "ss_old_note", subject="nothing")
    assert caught.value.code == "unknown"
    with pytest.raises(Refusal) as caught:
        change_field(work, "ss_maker_since", subject="collection")
    assert caught.value.code in ("values_exist", "in_use")


def test_more_products_than_fit_a_request_are_converted_by_a_job(
    own_engine: Engine, monkeypatch: pytest.MonkeyPatch
) -> None:
    shop = make_sessions(own_engine)
    with shop() as session:
        rosa = person(session, 0)
    monkeypatch.setattr(judging, "MOST_AT_ONCE", 2)
    monkeypatch.setattr("young_fabric.service.values.converting.BATCH", 5)
    asked: list[int] = []
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        before = held(work, "ss_paper_weight")
        change_field(work, "ss_paper_weight", options={"unit": "kg/m²"}, limits={})
        assert held(work, "ss_paper_weight") == before, "the job does it"
    with unit_of_work(shop, rosa) as work:
        assert judging.being_judged(work)
    assert [job_runs.run(shop, number) for number in asked] == ["done"] * len(asked)
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        after = held(work, "ss_paper_weight")
        assert {value["unit"] for value, _ in after.values()} == {"kg/m²"}
        assert not recount_differs(work)
        asked.clear()
        assert history.undo_last(work).job is not None
    assert job_runs.run(shop, asked[0]) == "done"
    with unit_of_work(shop, rosa) as work:
        assert held(work, "ss_paper_weight") == before
