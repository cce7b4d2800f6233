"""Values judged and shown: quickly for many products, and told in full for one, always alike."""

from __future__ import annotations

import json
import sys
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.helpers import defs_of, field, limits, spec_with
from young_fabric.core.display.cascade import Resolved
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.shown import from_json, to_json
from young_fabric.core.nouns.fields.built_in import BUILT_IN
from young_fabric.core.nouns.fields.cells import stored_words
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.pages.entries import EntryBudget, entry_maker, stand_in
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules

CHOICES = ValueList("c", "C", (ListValue("a", "Apple"), ListValue("b", "Beet", (), True)))
LIMITS = {
    "text": limits(min_length=2, max_length=6, pattern="[a-zé ]+"),
    "long_text": limits(max_length=5),
    "whole": limits(min="0", max="9"),
    "decimal": limits(min="-1", max="2", decimals=1),
    "measure": limits(max="20", decimals=0),
    "many_of": limits(min_count=1, max_count=2),
    "picture": limits(min_width=100),
    "money": limits(max="50"),
    "file": limits(types=["pdf"], max_megabytes="2"),
}
PICTURE = {"file": "a" * 64, "alt": "A jar", "width": 120, "height": 90}
SHEET = {"file": "b" * 64, "words": "Safety sheet", "type": "pdf", "bytes": 1200}
SETTINGS = {
    "label": Resolved("beside", "default"),
    "empty": Resolved("omit", "default"),
    "devices": Resolved(("phone", "tablet", "desktop"), "default"),
}

PLAIN = st.one_of(
    st.text(max_size=8),
    st.sampled_from(["ab", "éé", "a b", "abcdefg", "0", "5", "12", "1.5", "2.25", "-3", "a", "b", "z", "#20309a"]),
    st.booleans(),
    st.none(),
    st.integers(),
)
SHAPED = st.sampled_from(
    [
        {"amount": "12", "unit": "mm"},
        {"amount": "12.5", "unit": "mm"},
        {"amount": "30", "unit": "mm"},
        {"amount": "1", "unit": "cm"},
        {"amount": "x", "unit": "mm"},
        {"count": 1, "amount": "15", "unit": "ml"},
        {"count": 0, "amount": "15", "unit": "ml"},
        PICTURE,
        {**PICTURE, "width": 20},
        {**PICTURE, "alt": 3},
        {"words": "Care", "address": "https://a.example"},
        {"words": "Care", "address": "javascript:alert(1)"},
        {"words": "Wash", "address": "http://a.example/w/x"},
        {"value": "4.5", "out_of": "5", "count": 12},
        {"value": "6", "out_of": "5", "count": None},
        {"value": "0", "out_of": "0", "count": None},
        {"value": "4", "out_of": "5", "count": True},
        ["a"],
        ["a", "b"],
        ["a", "b", "a"],
        ["z"],
        [],
        "2026-02-28",
        "<p>a &amp; b</p>",
        SHEET,
        {**SHEET, "type": "exe"},
        {**SHEET, "bytes": 5_000_000},
        "<p onclick=x>a</p>",
        "4006381333931",
    ]
)


def field_of(kind: str, many: bool = False) -> tuple[Field, Spec]:
    unit = "mm" if kind == "measure" else None
    allowed = LIMITS.get(kind, {})
    made = field("f", "F", "Label", kind, many=many, unit=unit, limits=allowed)
    return made, spec_with(allowed, unit, CHOICES)


JSON = st.recursive(
    st.one_of(PLAIN, SHAPED, st.floats(allow_nan=False), st.integers(-(10**40), 10**40)),
    lambda inner: st.one_of(
        st.lists(inner, max_size=3),
        st.dictionaries(st.sampled_from(["amount", "unit", "count", "file", "alt", "width", "height", "x"]), inner),
    ),
    max_leaves=6,
)


@pytest.mark.parametrize("kind", sorted(KINDS))
@given(value=JSON, many=st.booleans())
def test_whatever_is_stored_no_reader_raises(kind: str, value: Any, many: bool) -> None:
    definition, spec = field_of(kind, many and KINDS[kind].takes_many)
    rules = FieldRules(definition, spec)
    outcome = rules.outcome(Product(1, "t", {"f": value}))
    rules.read(value)
    rules.typed(value)
    rules.files(value)
    stored_words("f", value, defs_of(fields={"f": definition}))
    entry = entry_maker(rules, "F", SETTINGS, EntryBudget())(value) if value is not None else None
    assert (entry is not None) == (outcome.state == "good")
    if entry is not None:
        assert isinstance(entry.text, str)
        assert from_json(to_json(entry.shown)) == entry.shown
        items = value if definition.many else [value]
        assert all("value" in rules.kind.property_value(item, spec, "") for item in items)


@pytest.mark.parametrize("kind", sorted(KINDS))
@given(value=st.one_of(PLAIN, SHAPED))
def test_pages_and_why_judge_by_one_path(kind: str, value: Any) -> None:
    definition, spec = field_of(kind)
    rules = FieldRules(definition, spec)
    entry = entry_maker(rules, "F", SETTINGS)(value) if value is not None else None
    good = value is not None and rules.judge(value) is None
    assert (entry.text if entry else None) == (rules.text(value) if good else None)


@pytest.mark.parametrize("kind", sorted(code for code, kind in KINDS.items() if kind.takes_many))
@given(values=st.lists(st.one_of(PLAIN, SHAPED), max_size=3))
def test_several_values_are_judged_by_it_too(kind: str, values: list[Any]) -> None:
    definition, spec = field_of(kind, many=True)
    rules = FieldRules(definition, spec)
    entry = entry_maker(rules, "F", SETTINGS, EntryBudget())(values)
    assert (entry is not None) == (rules.judge(values) is None)


def test_an_entry_is_made_once_for_values_that_recur() -> None:
    definition, spec = field_of("one_of")
    make = entry_maker(FieldRules(definition, spec), "Fruit", SETTINGS, EntryBudget())
    first = make("a")
    assert first is not None
    assert (first.field, first.label, first.label_at, first.text, first.value) == ("f", "Fruit", "beside", "Apple", "a")
    assert make("a") is first
    assert make("z") is None


def test_what_is_remembered_stays_bounded_as_a_whole() -> None:
    budget = EntryBudget(most=5)
    makes = []
    for kind, values in (
        ("decimal", [str(number / 10) for number in range(1, 9)]),
        ("measure", [{"amount": str(number), "unit": "mm"} for number in range(1, 9)]),
    ):
        definition, spec = field_of(kind)
        rules = FieldRules(definition, spec)
        make = entry_maker(rules, "F", SETTINGS, budget)
        makes.append(make)
        texts = [entry.text for entry in map(make, values) if entry]
        assert texts == [rules.text(value) for value in values]
        assert make(values[0]) is not None
    assert budget.spent <= 5
    assert budget._memos, "what remembers is held to the budget as long as it does"
    assert sum(len(memo.known) for memo in budget._memos.values()) <= 5


def test_what_holds_most_loses_its_oldest_and_what_recurs_stays() -> None:
    definition, spec = field_of("decimal")
    budget = EntryBudget(most=6)
    recurring, unlike = (
        entry_maker(FieldRules(definition, spec), "F", SETTINGS, budget, mark) for mark in ("recurring", "unlike")
    )
    first = [recurring(text) for text in ("1", "2")]
    for text in ("3", "4", "5", "6"):
        unlike(text)
    assert (list(unlike.known), budget.spent) == (["3", "4", "5", "6"], 6)
    unlike("7")
    assert (list(unlike.known), budget.spent) == (["6", "7"], 4)
    assert [recurring(text) for text in ("1", "2")] == first
    assert list(recurring.known) == ["1", "2"]


def test_values_alike_but_for_their_type_are_told_apart() -> None:
    definition, spec = field_of("yes_no")
    make = entry_maker(FieldRules(definition, spec), "F", SETTINGS, EntryBudget())
    assert make(True) is not None
    assert make(1) is None
    assert make(True) is not None


def test_threads_that_make_memories_and_spend_the_budget_do_not_meet() -> None:
    budget, switch = EntryBudget(most=5), sys.getswitchinterval()

    def work(thread: int) -> int:
        held = []
        for number in range(4000):
            held.append(budget.memo((thread, number)))
            budget.spend()
            if len(held) > 200:
                held.clear()
        return thread

    sys.setswitchinterval(1e-6)
    try:
        with ThreadPoolExecutor(4) as pool:
            assert list(pool.map(work, range(4))) == [0, 1, 2, 3]
    finally:
        sys.setswitchinterval(switch)


def test_threads_share_what_is_remembered() -> None:
    definition, spec = field_of("measure")
    rules = FieldRules(definition, spec)
    make = entry_maker(rules, "F", SETTINGS, EntryBudget(most=2))
    values = [{"amount": str(number), "unit": "mm"} for number in range(1, 9)]

    def look(_: int) -> list[str]:
        return [entry.text for _ in range(60) for entry in map(make, values) if entry]

    with ThreadPoolExecutor(8) as pool:
        seen = list(pool.map(look, range(16)))
    assert seen == [[rules.text(value) for value in values] * 60] * 16


def test_long_texts_and_titles_are_made_anew_each_time() -> None:
    for key in ("title", "description"):
        definition = BUILT_IN[key]
        make = entry_maker(FieldRules(definition, Spec(definition.limits)), definition.label, SETTINGS, EntryBudget())
        first, second = make("Peat"), make("Peat")
        assert first == second
        assert first is not second


def test_a_dash_stands_for_an_empty_value_only_when_asked_and_never_in_data() -> None:
    definition, spec = field_of("text")
    rules = FieldRules(definition, spec)
    page, data = SURFACES["product_page"], SURFACES["structured_data"]
    asked = {**SETTINGS, "empty": Resolved("dash", "shop")}
    assert stand_in(rules, "F", SETTINGS, page) is None
    assert stand_in(rules, "F", asked, data) is None
    dash = stand_in(rules, "F", asked, page)
    assert dash is not None
    assert (dash.text, dash.value) == ("–", None)


@pytest.mark.parametrize(
    ("values", "state", "text"),
    [
        ({"price": "9.8", "contents": {"count": 1, "amount": "15", "unit": "ml"}}, "good", "€65.33 per 100 ml"),
        ({"price": "6", "contents": {"count": 6, "amount": "50", "unit": "g"}}, "good", "€2.00 per 100 g"),
        ({"price": "6.4", "contents": {"count": 1, "amount": "0.4256", "unit": "m²"}}, "good", "€15.04 per m²"),
        ({"price": "6", "contents": {"count": 1, "amount": "12", "unit": "piece"}}, "good", "€0.50 per piece"),
        ({"price": "9.8"}, "empty", ""),
        ({"contents": {"count": 1, "amount": "15", "unit": "ml"}}, "empty", ""),
        ({"price": "9.8", "contents": {"count": 1, "amount": "0", "unit": "ml"}}, "empty", ""),
        ({"price": "9.8", "contents": "15 ml"}, "empty", ""),
        ({"price": ["9.8"], "contents": {"count": 1, "amount": "15", "unit": "ml"}}, "empty", ""),
        ({"price": "9" * 29, "contents": {"count": 1, "amount": "0.000000000001", "unit": "µl"}}, "empty", ""),
    ],
)
def test_the_unit_price_is_told_and_rendered_alike(values: dict[str, Any], state: str, text: str) -> None:
    definition = BUILT_IN["unit_price"]
    rules = FieldRules(definition, Spec(definition.limits))
    outcome = rules.outcome(Product(1, "t", values))
    assert outcome.state == state
    assert (rules.text(outcome.value) if state == "good" else "") == text
    inputs = (values.get("price"), values.get("contents"))
    entry = entry_maker(rules, "Unit price", SETTINGS)(inputs) if None not in inputs else None
    assert (entry.text if entry else "") == text
    if state != "good":
        assert outcome.wrong is not None


def test_an_outcome_names_its_source_and_what_is_wrong() -> None:
    definition, spec = field_of("text")
    usual = field("f", "F", "F", "text", limits=definition.limits, default="ab")
    assert FieldRules(usual, spec).outcome(Product(1, "t", {})).source == "default"
    assert FieldRules(usual, spec).outcome(Product(1, "t", {"f": "cd"})).source == "product"
    long = FieldRules(definition, spec).outcome(Product(1, "t", {"f": "abcdefghi"}))
    assert long.wrong is not None
    assert (long.state, long.wrong.code) == ("wrong", "long")
    number, spec = field_of("whole")
    unread = FieldRules(number, spec).outcome(Product(1, "t", {}, {"f": "§" * 80}))
    assert unread.wrong is not None
    assert (unread.state, unread.wrong.code) == ("wrong", "number")
    assert len(unread.wrong.message) < 100


@pytest.mark.parametrize("kind", sorted(KINDS))
@given(value=JSON, other=JSON)
def test_values_of_one_identity_are_both_good_and_alike_or_both_wrong(kind: str, value: Any, other: Any) -> None:
    definition, spec = field_of(kind)
    rules = FieldRules(definition, spec)
    try:
        alike = rules.kind.identity(value) == rules.kind.identity(other)
        hash(rules.kind.identity(value))
    except (TypeError, KeyError):
        return
    if alike and rules.judge(value) is None:
        assert json.dumps(value, sort_keys=True) == json.dumps(other, sort_keys=True)
