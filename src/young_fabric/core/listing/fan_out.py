"""Fan-out: from a product to the cards it gets on a listing (the rules of the job, *Fan-out*).

Which cards there can be, and how they are called, follows from definitions and variants alone; which of them stand, and for which of
their variants, from what is left at the moment.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import lru_cache
from hashlib import sha256

from young_fabric.core.base.wording.phrases import EVERY_TOKEN, Phrase, read_phrase
from young_fabric.core.display.listing_properties import (
    ALL_BUT,
    BY,
    DROP,
    HIDE,
    ONE,
    PLAIN_TITLE,
    PRODUCT_TOKEN,
    SKU_TOKEN,
    FanOut,
)

WHOLE = ""
"""The key of the card that stands for a product as a whole."""


@dataclass(frozen=True, slots=True)
class FanVariant:
    """A variant as cards are made of it: the code of each option, the price of one piece (None: not yet), and whether none is left."""

    id: int
    values: Mapping[str, str]
    price: Decimal | None
    sold_out: bool
    sku: str


@dataclass(frozen=True, slots=True)
class FanProduct:
    """A product as cards are made of it: `options` are the keys of those that make variants, in order, `labels` of their values, and its
    variants by position. `sold_out` is whether none is left of one without variants."""

    title: str
    sku: str
    price: Decimal | None
    options: tuple[str, ...] = ()
    labels: Mapping[str, Mapping[str, str]] | None = None
    variants: tuple[FanVariant, ...] = ()
    sold_out: bool = False


@dataclass(frozen=True, slots=True)
class Split:
    """Variants that share a card: its key, the values all of them share by option, and the variants by position."""

    key: str
    shared: Mapping[str, str]
    variants: tuple[FanVariant, ...]


@dataclass(frozen=True, slots=True)
class FannedCard:
    """A card that stands on a listing: of which variant (None: of none), its title, its lowest and highest price, and whether none of it is
    left."""

    key: str
    variant: int | None
    title: str
    price_from: Decimal | None
    price_to: Decimal | None
    sold_out: bool


def split(rule: FanOut, kind: str, product: FanProduct) -> tuple[Split, ...]:
    """The cards a product can have on a kind of listing (home, collection, search), in order; none where it is left out."""
    mode = rule.mode if kind in rule.listings else ONE
    if mode == ONE:
        return (_whole(rule, product),)
    if not product.variants:
        return () if rule.no_variants == DROP else (_whole(rule, product),)
    named = set(rule.options)
    axes = {
        BY: tuple(key for key in product.options if key in named),
        ALL_BUT: tuple(key for key in product.options if key not in named),
    }.get(mode, product.options)
    if not axes:
        return (_whole(rule, product),)
    found: dict[tuple[str, ...], list[FanVariant]] = {}
    for variant in product.variants:
        found.setdefault(tuple(variant.values[key] for key in axes), []).append(variant)
    return tuple(
        _card(rule, product, dict(zip(axes, codes, strict=True)), variants) for codes, variants in found.items()
    )


def _whole(rule: FanOut, product: FanProduct) -> Split:
    return _card(rule, product, {}, product.variants)


def _card(rule: FanOut, product: FanProduct, values: Mapping[str, str], variants: Iterable[FanVariant]) -> Split:
    """A card by what it is known by from release to release: its values, and which title it has where that is not the product's."""
    key = ",".join(f"{option}:{code}" for option, code in values.items())
    card = Split(key, _shared(variants), tuple(variants))
    plain = rule.title == PLAIN_TITLE or title_of(rule, product, card) == product.title
    return card if plain else replace(card, key=f"{key}~{_title_mark(rule.title)}")


@lru_cache(maxsize=256)
def _title_mark(title: str) -> str:
    return sha256(title.encode()).hexdigest()[:8]


def _shared(variants: Iterable[FanVariant]) -> dict[str, str]:
    first, *others = [variant.values for variant in variants] or [{}]
    return {key: code for key, code in first.items() if all(values.get(key) == code for values in others)}


def shown_variant(card: Split) -> FanVariant | None:
    """The variant a card stands for: its first of which any is left, else its first."""
    return next((variant for variant in card.variants if not variant.sold_out), next(iter(card.variants), None))


def title_of(rule: FanOut, product: FanProduct, card: Split) -> str:
    """What a card is called; the product's title where its phrase comes out empty."""
    variant = shown_variant(card)
    labels = product.labels or {}
    values = {key: labels.get(key, {}).get(code, code) for key, code in card.shared.items()}
    sku = product.sku if variant is None else variant.sku
    return _phrase(rule.title).fill({**values, PRODUCT_TOKEN: product.title, SKU_TOKEN: sku}, product.title)


@lru_cache(maxsize=256)
def _phrase(text: str) -> Phrase:
    return read_phrase(text, EVERY_TOKEN)


def is_gone(product: FanProduct, card: Split) -> bool:
    """Whether none is left of a card."""
    return all(variant.sold_out for variant in card.variants) if card.variants else product.sold_out


def fan_out(rule: FanOut, kind: str, product: FanProduct) -> tuple[FannedCard, ...]:
    """The cards of a product that stand on a kind of listing at the moment, in order."""
    cards = [(card, is_gone(product, card)) for card in split(rule, kind, product)]
    kept = standing(rule, [gone for _, gone in cards])
    return tuple(_fanned(rule, product, *cards[index]) for index in kept)


def standing(rule: FanOut, gone: list[bool]) -> list[int]:
    """Which of a product's cards stand, by position, of those of which none is left told apart: hidden ones are out, and of more than `cap`
    those in stock come first."""
    kept = [index for index, sold_out in enumerate(gone) if not (sold_out and rule.sold_out == HIDE)]
    if rule.cap and len(kept) > rule.cap:
        first = sorted(kept, key=lambda index: gone[index])[: rule.cap]
        return sorted(first)
    return kept


def _fanned(rule: FanOut, product: FanProduct, card: Split, gone: bool) -> FannedCard:
    variant = shown_variant(card)
    left = [other for other in card.variants if not other.sold_out] or card.variants
    prices = [price for price in [_price(product, other) for other in left] or [product.price] if price is not None]
    title = title_of(rule, product, card)
    lowest, highest = (min(prices), max(prices)) if prices else (None, None)
    return FannedCard(card.key, None if variant is None else variant.id, title, lowest, highest, gone)


def _price(product: FanProduct, variant: FanVariant) -> Decimal | None:
    return product.price if variant.price is None else variant.price


def values_of_key(key: str) -> dict[str, str]:
    """The values that a card is known by, by option: what its key says."""
    values = key.partition("~")[0]
    return {option: code for option, _, code in (part.partition(":") for part in values.split(","))} if values else {}
