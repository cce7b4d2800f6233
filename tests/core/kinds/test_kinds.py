"""Kinds of fields: reading, limits, showing, and the round trip from shown to read."""

from __future__ import annotations

from decimal import Decimal

import pytest
import re2
from hypothesis import given
from hypothesis import strategies as st

from tests.core.helpers import defs_of, judge, limits, read_field, show_value, spec_with, typed_value
from tests.core.helpers import field as make_field
from young_fabric.core.base import locales, units
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shop import Shop
from young_fabric.core.base.text import make_key
from young_fabric.core.kinds import KINDS
from young_fabric.core.kinds.patterns import compile_pattern
from young_fabric.core.nouns.fields.built_in import BUILT_IN
from young_fabric.core.nouns.fields.fields import check_field
from young_fabric.core.nouns.lists.list_reading import paste
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList, check_list
from young_fabric.core.subjects.values import read_value

LIST = ValueList(
    "l", "List", (ListValue("a", "Apple", ("pippin",)), ListValue("b", "Pear"), ListValue("c", "Plum", (), True))
)


GERMAN = {"decimal": "12,5", "money": "12,5", "rating": "4,6 von 5 (1.280)"}


def code_of(kind: str, text: str, **spec: object) -> str:
    with pytest.raises(Refusal) as caught:
        read_value(kind, text, spec_with(**spec))  # type: ignore[arg-type]
    assert caught.value.message, "every refusal says why"
    return caught.value.code


@pytest.mark.parametrize(
    ("text", "locale", "value"),
    [
        ("1,234,567.5", "en", "1234567.5"),
        ("12,34,567", "en_IN", "1234567"),
        ("1 234,5", "fr", "1234.5"),
        ("1’234.5", "de_CH", "1234.5"),
        ("-0", "en", "0"),
        ("+7", "en", "7"),
        ("−3", "en", "-3"),
        (".5", "en", "0.5"),
        ("007.10", "en", "7.1"),
    ],
)
def test_numbers_are_read_as_the_locale_writes_them(text: str, locale: str, value: str) -> None:
    assert locales.read_number(text, locale) == value


@pytest.mark.parametrize(
    ("text", "locale"),
    [
        ("1,23", "en"),
        ("12,34", "en"),
        ("1e5", "en"),
        ("inf", "en"),
        ("NaN", "en"),
        ("", "en"),
        ("1.", "en"),
        ("--1", "en"),
        ("1.2.3", "en"),
        ("12.5", "de"),
        ("1,2345", "en"),
        (",123", "en"),
        ("9" * 31, "en"),
        ("٣", "en"),
    ],
)
def test_what_is_no_number_is_refused(text: str, locale: str) -> None:
    with pytest.raises(Refusal) as caught:
        locales.read_number(text, locale)
    assert caught.value.code == "number"


@given(
    st.decimals(min_value=-(10**9), max_value=10**9, places=4),
    st.sampled_from(["en", "de", "fr", "en_IN", "de_CH", "sv"]),
)
def test_a_shown_number_is_read_back(number: Decimal, locale: str) -> None:
    plain = units.plain_decimal(number)
    assert locales.read_number(locales.show_number(plain, locale), locale) == plain


@given(st.sampled_from([u.symbol for u in units.UNITS]), st.decimals(min_value=0, max_value=10**6, places=3))
def test_converting_there_and_back_gives_the_same(symbol: str, amount: Decimal) -> None:
    unit = units.find(symbol)
    assert unit is not None
    other = next(candidate for candidate in units.UNITS if candidate.dimension == unit.dimension)
    back = units.convert_exact(units.convert_exact(amount, symbol, other.symbol), other.symbol, symbol)
    assert abs(back - amount) <= Decimal("1e-12") * max(1, amount)


@pytest.mark.parametrize(
    ("text", "symbol"),
    [
        ("m2", "m²"),
        ("sqm", "m²"),
        ("GSM", "g/m²"),
        ("g per m2", "g/m²"),
        ("″", "in"),
        ('"', "in"),
        ("Inches", "in"),
        ("ML", "ml"),
        ("fl. oz", "fl oz"),
        ("mPa", "mPa"),
        ("MPa", "MPa"),
        ("pcs", "piece"),
        ("m^3", "m³"),
        ("um", "µm"),
        ("μm", "µm"),
        ("℃", "°C"),
    ],
)
def test_units_are_known_by_their_usual_writings(text: str, symbol: str) -> None:
    found = units.find(text)
    assert found is not None
    assert found.symbol == symbol


def test_case_counts_only_where_units_differ_by_it() -> None:
    assert units.find("mpa") is None
    assert units.find("KPA") is not None


@pytest.mark.parametrize(
    ("amount", "unit", "to", "result"),
    [
        ("1", "ft", "mm", "304.8"),
        ("1", "lb", "g", "453.59237"),
        ("20", "°C", "°F", "68"),
        ("1", "gal", "ml", "3785.411784"),
        ("1", "oz/yd²", "g/m²", "33.905747474882"),
        ("1", "bar", "kPa", "100"),
    ],
)
def test_conversions_are_exact(amount: str, unit: str, to: str, result: str) -> None:
    assert units.plain_decimal(units.convert(Decimal(amount), unit, to)) == result


def test_choices_are_read_by_code_then_label_then_synonym_and_retired_ones_are_not() -> None:
    spec = spec_with(values=LIST)
    assert read_value("one_of", " PIPPIN ", spec) == "a"
    assert read_value("many_of", "pear; apple\na", spec) == ["b", "a"]
    assert code_of("one_of", "plum", values=LIST) == "choice"
    assert code_of("many_of", "a, b", values=LIST, limits=limits(max_count=1)) == "many"
    assert code_of("many_of", "a", values=LIST, limits=limits(min_count=2)) == "few"
    field = make_field("f", "F", "F", "one_of", list="l")
    assert judge(field, "c", spec) is None, "a retired value stays good where it is"


@pytest.mark.parametrize(
    ("kind", "text", "code"),
    [
        ("text", "x" * 1001, "long"),
        ("text", "a\x07", "text"),
        ("whole", "1.5", "decimals"),
        ("date", "31/31/2026", "date"),
        ("colour", "red", "colour"),
        ("gtin", "123", "check_digit"),
        ("contents", "15", "unit"),
        ("contents", "15 kPa", "unit"),
        ("contents", "0 ml", "below"),
        ("money", "-1", "below"),
        ("money", "1.234", "decimals"),
        ("picture", "x", "picture"),
    ],
)
def test_every_kind_refuses_what_it_is_not(kind: str, text: str, code: str) -> None:
    assert code_of(kind, text) == code


@pytest.mark.parametrize("length", [8, 12, 13, 14])
def test_gtins_of_all_lengths(length: int) -> None:
    body = "1234567890123"[: length - 1]
    total = sum(int(digit) * (3 if place % 2 == 0 else 1) for place, digit in enumerate(reversed(body)))
    code = body + str(-total % 10)
    assert read_value("gtin", code, spec_with()) == code
    assert code_of("gtin", code[:-1] + str((int(code[-1]) + 1) % 10)) == "check_digit"


@given(
    st.text(alphabet="abzAZ09._/ -[]^é\n", max_size=6),
    st.sampled_from("+*?"),
    st.text(alphabet="aZ0-. \né", max_size=6),
)
def test_a_pattern_means_the_same_however_it_is_matched(inside: str, times: str, value: str) -> None:
    pattern = f"[{inside}]{times}"
    try:
        known = re2.fullmatch(pattern, value) is not None
    except re2.error:
        with pytest.raises(Refusal):
            compile_pattern(pattern)
        return
    assert compile_pattern(pattern)(value) == known


def test_a_pattern_runs_in_linear_time_and_matches_the_whole() -> None:
    evil = limits(pattern="(a+)+b")
    assert code_of("text", "a" * 900, limits=evil) == "pattern"
    assert read_value("text", "aab", spec_with(evil)) == "aab"


def test_lengths_count_code_points_after_composing() -> None:
    assert read_value("text", "e\u0301" * 3, spec_with(limits(max_length=3))) == "ééé"


def test_order_of_limits() -> None:
    given = limits(min="10", decimals=0, min_length=5, pattern="[a-z]+")
    assert code_of("decimal", "1.5", limits=given) == "decimals"
    assert code_of("text", "AB", limits=given) == "short"


def test_several_values_are_read_one_by_one_and_wrong_ones_are_placed() -> None:
    field = make_field("f", "F", "F", "measure", many=True, unit="mm", limits=limits(max_count=3))
    good = read_field(field, ["1 cm", "", "2"], spec_with(unit="mm", limits=field.limits))
    assert good.value == [{"amount": "10", "unit": "mm"}, {"amount": "2", "unit": "mm"}]
    bad = read_field(field, ["1 cm", "2 kg"], spec_with(unit="mm"))
    assert bad.wrong is not None
    assert bad.wrong.where == (1,)
    assert bad.kept == ["1 cm", "2 kg"], "what was typed is kept"
    assert show_value(field, good.value, spec_with(unit="mm")) == "10\u00a0mm, 2\u00a0mm"


@pytest.mark.parametrize(
    "kind",
    [
        "text",
        "whole",
        "decimal",
        "measure",
        "money",
        "contents",
        "date",
        "colour",
        "gtin",
        "web_link",
        "video",
        "rating",
        "rich_text",
    ],
)
def test_what_is_offered_for_typing_reads_back_to_the_same_value(kind: str) -> None:
    field = make_field("f", "F", "F", kind, unit="g/m²" if kind == "measure" else None)
    for locale in ("en", "de"):
        spec = spec_with(unit=field.options.get("unit"), locale=locale)
        example = KINDS[kind].example if locale == "en" else GERMAN.get(kind, KINDS[kind].example)
        value = read_value(kind, example, spec)
        assert read_value(kind, typed_value(field, value, spec), spec) == value


def test_no_and_nought_are_values() -> None:
    yes_no = make_field("f", "F", "F", "yes_no")
    assert read_field(yes_no, "no", spec_with()).value is False
    assert read_field(yes_no, False, spec_with()).value is False
    assert read_field(make_field("n", "N", "N", "whole"), "0", spec_with()).value == "0"


@pytest.mark.parametrize(
    ("changes", "where", "code"),
    [
        ({"name": " "}, "name", "required"),
        ({"key": "Own"}, "key", "key"),
        ({"key": "weight"}, "key", "key"),
        ({"kind": "nothing"}, "kind", "kind"),
        ({"kind": "contents"}, "kind", "kind"),
        ({"kind": "measure"}, "unit", "unit"),
        ({"kind": "one_of"}, "list", "list"),
        ({"unit": "mm"}, "unit", "unit"),
        ({"kind": "one_of", "list": "gone"}, "list", "list"),
        ({"kind": "picture", "default": {"file": "x"}}, "default", "default"),
        ({"kind": "one_of", "list": "l", "default": "z"}, "default", "choice"),
        ({"limits": limits(decimals=3)}, "decimals", "limit"),
        ({"limits": limits(max_length=100_001)}, "max_length", "number"),
        ({"kind": "yes_no", "many": True}, "many", "many"),
        ({"limits": limits(min="1")}, "min", "limit"),
        ({"limits": limits(pattern="(")}, "pattern", "pattern_syntax"),
        ({"limits": limits(min_length=9, max_length=3)}, "min_length", "limit_order"),
        ({"help": "x" * 500}, "help", "long"),
    ],
)
def test_unsound_definitions_are_refused_at_their_place(changes: dict[str, object], where: str, code: str) -> None:
    field = make_field(**{"key": "ss_f", "name": "F", "label": "F", "kind": "text", **changes})  # type: ignore[arg-type]
    with pytest.raises(Refusal) as caught:
        check_field(field, defs_of(Shop(prefix="ss_"), lists={"l": LIST}))
    assert caught.value.code == code
    assert caught.value.where[-1] == where
    assert caught.value.help


def test_built_in_fields_are_sound_and_keys_are_made_from_names() -> None:
    for field in BUILT_IN.values():
        check_field(field, defs_of())
    assert make_key("Tube à 15 ml!", "ss_") == "ss_tube_a_15_ml"
    assert make_key("Weight", "ss_", {"ss_weight"}) == "ss_weight_2"
    assert make_key("3 D") == "f_3_d"


def test_pasting_adds_skips_and_brings_back() -> None:
    done = paste(LIST, "Apple\nQuince\nMedlar;med;mispel, naesp\nPlum\n\nX;!!\nY;med")
    assert [v.code for v in done.added] == ["quince", "med", "c"]
    assert done.added[1].synonyms == ("mispel", "naesp")
    assert [(line, reason) for line, _, reason in done.skipped] == [
        (1, "already in the list"),
        (6, "“!!” can't be a code. Use small letters, digits, hyphen and underscore, at most 60"),
        (7, "the code med is taken"),
    ]
    check_list(done.result)


def test_lists_refuse_two_of_a_code_or_label() -> None:
    for values, code in (
        ((LIST.values[0], LIST.values[0]), "code_twice"),
        ((LIST.values[0], ListValue("z", "APPLE")), "label_twice"),
    ):
        with pytest.raises(Refusal) as caught:
            check_list(ValueList("l", "L", values))
        assert caught.value.code == code
