"""Fields that are computed from others, never filled: a registry by key."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from young_fabric.core.base import money, units
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.memory import Memory
from young_fabric.core.kinds import Spec
from young_fabric.core.subjects.unit_price import PerReference, per_reference

MOST_KEPT = 1024
Compute = Callable[[tuple[Any, ...]], Any]


@dataclass(frozen=True)
class Derived:
    """How a field is computed: from which others, and a function bound to a spec.

    The function is given the good values of `reads` in order and gives the value; it raises Refusal when there is none.
    """

    key: str
    reads: tuple[str, ...]
    bind: Callable[[Spec], Compute]


def _unit_price(spec: Spec) -> Compute:
    known: Memory[tuple[Any, ...], PerReference] = Memory(MOST_KEPT)

    def compute(values: tuple[Any, ...]) -> dict[str, str]:
        price, contents = values
        held = (contents["count"], contents["amount"], contents["unit"])
        per = known.get(held)
        if per is None:
            unit = units.find(held[2])
            reference = units.REFERENCE_AMOUNTS.get(unit.dimension if unit else "", ("1", held[2]))
            per = per_reference(held[0], (Decimal(held[1]), held[2]), (Decimal(reference[0]), reference[1]))
            known.put(held, per)
        try:
            amount = money.plain(per.price(Decimal(price), spec.currency))
        except ArithmeticError as error:
            raise Refusal("number", "the numbers are too large to reckon with") from error
        return {"amount": amount, "reference": per.reference, "unit": per.unit}

    return compute


DERIVED: dict[str, Derived] = {
    derived.key: derived for derived in (Derived("unit_price", ("price", "contents"), _unit_price),)
}
"""How each computed field is computed."""
