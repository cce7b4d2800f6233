"""Use cases of collections: the list with counts, their order, and values of their own fields."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.ranks import rank_between
from young_fabric.core.nouns.content.collections import NOUN, Collection, in_order
from young_fabric.core.nouns.fields.conditions import condition_words
from young_fabric.core.subjects.gatherers import GATHERERS
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import plans
from young_fabric.service.products.collection_members import ToldTest, tests_in_words
from young_fabric.service.writing import writes
from young_fabric.store.repos import fills, gathering, shop


@dataclass(frozen=True)
class CollectionUse:
    """A collection with how many products are in it, whether they are all gathered, and its condition in words."""

    thing: Collection
    version: int
    products: int
    gathered: bool
    words: str
    tests: list[ToldTest]


def overview(work: Work, only: str | None = None) -> list[CollectionUse]:
    """All collections (or one), in their order."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    counts = fills.counts_by_collection(work.session)
    waiting = gathering.open_keys(work.session)
    return [
        CollectionUse(
            thing,
            draft.loaded.versions[NOUN.code, thing.key],
            counts.get(thing.key, 0),
            GATHERERS[NOUN.code].note(thing.key) not in waiting,
            condition_words(thing.condition, draft.defs),
            tests_in_words(thing.condition, draft.defs),
        )
        for thing in in_order(draft.defs)
        if only in (None, thing.key)
    ]


def move(work: Work, key: str, after: str | None) -> None:
    """Put a collection after another (None: first). Raises Refusal `not_found`."""
    work.need(Right.EDIT)
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    others = [thing for thing in in_order(plans.draft(work.session)) if thing.key != key]
    keys = [thing.key for thing in others]
    if after is not None and after not in keys:
        raise Refusal("not_found", f"There is no collection {after[:60]}", ("after",), "Choose another place")
    at = keys.index(after) + 1 if after is not None else 0
    before, behind = (others[at - 1].rank if at else None), (others[at].rank if at < len(others) else None)
    rank, group = rank_between(before, behind), uuid4().hex
    if rank is not None:
        _put(work, key, {"rank": rank}, group)
        return
    for number, other in enumerate([*keys[:at], key, *keys[at:]], start=1):
        _put(work, other, {"rank": str(number)}, group)


def _put(work: Work, key: str, given: Mapping[str, Any], group: str | None = None) -> None:
    """Change members of a collection from what stands."""
    version = writes.need_current(work, NOUN.code, key).version
    definitions.change(work, NOUN.code, key, version, given, group)
