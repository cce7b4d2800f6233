"""Settings and layouts: what can be set where, what is told of it, and which layouts are alike."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.saltmarsh import SALTMARSH, STATES, having, state
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.layouts import read_block
from young_fabric.core.nouns.base import Reference, state_of
from young_fabric.core.nouns.fields.fields import NOUN as FIELDS
from young_fabric.core.nouns.layouts.alike_layouts import alike_layouts
from young_fabric.core.nouns.layouts.display_settings import field_called, said_words, with_read_condition
from young_fabric.core.nouns.layouts.layout_edits import edited
from young_fabric.core.nouns.layouts.layout_parts import step_of
from young_fabric.core.nouns.layouts.layouts import bringing, with_read_conditions
from young_fabric.core.nouns.registry import NOUNS, describe
from young_fabric.core.pages.arranging import _look
from young_fabric.store.states import thing_of

EASELS = "type:easels/*/product_page"
FOLDS = {"field": "ss_folds", "op": "is", "value": True}
TYPED = {"field": "ss_folds", "op": "is", "typed": "yes"}
WOOD = {"field": "ss_wood", "op": "is", "value": "ash"}
SETTING, LAYOUT = NOUNS["display_setting"], NOUNS["layout"]


def setting(**members: Any) -> Any:
    return thing_of("display_setting", {**STATES["display_setting"][EASELS], **members})


@pytest.mark.parametrize(
    ("members", "code", "where"),
    [
        ({"scope": {"kind": "moon", "key": "x"}}, "scope", ("scope",)),
        ({"scope": {"kind": "type", "key": "nothing"}}, "not_found", ("scope",)),
        ({"field": "nothing"}, "unknown_field", ("field",)),
        ({"field": "ss_maker_words"}, "unknown_field", ("field",)),
        ({"field": "easel_woods.nothing"}, "unknown_field", ("field",)),
        (
            {"field": "easel_woods.easel_wood", "surface": "compare", "set": {"shown": True}},
            "unknown_field",
            ("field",),
        ),
        ({"surface": "nowhere"}, "unknown_surface", ("surface",)),
        ({"surface": "record_page"}, "unknown_surface", ("surface",)),
        ({"set": {}}, "required", ("set",)),
        ({"set": {"nothing": 1}}, "unknown_property", ("set", "nothing")),
        ({"field": "title", "set": {"layout": "easels"}}, "unknown_property", ("set", "layout")),
        ({"set": {"layout": "nothing"}}, "not_found", ("set", "layout")),
        ({"set": {"layout": "card"}}, "other_surface", ("set", "layout")),
        ({"set": {"label": "nowhere"}}, "unknown", ("set", "label")),
        ({"set": {"condition": TYPED}}, "condition", ("set", "condition")),
        ({"set": {"condition": {**FOLDS, "field": "gone"}}}, "unknown_field", ("set", "condition", "field")),
    ],
)
def test_a_setting_that_can_not_be_is_refused_at_its_place(members: Any, code: str, where: tuple[str, ...]) -> None:
    with pytest.raises(Refusal) as refused:
        SETTING.check(setting(**members), SALTMARSH)
    assert (refused.value.code, tuple(refused.value.where)) == (code, where)


@pytest.mark.parametrize(
    "members",
    [
        {"set": {"label": "above"}},
        {"set": {"condition": FOLDS}, "field": "title"},
        {"field": "easel_woods.easel_wood", "set": {"shown": False}},
        {
            "scope": {"kind": "shop", "key": ""},
            "surface": "record_page",
            "field": "ss_maker_words",
            "set": {"shown": True},
        },
    ],
)
def test_a_setting_that_can_be_is_sound(members: Any) -> None:
    SETTING.check(setting(**members), SALTMARSH)


def test_a_condition_of_a_setting_is_read_and_what_it_asks_for_gives_its_place() -> None:
    assert with_read_condition(setting(set={"condition": TYPED}), SALTMARSH).set == {"condition": FOLDS}
    plain = setting()
    assert with_read_condition(plain, SALTMARSH) == plain
    with pytest.raises(Refusal) as refused:
        with_read_condition(setting(set={"condition": {**TYPED, "field": "gone"}}), SALTMARSH)
    assert tuple(refused.value.where[:2]) == ("set", "condition")
    asking = setting(set={"condition": WOOD, "label": "above"})
    made = SETTING.referring.with_items(asking, ("value_list", "wood"), {"ash": "elm"}, SALTMARSH)
    assert made.set == {"condition": {**WOOD, "value": "elm"}, "label": "above"}
    assert SETTING.referring.with_items(asking, ("value_list", "hair"), {"ash": "elm"}, SALTMARSH) == asking
    assert SETTING.referring.with_items(plain, ("value_list", "wood"), {"ash": "elm"}, SALTMARSH) == plain
    assert SETTING.referring.with_field(asking, "ss_wood", "ss_hair").set["condition"]["field"] == "ss_hair"
    assert SETTING.referring.with_field(plain, "ss_wood", "ss_hair") == plain


def test_what_settings_say_is_told_with_names() -> None:
    assert said_words("layout", "easels", SALTMARSH) == "layout Page of easels"
    assert said_words("layout", "gone", SALTMARSH) == "layout gone"
    assert "Folds flat is Yes" in said_words("condition", FOLDS, SALTMARSH)
    assert said_words("label", "above", SALTMARSH) == "label above the value"
    called = [
        field_called(SALTMARSH, key) for key in ("ss_wood", "title", "ss_maker_words", "easel_woods.assembly", "x")
    ]
    assert called == ["Wood", "Title", "About the maker", "Assembled before it leaves us", "x"]


def test_a_layout_is_brought_by_the_nearest_that_has_the_block() -> None:
    layouts = SALTMARSH.layouts
    assert bringing(layouts, "oils", "safety") == "oils"
    assert bringing(layouts, "oils", "panels") == "in_panels"
    assert bringing(layouts, "oils", "pictures") == "page"
    assert bringing(layouts, "oils", "nothing") == "oils"


def test_conditions_of_blocks_are_read_and_what_they_ask_for_gives_its_place() -> None:
    def oils(condition: Any) -> Any:
        return thing_of("layout", state("layout", "oils", ("steps/0/block/condition", condition)))

    read = with_read_conditions(oils(TYPED), SALTMARSH)
    assert state_of(read)["steps"][0]["block"]["condition"] == FOLDS
    assert with_read_conditions(SALTMARSH.things["layout"]["oils"], SALTMARSH) == SALTMARSH.things["layout"]["oils"]
    with pytest.raises(Refusal) as refused:
        with_read_conditions(oils({**TYPED, "field": "gone"}), SALTMARSH)
    assert "condition" in refused.value.where
    made = LAYOUT.referring.with_items(oils(WOOD), ("value_list", "wood"), {"ash": "elm"}, SALTMARSH)
    assert state_of(made)["steps"][0]["block"]["condition"]["value"] == "elm"
    assert LAYOUT.referring.with_items(oils(WOOD), ("value_list", "hair"), {"ash": "elm"}, SALTMARSH) == oils(WOOD)


@pytest.mark.parametrize(
    ("puts", "lines"),
    [
        ([("name", "Oils")], ["name “Page of oil colours” → “Oils”"]),
        ([("base", "page")], ["builds on In panels → Product page"]),
        ([("steps/0/block/heading", "Care")], ["“Care”: heading → “Care”"]),
        ([("steps/0/region", "details_2"), ("steps/0/after", None)], ["“Safety” moved to the start of its part"]),
        ([("steps/1/props", {"as": "strip"})], ["pictures: pictures as → large, with a strip below"]),
        ([("steps", STATES["layout"]["oils"]["steps"][:2])], ["“More to look at” as the base has it"]),
    ],
)
def test_a_change_of_a_layout_is_told_by_its_own_lines(puts: list[tuple[str, Any]], lines: list[str]) -> None:
    assert describe(LAYOUT, STATES["layout"]["oils"], state("layout", "oils", *puts), SALTMARSH) == lines


def words(key: str, text: str, heading: str = "") -> tuple[str, dict[str, Any]]:
    block = {"id": f"own_{key}", "kind": "words", "heading": heading, "words": text}
    step = {"after": "details", "block": block, "id": block["id"], "key": f"add:{block['id']}", "op": "add"}
    made = {**STATES["layout"]["oils"], "key": key, "name": key.title(), "base": "page"}
    return "layout", {**made, "steps": [{**step, "props": None, "region": "details_1"}]}


def test_layouts_that_differ_in_words_alone_are_alike() -> None:
    at = SALTMARSH.things["layout"]["oils"].steps[0].region
    rows = [words("first", "Rinse it"), words("second", "Dry it")]
    for _, made in rows:
        made["steps"][0]["region"], made["base"] = at, "in_panels"
    defs = having(*rows)
    found = [group for group in alike_layouts(defs.layouts, defs.things["layout"]) if "first" in group.layouts]
    assert [group.layouts for group in found] == [("first", "second")]
    (differing,) = found[0].differing
    assert differing.words == {"first": "Rinse it", "second": "Dry it"}
    rows[1][1]["steps"][0]["block"]["heading"] = "Care"
    assert not [g for g in alike_layouts(having(*rows).layouts, having(*rows).things["layout"]) if "first" in g.layouts]


def test_a_reference_that_is_let_go_leaves_the_rest() -> None:
    easels = thing_of("product_type", state("product_type", "easels", ("own", {"ss_wood": {}, "title": {"help": "x"}})))
    made = NOUNS["product_type"].referring.without(easels, Reference("field", "ss_wood", "needs", loose=True))
    assert (dict(made.needs), list(made.own)) == ({"ss_holds": "required"}, ["title"])
    copy = SALTMARSH.things["shared_copy"]["colour_care"]
    assert NOUNS["shared_copy"].referring.without(copy, Reference("collection", "outdoors", "own")).own == {}
    assert NOUNS["shared_copy"].referring.without(copy, Reference("collection", "lightfast", "own")) == copy


def test_a_field_of_the_first_format_is_read() -> None:
    old = {
        "key": "w",
        "unit": "g",
        "list": None,
        "own": True,
        "limits": {"min": 1, "max": None, "required": True, "many": False},
    }
    made = FIELDS.stored.upgrades[1](old)
    assert made == {"key": "w", "options": {"unit": "g"}, "limits": {"min": 1}}
    assert FIELDS.stored.upgrades[1]({"list": "wood"}) == {"options": {"list": "wood"}, "limits": {}}


@pytest.mark.parametrize(
    ("puts", "lines"),
    [
        ([("default", "ash")], ["default nothing → “ash”"]),
        ([("options", {"list": "hair"})], ["value list “Wood” → “Hair”"]),
        ([("help", "Which"), ("need", "required")], ["help nothing → “Which”"]),
        ([("kind", "gone"), ("default", "ash")], ["default nothing → “ash”", "kind “one of a list” → “gone”"]),
    ],
)
def test_a_change_of_a_field_is_told_by_its_own_lines(puts: list[tuple[str, Any]], lines: list[str]) -> None:
    found = describe(FIELDS, STATES["field"]["ss_wood"], state("field", "ss_wood", *puts), SALTMARSH)
    assert set(lines) <= set(found)


def own_layout(*blocks: dict[str, Any]) -> dict[str, Any]:
    """A layout without a base, with some blocks in its only region."""
    return {**state("layout", "easels"), "base": "", "steps": [], "regions": [{"id": "main", "blocks": list(blocks)}]}


TITLE = {"id": "t", "kind": "heading", "text": "Care"}
DIVIDER = {"id": "d", "kind": "divider"}
WORDS = {"id": "w", "kind": "words", "words": "Keep it dry"}


@pytest.mark.parametrize(
    ("before", "after", "lines"),
    [
        ([TITLE], [TITLE, DIVIDER], ["divider added after heading"]),
        ([TITLE, DIVIDER], [TITLE], ["divider taken away"]),
        ([WORDS], [{**WORDS, "words": "Wet"}], ["“Wet”: words → “Wet”"]),
        ([TITLE], [TITLE], ["no difference"]),
        ([TITLE, DIVIDER, WORDS], [WORDS, TITLE, DIVIDER], ["“Keep it dry” moved to the start of the page"]),
        ([TITLE, DIVIDER, WORDS], [DIVIDER, WORDS, TITLE], ["heading moved after “Keep it dry”"]),
        (
            [WORDS],
            [{**WORDS, "background": "pale", "hidden": True}],
            ["“Keep it dry”: background → pale, hidden → yes"],
        ),
        ([TITLE], [], ["heading taken away"]),
    ],
)
def test_blocks_of_a_layout_without_a_base_are_told_added_taken_away_and_changed(
    before: list[dict[str, Any]], after: list[dict[str, Any]], lines: list[str]
) -> None:
    told = describe(LAYOUT, own_layout(*before), own_layout(*after), SALTMARSH)
    assert told == lines


@pytest.mark.parametrize(
    ("said", "refers"),
    [
        ({"condition": {"field": "ss_wood", "op": "filled"}}, True),
        ({"condition": "ss_wood"}, False),
        ({"condition": None}, False),
        ({}, False),
    ],
)
def test_a_condition_of_a_block_refers_to_what_it_asks(said: dict[str, Any], refers: bool) -> None:
    made = thing_of("layout", own_layout({**WORDS, **said}))
    found = [reference.key for reference in NOUNS["layout"].referring.refers(made)]
    assert ("ss_wood" in found) is refers


def test_templates_are_told_only_what_is_said_soundly_and_otherwise_than_usual() -> None:
    kind = BLOCK_KINDS["heading"]
    [level] = [member for member in kind.all_members() if member.code == "level"]
    other = next(choice.value for choice in level.choices if choice.value != level.default)

    def look(value: Any) -> dict[str, Any]:
        return dict(_look(read_block({**TITLE, "level": value}), kind))

    assert look(other) == {"level": other}
    assert [look(value) for value in (level.default, None, "gone", 5)] == [{}, {}, {}, {}]


def test_a_new_block_has_no_name_that_a_base_once_used() -> None:
    gone = step_of("remove", "sizing_words")
    base = replace(thing_of("layout", {**own_layout(TITLE), "key": "base"}), steps=(gone,))
    mine = thing_of("layout", {**own_layout(), "key": "mine", "base": "base", "regions": []})
    layouts = {"base": base, "mine": mine}
    edit = {"op": "add", "block": {"kind": "words", "id": "sizing_words", "words": "Dry"}, "region": "main"}
    made = edited(layouts, mine, [edit])
    assert [step.id for step in made.steps] == ["sizing_words_2"]


def in_columns(*parts: list[dict[str, Any]]) -> dict[str, Any]:
    """A layout without a base: columns on the page, and what stands in their parts."""
    columns = {"id": "c", "kind": "columns", "regions": ["c_1", "c_2"]}
    regions = [{"id": "main", "blocks": [columns]}]
    regions += [{"id": f"c_{number + 1}", "blocks": list(blocks)} for number, blocks in enumerate(parts)]
    return {**own_layout(), "regions": regions}


def test_a_block_that_goes_to_another_part_is_told_with_the_part() -> None:
    lines = describe(LAYOUT, in_columns([TITLE, WORDS], []), in_columns([WORDS], [TITLE]), SALTMARSH)
    assert lines == ["heading moved to the start of part 2 of columns"]
    lines = describe(LAYOUT, in_columns([TITLE], [WORDS]), in_columns([], [WORDS, TITLE]), SALTMARSH)
    assert lines == ["heading moved after “Keep it dry”"]


@given(st.permutations(range(8)))
def test_the_fewest_blocks_are_told_as_moved(order: list[int]) -> None:
    blocks = [{**WORDS, "id": f"w{number}", "words": f"No {number}"} for number in range(8)]
    moved = describe(LAYOUT, own_layout(*blocks), own_layout(*(blocks[at] for at in order)), SALTMARSH)
    longest = max(len(kept) for size in range(9) for kept in combinations(order, size) if list(kept) == sorted(kept))
    assert len([line for line in moved if " moved " in line]) == 8 - longest
