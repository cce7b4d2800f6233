"""What a locale says about numbers, dates and yes/no words (CLDR data by Babel), ready for reading and showing."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import ROUND_HALF_UP, Decimal
from functools import lru_cache
from typing import Any

from babel import Locale, UnknownLocaleError
from babel.dates import format_date, format_skeleton
from babel.lists import format_list
from babel.numbers import format_currency, format_decimal, get_decimal_symbol, get_group_symbol

from young_fabric.core.base import money
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.units import plain_decimal

YES_NO: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "en": (("yes", "y", "true", "on"), ("no", "n", "false", "off")),
    "de": (("ja", "j", "wahr"), ("nein", "n", "falsch")),
    "fr": (("oui", "o", "vrai"), ("non", "n", "faux")),
    "es": (("sí", "si", "s"), ("no", "n")),
    "it": (("sì", "si", "s"), ("no", "n")),
    "nl": (("ja", "j"), ("nee", "n")),
    "pt": (("sim", "s"), ("não", "nao", "n")),
    "sv": (("ja", "j"), ("nej", "n")),
    "da": (("ja", "j"), ("nej", "n")),
    "nb": (("ja", "j"), ("nei", "n")),
    "no": (("ja", "j"), ("nei", "n")),
    "fi": (("kyllä", "k"), ("ei", "e")),
    "pl": (("tak", "t"), ("nie", "n")),
    "cs": (("ano", "a"), ("ne", "n")),
}
"""The words for yes and no; the first of each is the one shown."""

_SPACES = dict.fromkeys(map(ord, "\u00a0\u202f\u2009 "), " ")
LONGEST_NUMBER = 30
"""Characters of a number that is kept, sign and point included: what every reader of it can reckon with."""


_PLAIN = re.compile(r"-?(0|[1-9][0-9]*)(\.[0-9]*[1-9])?")


def is_plain_decimal(value: Any) -> bool:
    """Whether a stored number is a canonical decimal string that every reader can reckon with."""
    return isinstance(value, str) and len(value) <= LONGEST_NUMBER and _PLAIN.fullmatch(value) is not None


@dataclass(frozen=True, slots=True)
class NumberSigns:
    """`decimal` and `group` signs (spaces told as a plain one) and group sizes from the right."""

    decimal: str
    group: str
    first: int
    rest: int


@lru_cache(maxsize=64)
def locale_of(code: str) -> Locale:
    """The locale named `de`, `en-GB` or `en_GB`. Raises Refusal `locale`."""
    try:
        return Locale.parse(code.replace("-", "_"))
    except (ValueError, UnknownLocaleError) as error:
        raise Refusal("locale", f"“{code}” is not a locale we know") from error


@lru_cache(maxsize=64)
def number_signs(code: str) -> NumberSigns:
    """The signs of a locale's numbers."""
    locale = locale_of(code)
    first, rest = locale.decimal_formats[None].grouping
    group = get_group_symbol(locale).translate(_SPACES).replace("’", "'")
    return NumberSigns(get_decimal_symbol(locale), group, first, rest)


def read_number(text: str, code: str) -> str:
    """A number typed in the locale as a plain decimal string. Raises Refusal `number`."""
    signs = number_signs(code)
    body = text.strip().translate(_SPACES).replace("’", "'").replace("−", "-")
    match = re.fullmatch(r"([+-]?)(.+)", body)
    if match is None or len(body) > 2 * LONGEST_NUMBER:
        raise _not_a_number(text)
    sign, digits = match.groups()
    whole, point, fraction = digits.partition(signs.decimal)
    if (point and not re.fullmatch("[0-9]+", fraction)) or not (whole or point):
        raise _not_a_number(text)
    if not re.fullmatch("[0-9]*", whole):
        whole = _ungroup(whole, signs, text)
    plain = plain_decimal(Decimal(f"{'-' if sign == '-' else ''}{whole or '0'}.{fraction or '0'}"))
    if len(plain) > LONGEST_NUMBER:
        raise _not_a_number(text)
    return plain


def _ungroup(whole: str, signs: NumberSigns, text: str) -> str:
    parts = whole.split(signs.group) if signs.group else [whole]
    sizes_fit = (
        len(parts) > 1
        and all(re.fullmatch("[0-9]+", part) for part in parts)
        and len(parts[-1]) == signs.first
        and all(len(part) == signs.rest for part in parts[1:-1])
        and 1 <= len(parts[0]) <= (signs.rest if len(parts) > 1 else signs.first)
    )
    if not sizes_fit:
        raise _not_a_number(text)
    return "".join(parts)


def _not_a_number(text: str) -> Refusal:
    return Refusal("number", f"“{text.strip()[:40]}” is not a number", help="Write digits, such as 300 or 12.5")


def split_number(text: str, code: str) -> tuple[str, str]:
    """The number at the start of `text` and what follows it, both as typed."""
    signs = number_signs(code)
    allowed = set("0123456789+-−" + signs.decimal + signs.group)
    plain = text.translate(_SPACES).replace("’", "'") if signs.group in (" ", "'") else text
    end = 0
    while end < len(plain) and (plain[end] in allowed or (plain[end] == " " and signs.group == " ")):
        end += 1
    while end > 0 and plain[end - 1] == "'" and signs.group == "'":
        end -= 1
    return text[:end].strip(), text[end:].strip()


@lru_cache(maxsize=64)
def yes_no_words(code: str) -> tuple[frozenset[str], frozenset[str]]:
    """All words read as yes and as no in the locale: its own, English ones, 1 and 0."""
    yes, no = YES_NO.get(locale_of(code).language, YES_NO["en"])
    english_yes, english_no = YES_NO["en"]
    sure_yes = (frozenset((*yes, *english_yes)) | {"1"}) - frozenset(no)
    sure_no = (frozenset((*no, *english_no)) | {"0"}) - frozenset(yes)
    return sure_yes, sure_no


@lru_cache(maxsize=128)
def show_yes_no(value: bool, code: str) -> str:
    """The locale's word, with a capital."""
    yes, no = YES_NO.get(locale_of(code).language, YES_NO["en"])
    return (yes if value else no)[0].capitalize()


@lru_cache(maxsize=64)
def _short_date(code: str) -> re.Pattern[str]:
    pattern = locale_of(code).date_formats["short"].pattern
    out = ""
    for token in re.findall(r"d+|M+|y+|'[^']*'|[^dMy']", pattern):
        if token[0] == "d":
            out += r"(?P<d>[0-9]{1,2})"
        elif token[0] == "M":
            out += r"(?P<m>[0-9]{1,2})"
        elif token[0] == "y":
            out += r"(?P<y>[0-9]{4}|[0-9]{2})"
        else:
            out += re.escape(token.strip("'").translate(_SPACES))
    return re.compile(out)


def read_date(text: str, code: str) -> str:
    """A date as ISO 8601 `YYYY-MM-DD`, typed so or in the locale's short form. Raises Refusal `date`.

    Years of two digits are read as POSIX does: 69 to 99 are of the last century.
    """
    plain = text.strip().translate(_SPACES)
    found = re.fullmatch(r"(?P<y>[0-9]{4})-(?P<m>[0-9]{2})-(?P<d>[0-9]{2})", plain)
    found = found or _short_date(code).fullmatch(plain)
    if found:
        year = int(found["y"])
        if len(found["y"]) == 2:
            year += 1900 if year >= 69 else 2000
        try:
            return date(year, int(found["m"]), int(found["d"])).isoformat()
        except ValueError:
            pass
    raise Refusal("date", f"“{plain[:40]}” is not a date", help="Write it as 2026-02-28")


def show_date(value: str, code: str, style: str = "medium") -> str:
    """An ISO date in a form of the locale: short, medium, long, full, or its month or year alone."""
    day, locale = date.fromisoformat(value), locale_of(code)
    if style in ("month", "year"):
        return format_skeleton("yMMMM" if style == "month" else "y", day, locale=locale)
    return format_date(day, style if style in ("short", "long", "full") else "medium", locale=locale)


def join_words(words: Sequence[str], code: str) -> str:
    """Words as a locale lists them, with its “and” before the last."""
    return format_list(list(words), locale=locale_of(code))


def rounded(value: str, decimals: int) -> str:
    """A plain decimal string with so many decimals, rounded half away from zero."""
    return str(Decimal(value).quantize(Decimal(1).scaleb(-decimals), ROUND_HALF_UP))


@lru_cache(maxsize=8192)
def show_number(value: str, code: str, grouped: bool = True) -> str:
    """A plain decimal string with the locale's signs, all its decimals kept; without group signs unless `grouped`."""
    number = Decimal(value)
    shown: str = format_decimal(number, locale=locale_of(code), decimal_quantization=False, group_separator=grouped)
    return shown


_PROBES = ("0", "7.5", "1234.56", "98765.43", "1234567.89")


@lru_cache(maxsize=64)
def _money_shape(currency: str, code: str) -> tuple[str, str, dict[int, str]] | None:
    """(before, after, signs) of a locale's money, when amounts are grouped in threes; learnt from Babel."""
    locale = locale_of(code)
    nought = _money_by_babel(Decimal(0), currency, code)
    core = re.search(r"0(?:[^0-9]0+)?", nought)
    if core is None:
        return None
    signs = {ord(","): get_group_symbol(locale), ord("."): get_decimal_symbol(locale)}
    shape = (nought[: core.start()], nought[core.end() :], signs)
    write = _shaped(shape, currency)
    alike = all(write(Decimal(probe)) == _money_by_babel(Decimal(probe), currency, code) for probe in _PROBES)
    return shape if alike else None


def _money_by_babel(amount: Decimal, currency: str, code: str) -> str:
    """The locale's form of money with the minor units of ISO 4217, whatever the locale's habit."""
    locale = locale_of(code)
    pattern = locale.currency_formats["standard"].pattern
    decimals = "0" * money.minor_units(currency)
    pattern = re.sub(r"\.0+", f".{decimals}" if decimals else "", pattern)
    rounded = money.round_money(amount, currency)
    shown: str = format_currency(rounded, currency, pattern, locale=locale, currency_digits=False)
    return shown


def _shaped(shape: tuple[str, str, dict[int, str]], currency: str) -> Callable[[Decimal], str]:
    before, after, signs = shape
    form = f",.{money.minor_units(currency)}f"
    plain = all(chr(code) == sign for code, sign in signs.items())

    def write(amount: Decimal) -> str:
        text = format(money.round_money(amount, currency), form)
        return f"{before}{text if plain else text.translate(signs)}{after}"

    return write


@lru_cache(maxsize=64)
def money_writer(currency: str, code: str) -> Callable[[Decimal], str]:
    """A function that writes amounts of money in the locale's form, rounded to the minor units of ISO 4217."""
    shape = _money_shape(currency, code)
    shaped = _shaped(shape, currency) if shape is not None else None

    def write(amount: Decimal) -> str:
        if shaped is None or amount.is_signed():
            return _money_by_babel(amount, currency, code)
        return shaped(amount)

    return write


def show_money(value: str, currency: str, code: str) -> str:
    """An amount of money in the locale's form."""
    return money_writer(currency, code)(Decimal(value))
