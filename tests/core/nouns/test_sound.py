"""What is not sound is refused by its own code at its own place, for every noun; every limit at it and one beyond."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, STATES, state
from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.store.states import thing_of

EFFECT = {"price": None, "weight": None, "cost": None, "sku": ""}
SWATCH: dict[str, Any] = {"colours": [], "picture": "", "focus": [], "short": ""}
RED = {"code": "red", "label": "Red", "swatch": SWATCH, "effect": EFFECT}
OPTION = STATES["option_set"]["cut_to_size"]["options"][0]
SIZES, COLOURS = "cut_to_size", "watercolour_choices"
Puts = list[tuple[str, Any]]


def values(count: int) -> list[dict[str, Any]]:
    return [{**RED, "code": f"c{number}", "label": f"C {number}"} for number in range(count)]


def options(count: int) -> list[dict[str, Any]]:
    return [{**OPTION, "key": f"k{number}", "values": []} for number in range(count)]


def sections(count: int, size: int = 0) -> list[dict[str, Any]]:
    return [{"key": f"s{at}", "name": "S", "fields": [f"x{at}_{n}" for n in range(size)]} for at in range(count)]


def of(noun: str, key: str, *rows: tuple[str, Any, str, tuple[Any, ...]]) -> list[tuple[Any, ...]]:
    return [(noun, key, [(path, value)], code, where) for path, value, code, where in rows]


REFUSED: list[tuple[str, str, Puts, str, tuple[Any, ...]]] = [
    *of(
        "option_set",
        SIZES,
        ("name", " ", "required", ("name",)),
        ("name", "x" * 81, "long", ("name",)),
        ("options", options(21), "too_many", ("options",)),
        ("separator", "----", "pattern", ("separator",)),
        ("separator", "+", "pattern", ("separator",)),
        ("options", [OPTION, OPTION], "twice", ("options", 1, "key")),
        ("picked", [1, 1], "twice", ("picked",)),
        ("picked", [0], "not_found", ("picked",)),
        ("kept_out", [2**31], "not_found", ("kept_out",)),
        ("condition", {"field": "nothing", "op": "is", "value": "x"}, "unknown_field", ("condition", "field")),
        ("condition", {"field": "ss_folds", "op": "is", "typed": "yes"}, "condition", ("condition",)),
        ("options/0/kind", "nothing", "option_kind", ("options", 0, "kind")),
        ("options/0/key", "Not so", "key", ("options", 0, "key")),
        ("options/0/name", " ", "required", ("options", 0, "name")),
        ("options/0/name", "x" * 81, "long", ("options", 0, "name")),
        ("options/0/description", "x" * 401, "long", ("options", 0, "description")),
        ("options/0/default", "x" * 201, "long", ("options", 0, "default")),
        ("options/0/default", "nothing", "choice", ("options", 0, "default")),
        ("options/0/limits", {"nothing": 1}, "limit", ("options", 0, "limits", "nothing")),
        ("options/0/list", "wood", "option_kind", ("options", 0, "list")),
        ("options/0/values", values(2001), "too_many", ("options", 0, "values")),
        ("options/0/values", [RED, {**RED, "label": "Other"}], "code_twice", ("options", 0, "values", 1, "code")),
        ("options/0/values", [RED, {**RED, "code": "b"}], "label_twice", ("options", 0, "values", 1, "label")),
        ("options/0/values/1/code", "Not so", "code", ("options", 0, "values", 1, "code")),
        ("options/0/values/1/label", " ", "required", ("options", 0, "values", 1, "label")),
        ("options/0/values/1/label", "x" * 201, "long", ("options", 0, "values", 1, "label")),
        ("options/0/values/1/swatch/colours", ["odd"], "colour", ("options", 0, "values", 1, "swatch", "colours")),
        ("options/1/values", [RED], "option_kind", ("options", 1, "values")),
        ("options/1/default", "a.jpg", "choice", ("options", 1, "default")),
    ),
    *of(
        "option_set",
        COLOURS,
        ("options/0/list", "nothing", "unknown_value_list", ("options", 0, "list")),
        ("options/0/values/0/code", "nothing", "unknown_value", ("options", 0, "values", 0, "code")),
        ("options/0/values/0/label", "Own", "option_kind", ("options", 0, "values", 0, "label")),
        ("left_out", [{"colour": ["peat"]}] * 501, "too_many", ("left_out",)),
        ("left_out", [{"tube_name": ["x"]}], "unknown_option", ("left_out", 0, "tube_name")),
        ("left_out", [{"colour": []}], "required", ("left_out", 0, "colour")),
        ("left_out", [{"colour": ["peat"]}, {}], "required", ("left_out", 1)),
    ),
    *of(
        "field_set",
        "origin",
        ("name", " ", "required", ("name",)),
        ("name", "x" * 81, "long", ("name",)),
        ("sections", sections(31), "too_many", ("sections",)),
        ("sections", sections(1, 301), "too_many", ("sections",)),
        ("sections/0/name", " ", "required", ("sections", 0, "name")),
        ("sections/0/name", "x" * 81, "long", ("sections", 0, "name")),
        ("sections/0/key", "", "long", ("sections", 0, "name")),
        ("sections/0/key", "x" * 61, "long", ("sections", 0, "name")),
        ("sections", [sections(1)[0]] * 2, "section_twice", ("sections", 1, "key")),
        ("sections/0/fields/1", "nothing", "unknown_field", ("sections", 0, "fields", 1)),
        ("sections/0/fields/1", "ss_maker_words", "unknown_field", ("sections", 0, "fields", 1)),
        ("sections/0/fields/1", "ss_maker", "field_twice", ("sections", 0, "fields", 1)),
        ("collections", ["outdoors", "nothing"], "unknown_collection", ("collections", 1)),
        ("collections", ["outdoors", "outdoors"], "twice", ("collections", 1)),
    ),
    *of(
        "product_type",
        "watercolour",
        ("name", " ", "required", ("name",)),
        ("name", "x" * 81, "long", ("name",)),
        ("slug", "x" * 121, "long", ("name",)),
        ("slug", "Not so", "pattern", ("slug",)),
        ("parent", "nothing", "unknown_product_type", ("parent",)),
        ("parent", "watercolour", "loop", ("parent",)),
        ("sets", ["nothing"], "unknown_field_set", ("sets", 0)),
        ("sets", ["safety", "safety"], "twice", ("sets", 1)),
        ("fields", ["nothing"], "unknown_field", ("fields", 0)),
        ("fields", ["ss_maker_words"], "unknown_field", ("fields", 0)),
        ("option_sets", ["nothing"], "unknown_option_set", ("option_sets", 0)),
        ("needs", {"nothing": "wanted"}, "unknown_field", ("needs", "nothing")),
        ("own", {"nothing": {}}, "unknown_field", ("own", "nothing")),
        ("own", {"unit_price": {}}, "unknown_field", ("own", "unit_price")),
        ("own", {"ss_batch": {"help": "x" * 401}}, "long", ("own", "ss_batch", "help")),
        ("own", {"ss_batch": {"limits": {"nothing": 1}}}, "limit", ("own", "ss_batch", "limits", "nothing")),
        ("own", {"gtin": {"limits": {"unique": True}}}, "limit", ("own", "gtin", "limits", "unique")),
        ("own", {"title": {"limits": {"max_length": 500}}}, "looser", ("own", "title", "limits", "max_length")),
        ("own", {"ss_suits": {"default": ["studio"]}}, "choice", ("own", "ss_suits", "default")),
        ("own", {"pictures": {"default": []}}, "default", ("own", "pictures", "default")),
        ("own", {"ss_made_in": {"default": 3}}, "shape", ("own", "ss_made_in", "default")),
    ),
    *of(
        "shared_copy",
        "brush_care",
        ("name", " ", "required", ("name",)),
        ("name", "x" * 81, "long", ("name",)),
        ("title", "x" * 81, "long", ("title",)),
        ("icon", "nothing", "icon", ("icon",)),
        ("words", "<script>x</script>", "shape", ("words",)),
        ("own", {"nothing": "<p>x</p>"}, "unknown_collection", ("own", "nothing")),
        ("own", {"outdoors": "<b>x"}, "shape", ("own", "outdoors")),
        ("own", {"outdoors": ""}, "required", ("own", "outdoors")),
    ),
    *of(
        "record_type",
        "maker",
        ("name", " ", "required", ("name",)),
        ("name", "x" * 81, "long", ("name",)),
        ("fields", [f"x{number}" for number in range(101)], "too_many", ("fields",)),
        ("fields", ["ss_maker_words"] * 2, "twice", ("fields",)),
        ("fields", ["ss_maker_words", "ss_wood"], "unknown_field", ("fields", 1)),
    ),
    *of(
        "record",
        "fen_mill",
        ("name", " ", "required", ("name",)),
        ("name", "x" * 81, "long", ("name",)),
        ("slug", "x" * 121, "long", ("name",)),
        ("slug", "Not so", "pattern", ("slug",)),
        ("type", "nothing", "record_type", ("type",)),
    ),
    *of(
        "collection",
        "lightfast",
        ("name", " ", "required", ("name",)),
        ("name", "x" * 81, "long", ("name",)),
        ("slug", "x" * 121, "long", ("name",)),
        ("slug", "Not so", "pattern", ("slug",)),
        ("rank", "many", "rank", ("rank",)),
        ("order", "nothing", "unknown_field", ("order",)),
        ("picked", list(range(1, 2002)), "too_many", ("picked",)),
        ("kept_out", [3, 3], "twice", ("kept_out",)),
        ("condition", {"field": "nothing", "op": "is", "value": "x"}, "unknown_field", ("condition", "field")),
        ("condition", {"field": "ss_folds", "op": "is", "typed": "yes"}, "condition", ("condition",)),
    ),
]
SOUND: list[tuple[str, str, Puts]] = [
    ("option_set", SIZES, [("name", "x" * 80)]),
    ("option_set", SIZES, [("options", options(20))]),
    ("option_set", SIZES, [("separator", "---")]),
    ("option_set", SIZES, [("separator", "")]),
    ("option_set", SIZES, [("options/0/values", values(2000))]),
    ("option_set", SIZES, [("options/0/values/1/label", "x" * 200)]),
    ("option_set", SIZES, [("options/0/description", "x" * 400)]),
    ("option_set", SIZES, [("options/0/default", "small")]),
    ("option_set", COLOURS, [("left_out", [{"colour": ["peat"]}] * 500)]),
    ("option_set", COLOURS, [("left_out", [{"colour": ["gone"]}])]),
    ("option_set", COLOURS, [("options/0/default", "peat")]),
    ("option_set", COLOURS, [("condition", {"field": "ss_folds", "op": "is", "value": True})]),
    ("field_set", "origin", [("name", "x" * 80), ("sections", sections(30))]),
    ("field_set", "origin", [("sections/0/key", "x" * 60), ("collections", ["outdoors", "lightfast"])]),
    ("product_type", "watercolour", [("name", "x" * 80), ("slug", "x" * 120), ("parent", None)]),
    ("product_type", "watercolour", [("sets", ["safety"]), ("option_sets", ["cut_to_size"])]),
    ("product_type", "watercolour", [("own", {"ss_batch": {"help": "x" * 400}})]),
    ("product_type", "watercolour", [("own", {"title": {"limits": {"max_length": 60}}})]),
    ("product_type", "watercolour", [("own", {"ss_made_in": {"default": "Port Callan"}})]),
    ("shared_copy", "brush_care", [("title", "x" * 80), ("icon", ""), ("words", "")]),
    ("shared_copy", "brush_care", [("own", {"outdoors": "<p>Dry it.</p>"})]),
    ("record", "fen_mill", [("name", "x" * 80), ("slug", "x" * 120)]),
    ("collection", "lightfast", [("name", "x" * 80), ("slug", "x" * 120), ("order", "newest")]),
    ("collection", "lightfast", [("picked", list(range(1, 2001)))]),
]


@pytest.mark.parametrize(("noun", "key", "puts", "code", "where"), REFUSED)
def test_what_is_not_sound_is_refused_at_its_place(
    noun: str, key: str, puts: Puts, code: str, where: tuple[Any, ...]
) -> None:
    with pytest.raises(Refusal) as refused:
        NOUNS[noun].check(thing_of(noun, state(noun, key, *puts)), SALTMARSH)
    assert (refused.value.code, tuple(refused.value.where)) == (code, where)
    assert refused.value.help


@pytest.mark.parametrize(("noun", "key", "puts"), SOUND)
def test_what_is_just_within_the_limits_is_sound(noun: str, key: str, puts: Puts) -> None:
    NOUNS[noun].check(thing_of(noun, state(noun, key, *puts)), SALTMARSH)


@pytest.mark.parametrize(("noun", "key"), [(noun, key) for noun, things in STATES.items() for key in things])
def test_all_of_the_shop_is_sound(noun: str, key: str) -> None:
    NOUNS[noun].check(SALTMARSH.things[noun][key], SALTMARSH)
