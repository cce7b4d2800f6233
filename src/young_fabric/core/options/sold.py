"""A product with all that can be chosen of it, as pages are made of it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from decimal import Decimal
from typing import Any

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.base.money import decimal_of
from young_fabric.core.base.units import plain_decimal
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields.built_in import CODE, PRICE, TITLE
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.variant_prices import VariantPrices
from young_fabric.core.subjects.derived import DERIVED
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.variants import Variant


@dataclass(frozen=True)
class Sold:
    """What can be chosen of a product, and its variants that are offered, in order.

    `mark` tells apart all that shoppers are offered; `lowest` is the price of the cheapest variant, None where there is none;
    `differ` says whether others cost more; `own` is what that cheapest one has of its own that computed fields are computed from.
    `base` is the product's own price, of which `prices` reckon those of its variants.
    """

    offer: Offer
    variants: tuple[Variant, ...]
    mark: str
    lowest: str | None
    differ: bool
    own: Mapping[str, Any] = field(default_factory=dict)
    base: Decimal | None = None
    prices: VariantPrices | None = field(default=None, compare=False, repr=False)


def offer_mark(offer: Offer) -> str:
    """A hash of all that shoppers are offered, whatever they choose."""
    options = [
        [state_of(offered.option), [state_of(value) for value in offered.values], offered.set]
        for offered in offer.options
    ]
    return content_hash([options, [dict(rule) for rule in offer.left_out], sorted(offer.replaces), offer.skus])


def sold_of(product: Product, offer: Offer, mark: str, variants: Iterable[Variant], prices: VariantPrices) -> Sold:
    """A product's offer with its variants; `mark` is that of the offer, `prices` reckons those of its variants."""
    standing = tuple(
        variant for variant in variants if not variant.retired and offer.names_of(variant.choices) is not None
    )
    base = decimal_of(product.values.get(PRICE.key))
    found = _range(base, offer, standing, prices)
    states = [[dict(variant.choices), dict(variant.values), variant.sku] for variant in standing]
    return Sold(offer, standing, content_hash([mark, states]), *found, base, prices)


_READ = frozenset(key for derived in DERIVED.values() for key in derived.reads) - {PRICE.key}


def _range(
    own: Decimal | None, offer: Offer, variants: Iterable[Variant], prices: VariantPrices
) -> tuple[str | None, bool, Mapping[str, Any]]:
    """(the lowest price of some variants, whether others cost more, what the first of that price has for computed fields)."""
    keys = offer.axis_keys
    first: dict[str, Variant] = {}
    for variant in variants:
        made = prices.of(_base(variant, own), tuple([variant.choices[key] for key in keys]))
        if made is not None:
            first.setdefault(made, variant)
    if not first:
        return None, False, {}
    lowest = min(first, key=Decimal)
    values = first[lowest].values
    return lowest, len(first) > 1, {key: values[key] for key in _READ & values.keys()}


def as_left(shown: Product, gone: frozenset[int]) -> Product:
    """A product as pages show it, at the prices of those of its variants that are in stock; of all when none is.

    `shown` has what can be chosen of it in it, `gone` are the variants of which none is left at this moment, by id.
    """
    sold: Sold | None = shown.sold
    if sold is None or not sold.variants or sold.prices is None:
        return shown
    left = [variant for variant in sold.variants if variant.id not in gone]
    lowest, differ, own = _range(sold.base, sold.offer, left or sold.variants, sold.prices)
    if lowest is None or (lowest, differ, own) == (sold.lowest, sold.differ, sold.own):
        return shown
    return as_sold(shown, replace(sold, lowest=lowest, differ=differ, own=own))


def as_card(shown: Product, ids: frozenset[int], gone: frozenset[int], title: str) -> Product:
    """A product as a card shows it that stands for some of its variants: as the first of them of which any is left, else the first, at the
    price of the cheapest that is left; and by the card's title."""
    sold: Sold | None = shown.sold
    if sold is None:
        return replace(shown, values={**shown.values, TITLE.key: title})
    among = tuple(variant for variant in sold.variants if variant.id in ids)
    variant = next((variant for variant in among if variant.id not in gone), next(iter(among), None))
    own = [(TITLE.key, title), *([(CODE.key, variant.sku)] if variant is not None and variant.sku else [])]
    base = shown.values if sold.base is None else {**shown.values, PRICE.key: plain_decimal(sold.base)}
    made = as_chosen(replace(shown, values=base), variant, own)
    if sold.prices is None:
        return made
    left = [variant for variant in among if variant.id not in gone]
    lowest, differ, reads = _range(sold.base, sold.offer, left or among, sold.prices)
    return as_sold(made, replace(sold, variants=among, lowest=lowest, differ=differ, own=reads))


def _base(variant: Variant, own: Decimal | None) -> Decimal | None:
    mine = decimal_of(variant.values.get(PRICE.key))
    return own if mine is None else mine


def as_sold(product: Product, sold: Sold) -> Product:
    """A product that pages are made of: with what can be chosen of it, at the price of its cheapest variant."""
    values = (
        product.values if sold.lowest is None else {**product.values, PRICE.key: plain_decimal(Decimal(sold.lowest))}
    )
    return replace(product, values=values, sold=sold)


def as_chosen(product: Product, variant: Variant | None, own: Sequence[tuple[str, Any]]) -> Product:
    """A product as one of its variants, with values of its own in place of the product's, and `own` ones that were reckoned."""
    values = dict(product.values)
    if variant is not None:
        values |= variant.values
    for key, value in own:
        if value is None:
            values.pop(key, None)
        else:
            values[key] = value
    return replace(product, values=values)
