"""What a change of definitions would do to variants: counted over all products concerned, with examples; nothing is written."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal

from young_fabric.core.base.money import decimal_of
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.fields.built_in import PRICE
from young_fabric.core.nouns.options.option_sets import OPTION_SETS
from young_fabric.core.options.goods import Names
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.variant_prices import VariantPrices
from young_fabric.core.subjects.memberships import Memberships
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.variants import Variant
from young_fabric.service.acting.actors import Work
from young_fabric.service.planning import offering
from young_fabric.service.planning.offering import Offers
from young_fabric.service.values.variants import Matchers
from young_fabric.store.repos import products, variants

MOST_LOOKED_AT = 20_000
"""Variants that are looked at, before and after."""
BATCH = 100
EXAMPLES = 5


@dataclass(frozen=True)
class VariantChange:
    """A SKU or price of a variant that changes: of which product and choice, from what to what."""

    product: int
    title: str
    choice: str
    before: str
    after: str


@dataclass
class VariantEffects:
    """What becomes of variants: how many of how many products, stock that is put by with retired ones, and what changes of those kept.

    `whole` is False when there are more than were looked at.
    """

    products: int = 0
    kept: int = 0
    added: int = 0
    back: int = 0
    retired: int = 0
    retired_stock: int = 0
    skus: int = 0
    prices: int = 0
    sku_examples: list[VariantChange] = field(default_factory=list)
    price_examples: list[VariantChange] = field(default_factory=list)
    retired_examples: list[VariantChange] = field(default_factory=list)
    whole: bool = True

    def __bool__(self) -> bool:
        return bool(self.added or self.back or self.retired or self.skus or self.prices)


def variant_effects(work: Work, before: Definitions, after: Definitions) -> VariantEffects | None:
    """What becomes of variants by other definitions; None where nothing that bears on them differs."""
    sets, types = offering.otherwise(before, after)
    priced = frozenset(
        key
        for key in {*before.option_sets, *after.option_sets}
        if before.option_sets.get(key) != after.option_sets.get(key)
    )
    concerned = sets | priced
    for defs in (before, after):
        types |= {name for key in concerned for name in offering.types_with(defs, key)}
    if not concerned and not types:
        return None
    memberships = Memberships(after, OPTION_SETS)
    gathered = memberships.differ_in(Memberships(before, OPTION_SETS))
    narrowings = [
        memberships.narrowing(after.option_sets[key].condition) for key in gathered if key in after.option_sets
    ]
    by_hand = sorted(
        {number for key in gathered if key in after.option_sets for number in after.option_sets[key].picked}
    )
    wanted = products.any_of(
        [offering.having(concerned, types), products.concerned(gathered, narrowings, by_hand, OPTION_SETS)]
    )
    return _Looker(before, after, memberships).look(work, wanted)


class _Looker:
    """Goes through products and adds up what becomes of their variants."""

    def __init__(self, before: Definitions, after: Definitions, memberships: Memberships) -> None:
        self._old, self._new = Offers(before), Offers(after)
        self._were, self._matchers = Matchers(self._old), Matchers(self._new)
        self._memberships = memberships
        self._prices: dict[int, VariantPrices] = {}
        self._currency = after.shop.currency
        self.found = VariantEffects()

    def look(self, work: Work, wanted: object) -> VariantEffects:
        after, looked = 0, 0
        while True:
            ids = products.ids_where(work.session, wanted, after, BATCH)
            if not ids:
                return self.found
            if looked > MOST_LOOKED_AT:
                self.found.whole = False
                return self.found
            existing = variants.of_products(work.session, ids)
            for number, record in products.get(work.session, ids).items():
                looked += self._product(record.product, existing.get(number, []))
            after = ids[-1]

    def _product(self, product: Product, existing: Sequence[Variant]) -> int:
        offered = replace(product, option_sets=self._memberships.of(product))
        matched = self._matchers.match(offered, existing)
        found = self.found
        retired = [old for old, _ in matched.retired]
        found.kept += len(matched.kept)
        found.added += len(matched.added)
        found.back += len(matched.back)
        found.retired += len(retired)
        found.retired_stock += sum(max(variant.stock or 0, 0) for variant in retired)
        old_offer, new_offer = self._old.of(product), self._new.of(offered)
        otherwise = self._other_skus(product, old_offer, matched.kept)
        found.skus += len(otherwise)
        for old, new in otherwise[: EXAMPLES - len(found.sku_examples)]:
            skus = (old.sku or product.sku, new.sku or product.sku)
            found.sku_examples.append(VariantChange(product.id, product.title, new_offer.words_of(new.choices), *skus))
        for old in retired[: max(EXAMPLES - len(found.retired_examples), 0)]:
            stock = "not counted" if old.stock is None else f"{old.stock} in stock"
            found.retired_examples.append(
                VariantChange(product.id, product.title, old_offer.words_of(old.choices), stock, "retired")
            )
        priced = self._priced(product, old_offer, new_offer, matched.kept)
        if matched.added or matched.back or retired or otherwise or priced:
            found.products += 1
        return len(existing) + len(matched.added) + 1

    def _other_skus(
        self, product: Product, old_offer: Offer, kept: Sequence[tuple[Variant, Variant]]
    ) -> list[tuple[Variant, Variant]]:
        """Variants that are to have another SKU than they were to have: whether somebody has it is another matter."""
        before = self._were.of(old_offer)
        if before is None:
            return []
        wanted = ((before.with_sku(old, product.sku), old, new) for old, new in kept)
        return [(old, new) for had, old, new in wanted if had.sku != new.sku]

    def _priced(
        self, product: Product, old_offer: Offer, new_offer: Offer, kept: Sequence[tuple[Variant, Variant]]
    ) -> int:
        """How many variants cost otherwise."""
        base, changed = decimal_of(product.values.get(PRICE.key)), 0
        for old, new in kept:
            was = self._price(old_offer, base, old)
            now = self._price(new_offer, base, new)
            if was == now:
                continue
            changed += 1
            if len(self.found.price_examples) < EXAMPLES:
                words = new_offer.words_of(new.choices)
                self.found.price_examples.append(
                    VariantChange(product.id, product.title, words, was or "no price", now or "no price")
                )
        self.found.prices += changed
        return changed

    def _price(self, offer: Offer, base: Decimal | None, variant: Variant) -> str | None:
        prices = self._prices.setdefault(id(offer), VariantPrices(offer, self._currency))
        own = decimal_of(variant.values.get(PRICE.key))
        names: Names = tuple(variant.choices.get(axis.key, "") for axis in offer.axes)
        if any(name not in offer.by_key[axis.key].by_code for axis, name in zip(offer.axes, names, strict=True)):
            return None
        return prices.of(own if own is not None else base, names)
