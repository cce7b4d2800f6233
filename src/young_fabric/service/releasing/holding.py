"""Why a product is held back from a release: it stays live whole as it was, with the option sets and variants it had."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy.orm import Session

from young_fabric.core.nouns.fields.built_in import ADDRESS, CODE, TITLE
from young_fabric.core.subjects.assessing import Assessor
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.variants import Variant
from young_fabric.service.planning.offering import Offers
from young_fabric.service.values.variants import Matchers
from young_fabric.store.repos import variants


class HoldingBack:
    """Tells why products of some definitions can't go live."""

    def __init__(self, session: Session, assessor: Assessor, offers: Offers) -> None:
        self._session, self._assessor = session, assessor
        self._matchers = Matchers(offers)
        self._matching = bool(variants.unmatched(session))

    def reasons(self, found: Sequence[Product]) -> dict[int, str]:
        """Product → why it is held back, of those that are."""
        offers = self._matchers.offers
        with_axes = [product for product in found if offers.of(product).axes] if self._matching else []
        existing = variants.of_products(self._session, [product.id for product in with_axes]) if with_axes else {}
        out = {}
        for product in found:
            reason = self._reason(product) or self._unmatched(product, existing.get(product.id, ()))
            if reason is not None:
                out[product.id] = reason
        return out

    def _reason(self, product: Product) -> str | None:
        """Its title, address or SKU is wrong, or what it is offered makes too many variants."""
        for definition in (TITLE, ADDRESS, CODE):
            outcome = self._assessor.rules(definition.key).outcome(product)
            if outcome.state == "wrong" and outcome.wrong is not None:
                return f"{definition.label}: {outcome.wrong.message}"
            if outcome.state == "empty" and definition.key != CODE.key:
                return f"{definition.label} is missing"
        too_many = self._matchers.offers.of(product).too_many
        return f"Options: {too_many.message}" if too_many is not None else None

    def _unmatched(self, product: Product, existing: Sequence[Variant]) -> str | None:
        if not self._matching:
            return None
        matched = self._matchers.match(product, existing)
        if matched.added or matched.retired or matched.back:
            return "Its variants are still being put in step with its options"
        return None
