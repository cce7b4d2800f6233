"""What a choice costs: effects on a base price, rounded line by line; and the price per reference quantity."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Context, Decimal, localcontext
from functools import cache
from typing import Literal

from young_fabric.core import units
from young_fabric.core.errors import Refusal

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

_EXACT = Context(prec=units.PRECISION)
"""For sums and quotients that are rounded once, at their end."""

Mode = Literal["amount", "percent", "replace"]
Charge = Literal["each", "once"]


@dataclass(frozen=True, slots=True)
class Effect:
    """What one option does to the price. `value` is in currency, or a percentage of the base."""

    option: str
    mode: Mode
    value: Decimal
    charge: Charge = "each"


@dataclass(frozen=True, slots=True)
class PriceLine:
    """One effect in money, rounded."""

    option: str
    amount: str
    charge: Charge


@dataclass(frozen=True, slots=True)
class Price:
    """Amounts as decimal strings with the currency's minor units."""

    base: str
    lines: tuple[PriceLine, ...]
    each: str
    once: str
    total: str
    floored: bool


@dataclass(frozen=True, slots=True)
class UnitPrice:
    """`amount` as a decimal string, `label` such as `per 100 ml`, and the reference it is for."""

    amount: str
    label: str
    reference: str
    unit: str


def minor_units(currency: str) -> int:
    """Decimals of a currency by ISO 4217."""
    return _MINOR_UNITS.get(currency, 2)


@cache
def _smallest(currency: str) -> Decimal:
    return Decimal(1).scaleb(-minor_units(currency))


def round_money(amount: Decimal, currency: str) -> Decimal:
    """Rounded half away from zero to the currency's minor units."""
    rounded = amount.quantize(_smallest(currency), ROUND_HALF_UP, _EXACT)
    return rounded if rounded else abs(rounded)


def in_currency(amount: Decimal, currency: str) -> str:
    """A decimal string rounded to the currency's minor units."""
    return format(round_money(amount, currency), "f")


def price(currency: str, base: Decimal, quantity: int, effects: Sequence[Effect]) -> Price:
    """The price of an order line. Raises Refusal `quantity`, `replace_once`."""
    if isinstance(quantity, bool) or not isinstance(quantity, int) or quantity < 1:
        raise Refusal("quantity", "The quantity must be a whole number of 1 or more")
    for effect in effects:
        if effect.mode == "replace" and effect.charge == "once":
            raise Refusal("replace_once", f"{effect.option} replaces the base price, so it can't be charged once")
    with localcontext(prec=units.PRECISION):
        replaced = [effect.value for effect in effects if effect.mode == "replace"]
        start = round_money(replaced[-1] if replaced else base, currency)
        lines = []
        sums = {"each": Decimal(0), "once": Decimal(0)}
        for effect in effects:
            if effect.mode == "replace":
                continue
            raw = start * effect.value / 100 if effect.mode == "percent" else effect.value
            amount = round_money(raw, currency)
            sums[effect.charge] += amount
            lines.append(PriceLine(effect.option, in_currency(amount, currency), effect.charge))
        each, floored = start + sums["each"], False
        if each < 0:
            each, floored = Decimal(0), True
        total = max(each * quantity + sums["once"], Decimal(0))
    return Price(
        in_currency(start, currency),
        tuple(lines),
        in_currency(each, currency),
        in_currency(sums["once"], currency),
        in_currency(total, currency),
        floored,
    )


@dataclass(frozen=True, slots=True)
class PerReference:
    """What a price is divided and multiplied by to tell it per reference quantity, and the words for that."""

    held: Decimal
    times: Decimal
    label: str
    reference: str
    unit: str

    def price(self, amount: Decimal, currency: str) -> Decimal:
        """The unit price of an amount, rounded as money."""
        return round_money(_EXACT.multiply(_EXACT.divide(amount, self.held), self.times), currency)


def per_reference(count: int | Decimal, contents: tuple[Decimal, str], reference: tuple[Decimal, str]) -> PerReference:
    """What turns a price into a unit price: ÷ (count × contents) × reference.

    `contents` and `reference` are (amount, unit). Raises Refusal `no_contents`, `units_differ`.
    """
    if not count or count < 0 or contents[0] <= 0 or reference[0] <= 0:
        raise Refusal("no_contents", "There are no contents to tell a price for", help="Fill Contents, such as 15 ml")
    one, other = units.find(contents[1]), units.find(reference[1])
    if one is None or other is None or one.dimension != other.dimension:
        raise Refusal("units_differ", f"{contents[1]} and {reference[1]} measure different things")
    with localcontext(prec=units.PRECISION):
        held = units.convert_exact(contents[0] * count, one.symbol, other.symbol)
    number = units.plain_decimal(reference[0])
    label = f"per {other.symbol}" if number == "1" else f"per {number} {other.symbol}"
    return PerReference(held, reference[0], label, number, other.symbol)


def unit_price(
    amount: Decimal, currency: str, count: int | Decimal, contents: tuple[Decimal, str], reference: tuple[Decimal, str]
) -> UnitPrice:
    """Price per reference quantity: amount ÷ (count × contents) × reference.

    `contents` and `reference` are (amount, unit). Raises Refusal `no_contents`, `units_differ`.
    """
    per = per_reference(count, contents, reference)
    return UnitPrice(format(per.price(amount, currency), "f"), per.label, per.reference, per.unit)
