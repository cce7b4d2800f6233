"""Variants as structured data: a schema.org ProductGroup with hasVariant and variesBy, each variant a Product with its Offer."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.kinds.schema_org import varies_by
from young_fabric.core.nouns.fields.built_in import COVER, PRICE
from young_fabric.core.options.offers import Offer
from young_fabric.core.subjects.variants import OWN, Variant

_OF_ONE = frozenset(field.schema_org for field in OWN.values() if field.schema_org and field.key != COVER.key)
"""What is said of each variant, never of them all."""
MOST_VARIANTS = 500
"""So many variants are told at most; a page with thousands would be all data."""


@dataclass(frozen=True)
class VariantData:
    """A variant as it is offered: its SKU, the price of one piece, whether none is left, and the address that has it chosen."""

    variant: Variant
    sku: str
    price: str | None
    sold_out: bool
    url: str


def product_group(
    data: Mapping[str, Any], number: int, offer: Offer, variants: Sequence[VariantData], currency: str, root: str
) -> dict[str, Any]:
    """The data of a product as that of a group of variants; as it is where there are none."""
    if not variants or not data:
        return dict(data)
    out = {name: value for name, value in data.items() if name not in _OF_ONE}
    out |= {
        "@type": "ProductGroup",
        "productGroupID": str(data.get("sku") or number),
        "variesBy": [_varies_by(key, offer) for key in offer.axis_keys],
        "hasVariant": [_variant(data, found, offer, currency, root) for found in variants[:MOST_VARIANTS]],
    }
    return out


def _varies_by(key: str, offer: Offer) -> str:
    """The property variants differ by: schema.org's own where the option is called so, else the option's name."""
    found = varies_by(key)
    return f"https://schema.org/{found}" if found else offer.by_key[key].option.name


def _variant(data: Mapping[str, Any], found: VariantData, offer: Offer, currency: str, root: str) -> dict[str, Any]:
    chosen = {key: offer.by_key[key].label(code) for key, code in found.variant.choices.items() if key in offer.by_key}
    out: dict[str, Any] = {
        "@type": "Product",
        "name": ", ".join([str(data.get("name", "")), *chosen.values()]),
        "url": found.url,
    }
    if found.sku:
        out["sku"] = found.sku
    for key, field in OWN.items():
        value = found.variant.values.get(key)
        if field.schema_org and key != PRICE.key and isinstance(value, str):
            out[field.schema_org] = value
    pictures = found.variant.values.get(COVER.key)
    if isinstance(pictures, list) and pictures:
        out["image"] = [f"{root}/files/{picture['file']}-1600.webp" for picture in pictures]
    more = []
    for key, words in chosen.items():
        if varies_by(key):
            out[varies_by(key)] = words
        else:
            more.append({"@type": "PropertyValue", "name": offer.by_key[key].option.name, "value": words})
    if more:
        out["additionalProperty"] = more
    if found.price is not None:
        out["offers"] = {
            "@type": "Offer",
            "price": found.price,
            "priceCurrency": currency,
            "url": found.url,
            "availability": f"https://schema.org/{'OutOfStock' if found.sold_out else 'InStock'}",
        }
    return out
