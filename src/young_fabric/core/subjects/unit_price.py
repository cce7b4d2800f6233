"""The price per reference quantity, such as per 100 ml."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal, localcontext

from young_fabric.core.base import units
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.money import EXACT, round_money


@dataclass(frozen=True, slots=True)
class PricePerUnit:
    """`amount` as a decimal string, `label` such as `per 100 ml`, and the reference it is for."""

    amount: str
    label: str
    reference: str
    unit: str


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
        return round_money(EXACT.multiply(EXACT.divide(amount, self.held), self.times), currency)


def per_reference(count: int | Decimal, contents: tuple[Decimal, str], reference: tuple[Decimal, str]) -> PerReference:
    """What turns a price into a unit price: ÷ (count × contents) × reference.

    `contents` and `reference` are (amount, unit). Raises Refusal `no_contents`, `units_differ`.
    """
    if not count or count < 0 or contents[0] <= 0 or reference[0] <= 0:
        raise Refusal("no_contents", "There are no contents to tell a price for", help="Fill Contents, such as 15 ml")
    held_in, told_in = units.find(contents[1]), units.find(reference[1])
    if held_in is None or told_in is None or held_in.dimension != told_in.dimension:
        raise Refusal("units_differ", f"{contents[1]} and {reference[1]} measure different things")
    with localcontext(prec=units.PRECISION):
        held = units.convert_exact(contents[0] * count, held_in.symbol, told_in.symbol)
    number = units.plain_decimal(reference[0])
    label = f"per {told_in.symbol}" if number == "1" else f"per {number} {told_in.symbol}"
    return PerReference(held, reference[0], label, number, told_in.symbol)


def unit_price(
    amount: Decimal, currency: str, count: int | Decimal, contents: tuple[Decimal, str], reference: tuple[Decimal, str]
) -> PricePerUnit:
    """Price per reference quantity: amount ÷ (count × contents) × reference.

    `contents` and `reference` are (amount, unit). Raises Refusal `no_contents`, `units_differ`.
    """
    per = per_reference(count, contents, reference)
    return PricePerUnit(format(per.price(amount, currency), "f"), per.label, per.reference, per.unit)
