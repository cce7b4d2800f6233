"""Definitions as a file: what goes out, in which order it is read, and what reading it comes to."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH, having, state
from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.interchange.bundle import (
    CLASH,
    MERGED,
    MOST_PARTS,
    MOST_THINGS,
    NEW,
    SAME,
    PlannedThing,
    bundle_of,
    closure,
    plan_import,
    things_of,
)
from young_fabric.core.nouns.base import Noun, State
from young_fabric.store.states import thing_of

WHOLE = bundle_of(SALTMARSH)


def read(noun: Noun, made: State) -> Any:
    return thing_of(noun.code, made)


def planned(
    data: Any, defs: Definitions = SALTMARSH, *, from_file: bool = False
) -> dict[tuple[str, str], PlannedThing]:
    return {(row.noun, row.key): row for row in plan_import(data, defs, read, frozenset(), from_file)}


def test_all_goes_out_but_what_stays_in_the_shop() -> None:
    assert "records" not in WHOLE["definitions"]
    assert [thing["key"] for thing in WHOLE["definitions"]["collections"]["things"]] == [
        "first_box",
        "lightfast",
        "outdoors",
        "small_change",
    ]
    assert "picked" not in WHOLE["definitions"]["collections"]["things"][0]
    assert (WHOLE["prefix"], WHOLE["definitions"]["fields"]["format"]) == ("ss_", 2)


def test_a_thing_goes_out_with_all_it_refers_to() -> None:
    keys = closure(SALTMARSH, [("product_type", "easels")])
    assert keys >= {
        ("field_set", "origin"),
        ("option_set", "easel_woods"),
        ("field", "ss_wood"),
        ("value_list", "wood"),
    }
    assert ("product_type", "paint") not in keys
    sent = bundle_of(SALTMARSH, [("shared_copy", "colour_care")])["definitions"]
    assert sent["shared_copies"]["things"][0]["own"] == {}, "its words for a collection that is not sent stay"
    assert closure(SALTMARSH, [("field", "nothing")]) == frozenset()


def test_what_was_sent_is_the_same_where_it_came_from() -> None:
    assert {row.how for row in planned(WHOLE).values()} == {SAME}
    assert all(row.lines == () for row in planned(WHOLE).values())


def test_it_is_new_in_an_empty_shop_each_after_what_it_refers_to() -> None:
    empty = Definitions(SALTMARSH.shop)
    rows = planned(WHOLE, empty)
    assert {row.how for row in rows.values()} == {NEW}
    order = list(rows)
    assert order.index(("product_type", "paint")) < order.index(("product_type", "watercolour"))
    assert order.index(("value_list", "wood")) < order.index(("field", "ss_wood"))
    assert rows["value_list", "wood"].name == "Wood"


def test_both_keep_what_they_have_and_what_differs_in_both_is_told() -> None:
    here = having(("shared_copy", state("shared_copy", "brush_care", ("title", "Ours"))))
    theirs = deepcopy(WHOLE)
    copies = theirs["definitions"]["shared_copies"]["things"]
    copies[0]["title"] = "Theirs"
    row = planned(theirs, here)["shared_copy", "brush_care"]
    assert (row.how, row.clashes, row.lines) == (CLASH, ("title",), ())
    assert row.of_file == ("title “Ours” → “Theirs”",), "what the file says is told beside"
    taken = planned(theirs, here, from_file=True)["shared_copy", "brush_care"]
    assert (taken.how, taken.state["title"], taken.lines) == (CLASH, "Theirs", ("title “Ours” → “Theirs”",))
    woods = next(row for row in theirs["definitions"]["value_lists"]["things"] if row["key"] == "wood")
    woods["values"].append({**woods["values"][0], "code": "yew", "label": "Yew", "synonyms": []})
    merged = planned(theirs)["value_list", "wood"]
    assert (merged.how, merged.lines) == (MERGED, ("1 value added: Yew",))


def test_pictures_that_are_not_there_are_left_out() -> None:
    data = deepcopy(WHOLE)
    sets = {row["key"]: row for row in data["definitions"]["option_sets"]["things"]}
    sets["easel_woods"]["options"][0]["values"][0]["swatch"]["picture"] = "a" * 64
    row = planned(data)["option_set", "easel_woods"]
    assert row.how == SAME
    with_it = {
        (found.noun, found.key): found for found in plan_import(data, SALTMARSH, read, frozenset({"a" * 64}), True)
    }
    assert with_it["option_set", "easel_woods"].state["options"][0]["values"][0]["swatch"]["picture"] == "a" * 64


def section(things: Any, number: Any = 1, plural: str = "field_sets") -> dict[str, Any]:
    return {"format": 1, "definitions": {plural: {"format": number, "things": things}}}


SET = {"key": "x", "name": "X", "sections": [], "collections": []}
FIELD_SETS = ("bundle", "definitions", "field_sets")


@pytest.mark.parametrize(
    ("data", "code", "where"),
    [
        ([], "bundle", ("bundle",)),
        ({"format": 1}, "bundle", ("bundle",)),
        ({"format": 1, "definitions": []}, "bundle", ("bundle",)),
        ({"format": 2, "definitions": {}}, "bundle", ("bundle",)),
        ({"format": 1, "definitions": {"nothing": {}}}, "bundle", ("bundle", "definitions")),
        ({"format": 1, "definitions": {"field_sets": []}}, "bundle", FIELD_SETS),
        (section({}), "bundle", FIELD_SETS),
        (section([1]), "bundle", FIELD_SETS),
        (section([], True), "bundle", FIELD_SETS),
        (section([], 0), "bundle", FIELD_SETS),
        (section([], 99), "bundle", FIELD_SETS),
        (section([SET] * (MOST_THINGS + 1)), "too_many", ("bundle",)),
        (section([{**SET, "name": [0] * MOST_PARTS}]), "too_many", (*FIELD_SETS, "things", 0)),
        (section([SET, {"name": "X"}]), "bundle", (*FIELD_SETS, "things", 1)),
        (section([{**SET, "sections": 3}]), "bundle", (*FIELD_SETS, "things", 0)),
    ],
)
def test_what_is_no_file_of_definitions_is_refused_at_its_place(data: Any, code: str, where: tuple[Any, ...]) -> None:
    with pytest.raises(Refusal) as refused:
        planned(data)
    assert (refused.value.code, tuple(refused.value.where)) == (code, where)


def test_most_things_and_parts_are_read() -> None:
    assert len(list(things_of(section([SET] * MOST_THINGS), read))) == MOST_THINGS
    parts = {"key": "x", "name": "X", "sections": [], "collections": ["c"] * (MOST_PARTS - 5)}
    assert len(list(things_of(section([parts]), read))) == 1


def test_things_in_a_ring_are_read_and_left_to_be_refused() -> None:
    rows = [
        {**state("product_type", "easels"), "key": key, "parent": up}
        for key, up in (("a", "b"), ("b", "a"), ("c", None))
    ]
    assert [thing.key for _, thing in things_of(section(rows, 1, "product_types"), read)] == ["c", "a", "b"]


def test_what_is_said_of_one_product_stays_there() -> None:
    setting = {**state("display_setting", "shop/contents/quick_look"), "scope": {"kind": "product", "key": "1"}}
    with pytest.raises(Refusal, match="single product"):
        planned(section([setting], 1, "display_settings"))
