"""What variants cost by themselves: the base with what the values of their options do."""

from __future__ import annotations

from decimal import Decimal

from young_fabric.core.nouns.effects import PRICE
from young_fabric.core.options.goods import Names
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.pricing import price


class VariantPrices:
    """Prices of the variants of one offer for one piece, each worked out once for a base."""

    def __init__(self, offer: Offer, currency: str) -> None:
        self._offer = offer
        self._currency = currency
        self._made: dict[tuple[Decimal | None, Names], str | None] = {}

    def of(self, base: Decimal | None, names: Names) -> str | None:
        """The price of one piece of a variant, None where there is none yet."""
        key = (base, names)
        if key not in self._made:
            self._made[key] = self._priced(base, names)
        return self._made[key]

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
