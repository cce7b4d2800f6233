"""What the shop's templates are given: typed, and made from render documents alone."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.definitions import Shop
from young_fabric.core.document import RenderDoc
from young_fabric.core.product_types import ProductType, ancestry, descendants

_DIRECT = {"title": "name", "sku": "sku", "gtin": "gtin", "description": "description"}


@dataclass(frozen=True)
class Link:
    """A place to go, with how many cards are there."""

    name: str
    href: str
    count: int = 0


@dataclass(frozen=True)
class Frame:
    """What every page has: the shop, the way around it, whether it is a proof, and whether the studio looks on."""

    shop: Shop
    nav: Sequence[Link]
    home: str
    proof: bool
    watched: bool


@dataclass(frozen=True)
class CardContext:
    """A card: its document, where it leads, and whether it is sold out."""

    doc: RenderDoc
    href: str
    sold_out: bool


@dataclass(frozen=True)
class PageContext:
    """A product page."""

    frame: Frame
    title: str
    doc: RenderDoc
    trail: Sequence[Link]
    stock: int | None
    json_ld: Mapping[str, Any]


@dataclass(frozen=True)
class ListingContext:
    """A listing: cards of a collection, its parts, and the pages before and after."""

    frame: Frame
    title: str
    trail: Sequence[Link]
    parts: Sequence[Link]
    cards: Sequence[CardContext]
    total: int
    before: str | None
    after: str | None


@dataclass(frozen=True)
class HomeCollection:
    """A collection on the home page, with its first cards."""

    link: Link
    cards: Sequence[CardContext]


def trail(type_key: str, types: Mapping[str, ProductType], base: str, slug: bool) -> list[Link]:
    """The collections a product is in, from the top down."""
    found = [types[key] for key in reversed(ancestry(type_key, types)) if key in types]
    return [Link(one.name, f"{base}/{one.slug if slug else one.key}") for one in found]


def parts(
    type_key: str | None, types: Mapping[str, ProductType], counts: Mapping[str, int], base: str, slug: bool
) -> list[Link]:
    """The collections right below one (or at the top) that have cards; counts are of everything below."""
    children = sorted((one for one in types.values() if one.parent == type_key), key=lambda one: one.name)
    links = [Link(one.name, f"{base}/{one.slug if slug else one.key}", counts.get(one.key, 0)) for one in children]
    return [link for link in links if link.count]


def below(counts: Mapping[str, int], types: Mapping[str, ProductType]) -> dict[str, int]:
    """Counts per type summed over all below it."""
    return {key: sum(counts.get(one, 0) for one in descendants(key, types)) for key in types}


def json_ld(facts: RenderDoc, currency: str, stock: int | None, url: str, pictures_at: str) -> dict[str, Any]:
    """schema.org Product from the structured-data document; what has no property of its own is an additional one."""
    out: dict[str, Any] = {"@context": "https://schema.org", "@type": "Product", "url": url}
    more = []
    for entry in facts.entries():
        if entry.field in _DIRECT:
            out[_DIRECT[entry.field]] = entry.text
        elif entry.field == "price":
            sold_out = stock is not None and stock <= 0
            out["offers"] = {
                "@type": "Offer",
                "price": entry.value,
                "priceCurrency": currency,
                "url": url,
                "availability": f"https://schema.org/{'OutOfStock' if sold_out else 'InStock'}",
            }
        elif entry.field == "pictures":
            out["image"] = [f"{pictures_at}/{one['file']}-1600.webp" for one in entry.value]
        elif entry.field != "unit_price" and entry.text:
            more.append({"@type": "PropertyValue", "name": entry.label, "value": entry.text})
    if more:
        out["additionalProperty"] = more
    return out
