"""Listings by name: where cards stand, of types, collections and records, and of what products have the same of a field."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, NamedTuple

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.nouns.content import collections, records
from young_fabric.core.nouns.fields.fields import NOUN as FIELDS
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.types import product_types


class Listing(NamedTuple):
    """A listing by the noun and key of what it lists; of a field, the key ends in a mark of one value."""

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


def read_listing(text: str) -> Listing:
    """The inverse of `str` of a listing."""
    noun, _, key = text.partition(":")
    return Listing(noun, key)


def same_listings(field: Field, value: Any) -> list[Listing]:
    """Where the cards of products stand that have any of the things of a value, of one field."""
    return [Listing(FIELDS.code, f"{field.key}:{content_hash(item)[:24]}") for item in items_of(field, value)]


def items_of(field: Field, value: Any) -> Iterable[Any]:
    """The things of a value one by one, those that name something by its key or number."""
    if value is None:
        return []
    if field.targets:
        return [item for _, item in field.items(value)]
    return value if field.many and isinstance(value, list) else [value]
