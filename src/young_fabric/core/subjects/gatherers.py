"""What products are gathered into, by hand and by condition: a registry, so that one more is a noun and a line here."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from young_fabric.core.nouns.content.collections import COLLECTIONS
from young_fabric.core.nouns.options.option_sets import OPTION_SETS
from young_fabric.core.subjects.products import Product


@dataclass(frozen=True)
class Gatherer:
    """A noun whose things gather products: each is a `Gathering` (`picked`, `kept_out`, `condition`).

    `member` is the member of products, and their column, that says which of its things they are in; those without have theirs among
    `gathered`. What `groups` decides which fields a product has, so that one that moves is judged anew; what `offers` decides what
    can be chosen of it, so that its variants are matched anew.
    """

    noun: str
    member: str = ""
    groups: bool = False
    offers: bool = False

    def of(self, product: Product) -> tuple[str, ...]:
        """The things of the noun a product is in, by key, as it was last placed."""
        found: tuple[str, ...] = getattr(product, self.member) if self.member else product.gathered.get(self.noun, ())
        return found

    def note(self, key: str) -> str:
        """What is noted of a thing whose products are not yet gathered."""
        return f"{self.noun}:{key}"


GATHERERS: dict[str, Gatherer] = {
    gatherer.noun: gatherer
    for gatherer in (
        Gatherer(COLLECTIONS, "collections", groups=True),
        Gatherer(OPTION_SETS, "option_sets", offers=True),
    )
}
"""What gathers products, by noun."""


def put_in(product: Product, found: Mapping[str, tuple[str, ...]]) -> Product:
    """A product in the things it is in, by noun."""
    members: dict[str, Any] = {}
    gathered = {}
    for noun, keys in found.items():
        member = GATHERERS[noun].member
        if member:
            members[member] = keys
        elif keys:
            gathered[noun] = keys
    return replace(product, gathered=gathered, **members)


def gathered_otherwise(before: Product, after: Product) -> list[Gatherer]:
    """What a product is in other things of than it was."""
    return [gatherer for gatherer in GATHERERS.values() if gatherer.of(before) != gatherer.of(after)]
