"""Who is offered which option sets: through types, by conditions and by hand; and what of each product is quoted."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.nouns.options.option_sets import LISTS, OPTION_SETS
from young_fabric.core.nouns.types import product_types
from young_fabric.core.options.offers import Offer, offer_of, sets_of_type
from young_fabric.core.options.sold import offer_mark
from young_fabric.core.subjects.products import Product
from young_fabric.store.repos import products

Offered = tuple[str, tuple[str, ...]]
"""(type, option sets by condition or by hand) of a product: what decides all that can be chosen of it."""


class Offers:
    """The offers of some definitions, each worked out once for all products alike in it."""

    def __init__(self, defs: Definitions) -> None:
        self.defs = defs
        self._of_types: dict[str, tuple[str, ...]] = {}
        self._made: dict[tuple[str, ...], Offer] = {}

    def of_type(self, type_key: str) -> tuple[str, ...]:
        """The option sets that products get through a type, in order."""
        found = self._of_types.get(type_key)
        if found is None:
            chain = self.defs.chain(type_key) if type_key in self.defs.types else ()
            found = self._of_types[type_key] = sets_of_type(chain, self.defs)
        return found

    def sets(self, type_key: str, more: Iterable[str]) -> tuple[str, ...]:
        """All option sets of a product: those of its type, then the others."""
        known = self.defs.option_sets
        return tuple(dict.fromkeys((*self.of_type(type_key), *(key for key in more if key in known))))

    def of_sets(self, keys: tuple[str, ...]) -> Offer:
        """The offer of some option sets in order."""
        found = self._made.get(keys)
        if found is None:
            found = self._made[keys] = offer_of([self.defs.option_sets[key] for key in keys], self.defs)
        return found

    def of(self, product: Product) -> Offer:
        """What can be chosen of a product."""
        return self.of_sets(self.sets(product.type, product.option_sets))


def set_mark(defs: Definitions, key: str) -> str:
    """A hash of what decides which variants an option set makes, and their SKUs; "" where there is none."""
    options = defs.option_sets.get(key)
    if options is None:
        return ""
    offer = offer_of([options], defs)
    parts = [
        [axis.key, [[code, offer.by_key[axis.key].by_code[code].effect.sku] for code in axis.values]]
        for axis in offer.axes
    ]
    order = [option.key for option in options.options]
    return content_hash([parts, order, list(map(dict, offer.left_out)), options.sku, options.separator])


def otherwise(before: Definitions, after: Definitions) -> tuple[frozenset[str], frozenset[str]]:
    """What two sets of definitions differ in that bears on variants: (option sets, types that have others or in another order)."""
    keys = {*before.option_sets, *after.option_sets}
    sets = frozenset(key for key in keys if set_mark(before, key) != set_mark(after, key))
    old, new = Offers(before), Offers(after)
    types = frozenset(
        key
        for key in {*before.types, *after.types}
        if old.of_type(key) != new.of_type(key) or not sets.isdisjoint(new.of_type(key))
    )
    return sets, types


def having(sets: Iterable[str], types: Iterable[str]) -> Any:
    """Products of some types, and those that are offered some option sets by condition or by hand."""
    reach = products.within(Reach(frozenset(types)))
    return products.any_of([reach, products.concerned(sorted(sets), (), (), OPTION_SETS)])


def types_with(defs: Definitions, key: str) -> frozenset[str]:
    """The types whose products have an option set through them."""
    offers = Offers(defs)
    return frozenset(name for name in defs.types if key in offers.of_type(name))


def counts(session: Session, defs: Definitions, by_type: Mapping[str, int]) -> dict[str, int]:
    """Option set → products that are offered it. `by_type` counts the products of each type."""
    offers = Offers(defs)
    through: dict[str, list[str]] = {key: [] for key in defs.option_sets}
    for name in defs.types:
        for key in offers.of_type(name):
            through[key].append(name)
    extra = products.offered_counts(session)
    out = {}
    for key, names in through.items():
        more = sum(count for (found, type_key), count in extra.items() if found == key and type_key not in names)
        out[key] = more + sum(by_type.get(name, 0) for name in names)
    return out


def offered_within(session: Session, types: Iterable[str]) -> set[str]:
    """The option sets that products of some types are offered by condition or by hand."""
    among = set(types)
    return {key for (key, type_key), count in products.offered_counts(session).items() if type_key in among and count}


def offers_that_differ(before: Definitions, after: Definitions) -> tuple[frozenset[str], frozenset[str]]:
    """What two sets of definitions differ in that shoppers are offered: (option sets, types that have others or in another order)."""
    old, new = Offers(before), Offers(after)
    keys = {*before.option_sets, *after.option_sets}
    sets = frozenset(key for key in keys if _mark(old, key) != _mark(new, key))
    types = frozenset(
        key
        for key in {*before.types, *after.types}
        if old.of_type(key) != new.of_type(key) or not sets.isdisjoint(new.of_type(key))
    )
    return sets, types


def _mark(offers: Offers, key: str) -> str:
    return offer_mark(offers.of_sets((key,))) if key in offers.defs.option_sets else ""


def reoffered(before: Definitions, after: Definitions) -> Any:
    """Products of which shoppers are offered otherwise by other definitions; None when there are none."""
    sets, types = offers_that_differ(before, after)
    return having(sets, types) if sets or types else None


def offered_documents(
    session: Session, before: Definitions, after: Definitions, keys: Sequence[tuple[str, str]]
) -> dict[tuple[str, str], dict[str, int]]:
    """Changed definition → surface → documents at most that differ because shoppers are offered otherwise: of option sets, of the
    value lists they take from, and of the types they come through."""
    sets, types = offers_that_differ(before, after)
    if not sets and not types:
        return {}
    out = {}
    for noun, key in keys:
        reached = {name for name in sets if _reads(before, name, noun, key) or _reads(after, name, noun, key)}
        through = {name for name in types if (noun, key) in _of_type(before, name) | _of_type(after, name)}
        offers = (Offers(before), Offers(after))
        through |= {name for name in types for made in offers if reached.intersection(made.of_type(name))}
        if reached or through:
            count = products.count_where(session, having(reached, through))
            out[noun, key] = {code: count for code, surface in product_surfaces().items() if surface.options}
    return out


def _reads(defs: Definitions, name: str, noun: str, key: str) -> bool:
    options = defs.option_sets.get(name)
    if options is None:
        return False
    return (noun, key) == (OPTION_SETS, name) or (
        noun == LISTS and any(option.listed and option.list == key for option in options.options)
    )


def _of_type(defs: Definitions, name: str) -> set[tuple[str, str]]:
    return {(product_types.NOUN.code, key) for key in defs.chain(name)} if name in defs.types else set()
