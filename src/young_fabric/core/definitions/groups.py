"""Groups of products that are alike in all but their values."""

from __future__ import annotations

from typing import NamedTuple

from young_fabric.core.nouns.fields.fields import PRODUCTS


class Group(NamedTuple):
    """Products that share all that decides their pages but their values: a type, and the collections that say something.

    `product` is the id of one with settings of its own. Groups `of` records are those of a record type.
    """

    type: str
    collections: tuple[str, ...] = ()
    product: str | None = None
    of: str = PRODUCTS
