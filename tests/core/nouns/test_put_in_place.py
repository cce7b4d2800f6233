"""What a thing refers to, and what becomes of it when a value, a field or a thing it refers to gives its place to another."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, STATES, having, state
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.store.states import thing_of

Puts = list[tuple[str, Any]]
FOLDS = {"field": "ss_folds", "op": "is", "value": True}
MADE_OF = {"all": [{"field": "ss_wood", "op": "is", "value": "oak"}, FOLDS]}


@pytest.mark.parametrize(
    ("noun", "key", "puts", "wanted"),
    [
        ("field_set", "origin", [], {("field", "ss_maker"), ("field", "ss_made_in"), ("field", "ss_maker_since")}),
        ("field_set", "printmaking", [("collections", ["outdoors"])], {("collection", "outdoors")}),
        (
            "product_type",
            "easels",
            [("own", {"ss_batch": {}, "title": {}}), ("parent", "paint")],
            {
                ("field_set", "furniture"),
                ("option_set", "easel_woods"),
                ("field", "ss_batch"),
                ("product_type", "paint"),
            },
        ),
        ("product_type", "easels", [], {("field", "ss_holds"), ("field", "ss_wood")}),
        ("option_set", "watercolour_choices", [], {("value_list", "paint_colours")}),
        ("option_set", "easel_woods", [("condition", FOLDS)], {("field", "ss_folds")}),
        ("collection", "outdoors", [("order", "ss_wood")], {("field", "ss_wood"), ("product_type", "watercolour")}),
        ("shared_copy", "colour_care", [], {("collection", "outdoors")}),
        ("record", "driftline_bindery", [], {("record_type", "maker")}),
        ("record_type", "maker", [], {("field", "ss_maker_words")}),
        ("field", "ss_wood", [], {("value_list", "wood")}),
        ("display_setting", "type:easels/*/product_page", [], {("product_type", "easels"), ("layout", "easels")}),
        ("layout", "oils", [], {("layout", "in_panels"), ("field_set", "safety"), ("field", "ss_pigment")}),
    ],
)
def test_a_thing_refers_to_what_it_names(noun: str, key: str, puts: Puts, wanted: set[tuple[str, str]]) -> None:
    found = {(ref.noun, ref.key) for ref in NOUNS[noun].referring.refers(thing_of(noun, state(noun, key, *puts)))}
    assert wanted <= found
    assert all(name in NOUNS for name, _ in found)
    assert ("field", "title") not in found


@pytest.mark.parametrize(
    ("noun", "key", "puts", "changed"),
    [
        ("field_set", "furniture", [], True),
        ("field_set", "origin", [], False),
        ("product_type", "easels", [], True),
        ("option_set", "easel_woods", [("condition", MADE_OF)], True),
        ("option_set", "easel_woods", [], False),
        ("collection", "lightfast", [("condition", MADE_OF)], True),
        ("collection", "lightfast", [("order", "ss_wood")], True),
        ("collection", "first_box", [], False),
    ],
)
def test_a_field_gives_its_place_to_another(noun: str, key: str, puts: Puts, changed: bool) -> None:
    thing = thing_of(noun, state(noun, key, *puts))
    made = NOUNS[noun].referring.with_field(thing, "ss_wood", "ss_batch")
    refers = {(ref.noun, ref.key) for ref in NOUNS[noun].referring.refers(made)}
    assert (made != thing, ("field", "ss_batch") in refers) == (changed, changed)
    assert ("field", "ss_wood") not in refers


def test_of_two_needs_the_stricter_holds_and_a_place_is_kept_once() -> None:
    needs = [("needs", {"ss_wood": "required", "ss_batch": "wanted"}), ("fields", ["ss_batch", "ss_wood"])]
    made = NOUNS["product_type"].referring.with_field(
        thing_of("product_type", state("product_type", "easels", *needs)), "ss_wood", "ss_batch"
    )
    assert (made.needs, made.fields) == ({"ss_batch": "required"}, ("ss_batch",))
    origin = [("sections/0/fields", ["ss_wood", "ss_maker", "ss_batch"])]
    kept = NOUNS["field_set"].referring.with_field(
        thing_of("field_set", state("field_set", "origin", *origin)), "ss_wood", "ss_batch"
    )
    assert kept.fields == ("ss_maker", "ss_batch")


WOOD = ("value_list", "wood")
COLOURS = ("value_list", "paint_colours")


@pytest.mark.parametrize(
    ("noun", "key", "puts", "target", "items", "path", "wanted"),
    [
        ("collection", "lightfast", [("condition", MADE_OF)], WOOD, {"oak": "ash"}, "condition/all/0/value", "ash"),
        ("option_set", "easel_woods", [("condition", MADE_OF)], WOOD, {"oak": "ash"}, "condition/all/0/value", "ash"),
        (
            "option_set",
            "watercolour_choices",
            [],
            COLOURS,
            {"lemon-light": "barley-ochre"},
            "options/0/values/1/code",
            "barley-ochre",
        ),
        (
            "option_set",
            "watercolour_choices",
            [],
            COLOURS,
            {"peat": "kelp"},
            "left_out/0/colour",
            ["kelp", "chalk-white", "tidal-shift", "sea-lavender", "thrift-pink"],
        ),
        ("option_set", "watercolour_choices", [("options/0/default", "peat")], COLOURS, {"peat": "kelp"}, "options/0/default", "kelp"),
        ("product_type", "easels", [("own", {"ss_wood": {"default": "oak"}})], WOOD, {"oak": "ash"}, "own/ss_wood/default", "ash"),
        ("record", "driftline_bindery", [], ("record_type", "maker"), {"fen_mill": "marsh_reed"}, "filled/ss_maker_uses/1/0", "marsh_reed"),
        ("field", "ss_wood", [("default", "oak")], WOOD, {"oak": "ash"}, "default", "ash"),
    ],
)  # fmt: skip
def test_one_item_stands_for_another_wherever_it_is_asked_for(
    noun: str, key: str, puts: Puts, target: tuple[str, str], items: dict[str, str], path: str, wanted: Any
) -> None:
    thing = thing_of(noun, state(noun, key, *puts))
    made = NOUNS[noun].referring.with_items(thing, target, items, SALTMARSH)
    at: Any = state_of(made)
    for step in path.split("/"):
        at = at[int(step)] if isinstance(at, list) else at[step]
    assert at == wanted
    assert NOUNS[noun].referring.with_items(thing, target, {"nothing": "else"}, SALTMARSH) == thing
    assert NOUNS[noun].referring.with_items(thing, ("value_list", "suits"), items, SALTMARSH) == thing


@pytest.mark.parametrize("noun", [code for code, noun in NOUNS.items() if noun.blank is not None and code in STATES])
def test_a_thing_made_from_a_name_is_sound(noun: str) -> None:
    made = NOUNS[noun].blank("ss_harbour_blue", "Harbour blue", SALTMARSH)  # type: ignore[misc]
    assert (made.key, made.name) == ("ss_harbour_blue", "Harbour blue")
    if noun not in ("record", "layout"):
        NOUNS[noun].check(made, SALTMARSH)


def test_addresses_and_ranks_are_made_beside_those_there_are() -> None:
    blank = NOUNS["record"].blank
    assert blank is not None
    assert blank("x", "Watercolour", SALTMARSH).slug == "watercolour-2"
    two = having(("record", state("record", "fen_mill", ("slug", "watercolour-2"))))
    assert blank("x", "Watercolour", two).slug == "watercolour-3"
    collection = NOUNS["collection"].blank
    assert collection is not None
    assert collection("x", "New", SALTMARSH).rank == "5"


def test_of_two_values_that_come_to_the_same_the_one_that_stays_keeps_what_it_does() -> None:
    thing = thing_of("option_set", state("option_set", "watercolour_choices"))
    before = {value.code: value for value in thing.options[0].values}
    made = NOUNS["option_set"].referring.with_items(thing, COLOURS, {"lemon-light": "barley-ochre"}, SALTMARSH)
    after = {value.code: value for value in made.options[0].values}
    assert after == {code: value for code, value in before.items() if code != "lemon-light"}
    alone = NOUNS["option_set"].referring.with_items(thing, COLOURS, {"lemon-light": "straw"}, SALTMARSH)
    assert alone.options[0].values[0] == replace(before["lemon-light"], code="straw")
