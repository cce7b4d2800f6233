"""Prices: the lines shown add up, percentages do not compound, and unit prices follow their contents."""

from __future__ import annotations

from decimal import Decimal

import pytest
from babel.numbers import format_currency
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base import locales, money
from young_fabric.core.base.errors import Refusal
from young_fabric.core.options.pricing import PriceEffect, price
from young_fabric.core.subjects.unit_price import unit_price

CURRENCIES = st.sampled_from(["EUR", "JPY", "KWD", "CLF"])
AMOUNTS = st.decimals(min_value=-500, max_value=5000, places=4, allow_nan=False, allow_infinity=False)
EFFECTS = st.lists(
    st.builds(
        PriceEffect,
        st.sampled_from(["size", "finish", "text"]),
        st.sampled_from(["amount", "percent"]),
        AMOUNTS,
        st.sampled_from(["each", "once"]),
    ),
    max_size=6,
)


@given(CURRENCIES, AMOUNTS, st.integers(1, 400), EFFECTS)
def test_the_lines_add_up_exactly(currency: str, base: Decimal, quantity: int, effects: list[PriceEffect]) -> None:
    priced = price(currency, base, quantity, effects)
    each = Decimal(priced.base) + sum(Decimal(line.amount) for line in priced.lines if line.charge == "each")
    once = sum((Decimal(line.amount) for line in priced.lines if line.charge == "once"), Decimal(0))
    assert priced.floored == (each < 0)
    assert Decimal(priced.each) == max(each, Decimal(0))
    assert Decimal(priced.once) == once
    assert Decimal(priced.total) == max(max(each, Decimal(0)) * quantity + once, Decimal(0))
    digits = money.minor_units(currency)
    for text in (priced.base, priced.each, priced.once, priced.total, *(line.amount for line in priced.lines)):
        assert len(text.partition(".")[2]) == digits
        assert "E" not in text
        assert text.strip("-0.") != "" or not text.startswith("-"), "no signed nought"


@given(AMOUNTS, EFFECTS, st.randoms())
def test_the_order_of_effects_changes_only_the_order_of_lines(
    base: Decimal, effects: list[PriceEffect], dice: object
) -> None:
    turned = list(effects)
    dice.shuffle(turned)  # type: ignore[attr-defined]
    first, second = price("EUR", base, 3, effects), price("EUR", base, 3, turned)
    assert first._replace(lines=()) == second._replace(lines=())
    assert sorted(first.lines, key=repr) == sorted(second.lines, key=repr)


@given(AMOUNTS, AMOUNTS, EFFECTS)
def test_the_last_replacement_is_the_base(base: Decimal, put: Decimal, effects: list[PriceEffect]) -> None:
    replaced = [PriceEffect("kind", "replace", base + 1), *effects, PriceEffect("kind", "replace", put)]
    assert price("EUR", base, 1, replaced) == price("EUR", put, 1, effects)


@pytest.mark.parametrize("quantity", [0, -1, True, 1.0, "1", None])
def test_a_quantity_is_a_whole_number_of_one_or_more(quantity: object) -> None:
    once = [PriceEffect("o", "replace", Decimal(1), "once")]
    with pytest.raises(Refusal) as caught:
        price("EUR", Decimal(1), quantity, once)  # type: ignore[arg-type]
    assert caught.value.code == "quantity", "checked first"


POSITIVE = st.decimals(min_value="0.01", max_value=9000, places=2)


@given(POSITIVE, st.integers(1, 30), POSITIVE)
def test_a_pack_costs_as_its_contents_in_one(amount: Decimal, count: int, held: Decimal) -> None:
    pack = unit_price(amount, "EUR", count, (held, "ml"), (Decimal(100), "ml"))
    whole = unit_price(amount, "EUR", 1, (held * count, "ml"), (Decimal(100), "ml"))
    assert pack == whole
    assert pack.label == "per 100 ml"


@given(POSITIVE, POSITIVE)
def test_other_units_of_one_dimension_say_the_same(amount: Decimal, held: Decimal) -> None:
    in_ml = unit_price(amount, "EUR", 1, (held, "ml"), (Decimal(1), "l"))
    in_l = unit_price(amount, "EUR", 1, (held / 1000, "l"), (Decimal(1), "l"))
    assert in_ml == in_l
    assert in_ml.label == "per l"


@pytest.mark.parametrize(
    ("count", "held", "per", "code"),
    [
        (0, ("1", "ml"), ("1", "l"), "no_contents"),
        (1, ("0", "ml"), ("1", "l"), "no_contents"),
        (1, ("1", "ml"), ("0", "l"), "no_contents"),
        (1, ("0", "nonsense"), ("1", "l"), "no_contents"),
        (1, ("1", "nonsense"), ("1", "l"), "units_differ"),
        (1, ("1", "ml"), ("1", "g"), "units_differ"),
    ],
)
def test_what_has_no_unit_price(count: int, held: tuple[str, str], per: tuple[str, str], code: str) -> None:
    with pytest.raises(Refusal) as caught:
        unit_price(Decimal(1), "EUR", count, (Decimal(held[0]), held[1]), (Decimal(per[0]), per[1]))
    assert caught.value.code == code


@pytest.mark.parametrize("locale", ["en", "de", "fr", "sv", "en_IN", "de_CH", "ja", "pl", "ar_EG"])
@given(
    st.decimals(min_value=-99999, max_value=99999999, places=3, allow_nan=False),
    st.sampled_from(["EUR", "JPY", "KWD", "USD"]),
)
def test_money_is_written_as_the_locale_has_it(locale: str, amount: Decimal, currency: str) -> None:
    rounded = money.round_money(amount, currency)
    written = locales.show_money(str(rounded), currency, locale)
    assert written == format_currency(rounded, currency, locale=locale)
