"""Units: known by their writings, kept apart by dimension, converted exactly."""

from __future__ import annotations

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from young_fabric.core.base import units
from young_fabric.core.base.errors import Refusal

BY_SYMBOL = {unit.symbol: unit for unit in units.UNITS}
SYMBOLS = [unit.symbol for unit in units.UNITS]
AMOUNTS = st.decimals(min_value=-(10**6), max_value=10**6, places=6, allow_nan=False)


@pytest.mark.parametrize("unit", units.UNITS, ids=lambda unit: unit.symbol)
def test_every_unit_is_found_by_its_symbol_and_its_writings(unit: units.Unit) -> None:
    assert units.find(unit.symbol) is unit
    assert units.find(f"  {unit.symbol} ") is unit
    for writing in unit.writings:
        assert units.find(writing) is unit, writing


@pytest.mark.parametrize("symbol", SYMBOLS)
def test_every_unit_converts_to_every_other_of_its_dimension_and_back(symbol: str) -> None:
    unit = units.find(symbol)
    assert unit is not None
    for other in units.UNITS:
        if other.dimension != unit.dimension:
            continue
        there = units.convert_exact(Decimal("12.5"), symbol, other.symbol)
        back = units.convert_exact(there, other.symbol, symbol)
        assert abs(back - Decimal("12.5")) < Decimal("1e-40")


@given(AMOUNTS, st.sampled_from(SYMBOLS), st.sampled_from(SYMBOLS))
def test_dimensions_are_kept_apart(amount: Decimal, unit: str, other: str) -> None:
    if BY_SYMBOL[unit].dimension == BY_SYMBOL[other].dimension:
        converted = units.convert(amount, unit, other)
        assert converted == converted.quantize(units.PLACES)
    else:
        with pytest.raises(Refusal) as caught:
            units.convert(amount, unit, other)
        assert caught.value.code == "dimension"


@given(AMOUNTS, AMOUNTS)
def test_more_stays_more(amount: Decimal, other: Decimal) -> None:
    if amount < other:
        assert units.convert_exact(amount, "in", "mm") < units.convert_exact(other, "in", "mm")
        assert units.convert_exact(amount, "°F", "°C") < units.convert_exact(other, "°F", "°C")


@pytest.mark.parametrize(
    ("text", "symbol"),
    [
        ("M2", "m²"),
        ("m^2", "m²"),
        ("sq m", "m²"),
        ("GSM", "g/m²"),
        ("grams per square metre", "g/m²"),
        ("g / m2", "g/m²"),
        ("″", "in"),
        ("Inches", "in"),
        ("ML", "ml"),
        ("Fl. Oz.", "fl oz"),
        ("kpa", "kPa"),
        ("PIECES", "piece"),
        ("℃", "°C"),
    ],
)
def test_usual_writings(text: str, symbol: str) -> None:
    found = units.find(text)
    assert found is not None
    assert found.symbol == symbol


@pytest.mark.parametrize("text", ["", "furlong", "mpa", "m m", "g/", "²"])
def test_writings_nobody_can_be_sure_of(text: str) -> None:
    assert units.find(text) is None


def test_mega_and_milli_are_told_by_case() -> None:
    assert [units.find(text).symbol for text in ("MPa", "mPa", "MW", "mW")] == ["MPa", "mPa", "MW", "mW"]  # type: ignore[union-attr]


@given(st.decimals(allow_nan=False, allow_infinity=False, min_value=-(10**15), max_value=10**15))
def test_plain_decimals_are_plain(number: Decimal) -> None:
    text = units.plain_decimal(number)
    assert Decimal(text) == number
    assert "e" not in text.lower()
    assert not ("." in text and text.endswith("0"))
    assert text != "-0"


def test_an_unknown_unit_is_named() -> None:
    with pytest.raises(Refusal) as caught:
        units.convert(Decimal(1), "cubit", "mm")
    assert caught.value.code == "unit"
    assert "cubit" in caught.value.message
    assert units.article("area") == "an area"
    assert units.article("mass") == "a mass"
