"""Which listings a product's cards stand in, and where: those of its type and all above it, and of its collections."""

from __future__ import annotations

from typing import NamedTuple

from young_fabric.core.nouns import collections, product_types
from young_fabric.core.subjects.memberships import LAST, Memberships, Place
from young_fabric.core.subjects.products import Product


class Listing(NamedTuple):
    """A listing by the noun and key of what it lists."""

    noun: str
    key: str

    def __str__(self) -> str:
        return f"{self.noun}:{self.key}"


def of_type(key: str) -> Listing:
    """The listing of a product type."""
    return Listing(product_types.NOUN.code, key)


def of_collection(key: str) -> Listing:
    """The listing of a collection."""
    return Listing(collections.NOUN.code, key)


def read_listing(text: str) -> Listing:
    """The inverse of `str` of a listing."""
    noun, _, key = text.partition(":")
    return Listing(noun, key)


def places(asked: Memberships, product: Product) -> dict[Listing, Place]:
    """Where the cards of a product stand, by listing."""
    by_title = Place(LAST, "0", product.title)
    found = {of_type(key): by_title for key in asked.defs.chain(product.type)}
    return found | {of_collection(key): asked.place(key, product) for key in product.collections}


def place_mark(place: Place) -> str:
    """What tells places apart, in a short text."""
    return f"{place.rank} {place.number} {place.text}"
