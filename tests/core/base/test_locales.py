"""Numbers, dates and words as locales write them: what is shown is read back."""

from __future__ import annotations

from datetime import date
from decimal import Decimal

import pytest
from babel.dates import format_date
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import clean_text
from young_fabric.core.base.units import plain_decimal

LOCALES = ["en", "en_GB", "de", "de_CH", "fr", "es", "it", "nl", "sv", "pl", "cs", "en_IN", "pt", "fi", "da"]


@pytest.mark.parametrize("code", LOCALES)
@given(st.decimals(min_value=-(10**12), max_value=10**12, allow_nan=False, places=6))
def test_a_number_shown_is_a_number_read(code: str, number: Decimal) -> None:
    plain = plain_decimal(number)
    assert locales.read_number(locales.show_number(plain, code), code) == plain


@pytest.mark.parametrize("code", LOCALES)
@given(st.text(alphabet="0123456789.,' -+e\u00a0\u202f", max_size=14))
def test_anything_typed_is_a_plain_decimal_or_no_number(code: str, text: str) -> None:
    try:
        read = locales.read_number(text, code)
    except Refusal as refusal:
        assert refusal.code == "number"
    else:
        assert plain_decimal(Decimal(read)) == read


@pytest.mark.parametrize(
    ("text", "code", "number"),
    [
        ("1,234.5", "en", "1234.5"),
        ("1.234,5", "de", "1234.5"),
        ("1'234.5", "de_CH", "1234.5"),
        ("1’234.5", "de_CH", "1234.5"),
        ("1\u202f234,5", "fr", "1234.5"),
        ("1 234,5", "fr", "1234.5"),
        ("12,34,567", "en_IN", "1234567"),
        (".5", "en", "0.5"),
        ("+3", "en", "3"),
        ("−3", "en", "-3"),
        ("-0", "en", "0"),
        ("007", "en", "7"),
        ("1.50", "en", "1.5"),
    ],
)
def test_signs_stand_where_the_locale_puts_them(text: str, code: str, number: str) -> None:
    assert locales.read_number(text, code) == number


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("1,23,4", "en"),
        ("12,345,67", "en"),
        ("1,2345", "en"),
        (",123", "en"),
        ("1.234.5", "de"),
        ("1,234,567", "en_IN"),
        ("1e5", "en"),
        ("∞", "en"),
        ("NaN", "en"),
        ("5.", "en"),
        ("--5", "en"),
        ("1 2", "en"),
        ("٣", "en"),
        ("9" * 61, "en"),
    ],
)
def test_other_writings_are_no_numbers(text: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        locales.read_number(text, code)
    assert caught.value.code == "number"


@pytest.mark.parametrize("code", ["en", "en_GB", "de", "fr", "sv", "nl", "pl", "fi"])
@given(st.dates(min_value=date(1970, 1, 1), max_value=date(2068, 12, 31)))
def test_days_are_read_in_the_short_form_and_in_iso(code: str, day: date) -> None:
    short = format_date(day, "short", locale=code)
    assert locales.read_date(short, code) == day.isoformat()
    assert locales.read_date(day.isoformat(), code) == day.isoformat()


@pytest.mark.parametrize("text", ["2026-02-30", "2026-13-01", "31/02/2026", "tomorrow", "", "2026-2-3"])
def test_what_is_no_day(text: str) -> None:
    with pytest.raises(Refusal) as caught:
        locales.read_date(text, "en_GB")
    assert caught.value.code == "date"
    assert caught.value.help


@pytest.mark.parametrize("code", sorted(locales.YES_NO))
def test_yes_and_no_in_their_own_words_in_english_and_in_digits(code: str) -> None:
    yes, no = locales.yes_no_words(code)
    assert not yes & no
    assert {"1"} <= yes
    assert {"0"} <= no
    for value in (True, False):
        assert locales.show_yes_no(value, code).casefold() in (yes if value else no)


def test_a_locale_nobody_has_is_refused() -> None:
    with pytest.raises(Refusal) as caught:
        locales.number_signs("xx-nowhere")
    assert caught.value.code == "locale"


@pytest.mark.parametrize(
    ("text", "code", "parts"),
    [
        ("300 g/m²", "en", ("300", "g/m²")),
        ("1.234,5 mm", "de", ("1.234,5", "mm")),
        ("1 234 mm", "fr", ("1 234", "mm")),
        ("6'", "de_CH", ("6", "'")),
        ("-3°C", "en", ("-3", "°C")),
        ("mm", "en", ("", "mm")),
    ],
)
def test_a_number_is_split_from_what_follows(text: str, code: str, parts: tuple[str, str]) -> None:
    assert locales.split_number(text, code) == parts


@given(st.text(max_size=40))
def test_clean_text_is_clean_already(text: str) -> None:
    try:
        clean = clean_text(text)
    except Refusal as refusal:
        assert refusal.code == "text"
    else:
        assert clean_text(clean) == clean
        assert "\r" not in clean
        assert clean == clean.strip()
