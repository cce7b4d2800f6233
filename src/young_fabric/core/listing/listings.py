"""Which listings a product's cards stand in, and where: those of its type and all above it, and of its collections."""

from __future__ import annotations

from collections.abc import Iterator

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.content import records
from young_fabric.core.pages.listed import Listing, of_collection, of_record, of_type, same_listings
from young_fabric.core.subjects.memberships import LAST, Memberships, Place
from young_fabric.core.subjects.product_labels import things_of_target
from young_fabric.core.subjects.products import Product


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


def places(asked: Memberships, product: Product) -> dict[Listing, Place]:
    """Where the cards of a product stand, by listing."""
    by_title = Place(LAST, "0", product.title)
    found = {of_type(key): by_title for key in asked.defs.chain(product.type)}
    found |= {of_record(key): by_title for key in paged_records(asked.defs, product)}
    for key in asked.defs.alike:
        if key not in product.unread:
            found |= dict.fromkeys(same_listings(asked.defs.all_fields[key], product.values.get(key)), by_title)
    return found | {of_collection(key): asked.place(key, product) for key in product.collections}


def place_mark(place: Place, position: int) -> str:
    """What tells places apart, in a short text: where a product stands, and which of its cards it is."""
    return f"{place.rank} {place.number} {place.text}{f' {position}' if position else ''}"
