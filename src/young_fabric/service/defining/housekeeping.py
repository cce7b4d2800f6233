"""Housekeeping: definitions that are unused, never filled, or look like one another, each with what can be done about it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from itertools import combinations
from typing import Any

from young_fabric.core.base.wording.counting import counted
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.nouns.content import record_types, shared_copies
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.lists import value_lists
from young_fabric.core.nouns.lists.likeness import alike_names, alike_values
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.nouns.types import field_sets, product_types
from young_fabric.core.subjects.converting import reading_of
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.store.repos import changes, fills, products

SAMPLE = 1_000
"""How many products tell which fields hold alike values."""


@dataclass(frozen=True)
class Finding:
    """Something to tidy: `sort` is unused, unfilled or alike; `other` what it looks like; `changed` when it last was,
    `version` the one that was looked at."""

    sort: str
    noun: str
    key: str
    name: str
    words: str
    other: str | None = None
    other_name: str = ""
    changed: datetime | None = None
    version: int = 0


Find = Callable[[Work, Definitions], Iterable[Finding]]


def findings(work: Work) -> list[Finding]:
    """All there is to tidy, with when each was last changed."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    found = [finding for find in FINDS for finding in find(work, defs)]
    changed = changes.last_changed(work.session, [(finding.noun, finding.key) for finding in found])
    versions = plans.draft_of(work.session).loaded.versions
    return [
        replace(finding, changed=changed.get(of), version=versions[of])
        for finding in found
        for of in [(finding.noun, finding.key)]
    ]


def _unused(work: Work, defs: Definitions) -> Iterator[Finding]:  # noqa: ARG001
    for key, field in sorted(defs.product_fields.items()):
        if not defs.holders.get(key, Reach()):
            yield Finding("unused", fields.NOUN.code, key, field.name, "In no set or type, so no product has it")
    for noun, words in (
        (value_lists.NOUN, "Nothing takes from it"),
        (field_sets.NOUN, "No type takes it, and no collection brings it"),
        (record_types.NOUN, "No field chooses of its records"),
        (shared_copies.NOUN, "No field shows it"),
    ):
        for key, thing in sorted(defs.things[noun.code].items()):
            users = [user for user in defs.referrers(noun.code, key) if not NOUNS[user[0]].sent.content]
            if not users and not getattr(thing, "collections", ()):
                yield Finding("unused", noun.code, key, thing.name, words)


def _empty_types(work: Work, defs: Definitions) -> Iterator[Finding]:
    there = fills.counts_by_type(work.session)
    parents = {other.parent for other in defs.types.values()}
    for key, thing in sorted(defs.types.items()):
        if not there.get(key) and key not in parents:
            yield Finding(
                "unused", product_types.NOUN.code, key, thing.name, "No product is of it, and no type is below it"
            )


def _unfilled(work: Work, defs: Definitions) -> Iterator[Finding]:
    counts = fills.by_type(work.session)
    there = {
        group: count.filled
        for group, count in fills.by_group(work.session, [fills.EVERY_PRODUCT]).get(fills.EVERY_PRODUCT, {}).items()
    }
    for key, field in sorted(defs.product_fields.items()):
        reach = defs.holders.get(key, Reach())
        have = sum(count for group, count in there.items() if reach.takes_in(*group))
        held = sum(count.filled + count.wrong for count in counts.get(key, {}).values())
        if have and not held:
            words = f"{counted(have, 'product has', 'products have')} it, and none has a value"
            yield Finding("unfilled", fields.NOUN.code, key, field.name, words)


def _alike_fields(work: Work, defs: Definitions) -> Iterator[Finding]:
    """Pairs, the one that is filled on fewer products first."""
    held = _sampled(work, defs.product_fields)
    counts = fills.by_type(work.session)
    filled_on = {key: sum(count.filled for count in by_type.values()) for key, by_type in counts.items()}
    for first, second in combinations(sorted(defs.product_fields.values(), key=lambda field: field.key), 2):
        if reading_of(first) != reading_of(second):
            continue
        named, filled = alike_names(first.name, second.name), alike_values(held[first.key], held[second.key])
        if named or filled:
            same = " and ".join(words for words, holds in (("alike names", named), ("alike values", filled)) if holds)
            fewer, more = sorted((first, second), key=lambda field: filled_on.get(field.key, 0))
            words = f"Of the same kind as {more.name}, with {same}"
            yield Finding("alike", fields.NOUN.code, fewer.key, fewer.name, words, more.key, more.name)


def _sampled(work: Work, own: Mapping[str, Field]) -> dict[str, set[Any]]:
    """Field → the texts some products hold for it, of fields whose values are texts."""
    held: dict[str, set[Any]] = {key: set() for key in own}
    for product in products.stream_where(work.session, products.every(), 0, SAMPLE):
        for key, value in product.values.items():
            if key in held and isinstance(value, str):
                held[key].add(value.casefold())
    return held


def _alike_lists(work: Work, defs: Definitions) -> Iterator[Finding]:  # noqa: ARG001
    for first, second in combinations(sorted(defs.lists.values(), key=lambda values: values.key), 2):
        labels = [{value.label.casefold() for value in values.values} for values in (first, second)]
        if alike_values(*labels):
            words = f"Has mostly the values of {second.name}"
            yield Finding("alike", value_lists.NOUN.code, first.key, first.name, words, second.key, second.name)


FINDS: tuple[Find, ...] = (_unused, _empty_types, _unfilled, _alike_fields, _alike_lists)
"""What is looked for, in the order it is told."""
