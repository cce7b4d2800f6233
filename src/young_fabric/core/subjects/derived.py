"""Fields that are computed from others, never filled: a registry by key."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from typing import Any

from young_fabric.core.base import money, units
from young_fabric.core.base.errors import Refusal
from young_fabric.core.kinds import Spec
from young_fabric.core.subjects.unit_price import PerReference, per_reference

MOST_KEPT = 1024
Compute = Callable[[tuple[Any, ...]], Any]


@dataclass(frozen=True)
class Derived:
    """How a field is computed: from which others, and a function bound to a spec.

    The function is given the good values of `reads`, built-in fields, in order and gives the value; it raises Refusal when there is none. `lacking` is the code
    that is told then, and where one of them is not filled.
    """

    key: str
    reads: tuple[str, ...]
    bind: Callable[[Spec], Compute]
    lacking: str


def _unit_price(spec: Spec) -> Compute:
    @lru_cache(MOST_KEPT)
    def per(count: int, amount: str, symbol: str) -> PerReference:
        unit = units.find(symbol)
        reference = units.REFERENCE_AMOUNTS.get(unit.dimension if unit else "", ("1", symbol))
        return per_reference(count, (Decimal(amount), symbol), (Decimal(reference[0]), reference[1]))

    def compute(values: tuple[Any, ...]) -> dict[str, str]:
        price, contents = values
        held = per(contents["count"], contents["amount"], contents["unit"])
        try:
            amount = money.plain(held.price(Decimal(price), spec.currency))
        except ArithmeticError as error:
            raise Refusal("number", "the numbers are too large to reckon with") from error
        return {"amount": amount, "reference": held.reference, "unit": held.unit}

    return compute


DERIVED: dict[str, Derived] = {
    derived.key: derived for derived in (Derived("unit_price", ("price", "contents"), _unit_price, "no_contents"),)
}
"""How each computed field is computed."""
