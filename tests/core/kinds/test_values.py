"""Typed text becomes a value, or an error code of the rules, and never anything else."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.helpers import field as make_field
from tests.core.helpers import judge, limits, read_field, spec_with, typed_value
from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds import KINDS, Spec
from young_fabric.core.kinds.base import Column, Part
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.subjects.values import FieldRules, read_value

CHOICES = ValueList(
    "fruit",
    "Fruit",
    (
        ListValue("a", "Apple", ("Pome",)),
        ListValue("q", "Quince", ("apple", "Cydonia")),
        ListValue("pome", "Medlar"),
        ListValue("old", "Plum", (), True),
    ),
)
CODES = {
    "number", "unit", "dimension", "below", "above", "decimals", "short", "long", "pattern", "choice", "date", "yes_no",
    "colour", "check_digit", "required", "few", "many", "text", "picture", "derived", "link", "file", "shape", "gone",
}  # fmt: skip
LOCALES = st.sampled_from(["en", "de", "fr", "ja", "ar", "de_CH", "sv"])
TYPED = st.one_of(
    st.text(max_size=30),
    st.text(alphabet="0123456789.,' -mgl²/×x", max_size=14),
    st.sampled_from(
        [
            "yes",
            "nein",
            "#fff",
            "28.2.2026",
            "6 × 15 ml",
            "300 gsm",
            "Apple; quince",
            "4006381333931",
            "Care <https://a.example/b>",
            "a.example/c?d=e",
            "4/5 (12)",
            "<p>a <b>b</b></p><script>x</script>",
            "<ul><li>a</ul> & b",
            "<p><br></p>",
            "a < b\n\nc > d",
            "8.5 of 10",
            "Wet\t2.5\tapple\n\t1",
            "Wet\t\tquince\nDry",
            '<iframe src="https://a.example/embed/1" title="A wash"></iframe>',
        ]
    ),
)


_COLUMNS = ("text", "decimal", "one_of")


def spec_of(kind: str, locale: str, given: dict[str, Any] | None = None) -> Spec:
    spec = spec_with(given, "mm" if kind == "measure" else None, CHOICES, locale, "EUR")
    columns = _COLUMNS if kind == "rows" else ()
    return replace(spec, parts=tuple(Part(Column(code, code, KINDS[code]), spec_of(code, locale)) for code in columns))


@pytest.mark.parametrize("kind", sorted(KINDS))
@given(text=TYPED, locale=LOCALES)
def test_what_is_read_is_well_formed_and_reads_back(kind: str, text: str, locale: str) -> None:
    spec = spec_of(kind, locale)
    definition = make_field("f", "F", "F", kind, unit=spec.options.get("unit"), list="fruit")
    try:
        value = read_value(kind, text, spec)
    except Refusal as refusal:
        assert refusal.code in CODES
        assert refusal.message
        return
    if value is None:
        return
    assert judge(definition, value, spec) is None
    typed = typed_value(definition, value, spec)
    again = read_field(definition, typed, spec)
    assert again.wrong is None
    assert again.value == value


@pytest.mark.parametrize("kind", sorted(KINDS))
@given(typed=st.one_of(TYPED, st.none(), st.booleans(), st.integers(), st.lists(TYPED, max_size=3), st.just({"a": 1})))
def test_whatever_is_sent_for_a_field_is_read_kept_or_refused(kind: str, typed: Any) -> None:
    spec = spec_of(kind, "en")
    definition = make_field(
        "f", "F", "F", kind, unit=spec.options.get("unit"), list="fruit", many=KINDS[kind].takes_many
    )
    reading = read_field(definition, typed, spec)
    if reading.kept is not None:
        assert reading.value is None
        assert reading.wrong is not None
    if reading.value is not None:
        wrong = judge(definition, reading.value, spec)
        assert wrong is None or wrong.code != "shape"


@pytest.mark.parametrize(
    ("text", "code"), [("A", "a"), (" q ", "q"), ("APPLE", "a"), ("pome", "pome"), ("cydonia", "q"), ("Medlar", "pome")]
)
def test_all_codes_are_tried_before_labels_and_labels_before_synonyms(text: str, code: str) -> None:
    assert read_value("one_of", text, spec_of("one_of", "en")) == code


@pytest.mark.parametrize("text", ["old", "Plum", "pear"])
def test_what_is_retired_or_not_there_is_refused_with_what_is(text: str) -> None:
    with pytest.raises(Refusal) as caught:
        read_value("one_of", text, spec_of("one_of", "en"))
    assert caught.value.code == "choice"
    assert "Apple" in caught.value.help
    assert "Plum" not in caught.value.help


@pytest.mark.parametrize(
    ("kind", "text", "given", "code"),
    [
        ("whole", "2.5", limits(min="5"), "decimals"),
        ("decimal", "1.25", limits(min="5", decimals=1), "decimals"),
        ("decimal", "1.2", limits(min="5", decimals=1), "below"),
        ("text", "ab", limits(min_length=3, pattern="x+"), "short"),
        ("text", "abcd", limits(max_length=3, pattern="x+"), "long"),
        ("text", "abc", limits(pattern="b"), "pattern"),
        ("text", "a", limits(max_length=0), "long"),
        ("measure", "2 kg", limits(), "dimension"),
        ("measure", "2 cubits", limits(), "unit"),
        ("measure", "abc", limits(), "number"),
        ("many_of", "a, a, a", limits(min_count=2), "few"),
        ("many_of", "a;q\npome", limits(max_count=2), "many"),
        ("text", "   ", limits(required=True), "required"),
        ("text", "a\x00b", limits(), "text"),
        ("gtin", "4006381333932", limits(), "check_digit"),
        ("colour", "#12345", limits(), "colour"),
    ],
)
def test_the_first_code_by_the_order_of_the_rules(kind: str, text: str, given: dict[str, Any], code: str) -> None:
    with pytest.raises(Refusal) as caught:
        read_value(kind, text, spec_of(kind, "en", given))
    assert caught.value.code == code


@pytest.mark.parametrize(
    ("typed", "inches"), [("10 mm", "10"), ("1 cm", "10"), ("1 in", "25.4"), ("0.5 ft", "152.4"), ("1000 µm", "1")]
)
def test_measures_are_kept_in_the_fields_unit(typed: str, inches: str) -> None:
    assert read_value("measure", typed, spec_of("measure", "en")) == {"amount": inches, "unit": "mm"}


def test_two_hundred_values_are_enough() -> None:
    definition = make_field("f", "F", "F", "text", many=True)
    assert read_field(definition, ["x"] * 200, spec_with()).wrong is None
    refused = read_field(definition, ["x"] * 201, spec_with())
    assert refused.wrong is not None
    assert refused.wrong.code == "many"
    assert len(refused.kept) == 201


def test_of_a_list_each_is_told_by_itself_as_it_would_be_typed() -> None:
    """One that is too much comes before some that are no numbers at all."""
    definition = replace(make_field("f", "F", "Label", "whole", limits=limits(most="5")), many=True)
    rules = FieldRules(definition, spec_with(limits(most="5"), None, CHOICES))
    assert rules.typed(["9", {"x": 1}, None, "3"]) == ["9", {"x": 1}, None, "3"]
    assert rules.typed("9") == "9", "no list, so not of the field's shape"
