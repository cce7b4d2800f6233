"""What pages show of products besides their own values: names of what they refer to, and what shoppers can choose of them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from sqlalchemy.orm import Session

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.sold import as_sold, offer_mark, sold_of
from young_fabric.core.options.variant_prices import VariantPrices
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.variants import Variant
from young_fabric.service.planning.naming import named
from young_fabric.service.planning.offering import Offers
from young_fabric.store.repos import variants


class Showing:
    """Puts it into products, by some definitions; what is alike for many is worked out once."""

    def __init__(self, defs: Definitions) -> None:
        self.offers = Offers(defs)
        self._defs = defs
        self._known: dict[int, tuple[Offer, str, VariantPrices]] = {}

    def of(self, session: Session, found: Sequence[Product]) -> list[Product]:
        """Products of the draft as pages are made of them."""
        wanted = [product.id for product in found if self.offers.sets(product.type, product.option_sets)]
        existing = variants.of_products(session, wanted, retired=False) if wanted else {}
        return self.sold(named(session, self._defs, found), existing)

    def sold(self, found: Sequence[Product], existing: Mapping[int, Sequence[Variant]]) -> list[Product]:
        """Products with what shoppers can choose of them, by their variants."""
        return [self._sold(product, existing.get(product.id, ())) for product in found]

    def _sold(self, product: Product, existing: Sequence[Variant]) -> Product:
        offer = self.offers.of(product)
        if not offer.options:
            return product
        _, mark, prices = self._known_of(offer)
        return as_sold(product, sold_of(product, offer, mark, existing, prices))

    def _known_of(self, offer: Offer) -> tuple[Offer, str, VariantPrices]:
        known = self._known.get(id(offer))
        if known is None:
            known = offer, offer_mark(offer), VariantPrices(offer, self._defs.shop.currency)
            self._known[id(offer)] = known
        return known
