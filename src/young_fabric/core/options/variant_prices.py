"""What variants cost by themselves: the base with what the values of their options do."""

from __future__ import annotations

from decimal import Decimal

from young_fabric.core.base.memory import Memory
from young_fabric.core.nouns.options.effects import PRICE
from young_fabric.core.options.goods import Names
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.pricing import price

MOST_KEPT = 4_000
"""Prices an offer remembers: those of two products with as many variants as there can be."""


class VariantPrices:
    """Prices of the variants of one offer for one piece, each worked out once for a base."""

    def __init__(self, offer: Offer, currency: str) -> None:
        self._offer = offer
        self._currency = currency
        self._made: Memory[tuple[Decimal | None, Names], tuple[str | None]] = Memory(MOST_KEPT)

    def of(self, base: Decimal | None, names: Names) -> str | None:
        """The price of one piece of a variant, None where there is none yet."""
        return self._made.of((base, names), lambda: (self._priced(base, names),))[0]

    def _priced(self, base: Decimal | None, names: Names) -> str | None:
        effects = [
            effect
            for axis, code in zip(self._offer.axes, names, strict=True)
            for effect in self._offer.by_key[axis.key].plain[code].amounts.get(PRICE.code, ())
        ]
        replaced = PRICE.code in self._offer.replaces
        if base is None and not replaced and not any(effect.mode == "replace" for effect in effects):
            return None
        return price(self._currency, Decimal(0) if replaced or base is None else base, 1, effects).each
