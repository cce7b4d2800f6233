"""Every change of a definition is told by just its own lines."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, STATES, state
from young_fabric.core.nouns.registry import NOUNS, describe

NOTHING = {"price": None, "weight": None, "cost": None, "sku": ""}
RED = {
    "code": "red",
    "label": "Red",
    "swatch": {"colours": [], "picture": "", "focus": [], "short": ""},
    "effect": NOTHING,
}
Puts = list[tuple[str, Any]]


def price(value: str, mode: str = "amount", charge: str = "each") -> dict[str, Any]:
    return {**NOTHING, "price": {"charge": charge, "mode": mode, "value": value}}


WOOD, ASSEMBLY, DAY = STATES["option_set"]["easel_woods"]["options"]
CUT = STATES["option_set"]["cut_to_size"]["options"][0]
COLOURS = STATES["option_set"]["watercolour_choices"]["options"][0]["values"]
WATERCOLOUR = STATES["product_type"]["watercolour"]["fields"]
MAKER = STATES["record_type"]["maker"]["fields"]
ASSEMBLED = "Assembled before it leaves us"
OF_EASELS: list[tuple[Puts, list[str]]] = [
    ([("options", [WOOD, ASSEMBLY])], ["option Delivery day taken away"]),
    ([("options", [ASSEMBLY, WOOD, DAY])], ["order of options changed"]),
    ([("options", [WOOD, ASSEMBLY, DAY, CUT])], ["option Cut to added"]),
    ([("options/0/values", [*WOOD["values"], RED])], ["Wood: Red added"]),
    ([("options/0/values", WOOD["values"][1:])], ["Wood: Beech taken off"]),
    ([("options/0/values", WOOD["values"][::-1])], ["Wood: order of values changed"]),
    ([("options/0/values/0/effect", price("3"))], ["Wood: Beech + €3.00"]),
    ([("options/0/values/1/effect", NOTHING)], ["Wood: Oak does nothing"]),
    ([("options/0/values/0/label", "Beech, waxed")], ["Wood: values changed"]),
    ([("options/1/effect", price("5", "percent", "once"))], [f"{ASSEMBLED}: + 5\u00a0% once"]),
    ([("options/1/effect", NOTHING)], [f"{ASSEMBLED}: does nothing"]),
    ([("options/1/name", "Assembled")], [f"Assembled: name “{ASSEMBLED}” → “Assembled”"]),
    ([("options/1/description", "By us")], [f"{ASSEMBLED}: description nothing → “By us”"]),
    ([("options/1/required", True)], [f"{ASSEMBLED}: required no → yes"]),
    ([("options/1/kind", "text")], [f"{ASSEMBLED}: kind “tick” → “text”"]),
    (
        [("options/2/limits", {"from_days": 5})],
        ['Delivery day: limits {"from_days": 3, "to_days": 60} → {"from_days": 5}'],
    ),
    ([("price", "replace")], ["price is in place of the product's"]),
    (
        [("weight", "replace"), ("sku", "replace")],
        ["weight is in place of the product's", "SKU is made of parts alone"],
    ),
    ([("sku", "keep")], ["SKU is the product's"]),
    ([("separator", "/"), ("name", "Woods")], ["name “Easel woods” → “Woods”", "separator “-” → “/”"]),
    ([("picked", [4]), ("kept_out", [5, 6])], ["1 product put in by hand", "2 products kept out by hand"]),
    ([("condition", {"field": "ss_folds", "op": "is", "value": True})], ["offered to: Folds flat is Yes"]),
]
OF_OTHERS: list[tuple[str, str, Puts, list[str]]] = [
    ("option_set", "brush_numbers", [("picked", [])], ["1 product taken out by hand"]),
    ("option_set", "watercolour_choices", [("left_out", [])], ["what is left out changed"]),
    (
        "option_set",
        "watercolour_choices",
        [("options/0/values", COLOURS[5:])],
        ["Colour: Lemon Light, Weld Yellow, Barley Ochre, Flare Orange… taken off"],
    ),
    (
        "option_set",
        "watercolour_choices",
        [("options/0/values", COLOURS[4:])],
        ["Colour: Lemon Light, Weld Yellow, Barley Ochre, Flare Orange taken off"],
    ),
    (
        "option_set",
        "watercolour_choices",
        [("options/0/values/0/effect", price("-2"))],
        ["Colour: Lemon Light − €2.00"],
    ),
    (
        "option_set",
        "watercolour_choices",
        [("options/0/default", "peat"), ("options/0/takes", "some")],
        ["Colour: default nothing → “peat”", "Colour: takes “grows” → “some”"],
    ),
    ("field_set", "origin", [("name", "Where from")], ["name “Origin” → “Where from”"]),
    (
        "field_set",
        "origin",
        [("sections/0/fields", ["ss_maker", "ss_batch"])],
        ["Batch date added", "Made in, Maker since taken off"],
    ),
    (
        "field_set",
        "origin",
        [("sections/0/fields", ["ss_made_in", "ss_maker", "ss_maker_since"])],
        ["sections or order changed"],
    ),
    ("field_set", "origin", [("sections/0/name", "Made by")], ["sections or order changed"]),
    ("field_set", "origin", [("collections", ["outdoors", "lightfast"])], ["limited to For the field, Lightfast I"]),
    ("product_type", "watercolour", [("sets", ["safety"])], ["takes Safety and care"]),
    (
        "product_type",
        "watercolour",
        [("fields", [*WATERCOLOUR[:4], "ss_batch"])],
        ["takes Batch date", "no longer takes Studio trial, Safety sheet"],
    ),
    ("product_type", "watercolour", [("fields", WATERCOLOUR[::-1])], ["order of fields changed"]),
    ("product_type", "easels", [("option_sets", [])], ["no longer takes Easel woods"]),
    (
        "product_type",
        "easels",
        [("option_sets", ["easel_woods", "cut_to_size"]), ("sets", ["origin", "furniture"])],
        ["order of sets changed", "takes Cut to size"],
    ),
    ("product_type", "easels", [("needs", {"ss_wood": "optional"})], ["Holds up to as inherited", "Wood optional"]),
    (
        "product_type",
        "easels",
        [("own", {"title": {"limits": {"max_length": 60, "min_length": 2}, "default": None, "help": "Short"}})],
        ["limits of Title: max_length 60, min_length 2", "help of Title: “Short”"],
    ),
    (
        "product_type",
        "easels",
        [("own", {"ss_made_in": {"limits": {}, "default": "Port Callan", "help": ""}})],
        ["default of Made in: “Port Callan”"],
    ),
    ("product_type", "watercolour", [("parent", None)], ["now under nothing"]),
    (
        "product_type",
        "watercolour",
        [("parent", "paper"), ("name", "Water colour"), ("slug", "water-colour")],
        ["now under Paper", "name “Watercolour” → “Water colour”", "slug “watercolour” → “water-colour”"],
    ),
    (
        "shared_copy",
        "brush_care",
        [("words", "<p>Rinse it.</p>")],
        ["words “Rinse in cold water until it runs clear, shape the tip, and …” → “Rinse it.”"],
    ),
    ("shared_copy", "colour_care", [("own", {})], ["For the field: follows the shared words"]),
    (
        "shared_copy",
        "colour_care",
        [("own", {"outdoors": "<p>Cap it.</p>", "nothing": "<p>x</p>"})],
        ["nothing: has its own words", "For the field: words changed"],
    ),
    (
        "shared_copy",
        "colour_care",
        [("title", "Keep it"), ("icon", "brush"), ("name", "Colour care")],
        ["title “Keep it well” → “Keep it”", "icon “sun” → “brush”", "name “Care of colour” → “Colour care”"],
    ),
    ("record_type", "maker", [("page", False)], ["records have no page any more"]),
    (
        "record_type",
        "maker",
        [("name", "Makers"), ("fields", MAKER[:-1])],
        ["fields taken off: Works with", "name “Maker” → “Makers”"],
    ),
    (
        "record",
        "fen_mill",
        [("name", "The Fen Mill"), ("slug", "the-fen-mill")],
        ["name “Fen Mill” → “The Fen Mill”", "slug “fen-mill” → “the-fen-mill”"],
    ),
    (
        "record",
        "fen_mill",
        [("filled", {"ss_maker_founded": ["value", "1872"], "ss_maker_place": ["typed", "?"]})],
        [
            "Founded 1871 → 1872",
            "Workshop “Ostrey, East Fen” → “?”, not understood",
            "About the maker “Makes paper on a mould machine that was built for banknotes,…” → nothing",
        ],
    ),
    ("collection", "outdoors", [("condition", None)], ["in it: by hand only"]),
    (
        "collection",
        "outdoors",
        [("condition", {"field": "type", "op": "is", "value": "easels"})],
        ["in it: Type is or is below Easels"],
    ),
    ("collection", "outdoors", [("picked", [54, 60])], ["order of those picked by hand changed"]),
    (
        "collection",
        "outdoors",
        [("picked", [54, 61, 62]), ("kept_out", [])],
        ["2 products put in by hand", "1 product taken out by hand", "1 product no longer kept out by hand"],
    ),
    (
        "collection",
        "outdoors",
        [("rank", "5"), ("order", "price"), ("name", "Out of doors"), ("slug", "out")],
        [
            "moved among the collections",
            "name “For the field” → “Out of doors”",
            "slug “for-the-field” → “out”",
            "order “title” → “price”",
        ],
    ),
    (
        "collection",
        "outdoors",
        [("filled", {"ss_season": ["value", "All year"]})],
        [
            "Best season “April to October” → “All year”",
            "words “Small tubes, books with a band, and what folds flat.\n\nAll of…” → nothing",
        ],
    ),
]
TOLD = [("option_set", "easel_woods", puts, lines) for puts, lines in OF_EASELS] + OF_OTHERS


@pytest.mark.parametrize(("noun", "key", "puts", "lines"), TOLD)
def test_a_change_is_told_by_its_own_lines(noun: str, key: str, puts: Puts, lines: list[str]) -> None:
    assert describe(NOUNS[noun], STATES[noun][key], state(noun, key, *puts), SALTMARSH) == lines


@pytest.mark.parametrize(("noun", "key"), [(noun, min(things)) for noun, things in STATES.items()])
def test_what_is_as_it_was_is_told_so(noun: str, key: str) -> None:
    defs, made = SALTMARSH, STATES[noun][key]
    assert describe(NOUNS[noun], made, made, defs) == ["no difference"]
    assert describe(NOUNS[noun], None, made, defs) not in ([], ["no difference"])


WOODS = STATES["value_list"]["wood"]["values"]


@pytest.mark.parametrize(
    ("values", "lines"),
    [
        ([*WOODS, {**WOODS[0], "code": "yew", "label": "Yew"}], ["1 value added: Yew"]),
        (
            [*WOODS, *({**WOODS[0], "code": code, "label": code.title()} for code in ("yew", "box"))],
            ["2 values added: Yew, Box"],
        ),
        (WOODS[1:], [f"removed: {WOODS[0]['label']}"]),
        ([{**WOODS[0], "retired": True}, *WOODS[1:]], [f"retired: {WOODS[0]['label']}"]),
    ],
)
def test_a_change_of_a_list_is_told_by_its_own_lines(values: list[Any], lines: list[str]) -> None:
    assert (
        describe(
            NOUNS["value_list"],
            STATES["value_list"]["wood"],
            state("value_list", "wood", ("values", values)),
            SALTMARSH,
        )
        == lines
    )
