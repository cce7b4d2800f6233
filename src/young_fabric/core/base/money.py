"""Money: minor units by ISO 4217, and rounding."""

from __future__ import annotations

from collections.abc import Mapping
from decimal import ROUND_HALF_UP, Context, Decimal
from functools import cache
from typing import Any

from young_fabric.core.base import units
from young_fabric.core.base.decimals import read_decimal

_MINOR_UNITS = {
    **dict.fromkeys(
        [
            "BIF",
            "CLP",
            "DJF",
            "GNF",
            "ISK",
            "JPY",
            "KMF",
            "KRW",
            "PYG",
            "RWF",
            "UGX",
            "UYI",
            "VND",
            "VUV",
            "XAF",
            "XOF",
            "XPF",
        ],
        0,
    ),
    **dict.fromkeys(["BHD", "IQD", "JOD", "KWD", "LYD", "OMR", "TND"], 3),
    **dict.fromkeys(["CLF", "UYW"], 4),
}
"""ISO 4217 minor units where they are not 2. CLDR tells habits of writing instead, so it is not asked."""

EXACT = Context(prec=units.PRECISION)
"""For sums and quotients that are rounded once, at their end."""


def minor_units(currency: str) -> int:
    """Decimals of a currency by ISO 4217."""
    return _MINOR_UNITS.get(currency, 2)


@cache
def _smallest(currency: str) -> Decimal:
    return Decimal(1).scaleb(-minor_units(currency))


def round_money(amount: Decimal, currency: str) -> Decimal:
    """Rounded half away from zero to the currency's minor units."""
    rounded = amount.quantize(_smallest(currency), ROUND_HALF_UP, EXACT)
    return rounded if rounded else abs(rounded)


def in_currency(amount: Decimal, currency: str) -> str:
    """A decimal string rounded to the currency's minor units."""
    return format(round_money(amount, currency), "f")


def plain(amount: Decimal) -> str:
    """A rounded amount as a plain decimal, without trailing noughts."""
    return units.plain_decimal(amount)


def decimal_of(value: Any) -> Decimal | None:
    """A stored number or measure as a decimal, None where it is none."""
    return read_decimal(value.get("amount") if isinstance(value, Mapping) else value)
