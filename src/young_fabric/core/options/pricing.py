"""What a choice costs: effects on a base price, rounded line by line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal, localcontext
from typing import Literal

from young_fabric.core.base import units
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.money import in_currency, round_money

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
