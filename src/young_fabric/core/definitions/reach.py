"""Whom something is for: products of some types, or in some collections."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass


@dataclass(frozen=True)
class Reach:
    """Products of any of some types, and those in any of some collections."""

    types: frozenset[str] = frozenset()
    collections: frozenset[str] = frozenset()

    def __bool__(self) -> bool:
        return bool(self.types or self.collections)

    def __or__(self, other: Reach) -> Reach:
        return Reach(self.types | other.types, self.collections | other.collections)

    def takes_in(self, type_key: str, collections: Collection[str]) -> bool:
        """Whether a product of a type, in some collections, is among them."""
        return type_key in self.types or not self.collections.isdisjoint(collections)
