"""What the shop's templates are given: typed, and made from render documents alone."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.nouns.definitions import Shop
from young_fabric.core.nouns.product_types import ProductType, ancestry, descendants
from young_fabric.core.pages.document import RenderDoc


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
    return [Link(above.name, f"{base}/{above.slug if slug else above.key}") for above in found]


def parts(
    type_key: str | None, types: Mapping[str, ProductType], counts: Mapping[str, int], base: str, slug: bool
) -> list[Link]:
    """The collections right below one (or at the top) that have cards; counts are of everything below."""
    children = sorted((child for child in types.values() if child.parent == type_key), key=lambda child: child.name)
    links = [
        Link(child.name, f"{base}/{child.slug if slug else child.key}", counts.get(child.key, 0)) for child in children
    ]
    return [link for link in links if link.count]


def below(counts: Mapping[str, int], types: Mapping[str, ProductType]) -> dict[str, int]:
    """Counts per type summed over all below it."""
    return {key: sum(counts.get(inner, 0) for inner in descendants(key, types)) for key in types}
