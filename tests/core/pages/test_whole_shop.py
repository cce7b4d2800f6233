"""A whole shop: who has a say about a field, what a shared copy shows, and what tells collections apart."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, STATES, having, state
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Cascade
from young_fabric.core.display.formats import FORMATS
from young_fabric.core.display.option_properties import OPTION_PROPERTIES
from young_fabric.core.kinds import KINDS
from young_fabric.core.nouns.lists.value_lists import check_list
from young_fabric.core.nouns.options.effects import Amount, Effect, check_effect
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.deciders import deciders
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.memberships import Memberships
from young_fabric.core.subjects.products import Product
from young_fabric.store.states import thing_of


def test_who_has_a_say_about_a_field_is_told_the_nearest_first() -> None:
    plan = Plans(SALTMARSH).of_type("easels", "product_page")
    found = deciders(SALTMARSH, plan, Cascade(SALTMARSH.settings.values()), "ss_wood")
    assert [(row.noun, row.key, row.says) for row in found[:2]] == [
        ("field", "ss_wood", "for shoppers, kind one of a list"),
        ("field_set", "furniture", "brings the field"),
    ]
    maker = deciders(SALTMARSH, plan, Cascade(()), "ss_maker")
    assert ("record_type", "maker", "what can be chosen, and what it is called") in [
        (row.noun, row.key, row.says) for row in maker
    ]
    assert ("layout", "easels") in [(row.noun, row.key) for row in found]
    direct = deciders(SALTMARSH, Plans(SALTMARSH).of_type("brushes", "product_page"), Cascade(()), "ss_brush_care")
    assert ("product_type", "brushes", "takes the field") in [(row.noun, row.key, row.says) for row in direct]
    tight = having(("product_type", state("product_type", "easels", ("own", {"ss_wood": {"help": "x"}}))))
    told = deciders(tight, Plans(tight).of_type("easels", "product_page"), Cascade(()), "ss_wood")
    assert ("product_type", "easels", "says more of the field") in [(row.noun, row.key, row.says) for row in told]


def test_a_collection_is_told_apart_by_what_decides_who_is_in_it() -> None:
    asked = Memberships(SALTMARSH)

    def otherwise(*puts: tuple[str, Any]) -> Memberships:
        return Memberships(having(("collection", state("collection", "outdoors", *puts))))

    for puts, who, order in (
        ([("name", "Out")], False, False),
        ([("order", "price")], False, True),
        ([("picked", [54, 60])], False, True),
        ([("picked", [54])], True, True),
        ([("kept_out", [])], True, True),
        ([("condition", None)], True, True),
    ):
        other = otherwise(*puts)
        assert (
            other.who_mark("outdoors") != asked.who_mark("outdoors"),
            other.mark("outdoors") != asked.mark("outdoors"),
        ) == (who, order), puts
        assert asked.differ_in(other) == (("outdoors",) if who else ())
    assert (asked.mark("gone"), asked.who_mark("gone")) == ("", "")
    below = having(
        (
            "product_type",
            {**STATES["product_type"]["watercolour"], "key": "inks", "slug": "inks", "parent": "sketchbooks"},
        )
    )
    assert Memberships(below).who_mark("outdoors") != asked.who_mark("outdoors"), "types below are asked for too"


def test_a_field_goes_to_the_end_of_the_last_section() -> None:
    taking = NOUNS["field_set"].taking
    assert taking is not None
    origin = SALTMARSH.sets["origin"]
    assert taking.members(origin, "ss_batch")["sections"][-1]["fields"] == [
        "ss_maker",
        "ss_made_in",
        "ss_maker_since",
        "ss_batch",
    ]
    assert taking.members(origin, "ss_maker") == {}
    assert taking.members(replace(origin, sections=()), "ss_batch")["sections"][0]["name"] == "General"


def test_things_are_noted_in_a_few_words() -> None:
    def note(noun: str, key: str, *puts: tuple[str, Any]) -> str:
        return NOUNS[noun].calling.note(thing_of(noun, state(noun, key, *puts)), SALTMARSH)

    assert note("layout", "oils") == "product page, 3 steps over In panels"
    assert note("layout", "oils", ("base", "gone"), ("surface", "nowhere")) == "nowhere"
    assert note("record", "fen_mill") == "Maker"
    assert note("record", "fen_mill", ("type", "gone")) == "gone"
    assert note("option_set", "sheet_formats") == "Format, Edge"
    assert note("shared_copy", "brush_care").startswith("Rinse in cold water")


def test_a_record_gives_a_field_its_place() -> None:
    made = NOUNS["record"].referring.with_field(SALTMARSH.things["record"]["fen_mill"], "ss_maker_place", "ss_season")
    assert made.filled["ss_season"] == ("value", "Ostrey, East Fen")
    assert "ss_maker_place" not in made.filled
    same = SALTMARSH.things["record"]["fen_mill"]
    assert NOUNS["record"].referring.with_field(same, "ss_maker_uses", "ss_season") == same
    sort = NOUNS["record_type"].referring.with_field(
        SALTMARSH.things["record_type"]["maker"], "ss_maker_place", "ss_season"
    )
    assert sort.fields[1] == "ss_season"


def test_the_first_picture_is_the_cover() -> None:
    picture = {"file": "a" * 64, "alt": "", "width": 1, "height": 1}
    assert Product(1, "easels", {"pictures": [picture, {**picture, "file": "b" * 64}]}).cover == "a" * 64
    assert [Product(1, "easels", {"pictures": odd}).cover for odd in ([], "x", [3], [{}], None)] == [None] * 5
    assert (Product(1, "easels", {}).title, Product(1, "easels", {"title": "T", "sku": "S"}).sku) == ("Untitled", "S")


PROPERTIES = {prop.code: prop for prop in (*FORMATS, *OPTION_PROPERTIES)}


@pytest.mark.parametrize(
    ("code", "sound", "odd"),
    [
        ("unit", ["", "cm", "g"], ["parsec", 3, None]),
        (
            "rows_columns",
            [(), ["a", "b"], [f"c{n}" for n in range(30)]],
            [["a", "a"], "a", [1], [f"c{n}" for n in range(31)]],
        ),
        ("rows_heading", ["", "x" * 80], ["x" * 81, 3]),
        ("decimals", ["filled", 0, 6], [7, "0", -1]),
        ("yes_words", ["", "x" * 40], ["x" * 41, "a\nb", 1]),
        ("chosen_by", [choice.value for choice in PROPERTIES["chosen_by"].choices], ["by hand", 1]),
    ],
)
def test_a_property_takes_what_is_offered_and_nothing_else(code: str, sound: list[Any], odd: list[Any]) -> None:
    check = PROPERTIES[code].check
    assert [value for value in sound if check(value) is not None] == []
    assert [value for value in odd if check(value) is None] == []


def test_a_measure_is_shown_in_units_of_its_own_dimension() -> None:
    offered = [choice.value for choice in PROPERTIES["unit"].offered(SALTMARSH.fields["ss_holds"])]
    assert offered[0] == ""
    assert {"mm", "cm", "m"} <= set(offered)
    assert "g" not in offered
    assert [choice.value for choice in PROPERTIES["unit"].offered(SALTMARSH.fields["ss_made_in"])] == [""]
    columns = [choice.value for choice in PROPERTIES["rows_heading"].offered(SALTMARSH.fields["ss_wash_steps"])]
    assert columns[0] == ""
    assert len(columns) > 1


@pytest.mark.parametrize(
    ("effect", "code", "where"),
    [
        (Effect(sku="x" * 41), "long", ("sku",)),
        (Effect(sku="a\nb"), "text", ("sku",)),
        (Effect(price=Amount("typed", "3")), "number", ("price",)),
        (Effect(weight=Amount("amount", "many")), "number", ("weight",)),
    ],
)
def test_an_effect_that_can_not_be_is_refused_at_its_place(effect: Effect, code: str, where: tuple[str, ...]) -> None:
    with pytest.raises(Refusal) as refused:
        check_effect(effect)
    assert (refused.value.code, tuple(refused.value.where)) == (code, where)


def test_a_value_list_has_a_name_and_at_most_two_thousand_values() -> None:
    wood = SALTMARSH.lists["wood"]
    check_list(replace(wood, name="x" * 80))
    for odd, code in (
        ({"name": " "}, "required"),
        ({"name": "x" * 81}, "long"),
        ({"values": wood.values * 501}, "too_many"),
    ):
        with pytest.raises(Refusal) as refused:
            check_list(replace(wood, **odd))
        assert refused.value.code == code


def test_rows_stand_under_the_cell_that_heads_them() -> None:
    field = SALTMARSH.fields["ss_wash_steps"]
    spec = SALTMARSH.spec(field)
    rows = [{"step": "Wet it"}, {}, {"took": {"amount": "5", "unit": "min"}}]
    shown = KINDS["rows"].shower(spec, {"rows_as": "grid"})(rows)
    assert [(top.plain, [(label, node.plain) for label, node in rest]) for top, rest in shown.cards] == [
        ("Wet it", []),
        ("", [("Takes", "5\u00a0min")]),
    ]
    headed = KINDS["rows"].shower(spec, {"rows_as": "grid", "rows_heading": "took"})(rows)
    assert [[label for label, _ in rest] for _, rest in headed.cards] == [["Step"], []]
