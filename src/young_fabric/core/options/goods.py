"""What is quoted: a product's figures, its variants, and what is counted of them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal

from young_fabric.core.options.offers import Offer
from young_fabric.core.subjects.unit_price import PerReference

Names = tuple[str, ...]
"""The codes of a combination, in the order of the options that make variants."""


@dataclass(frozen=True, slots=True)
class VariantFacts:
    """What a variant has of its own: amounts as decimals, weights in grams; None where the product's holds. `stock` None is not counted."""

    id: int | None = None
    sku: str | None = None
    price: Decimal | None = None
    former_price: Decimal | None = None
    weight: Decimal | None = None
    cost: Decimal | None = None
    stock: int | None = None
    per: PerReference | None = None


@dataclass(frozen=True)
class Goods:
    """What is quoted: a product's own figures, what can be chosen of it, and its variants by combination.

    `stocks` counts what single values and requests have of their own: (option, code) → pieces, code "" of a request. `tried` is
    said of an offer that no variants were made of yet, so that all its combinations stand for them.
    """

    offer: Offer
    currency: str
    locale: str = "en"
    own: VariantFacts = field(default_factory=VariantFacts)
    variants: Mapping[Names, VariantFacts] = field(default_factory=dict)
    stocks: Mapping[tuple[str, str], int] = field(default_factory=dict)
    tried: bool = False
