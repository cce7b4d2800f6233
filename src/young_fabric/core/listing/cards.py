"""Cards of products: which documents a surface has of one, and by which of them it stands on a listing."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property

from young_fabric.core.display.listing_properties import COLLECTION, HOME, FanOut
from young_fabric.core.listing.fan_out import WHOLE, FanProduct, FanVariant, Split, split, title_of, values_of_key
from young_fabric.core.nouns.content import collections
from young_fabric.core.options.sold import Sold, as_card
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.pages.listed import Listing
from young_fabric.core.pages.plan import Plan
from young_fabric.core.subjects.products import Product

MADE_FOR = (HOME, COLLECTION)
"""The kinds of listings that cards are made for."""
NONE_GONE: frozenset[int] = frozenset()


@dataclass(frozen=True)
class Card:
    """A card a product can have: its key, its title, the variants it stands for, the values they share, and whether the product is shown
    as it is by itself."""

    key: str
    title: str
    variants: frozenset[int]
    shared: Mapping[str, str]
    plain: bool

    @property
    def split_by(self) -> tuple[str, ...]:
        """The options whose values tell it from the other cards of its product."""
        return tuple(values_of_key(self.key))

    def product(self, shown: Product, gone: frozenset[int] = NONE_GONE) -> Product:
        """A product as the card shows it, of those of its variants that are not gone where any is left."""
        return shown if self.plain else as_card(shown, self.variants, gone, self.title)


ONE = Card(WHOLE, "", frozenset(), {}, True)
"""That of a product which has one card, as it is by itself."""


class Cards:
    """The cards a product can have by a plan of the surface that stands on listings; asked of a product with what can be chosen of it."""

    def __init__(self, fans: Mapping[str, FanOut], shown: Product) -> None:
        self._fans, self._shown = fans, shown

    @cached_property
    def _fanned(self) -> FanProduct:
        return fan_product(self._shown)

    def of(self, kind: str, collection: str = "") -> tuple[Card, ...]:
        """Those on a kind of listing, on that of a collection; in order."""
        if not self._fans:
            return (ONE,)
        rule = self._fans.get(collection) or self._fans[""]
        return tuple(self._card(rule, found) for found in split(rule, kind, self._fanned))

    def on(self, listing: Listing) -> tuple[Card, ...]:
        """Those on a listing."""
        return self.of(COLLECTION, listing.key if listing.noun == collections.NOUN.code else "")

    def every(self, kinds: Iterable[str]) -> dict[str, Card]:
        """All of any listing, by key."""
        found = [card for kind in kinds for key in self._fans or ("",) for card in self.of(kind, key)]
        return {card.key: card for card in found}

    def _card(self, rule: FanOut, found: Split) -> Card:
        title = title_of(rule, self._fanned, found)
        ids = frozenset(variant.id for variant in found.variants)
        plain = len(ids) == len(self._fanned.variants) and title == self._shown.title
        return Card(found.key, title, ids, found.shared, plain)


def fan_product(shown: Product) -> FanProduct:
    """A product with what can be chosen of it, as fan-out sees it while nothing is known of stock and prices."""
    sold: Sold | None = shown.sold
    if sold is None:
        return FanProduct(shown.title, shown.sku, None)
    keys = sold.offer.axis_keys
    labels = {key: {code: value.label for code, value in sold.offer.by_key[key].by_code.items()} for key in keys}
    variants = tuple(
        FanVariant(variant.id, variant.choices, None, False, variant.sku or "") for variant in sold.variants
    )
    return FanProduct(shown.title, shown.sku, None, tuple(keys), labels, variants)


def documents_on(plan: Plan, shown: Product, kinds: Iterable[str]) -> dict[str, tuple[Card, RenderDoc]]:
    """The documents of a product on the surface of a plan, each with its card, by the card's key: one where it does not stand on listings."""
    cards = Cards(plan.fans, shown).every(kinds) if plan.fans else {WHOLE: ONE}
    return {key: (card, plan.render(card.product(shown))) for key, card in cards.items()}
