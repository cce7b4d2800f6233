"""Values judged and shown: quickly for many products, and told in full for one, always alike."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core import entries
from young_fabric.core.definitions import Product
from young_fabric.core.display import Resolved
from young_fabric.core.entries import dash_entry, entry_maker, outcome_of
from young_fabric.core.fields import BUILT_IN, Field
from young_fabric.core.kinds import KINDS, Limits, Spec
from young_fabric.core.value_lists import ListValue, ValueList
from young_fabric.core.values import bind_value, judge, show_value

CHOICES = ValueList("c", "C", (ListValue("a", "Apple"), ListValue("b", "Beet", (), True)))
LIMITS = {
    "text": Limits(min_length=2, max_length=6, pattern="[a-zé ]+"),
    "long_text": Limits(max_length=5),
    "whole": Limits(min="0", max="9"),
    "decimal": Limits(min="-1", max="2", decimals=1),
    "measure": Limits(max="20", decimals=0),
    "many_of": Limits(min_count=1, max_count=2),
    "picture": Limits(min_width=100),
    "money": Limits(max="50"),
}
PICTURE = {"file": "a" * 64, "alt": "A jar", "width": 120, "height": 90}
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
        ["a"],
        ["a", "b"],
        ["a", "b", "a"],
        ["z"],
        [],
        "2026-02-28",
        "4006381333931",
    ]
)


def field_of(kind: str, many: bool = False) -> tuple[Field, Spec]:
    unit = "mm" if kind == "measure" else None
    limits = LIMITS.get(kind, Limits())
    this = Field("f", "F", "Label", kind, many=many, unit=unit, limits=limits)
    return this, Spec(limits, unit, CHOICES, "en", "EUR")


@pytest.mark.parametrize("kind", sorted(KINDS))
@given(value=st.one_of(PLAIN, SHAPED))
def test_the_quick_way_and_the_full_way_agree(kind: str, value: Any) -> None:
    if kind == "date" and value != "2026-02-28":
        return
    this, spec = field_of(kind)
    good = value is not None and judge(this, value, spec) is None
    assert bind_value(this, spec)(value) == (show_value(this, value, spec) if good else None)


@pytest.mark.parametrize("kind", sorted(code for code, kind in KINDS.items() if kind.takes_many and code != "date"))
@given(values=st.lists(st.one_of(PLAIN, SHAPED), max_size=3))
def test_several_values_agree_too(kind: str, values: list[Any]) -> None:
    this, spec = field_of(kind, many=True)
    good = judge(this, values, spec) is None
    assert bind_value(this, spec)(values) == (show_value(this, values, spec) if good else None)


def test_an_entry_is_made_once_for_values_that_recur() -> None:
    this, spec = field_of("one_of")
    make = entry_maker(this, spec, "Fruit", SETTINGS)
    first = make("a")
    assert first is not None
    assert (first.field, first.label, first.label_at, first.text, first.value) == ("f", "Fruit", "beside", "Apple", "a")
    assert make("a") is first
    assert make("z") is None


def test_what_is_remembered_stays_bounded(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(entries, "KEPT_ENTRIES", 3)
    for kind, values in (
        ("decimal", [str(n / 10) for n in range(1, 9)]),
        ("measure", [{"amount": str(n), "unit": "mm"} for n in range(1, 9)]),
    ):
        this, spec = field_of(kind)
        make = entry_maker(this, spec, "F", SETTINGS)
        texts = [entry.text for entry in map(make, values) if entry]
        assert texts == [show_value(this, value, spec) for value in values]
        assert make(values[0]) is not None


def test_threads_share_what_is_remembered(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(entries, "KEPT_ENTRIES", 2)
    this, spec = field_of("measure")
    make = entry_maker(this, spec, "F", SETTINGS)
    values = [{"amount": str(n), "unit": "mm"} for n in range(1, 9)]

    def look(_: int) -> list[str]:
        return [entry.text for _ in range(60) for entry in map(make, values) if entry]

    with ThreadPoolExecutor(8) as pool:
        told = list(pool.map(look, range(16)))
    assert told == [[show_value(this, value, spec) for value in values] * 60] * 16


def test_long_texts_and_titles_are_made_anew_each_time() -> None:
    for key in ("title", "description"):
        this = BUILT_IN[key]
        make = entry_maker(this, Spec(this.limits), this.label, SETTINGS)
        one, other = make("Peat"), make("Peat")
        assert one == other
        assert one is not other


def test_a_dash_stands_for_an_empty_value_only_when_asked() -> None:
    this, _ = field_of("text")
    assert dash_entry(this, "F", SETTINGS) is None
    dash = dash_entry(this, "F", {**SETTINGS, "empty": Resolved("dash", "shop")})
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
        ({"price": "9.8", "contents": {"count": 1, "amount": "0", "unit": "ml"}}, "wrong", ""),
    ],
)
def test_the_unit_price_is_told_and_rendered_alike(values: dict[str, Any], state: str, text: str) -> None:
    this = BUILT_IN["unit_price"]
    spec = Spec(this.limits)
    told = outcome_of(this, spec, Product(1, "t", values))
    assert (told.state, told.text) == (state, text)
    entry = entry_maker(this, spec, "Unit price", SETTINGS)((values.get("price"), values.get("contents")))
    assert (entry.text if entry else "") == text
    if state != "good":
        assert told.wrong is not None


def test_an_outcome_names_its_source_and_what_is_wrong() -> None:
    this, spec = field_of("text")
    usual = Field("f", "F", "F", "text", limits=this.limits, default="ab")
    assert outcome_of(usual, spec, Product(1, "t", {})).source == "default"
    assert outcome_of(usual, spec, Product(1, "t", {"f": "cd"})).source == "product"
    long = outcome_of(this, spec, Product(1, "t", {"f": "abcdefghi"}))
    assert long.wrong is not None
    assert (long.state, long.wrong.code) == ("wrong", "long")
    unread = outcome_of(this, spec, Product(1, "t", {}, {"f": "§" * 80}))
    assert unread.wrong is not None
    assert unread.wrong.code == "unread"
    assert len(unread.wrong.message) < 100
