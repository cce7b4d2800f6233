"""What a choice costs: effects on a base, rounded line by line. Weight and cost go by the same rule."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from functools import lru_cache
from typing import Literal, NamedTuple

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.money import minor_units

Mode = Literal["amount", "percent", "replace"]
Charge = Literal["each", "once"]
GRAMS = 0
"""Decimals of a weight."""
_line = tuple.__new__
"""Makes a line of its members, at half the time of calling it."""


@dataclass(frozen=True, slots=True)
class PriceEffect:
    """What one option does. `value` is in currency (of weights: grams), or a percentage of the base; `ratio` is the same in whole numbers."""

    option: str
    mode: Mode
    value: Decimal
    charge: Charge = "each"
    ratio: tuple[int, int] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "ratio", self.value.as_integer_ratio())


class PriceLine(NamedTuple):
    """One effect in money, rounded."""

    option: str
    amount: str
    charge: Charge


class Price(NamedTuple):
    """Amounts as decimal strings with the currency's minor units."""

    base: str
    lines: tuple[PriceLine, ...]
    each: str
    once: str
    total: str
    floored: bool


def price(currency: str, base: Decimal, quantity: int, effects: Sequence[PriceEffect]) -> Price:
    """The price of an order line. Raises Refusal `quantity`, `replace_once`."""
    return _reckoned(base, quantity, effects, minor_units(currency))


def weigh(base: Decimal, quantity: int, effects: Sequence[PriceEffect]) -> Price:
    """The weight of an order line in whole grams, by the same rule. Raises Refusal `quantity`, `replace_once`."""
    return _reckoned(base, quantity, effects, GRAMS)


def _reckoned(base: Decimal, quantity: int, effects: Sequence[PriceEffect], decimals: int) -> Price:
    """Amounts as whole numbers of the smallest one there is, each rounded half away from zero on its own, so that their sums are exact."""
    if isinstance(quantity, bool) or not isinstance(quantity, int) or quantity < 1:
        raise Refusal("quantity", "The quantity must be a whole number of 1 or more")
    ratio = base.as_integer_ratio()
    for effect in effects:
        if effect.mode == "replace":
            if effect.charge == "once":
                words = f"{effect.option} replaces the base price, so it can't be charged once"
                raise Refusal("replace_once", words)
            ratio = effect.ratio
    scale = 10**decimals
    start = _rounded(ratio[0] * scale, ratio[1])
    lines = []
    each, once = start, 0
    for effect in effects:
        mode = effect.mode
        if mode == "replace":
            continue
        part, whole = effect.ratio
        amount = _rounded(start * part, 100 * whole) if mode == "percent" else _rounded(part * scale, whole)
        if effect.charge == "once":
            once += amount
        else:
            each += amount
        lines.append(_line(PriceLine, (effect.option, _written(amount, decimals, scale), effect.charge)))
    floored = each < 0
    if floored:
        each = 0
    members = (
        _written(start, decimals, scale),
        tuple(lines),
        _written(each, decimals, scale),
        _written(once, decimals, scale),
        _written(max(each * quantity + once, 0), decimals, scale),
        floored,
    )
    return _line(Price, members)


def _rounded(part: int, whole: int) -> int:
    """A quotient rounded half away from zero."""
    if part < 0:
        return -((-2 * part + whole) // (2 * whole))
    return (2 * part + whole) // (2 * whole)


@lru_cache(maxsize=4096)
def _written(amount: int, decimals: int, scale: int) -> str:
    """So many of the smallest amount as a decimal string."""
    if amount < 0:
        return f"-{_written(-amount, decimals, scale)}"
    if not decimals:
        return str(amount)
    return f"{amount // scale}.{str(scale + amount % scale)[1:]}"
