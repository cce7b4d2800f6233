"""Collections in use: gathered at once or by a job, kept in step whatever is written, live only by a release."""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import Any

import pytest
from sqlalchemy.orm import Session

from tests.conftest import NOW
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.content.collections import NOUN
from young_fabric.core.pages.listed import of_collection, read_listing, same_listings
from young_fabric.service import history
from young_fabric.service.acting.actors import Actor, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import collection_effect, collections, definitions, holders
from young_fabric.service.long_work import job_runs, jobs
from young_fabric.service.pages import explaining
from young_fabric.service.pages.explaining import About
from young_fabric.service.planning import plans
from young_fabric.service.products import collection_members, products
from young_fabric.service.releasing import pending, release
from young_fabric.service.values import memberships, recount
from young_fabric.service.writing import by_hand, writes
from young_fabric.store.repos import gathering, listings
from young_fabric.store.repos import jobs as job_rows
from young_fabric.store.repos import products as rows
from young_fabric.web.schemas.nouns import request_models

PAINT = {"field": "type", "op": "is", "value": "paint"}
CHEAP = {"field": "price", "op": "lt", "typed": "10"}


def make(work: Work, name: str, **given: Any) -> str:
    made = definitions.create(work, NOUN.code, name, given)
    return str(made.thing.key)


def put(work: Work, key: str, **given: Any) -> None:
    definitions.change(work, NOUN.code, key, writes.need_current(work, NOUN.code, key).version, given)


def inside(work: Work, key: str) -> list[int]:
    return [product.id for product in collection_members.draft_members(work, key, 0, 500)]


def find(work: Work, words: str) -> Any:
    return products.search(work, products.Filters(words=words), None).rows[0].product


def live(work: Work, key: str) -> list[int]:
    listing = str(of_collection(key))
    found = listings.cards(
        work.session, "listing_card", listing, listings.parts(work.session, listing), 0, 500, "en-x-icu"
    )
    return [int(row.subject_id) for row in found]


def test_a_collection_by_condition_and_by_hand(work: Work) -> None:
    key = make(work, "For outdoors", condition={"all": [PAINT, CHEAP]})
    thing = writes.need_current(work, NOUN.code, key).thing
    assert thing.condition == {"all": [PAINT, {"field": "price", "op": "lt", "value": "10"}]}
    assert thing.slug == "for-outdoors"
    met = inside(work, key)
    assert met
    assert all(
        rows.get(work.session, [number])[number].product.type in ("watercolour", "gouache", "paint") for number in met
    )
    easel = find(work, "Groyne Studio").id
    by_hand.by_hand(work, "collection", key, [easel], "picked")
    by_hand.by_hand(work, "collection", key, met[:1], "kept_out")
    found = collection_members.members(work, key)
    assert [row.how for row in found.rows][:2] == ["picked", "matches"]
    assert found.rows[1].reason == "Price below €10.00"
    assert [(row.product.id, row.how) for row in found.kept_out] == [(met[0], "kept out")]
    assert found.total == len(met) == collections.overview(work, key)[0].products
    by_hand.by_hand(work, "collection", key, [easel, met[0]], "neither")
    assert sorted(inside(work, key)) == sorted(met)


def test_one_s_own_write_moves_a_product_at_once(work: Work) -> None:
    key = make(work, "Cheap", condition=CHEAP)
    groyne = find(work, "Groyne Studio")
    assert groyne.id not in inside(work, key)
    products.fill(work, groyne.id, None, {"price": "9.99"})
    assert groyne.id in inside(work, key)
    history.undo_last(work)
    assert groyne.id not in inside(work, key)
    definitions.remove(work, NOUN.code, key, 1)
    assert all(key not in record.product.collections for record in rows.get(work.session, range(1, 80)).values())
    history.undo_last(work)
    assert inside(work, key), "an undone removal gathers them again"


def test_a_type_under_another_parent_takes_its_products_along(work: Work) -> None:
    key = make(work, "All paper", condition={"field": "type", "op": "is", "value": "paper"})
    before = set(inside(work, key))
    easel = find(work, "Groyne Studio")
    current = writes.need_current(work, "product_type", "easels")
    definitions.change(work, "product_type", "easels", current.version, {"parent": "paper"})
    assert easel.id in set(inside(work, key)) - before


def test_pasted_skus(work: Work) -> None:
    key = make(work, "Picked")
    skus = [find(work, words).sku for words in ("Groyne Studio", "Fen Etching")]
    found = by_hand.paste(work, "collection", key, f"{skus[0].lower()}\n{skus[1]}, NONE-1\t{skus[1]}", "picked")
    assert (found.found, found.unknown, found.twice) == (2, ["NONE-1"], [skus[1]])
    assert [product.sku for product in collection_members.draft_members(work, key, 0, 9)] == skus
    assert by_hand.paste(work, "collection", key, "NONE-1", "picked").found == 0
    for text, code in (("", "required"), ("X\n" * (by_hand.MOST_PASTED + 1), "too_many")):
        with pytest.raises(Refusal) as caught:
            by_hand.paste(work, "collection", key, text, "picked")
        assert caught.value.code == code
    by_hand.paste(work, "collection", key, "Z\n" * by_hand.MOST_PASTED, "picked")


def test_collections_move_among_themselves_even_where_there_is_no_room(work: Work) -> None:
    before = [row.thing.key for row in collections.overview(work)]
    keys = [make(work, name) for name in ("One", "Two", "Three")]
    collections.move(work, keys[2], before[-1] if before else None)
    assert [row.thing.key for row in collections.overview(work)] == [*before, keys[2], keys[0], keys[1]]
    for _ in range(140):
        last = [row.thing.key for row in collections.overview(work)][-1]
        collections.move(work, last, keys[2])
    assert [row.thing.key for row in collections.overview(work)][: len(before) + 1] == [*before, keys[2]]
    collections.move(work, keys[0], None)
    assert next(row.thing.key for row in collections.overview(work)) == keys[0]
    with pytest.raises(Refusal):
        collections.move(work, keys[0], "nothing")


def test_own_fields_of_collections(work: Work) -> None:
    definitions.create(work, "field", "Mood", {"kind": "whole", "subject": "collection"})
    key = make(work, "With words")
    version = writes.need_current(work, NOUN.code, key).version
    holders.fill(work, "collection", key, version, {"ss_mood": "calm"})
    holders.fill(work, "collection", key, version, {"words": "Out in the\nwind"})
    told = {field.field.key: field.value for field in holders.fields_of(work, "collection", key)}
    assert (told["words"].shown, told["ss_mood"].state, told["ss_mood"].typed) == ("Out in the\nwind", "wrong", "calm")
    assert told["picture"].state == "empty"
    holders.fill(work, "collection", key, version + 2, {"ss_mood": "3"})
    told = {field.field.key: field.value for field in holders.fields_of(work, "collection", key)}
    assert (told["ss_mood"].value, told["words"].shown) == ("3", "Out in the\nwind"), "both are kept"
    with pytest.raises(Refusal) as caught:
        holders.fill(work, "collection", key, version + 2, {"price": "1"})
    assert caught.value.where == ("values", "price")
    with pytest.raises(Refusal) as caught:
        definitions.create(work, "field_set", "Odd", {"sections": [{"key": "s", "name": "S", "fields": ["ss_mood"]}]})
    assert caught.value.code == "unknown_field"
    current = writes.need_current(work, "field", "ss_mood")
    definitions.remove(work, "field", "ss_mood", current.version)
    assert "ss_mood" not in writes.need_current(work, NOUN.code, key).thing.filled


def test_a_set_limited_to_a_collection_and_two_that_disagree(work: Work) -> None:
    first, second = make(work, "First", condition=PAINT), make(work, "Second", condition=CHEAP)
    definitions.create(work, "field", "Hint", {"kind": "text", "key": "ss_hint"})
    section = {"key": "s", "name": "S", "fields": ["ss_hint"]}
    definitions.create(work, "field_set", "Field work", {"sections": [section], "collections": [first]})
    definitions.display(work, Scope("collection", first), "sku", "listing_card", {"shown": True}, None)
    definitions.display(work, Scope("collection", second), "sku", "listing_card", {"shown": False}, None)
    definitions.display(work, Scope("collection", second), "title", "listing_card", {"label": "above"}, None)
    both = next(number for number in inside(work, first) if number in inside(work, second))
    products.fill(work, both, None, {"ss_hint": "Mind the wind"})
    steps = explaining.explain_field(work, About(both), "ss_hint", "product_page").steps
    assert all(step.ok for step in steps)
    assert steps[1].text == "The set Field work comes with being in First"
    easel = find(work, "Groyne Studio")
    steps = explaining.explain_field(work, About(easel.id), "ss_hint", "product_page").steps
    assert not steps[1].ok
    assert steps[1].text.endswith("the set Field work would bring it, to products in First")
    steps = explaining.explain_field(work, About(both), "sku", "listing_card").steps
    assert "by the setting on First" in next(step.text for step in steps if step.name == "shown")
    told = collection_effect.effect(work, second)
    said = {row.field: row for row in told.settings}
    shared = len(set(inside(work, first)) & set(inside(work, second)))
    assert said["SKU"].follows == told.products - shared
    assert said["SKU"].others == ["First"]
    assert (said["Title"].follows, said["Title"].others) == (told.products, [])
    brought = collection_effect.effect(work, first).sets
    assert [(row.name, row.fields, row.products, row.filled) for row in brought] == [
        ("Field work", 1, len(inside(work, first)), 1)
    ]
    collections.move(work, second, None)
    steps = explaining.explain_field(work, About(both), "sku", "listing_card").steps
    assert "by the setting on Second" in next(step.text for step in steps if step.name == "shown")
    with pytest.raises(Refusal) as caught:
        definitions.remove(work, NOUN.code, first, writes.need_current(work, NOUN.code, first).version)
    assert "Field work" in caught.value.message


def test_live_membership_changes_only_by_a_release(work: Work) -> None:
    release.release(work, "before")
    key = make(work, "Cheap", condition=CHEAP, order="price")
    assert live(work, key) == []
    release.release(work, "made")
    assert live(work, key) == inside(work, key)
    easel = find(work, "Groyne Studio").id
    by_hand.by_hand(work, "collection", key, [easel], "picked")
    before = live(work, key)
    assert before != inside(work, key)
    done = release.release(work, "picked")
    assert (live(work, key), done.counts) == (inside(work, key), {}), "no page differs, the listing does"
    put(work, key, order="newest")
    assert live(work, key)[0] == easel
    release.release(work, "newest")
    assert live(work, key) == inside(work, key) == [easel, *sorted(before, reverse=True)]
    number = release.history(work)[0][0].number
    release.go_back(work, number - 1)
    assert live(work, key) == [easel, *before]


@pytest.mark.parametrize("order", ["sku", "ss_wood"])
def test_products_stand_in_order_of_a_text_those_without_last(work: Work, order: str) -> None:
    key = make(work, "All", condition={"none": [{"field": "title", "op": "empty"}]}, order=order)
    found = [product.values.get(order) for product in collection_members.draft_members(work, key, 0, 500)]
    named = [value for value in found if value]
    assert len(named) > 1
    assert found == [*sorted(named, key=str.casefold), *[None] * (len(found) - len(named))]


def test_matches_are_looked_for_in_slices(work: Work, monkeypatch: pytest.MonkeyPatch) -> None:
    key = make(work, "Cheap", condition=CHEAP)
    whole = collection_members.matches(work, {"all": [PAINT]}, key)
    monkeypatch.setattr(collection_members, "SLICE", 10)
    seen, count, fresh, leaving, after = 0, 0, 0, 0, 0
    while True:
        found = collection_members.matches(work, {"all": [PAINT]}, key, after)
        seen, count = seen + found.looked_at, count + found.count
        fresh, leaving = fresh + found.fresh, leaving + found.leaving
        if found.next is None:
            break
        after = found.next
    assert (count, fresh, leaving) == (whole.count, whole.fresh, whole.leaving)
    assert count == 29
    assert leaving == len(
        [
            n
            for n in inside(work, key)
            if rows.get(work.session, [n])[n].product.type not in ("watercolour", "gouache", "paint")
        ]
    )
    assert whole.words == "Type is or is below Paint"
    with pytest.raises(Refusal) as caught:
        collection_members.matches(work, {"all": [{"field": "price", "op": "lt", "typed": "cheap"}]}, None)
    assert caught.value.where == ("all", 0, "value")


def in_unit(shop: Callable[[], Session], rosa: Actor, handed: list[int]) -> Any:
    return unit_of_work(shop, rosa, lambda: NOW, hand_over=handed.append)


def test_many_products_are_gathered_by_a_job(
    shop: Callable[[], Session], rosa: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(memberships, "MOST_AT_ONCE", 5)
    monkeypatch.setattr(memberships, "BATCH", 7)
    handed: list[int] = []
    with in_unit(shop, rosa, handed) as work:
        key = make(work, "Paint", condition=PAINT)
        assert inside(work, key) == []
        assert not collections.overview(work, key)[0].gathered
        with pytest.raises(Refusal) as caught:
            release.check(work, "")
        assert caught.value.code == "gathering"
        with pytest.raises(Refusal) as caught:
            by_hand.gather(work, "collection", key)
        assert caught.value.code == "busy"
    assert job_runs.run(shop, handed[0]) == "done"
    with in_unit(shop, rosa, handed) as work:
        assert len(inside(work, key)) == 29
        assert collections.overview(work, key)[0].gathered
        assert jobs.get(work, handed[0]).result == {"looked_at": 29, "moved": 29}
        release.check(work, "")
        with pytest.raises(Refusal) as caught:
            by_hand.gather(work, "collection", key)
        assert caught.value.code == "nothing"
        put(work, key, condition=CHEAP)
        jobs.stop(work, handed_now(work))
    assert job_runs.run(shop, handed[1]) == "left alone"
    with in_unit(shop, rosa, handed) as work:
        assert gathering.open_keys(work.session) == {f"collection:{key}"}
        by_hand.gather(work, "collection", key)
    job_runs.run(shop, handed[2])
    with in_unit(shop, rosa, handed) as work:
        assert recount.recount(work.session) == []
        assert gathering.open_keys(work.session) == frozenset()
        easel = find(work, "Groyne Studio").id
        by_hand.by_hand(work, "collection", key, [easel], "picked")
        assert easel in inside(work, key), "one by hand needs no job"


def test_nothing_is_left_waiting_for_a_job_that_was_stopped(
    shop: Callable[[], Session], rosa: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(memberships, "MOST_AT_ONCE", 30)
    handed: list[int] = []
    with in_unit(shop, rosa, handed) as work:
        key, other = make(work, "All", condition={}), make(work, "Others", condition={})
        for number in [job.id for job in job_rows.open_of(work.session, memberships.GATHER)]:
            jobs.stop(work, number)
    with in_unit(shop, rosa, handed) as work:
        assert gathering.open_keys(work.session) == {f"collection:{key}", f"collection:{other}"}
        put(work, key, condition=PAINT)
        assert gathering.open_keys(work.session) == {f"collection:{other}"}, "few enough were looked at at once"
        assert len(inside(work, key)) == 29
        definitions.remove(work, NOUN.code, other, writes.need_current(work, NOUN.code, other).version)
        assert gathering.open_keys(work.session) == frozenset(), "what is gone waits for nothing"
        assert recount.recount(work.session) == []


def handed_now(work: Work) -> int:
    return job_rows.open_of(work.session, memberships.GATHER)[-1].id


@pytest.mark.parametrize("seed", range(2))
def test_membership_kept_is_membership_computed_after_anything(work: Work, seed: int) -> None:
    """Any sequence of writes, changes of conditions and hands, undos and releases."""
    chance = random.Random(seed)
    conditions: list[Any] = [None, {}, PAINT, CHEAP, {"none": [PAINT]}, {"field": "ss_opacity", "op": "filled"}]
    keys = [make(work, f"Collection {number}", condition=conditions[number + 1]) for number in range(3)]
    numbers = list(rows.get(work.session, range(1, 80)))

    def change_condition() -> None:
        put(work, chance.choice(keys), condition=chance.choice(conditions))

    def hands() -> None:
        to: Any = chance.choice(["picked", "kept_out", "neither"])
        by_hand.by_hand(work, "collection", chance.choice(keys), chance.sample(numbers, 3), to)

    def write() -> None:
        price = chance.choice(["5", "12", "", "dear"])
        number = chance.choice(numbers)
        products.fill(work, number, None, {"price": price}, chance.choice([None, "gouache", "easels"]))

    def undo() -> None:
        (history.undo_last if chance.random() < 0.7 else history.redo_last)(work)

    def release_all() -> None:
        release.release(work, "")

    def limit() -> None:
        sets = definitions_of(work)
        name = chance.choice(sorted(sets))
        current = writes.need_current(work, "field_set", name)
        limited = chance.choice([[], [chance.choice(keys)]])
        definitions.change(work, "field_set", name, current.version, {"collections": limited})

    def move() -> None:
        collections.move(work, chance.choice(keys), chance.choice([None]))

    for _ in range(30):
        step = chance.choice([change_condition, hands, write, write, undo, undo, release_all, limit, move])
        try:
            step()
        except Refusal as refusal:
            assert refusal.code in ("nothing", "nothing_to_undo", "clash"), (
                step.__name__,
                refusal.code,
                refusal.message,
            )
        check_kept(work)
    if step is not release_all:
        products.fill(work, numbers[0], None, {"price": "77"})
        release_all()
    check_live(work)


def definitions_of(work: Work) -> Any:
    return plans.draft(work.session).sets


def check_kept(work: Work) -> None:
    asked = plans.draft_of(work.session).assessor.memberships
    for number, record in rows.get(work.session, range(1, 80)).items():
        assert record.product.collections == asked.of(record.product), number
    assert recount.recount(work.session) == []


def check_live(work: Work) -> None:
    """After a release, live cards stand where the draft has them; those held back stay."""
    held = {number for number, _, _ in release.history(work)[0][0].held_back}
    there = listings.open_places(work.session, range(1, 80))
    for number, record in rows.get(work.session, range(1, 80)).items():
        if number in held or not record.product.offered:
            continue
        stands = {read_listing(place.listing).key for place in there if place.product_id == number}
        defs = plans.draft(work.session)
        has = {effective.field.key for effective in defs.effective(record.product.type)}
        makers = {record.product.values.get("ss_maker")} - {None} if "ss_maker" in has else set()
        alike = {
            listing.key
            for key in defs.alike
            for listing in same_listings(defs.all_fields[key], record.product.values.get(key))
        }
        assert stands == {*defs.chain(record.product.type), *record.product.collections, *makers, *alike}, number


def test_what_limiting_a_set_touches_is_told_beforehand(work: Work) -> None:
    release.release(work, "before")
    key = make(work, "Cheap ones", condition=CHEAP)
    current = writes.need_current(work, "field_set", "origin")
    before = definitions.consequences(
        work, "field_set", "origin", definitions.changed_thing(work, "field_set", "origin", {"collections": [key]})
    )
    definitions.change(work, "field_set", "origin", current.version, {"collections": [key]})
    expected = pending.pending(work).surfaces["product_page"]
    done = release.release(work, "limited")
    assert 0 < done.counts["product_page"] <= expected == before.surfaces["product_page"] < 65


def test_a_change_of_order_is_counted_as_what_it_does(work: Work) -> None:
    first, second = make(work, "First", condition=PAINT), make(work, "Second", condition=PAINT)
    definitions.display(work, Scope("collection", first), "sku", "listing_card", {"shown": True}, None)
    definitions.display(work, Scope("collection", second), "sku", "listing_card", {"shown": False}, None)
    release.release(work, "both")
    assert pending.pending(work).surfaces["listing_card"] == 0
    collections.move(work, second, None)
    expected = pending.pending(work).surfaces["listing_card"]
    done = release.release(work, "turned about")
    assert expected == done.counts["listing_card"] == len(inside(work, first))


def test_what_collections_hold_is_written_by_ways_of_its_own(work: Work) -> None:
    new, patch = request_models(NOUN)
    assert NOUN.stored.guarded == {"filled", "rank"}
    assert not NOUN.stored.guarded & {*new.model_fields, *patch.model_fields}


def test_a_value_that_a_condition_asks_for_is_not_taken_out(work: Work) -> None:
    current = writes.need_current(work, "value_list", "wood")
    spare = {"code": "spare", "label": "Spare", "synonyms": [], "retired": False}
    values = [*state_of(current.thing)["values"], spare]
    added = definitions.change(work, "value_list", "wood", current.version, {"values": values})
    key = make(work, "Spare wood", condition={"field": "ss_wood", "op": "any_of", "value": ["spare"]})
    with pytest.raises(Refusal) as caught:
        definitions.change(work, "value_list", "wood", added.version, {"values": values[:-1]})
    assert "Spare wood" in caught.value.message
    put(work, key, condition=None)
    definitions.change(work, "value_list", "wood", added.version, {"values": values[:-1]})
