"""Combinations of choices: counted without being made, and matched to variants so that nothing moves twice."""

from __future__ import annotations

from dataclasses import replace
from math import prod
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base.errors import Refusal
from young_fabric.core.options.combinations import (
    MOST,
    Axis,
    ExistingVariant,
    Matched,
    combine,
    count,
    is_left_out,
    reconcile,
)

KEYS = ("a", "b", "c", "d")
VALUES = ("p", "q", "r", "s")
AXES = st.lists(st.sampled_from(KEYS), max_size=4, unique=True).flatmap(
    lambda keys: st.tuples(
        *(st.lists(st.sampled_from(VALUES), min_size=0, max_size=4, unique=True).map(tuple) for _ in keys)
    ).map(lambda values: [Axis(key, found) for key, found in zip(keys, values, strict=True)])
)
RULES = st.lists(
    st.dictionaries(st.sampled_from(KEYS), st.lists(st.sampled_from(VALUES), min_size=1, max_size=3), max_size=3),
    max_size=6,
)


def existing_after(matched: Matched, had: list[ExistingVariant]) -> list[ExistingVariant]:
    """The variants as they stand after a match is written, in order of position."""
    moved = {variant.id: values for variant, values in (*matched.kept, *matched.back)}
    gone = {variant.id for variant in matched.retired}
    stand = [
        replace(
            variant,
            values=moved.get(variant.id, variant.values),
            retired=variant.id not in moved and (variant.retired or variant.id in gone),
        )
        for variant in had
    ]
    next_id = max((variant.id for variant in had), default=0) + 1
    return stand + [ExistingVariant(next_id + at, values) for at, values in enumerate(matched.added)]


@given(AXES, RULES)
def test_what_is_left_is_counted_as_it_is_made(axes: list[Axis], rules: list[dict[str, list[str]]]) -> None:
    made = list(combine(axes, rules))
    assert count(axes, rules) == len(made)
    assert not any(is_left_out(found, rules) for found in made)
    everything = list(combine(axes))
    assert len(everything) == (prod(len(axis.values) for axis in axes) if axes else 0)
    assert [found for found in everything if not is_left_out(found, rules)] == made


@given(AXES, RULES)
def test_what_was_made_is_all_kept(axes: list[Axis], rules: list[dict[str, list[str]]]) -> None:
    had = [ExistingVariant(at, values) for at, values in enumerate(combine(axes, rules))]
    matched = reconcile(axes, rules, had)
    assert [variant.id for variant, _ in matched.kept] == [variant.id for variant in had]
    assert not matched.added
    assert not matched.retired
    assert not matched.back


@given(AXES, AXES, RULES, RULES)
def test_matching_twice_changes_nothing(
    first: list[Axis], second: list[Axis], rules: list[Any], later: list[Any]
) -> None:
    had = [ExistingVariant(at, values) for at, values in enumerate(combine(first, rules))]
    once = existing_after(reconcile(second, later, had), had)
    again = reconcile(second, later, once)
    assert not again.added
    assert not again.retired
    assert not again.back
    assert existing_after(again, once) == once
    wanted = [tuple(found.items()) for found in combine(second, later)]
    assert sorted(tuple(values.items()) for _, values in again.kept) == sorted(wanted)


@given(AXES, RULES)
def test_a_value_that_comes_back_brings_its_variants_back(axes: list[Axis], rules: list[Any]) -> None:
    had = [ExistingVariant(at, values, stock=at) for at, values in enumerate(combine(axes, rules))]
    fewer = [replace(axis, values=axis.values[:-1]) if at == 0 else axis for at, axis in enumerate(axes)]
    gone = existing_after(reconcile(fewer, rules, had), had)
    assert existing_after(reconcile(axes, rules, gone), gone) == had


def test_as_many_as_fit_are_made_and_one_more_is_refused() -> None:
    at_limit = [Axis("a", tuple(map(str, range(MOST // 2)))), Axis("b", ("x", "y"))]
    assert count(at_limit) == MOST
    assert sum(1 for _ in combine(at_limit)) == MOST
    beyond = [Axis("a", tuple(map(str, range(MOST + 1))))]
    with pytest.raises(Refusal, match="2,001 combinations") as caught:
        count(beyond)
    assert caught.value.code == "too_many"
    with pytest.raises(Refusal):
        list(combine(beyond))


def test_an_option_added_whose_first_value_is_left_out_retires_the_variant() -> None:
    axes = [Axis("colour", ("red",)), Axis("edge", ("flat", "deckle"))]
    matched = reconcile(axes, [{"edge": ["flat"]}], [ExistingVariant(1, {"colour": "red"}, 3)])
    assert [variant.id for variant in matched.retired] == [1]
    assert list(matched.added) == [{"colour": "red", "edge": "deckle"}]
