"""Which collections products are in, and where they stand in them: computed from definitions and values alone."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from typing import Any, NamedTuple, Protocol

from young_fabric.core.base.conditions import BY_TEXT, JOINS, comparison_of, holds, tests_of
from young_fabric.core.base.hashes import content_hash
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.content import collections
from young_fabric.core.nouns.content.collections import NEWEST, TITLE, Collection
from young_fabric.core.nouns.fields.conditions import TYPE, comparisons
from young_fabric.core.nouns.types.product_types import descendants
from young_fabric.core.subjects.products import Product

PICKED, MATCHES, KEPT_OUT = "picked", "matches", "kept out"
LAST = 2**31 - 2
"""The rank of those not picked; those without what the listing is ordered by stand after them."""
_NEVER_OF_NOTHING = frozenset({"empty", "is_not", "none_of"})


class Place(NamedTuple):
    """Where a card stands in a listing: by rank, then number, then text in the shop's collation, then id."""

    rank: int = LAST
    number: str = "0"
    text: str = ""


@dataclass(frozen=True)
class Narrowing:
    """What all that meet a condition have, for looking there alone: never fewer than meet it.

    `every` says nothing of them; else `all` or `any` of the parts hold, or they have a value for `field`, or are of `types`.
    """

    every: bool = False
    field: str | None = None
    types: frozenset[str] | None = None
    all: tuple[Narrowing, ...] = ()
    any: tuple[Narrowing, ...] | None = None


EVERY = Narrowing(every=True)


class Gathering(Protocol):
    """What gathers products: those picked by hand, and those that meet a condition and are not kept out by hand."""

    @property
    def picked(self) -> tuple[int, ...]:
        """Products by hand, in their order."""

    @property
    def kept_out(self) -> tuple[int, ...]:
        """Products that are not in it, whatever the condition."""

    @property
    def condition(self) -> Mapping[str, Any] | None:
        """What products meet that are in it, None for none."""


class Memberships:
    """The collections of some definitions, or what else gathers products by hand and by condition, ready to be asked of any."""

    def __init__(self, defs: Definitions, noun: str = collections.NOUN.code) -> None:
        self.defs = defs
        self.noun = noun
        self._kept_out = {key: frozenset(thing.kept_out) for key, thing in self._collections.items()}
        self._tested = [
            (key, thing.condition) for key, thing in self._collections.items() if thing.condition is not None
        ]
        self._under: dict[str, list[str]] = {}

    @property
    def _collections(self) -> Mapping[str, Gathering]:
        return self.defs.things[self.noun]

    @cached_property
    def _comparisons(self) -> Mapping[str, str]:
        return comparisons(self.defs)

    @cached_property
    def _positions(self) -> Mapping[str, Mapping[int, int]]:
        """Collection → product → its place among those picked by hand."""
        return {
            key: {product: rank for rank, product in enumerate(thing.picked)}
            for key, thing in self._collections.items()
        }

    @cached_property
    def _picked_in(self) -> Mapping[int, tuple[str, ...]]:
        found: dict[int, list[str]] = defaultdict(list)
        for key, thing in self._collections.items():
            for product in thing.picked:
                found[product].append(key)
        return {product: tuple(keys) for product, keys in found.items()}

    def of(self, product: Product) -> tuple[str, ...]:
        """The collections a product is in, by key."""
        found = set(self._picked_in.get(product.id, ()))
        if self._tested:
            values = self.values(product)
            for key, condition in self._tested:
                if key not in found and product.id not in self._kept_out[key] and self.meets(condition, values):
                    found.add(key)
        return tuple(sorted(found))

    def values(self, product: Product) -> Mapping[str, Any]:
        """What conditions are asked of: a product's values, and its type with all above it."""
        under = self._under.get(product.type)
        if under is None:
            under = self._under[product.type] = list(self.defs.chain(product.type))
        return {**product.values, TYPE: under}

    def meets(self, condition: Mapping[str, Any], values: Mapping[str, Any]) -> bool:
        """Whether values meet a condition."""
        return holds(condition, values, self._comparisons)

    def how(self, key: str, product: Product) -> str | None:
        """How a product stands to a collection: picked, matches, kept out, or not at all."""
        thing = self._collections[key]
        if product.id in self._positions[key]:
            return PICKED
        if thing.condition is None or not self.meets(thing.condition, self.values(product)):
            return KEPT_OUT if product.id in self._kept_out[key] else None
        return KEPT_OUT if product.id in self._kept_out[key] else MATCHES

    def place(self, key: str, product: Product) -> Place:
        """Where a product of a collection stands in its listing."""
        thing: Collection = self.defs.things[collections.NOUN.code][key]
        picked = self._positions[key].get(product.id)
        if picked is not None:
            return Place(picked)
        return ordered_by(thing.order, product, self._comparisons)

    def mark(self, key: str) -> str:
        """A hash of what decides who is in a collection and in which order, "" when there is none."""
        thing: Collection | None = self.defs.things[collections.NOUN.code].get(key)
        if thing is None:
            return ""
        return content_hash([self.who_mark(key), thing.order, list(thing.picked)])

    def who_mark(self, key: str) -> str:
        """A hash of what decides who is in a collection, "" when there is none."""
        thing = self._collections.get(key)
        if thing is None:
            return ""
        asked = [test for test in tests_of(thing.condition or {}) if test["field"] == TYPE]
        types = {name: sorted(descendants(name, self.defs.types)) for test in asked for name in _wanted(test)}
        return content_hash([thing.condition, types, sorted(thing.picked), sorted(thing.kept_out)])

    def differ_in(self, other: Memberships) -> tuple[str, ...]:
        """The collections that have other products than by other definitions, or may have."""
        keys = {*self._collections, *other._collections}
        return tuple(sorted(key for key in keys if self.who_mark(key) != other.who_mark(key)))

    def narrowing(self, condition: Mapping[str, Any] | None) -> Narrowing:
        """Where to look for those that meet a condition."""
        if condition is None:
            return Narrowing(any=())
        for join in JOINS:
            if join in condition:
                parts = tuple(self.narrowing(branch) for branch in condition[join])
                if join == "none":
                    return EVERY
                if join == "any":
                    return EVERY if any(part.every for part in parts) else Narrowing(any=parts)
                narrowing = tuple(part for part in parts if not part.every)
                return Narrowing(all=narrowing) if narrowing else EVERY
        return self._narrowed(condition) if condition else EVERY

    def _narrowed(self, test: Mapping[str, Any]) -> Narrowing:
        if test["op"] in _NEVER_OF_NOTHING:
            return EVERY
        if test["field"] == TYPE:
            found = [descendants(name, self.defs.types) for name in _wanted(test)]
            return Narrowing(types=frozenset().union(*found))
        return Narrowing(field=test["field"])


def ordered_by(order: str, product: Product, compare: Mapping[str, str]) -> Place:
    """Where a product stands by title, newest first, or by a field; those without a value last."""
    if order == NEWEST:
        return Place(LAST, str(-product.id))
    if order == TITLE:
        return Place(LAST, "0", product.title)
    value = product.values.get(order)
    comparison = comparison_of(compare.get(order, ""))
    if isinstance(value, list):
        value = value[0] if value else None
    if comparison.order != BY_TEXT:
        found = comparison.read(value)
        number = found[1] if isinstance(found, tuple) else found
        fits = isinstance(number, Decimal) and number.is_finite() and abs(number.adjusted()) < 100
        return Place(LAST, f"{number:f}", product.title) if fits else Place(LAST + 1, "0", product.title)
    if not isinstance(value, str) or not value.strip():
        return Place(LAST + 1, "0", product.title)
    return Place(LAST, "0", value[:200])


def _wanted(test: Mapping[str, Any]) -> Iterable[str]:
    value = test.get("value")
    return value if isinstance(value, list | tuple) else [] if value is None else [value]
