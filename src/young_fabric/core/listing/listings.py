"""Which listings a product's cards stand in, and where: those of its type and all above it, and of its collections."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from young_fabric.core.nouns import collections, product_types, records
from young_fabric.core.nouns.definitions import Definitions
from young_fabric.core.subjects.memberships import LAST, Memberships, Place
from young_fabric.core.subjects.naming import things_of_target
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


def of_record(key: str) -> Listing:
    """The listing of what refers to a record."""
    return Listing(records.NOUN.code, key)


def paged_records(defs: Definitions, product: Product) -> Iterator[str]:
    """The records with pages that a product refers to, by fields it has that are not for staff alone."""
    group = defs.group_of(product.type, product.collections)
    for field in defs.naming_of(group):
        key = field.key
        for target, item in field.items(product.values.get(key)):
            found = things_of_target(defs, target)
            things = found.by_code if found is not None and found.noun == records.NOUN.code else {}
            if item in things and records.page_of(things[item], defs):
                yield item


def read_listing(text: str) -> Listing:
    """The inverse of `str` of a listing."""
    noun, _, key = text.partition(":")
    return Listing(noun, key)


def places(asked: Memberships, product: Product) -> dict[Listing, Place]:
    """Where the cards of a product stand, by listing."""
    by_title = Place(LAST, "0", product.title)
    found = {of_type(key): by_title for key in asked.defs.chain(product.type)}
    found |= {of_record(key): by_title for key in paged_records(asked.defs, product)}
    return found | {of_collection(key): asked.place(key, product) for key in product.collections}


def place_mark(place: Place) -> str:
    """What tells places apart, in a short text."""
    return f"{place.rank} {place.number} {place.text}"
