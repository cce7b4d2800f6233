"""Cards of products that something can be chosen of: what stands on one at the moment, and where it leads."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from sqlalchemy.orm import Session

from young_fabric.core.display.listing_properties import HOME
from young_fabric.core.display.surfaces import listed_surface
from young_fabric.core.listing.cards import MADE_FOR, Cards
from young_fabric.core.listing.fan_out import WHOLE, values_of_key
from young_fabric.core.options.choosing import addressed
from young_fabric.core.options.sold import as_card
from young_fabric.core.pages.document import RenderDoc
from young_fabric.service.sales.selling import Selling, live_selling


@dataclass(frozen=True)
class SoldCard:
    """A card by its key and title, with what its product is sold as."""

    selling: Selling
    key: str
    title: str

    @cached_property
    def values(self) -> Mapping[str, str]:
        """The values that all its variants share and it is told by, by option."""
        return values_of_key(self.key)

    @cached_property
    def variants(self) -> frozenset[int]:
        """The variants it stands for."""
        wanted = self.values.items()
        return frozenset(
            number for number, variant in self.selling.variants.items() if wanted <= variant.choices.items()
        )

    @property
    def sold_out(self) -> bool:
        """Whether none of it can be had."""
        return self.selling.sold_out if not self.values else self.variants <= self.selling.gone

    @property
    def choice(self) -> list[tuple[str, str]]:
        """What of a choice the address that it leads to holds."""
        return addressed(self.selling.goods.offer, dict(self.values)) if self.values else []

    def document(self, doc: RenderDoc) -> RenderDoc:
        """What it shows, where `doc` is what it shows while all of its variants are left."""
        if self.key == WHOLE:
            return self.selling.document(doc.surface) if self.selling.repriced else doc
        if self.variants.isdisjoint(self.selling.gone):
            return doc
        product = as_card(self.selling.product, self.variants, self.selling.gone, self.title)
        return self.selling.document(doc.surface, product)


def home_keys(session: Session, ids: Sequence[int]) -> dict[int, list[str]]:
    """Product → the cards it has on the home page, in order, of those that are live."""
    return {
        number: [card.key for card in _cards(selling).of(HOME)]
        for number, selling in live_selling(session, ids).items()
    }


def own_keys(session: Session, number: int) -> list[str]:
    """The cards that a live product can have on listings, in order."""
    sold = live_selling(session, [number]).get(number)
    return list(_cards(sold).every(MADE_FOR)) if sold is not None else []


def _cards(selling: Selling) -> Cards:
    plan = selling.plans.of_product(selling.product, listed_surface().code, selling.own)
    return Cards(plan.fans, selling.product)
