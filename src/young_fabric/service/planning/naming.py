"""Names put into values as pages are made, and which products go live anew because something they refer to is called otherwise."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import islice
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.kinds.base import Target
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.product_labels import PRODUCTS, Names, numbers_in, numbers_of, things_of_target
from young_fabric.core.subjects.products import Product
from young_fabric.store.repos import changes, labels, products, releases, stored_values

Thing = tuple[str, str]
"""(noun, key)."""
FEW = 200
"""Of more things called otherwise than these, all that refer to any are looked at."""
ASKED = 500
MOST_LOOKED_AT = 2_000
"""How many products are looked at one by one."""


def names_for(session: Session, defs: Definitions, found: Iterable[Product]) -> Names:
    """The names that some products' values refer to, as the draft has them."""
    numbers = numbers_of(defs, found)
    return Names(defs, labels.labels(session, numbers) if numbers else {})


def named(session: Session, defs: Definitions, found: Sequence[Product]) -> list[Product]:
    """Products with names in their values, as the draft has them."""
    if not defs.naming:
        return list(found)
    names = names_for(session, defs, found)
    return [names.of_product(product) for product in found]


def names_of_cells(session: Session, defs: Definitions, noun: str, thing: Any, *, live: bool = False) -> Names:
    """The names that a thing's own values refer to, as the draft or the live shop has them."""
    cells: Mapping[str, Any] = thing.filled
    known = defs.fields_of_thing(noun, thing)
    numbers = numbers_in((known[key], cell[1]) for key, cell in cells.items() if key in known and cell[0] == "value")
    if not numbers:
        return Names(defs, {})
    return Names(defs, (releases.labels if live else labels.labels)(session, numbers))


def renamed_referrers(session: Session, keys: Sequence[Thing], live: Definitions, draft: Definitions) -> Any:
    """Products that refer to something called otherwise than in the live shop, or found elsewhere; None when nothing is."""
    wanted = []
    for target in _targets(draft):
        items = _renamed_products(session) if target == PRODUCTS else _few(renamed_items(keys, live, draft, target))
        wanted += [
            products.has(key) if items is None else stored_values.containing({key: _patterns(field, target, items)})
            for key, field in draft.naming.items()
            if target in field.targets and items != []
        ]
    return products.any_of(wanted) if wanted else None


def count_referring_to_renamed_products(session: Session, draft: Definitions) -> int:
    """How many products refer to products called otherwise than in the live shop, or found elsewhere."""
    fields = {key: field for key, field in draft.naming.items() if PRODUCTS in field.targets}
    items = _renamed_products(session) if fields else []
    if items == []:
        return 0
    wanted = [
        products.has(key) if items is None else stored_values.containing({key: _patterns(field, PRODUCTS, items)})
        for key, field in fields.items()
    ]
    return products.count_where(session, products.any_of(wanted))


def _targets(defs: Definitions) -> list[Target]:
    return list(dict.fromkeys(target for field in defs.naming.values() for target in field.targets))


def _patterns(field: Field, target: Target, items: Iterable[Any]) -> list[Any]:
    return [pattern for item in items for pattern in field.containing(target, item)]


def _few(items: Iterable[Any]) -> list[Any] | None:
    """Some items, None when they are many."""
    found = list(islice(items, FEW + 1))
    return found if len(found) <= FEW else None


def renamed_items(keys: Sequence[Thing], live: Definitions, draft: Definitions, target: Target) -> Iterator[str]:
    """Of the things that values of a target name, those among changed definitions that are called otherwise, or found elsewhere.

    New ones are none: what refers to them was changed itself.
    """
    now = things_of_target(draft, target)
    if now is None:
        return
    changed = list(now.by_code) if target in keys else [key for noun, key in keys if noun == now.noun]
    before, after = Names(live, {}).of(target), Names(draft, {}).of(target)
    yield from (key for key in changed if key in now.by_code and before[key]["name"] and before[key] != after[key])


def _renamed_products(session: Session) -> list[Any] | None:
    def differing() -> Iterator[int]:
        for ids in changes.unreleased_products(session, ASKED):
            before, after = releases.labels(session, ids), labels.labels(session, ids)
            yield from (number for number in ids if before.get(number) != after.get(number))

    return _few(differing())


def referring_documents(
    session: Session, live: Definitions, made: Plans, keys: Sequence[Thing]
) -> dict[Thing, dict[str, int]]:
    """Definition → surface → documents that differ because they show its name; of changed ones that are called otherwise.

    Where more than MOST_LOOKED_AT products refer to any of them, never fewer than differ.
    """
    out: dict[Thing, dict[str, int]] = {}
    defs = made.defs
    for target in _targets(defs):
        items = list(renamed_items(keys, live, defs, target))
        found = things_of_target(defs, target)
        if not items or found is None:
            continue
        counts = _documents(session, made, target, frozenset(items))
        for item, by_surface in counts.items():
            thing = out.setdefault((found.noun, item), {})
            for surface, count in by_surface.items():
                thing[surface] = thing.get(surface, 0) + count
    return out


def _documents(session: Session, made: Plans, target: Target, items: frozenset[str]) -> dict[str, Counter[str]]:
    fields = {key: field for key, field in made.defs.naming.items() if target in field.targets}
    wanted = stored_values.containing({key: _patterns(field, target, items) for key, field in fields.items()})
    rows = products.stream_where(session, wanted, 0, MOST_LOOKED_AT + 1)
    out: dict[str, Counter[str]] = defaultdict(Counter)
    if len(rows) > MOST_LOOKED_AT:
        held = stored_values.item_counts(
            session, stored_values.OF_PRODUCTS, [path for field in fields.values() for path in field.paths(target)]
        )
        return {item: Counter(dict.fromkeys(product_surfaces(), held[item])) for item in items if item in held}
    for product in rows:
        for surface in product_surfaces():
            entries = made.of_product(product, surface).entries
            shown = {
                item
                for key, field in fields.items()
                if key in entries and entries[key].placed
                for of, item in field.items(product.values.get(key))
                if of == target and item in items
            }
            for item in shown:
                out[item][surface] += 1
    return out
