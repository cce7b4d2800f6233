"""Use cases of collections: the list with counts, their order, hands, and values of their own fields."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.ranks import rank_between
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.collections import NOUN, Collection, in_order
from young_fabric.core.nouns.conditions import condition_words
from young_fabric.service import definitions, memberships, plans, writes
from young_fabric.service.actors import Right, Work
from young_fabric.service.collection_members import ToldTest, tests_in_words
from young_fabric.service.writes import Edit
from young_fabric.store.repos import fills, gathering, products
from young_fabric.store.repos.definitions import StoredThing

MOST_PASTED = 2_000
Hand = Literal["picked", "kept_out", "neither"]


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
            thing.key not in waiting,
            condition_words(thing.condition, draft.defs),
            tests_in_words(thing.condition, draft.defs),
        )
        for thing in in_order(draft.defs)
        if only in (None, thing.key)
    ]


def move(work: Work, key: str, after: str | None) -> None:
    """Put a collection after another (None: first). Raises Refusal `not_found`."""
    work.need(Right.EDIT)
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


def by_hand(work: Work, key: str, ids: Sequence[int], to: Hand) -> None:
    """Put products in by hand, keep them out, or leave them to the condition. Raises Refusal."""
    work.need(Right.EDIT)
    there = products.groups_of(work.session, ids)
    if missing := [number for number in ids if number not in there]:
        raise Refusal("not_found", f"There is no product {missing[0]}", ("ids",), "It may have been removed")

    def edit(current: StoredThing | None) -> Edit:
        if current is None:
            raise Refusal("not_found", f"There is no collection {key[:60]}", (), "It may have been removed")
        state, wanted = state_of(current.thing), set(ids)
        lists = {
            member: [number for number in state[member] if number not in wanted] for member in ("picked", "kept_out")
        }
        if to != "neither":
            had = [number for number in state[to] if number in wanted]
            lists[to] = state[to] + [number for number in ids if number not in had]
        return Edit(state, {**state, **lists})

    writes.apply(work, NOUN.code, key, edit)


@dataclass(frozen=True)
class Pasted:
    """What a pasted list of SKUs came to: products found, and what was not found or stood there twice."""

    found: int
    unknown: list[str]
    twice: list[str]


def paste(work: Work, key: str, text: str, to: Hand) -> Pasted:
    """Put in or keep out the products of a pasted list: SKUs by line, comma or tab. Raises Refusal `too_many`, `required`."""
    work.need(Right.EDIT)
    codes = [part.strip() for part in re.split(r"[\n\r\t,;]+", text) if part.strip()]
    if not codes:
        raise Refusal("required", "No SKU stands there", ("text",), "Paste SKUs, one a line")
    if len(codes) > MOST_PASTED:
        raise Refusal("too_many", f"At most {MOST_PASTED:,} SKUs at once", ("text",), "Paste them in parts")
    wanted = list(dict.fromkeys(code.upper() for code in codes))
    found = {code.upper(): holder for code, (holder, _) in products.holders(work.session, "sku", wanted).items()}
    ids = [found[code] for code in wanted if code in found]
    if ids:
        by_hand(work, key, ids, to)
    upper = [code.upper() for code in codes]
    return Pasted(
        len(ids),
        [code for code in dict.fromkeys(codes) if code.upper() not in found],
        [code for code in wanted if upper.count(code) > 1],
    )


def gather(work: Work, key: str) -> None:
    """Have the products of a collection gathered whose job was stopped or lost. Raises Refusal."""
    writes.need_current(work, NOUN.code, key)
    memberships.gather_again(work, key)
