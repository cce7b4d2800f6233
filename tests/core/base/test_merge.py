"""Merging: nobody's change is lost without a clash, and what is recorded gives back what was."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base.merge import ABSENT, merge, same
from young_fabric.core.base.patches import backward, diff, forward

KEYED = {"values": "code", "sections": "key", "sections/*/fields": ""}
SMALL = st.one_of(st.integers(0, 2), st.booleans(), st.sampled_from(["a", "b"]), st.none())


def unique(items: st.SearchStrategy[Any], key: Any) -> st.SearchStrategy[list[Any]]:
    return st.lists(items, max_size=5, unique_by=key)


VALUES = unique(
    st.fixed_dictionaries({"code": st.sampled_from("abcdef")}, optional={"label": SMALL, "more": SMALL}),
    lambda item: item["code"],
)
SECTIONS = unique(
    st.fixed_dictionaries(
        {"key": st.sampled_from("xyz"), "fields": st.lists(st.sampled_from("pqrst"), max_size=4, unique=True)},
        optional={"name": SMALL},
    ),
    lambda item: item["key"],
)
STATES = st.fixed_dictionaries(
    {},
    optional={
        "name": SMALL,
        "help": SMALL,
        "limits": st.dictionaries(st.sampled_from(["min", "max"]), SMALL),
        "values": VALUES,
        "sections": SECTIONS,
        "tags": st.lists(SMALL, max_size=3),
    },
)
SIDES = st.one_of(STATES, st.just(ABSENT))


@given(STATES, STATES)
def test_merging_with_oneself_changes_nothing(base: Any, mine: Any) -> None:
    assert merge(base, mine, mine, KEYED) == (mine, [])
    assert same(merge(base, mine, base, KEYED).merged, mine)
    assert same(merge(base, base, mine, KEYED).merged, mine)


@given(STATES, STATES, STATES)
def test_nothing_of_ones_own_or_of_the_others_is_lost_without_a_clash(base: Any, mine: Any, theirs: Any) -> None:
    merged, clashes = merge(base, mine, theirs, KEYED)
    clashing = {path[0] for path in clashes if path}
    for name in {*base, *mine, *theirs} - clashing:
        was, my, their = (state.get(name, ABSENT) for state in (base, mine, theirs))
        now = merged.get(name, ABSENT)
        if same(my, was) if my is not ABSENT and was is not ABSENT else my is was:
            assert now is their or same(now, their), name
        if same(their, was) if their is not ABSENT and was is not ABSENT else their is was:
            assert now is my or same(now, my), name


@given(STATES, st.dictionaries(st.sampled_from(["name", "limits"]), SMALL), st.dictionaries(st.just("help"), SMALL))
def test_disjoint_changes_commute(base: Any, mine: Any, theirs: Any) -> None:
    my, their = {**base, **mine}, {**base, **theirs}
    one_way, other_way = merge(base, my, their, KEYED), merge(base, their, my, KEYED)
    assert one_way.clashes == other_way.clashes == []
    assert same(one_way.merged, other_way.merged)
    assert same(one_way.merged, {**base, **mine, **theirs})


@given(VALUES, st.sampled_from("abcdef"), st.sampled_from("abcdef"))
def test_labels_of_two_values_changed_by_two_people_both_stand(values: Any, first: str, second: str) -> None:
    codes = {value["code"] for value in values}
    if first == second or not {first, second} <= codes:
        return

    def relabelled(code: str) -> Any:
        return {"values": [{**value, "label": "new"} if value["code"] == code else value for value in values]}

    merged, clashes = merge({"values": values}, relabelled(first), relabelled(second), KEYED)
    assert clashes == []
    labels = {value["code"]: value.get("label") for value in merged["values"]}
    assert labels[first] == labels[second] == "new"


@given(SIDES, SIDES)
def test_a_patch_leads_there_and_back(before: Any, after: Any) -> None:
    patch = diff(before, after, KEYED)
    there, back = forward(before, patch), backward(after, patch)
    assert there is after or same(there, after)
    assert back is before or same(back, before)


@given(STATES, STATES, STATES)
def test_undoing_leaves_later_changes_of_other_members_alone(before: Any, after: Any, later: Any) -> None:
    merged, clashes = merge(after, before, later, KEYED)
    if not clashes:
        for name in later:
            if same(before.get(name), after.get(name)) and (name in before) == (name in after):
                assert same(merged.get(name), later[name])
    assert merge(after, before, after, KEYED).clashes == []
    assert same(merge(after, before, after, KEYED).merged, before)


def test_one_label_in_a_long_list_costs_one_label() -> None:
    before = {"values": [{"code": f"c{number}", "label": "x" * 50} for number in range(5000)]}
    values = [dict(value) for value in before["values"]]
    values[2500]["label"] = "y"
    patch = diff(before, {"values": values}, KEYED)
    assert len(str(patch)) < 300
    added = {"values": [*before["values"][:7], {"code": "new", "label": "N"}, *before["values"][7:]]}
    assert len(str(diff(before, added, KEYED))) < 300
    assert backward(added, diff(before, added, KEYED)) == before


@pytest.mark.parametrize(
    ("base", "mine", "theirs"),
    [([1], [1, 2], [1, 3]), ({"a": 1}, 2, 3), ({"values": [{"x": 1}]}, {"values": []}, {"values": [{"x": 2}]})],
)
def test_what_has_no_members_clashes_as_one_thing(base: Any, mine: Any, theirs: Any) -> None:
    merged, clashes = merge(base, mine, theirs, KEYED)
    assert merged == theirs
    assert len(clashes) == 1
