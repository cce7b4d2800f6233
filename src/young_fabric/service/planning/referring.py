"""What refers to a thing by values: products, what other definitions hold and ask for. It holds the thing fast."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.wording.counting import counted
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.kinds.base import Target
from young_fabric.core.nouns.content import records
from young_fabric.core.nouns.fields.fields import STAFF
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.product_labels import PRODUCTS
from young_fabric.core.subjects.registry import SUBJECTS
from young_fabric.store.repos import products, stored_values
from young_fabric.store.repos.products import ProductRecord, Search
from young_fabric.store.repos.stored_values import Containing

MOST_TOLD = 50


@dataclass(frozen=True)
class Referrers:
    """What refers to a thing: how many products, the first of them in order of title, and definitions by (noun, key)."""

    products: int
    first: list[ProductRecord]
    definitions: list[tuple[str, str]]


def fields_naming(defs: Definitions, target: Target) -> list[str]:
    """The fields, of whatever subject, whose values name things of a target."""
    return [key for key, field in defs.fields.items() if target in field.targets]


def _patterns(defs: Definitions, target: Target, items: Iterable[Any]) -> dict[str, dict[str, list[Any]]]:
    """Subject with a table → field → what its values that name any of some things contain."""
    out: dict[str, dict[str, list[Any]]] = defaultdict(dict)
    named = list(items)
    for key in fields_naming(defs, target):
        field = defs.fields[key]
        if field.subject in stored_values.TABLES:
            out[field.subject][key] = [pattern for item in named for pattern in field.containing(target, item)]
    return out


def products_naming(defs: Definitions, target: Target, items: Iterable[Any]) -> Any:
    """Products that name any of some things, or whose variants do; None when no field could."""
    wanted = []
    for subject, patterns in _patterns(defs, target, items).items():
        table = stored_values.TABLES[subject]
        if table.product is not None:
            wanted.append(stored_values.of_products(table, Containing(patterns)))
    return products.any_of_some(wanted)


def others_naming(session: Session, defs: Definitions, target: Target, item: Any) -> list[str]:
    """How many name a thing of what has a table and is of no product, in words."""
    words = []
    for subject, patterns in _patterns(defs, target, [item]).items():
        table, called = stored_values.TABLES[subject], SUBJECTS[subject]
        count = stored_values.count(session, table, Containing(patterns)) if table.product is None else 0
        if count:
            words.append(counted(count, called.name, called.plural))
    return words


def definitions_naming(defs: Definitions, target: Target, items: Iterable[Any]) -> Iterator[tuple[str, str]]:
    """(noun, key) of definitions that hold or ask for any of some things."""
    named = frozenset(fields_naming(defs, target))
    if not named:
        return
    others = dict.fromkeys(items, object())
    for code, noun in NOUNS.items():
        for key, thing in defs.things[code].items():
            if noun.sent.content and named.isdisjoint(thing.filled):
                continue
            if noun.referring.with_items(thing, target, others, defs) != thing:
                yield code, key


def referrers(session: Session, defs: Definitions, target: Target, item: Any, most: int = MOST_TOLD) -> Referrers:
    """What refers to a thing by values; of products the first are read."""
    wanted = products_naming(defs, target, [item])
    found = list(definitions_naming(defs, target, [item]))
    if wanted is None:
        return Referrers(0, [], found)
    first = products.page(session, Search(also=wanted), None, most, collation=defs.shop.collation) if most else []
    return Referrers(products.count_where(session, wanted), first, found)


def record_referrers(defs: Definitions, key: str) -> Any:
    """Products that name a record: what its listing in the shop shows."""
    record = defs.things[records.NOUN.code][key]
    target = records.NOUN.chosen.item_of(record)
    parts = [
        products.both(
            stored_values.containing({name: field.containing(target, key)}),
            products.within(defs.holders.get(name, Reach())),
        )
        for name, field in defs.naming.items()
        if target is not None and target in field.targets and field.audience != STAFF
    ]
    return products.any_of(parts)


def held_by(session: Session, defs: Definitions, target: Target, item: Any) -> list[str]:
    """What refers to a thing by values, in words; empty when nothing does."""
    found = referrers(session, defs, target, item, 1)
    words = []
    if found.products:
        others = found.products - 1
        more = f" and {counted(others, 'more product')}" if others else ""
        words.append(f"the product {found.first[0].product.title}{more}")
    words += others_naming(session, defs, target, item)
    for code, key in found.definitions:
        noun = NOUNS[code]
        words.append(f"the {noun.name} {noun.calling.name_of(key, defs.things[code][key], defs)}")
    return words


def held_products(session: Session, defs: Definitions, going: Mapping[int, str]) -> str | None:
    """What refers to the first of some products, by number and title and all going at once, in words; None when nothing does."""
    wanted = products_naming(defs, PRODUCTS, list(going)) if going else None
    first = products.page(session, Search(also=wanted, without=tuple(going)), None, 1) if wanted is not None else []
    users = [record.product.title for record in first]
    users += [
        NOUNS[code].calling.name_of(key, defs.things[code][key], defs)
        for code, key in definitions_naming(defs, PRODUCTS, going)
    ]
    if not users:
        return None
    named = ", ".join(list(going.values())[:3]) + ("…" if len(going) > 3 else "")
    return f"{named}: referred to by {', '.join(users[:3])}"
