"""Products put into things by hand: collections, and what option sets are offered to."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from young_fabric.core.base.errors import Refusal
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.content.collections import BY_HAND
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.gatherers import GATHERERS
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.values import memberships, variants
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit
from young_fabric.store.repos import gathering, products, shop
from young_fabric.store.repos.definitions import StoredThing
from young_fabric.store.repos.variants import unmatched

Hand = Literal["picked", "kept_out", "neither"]
MOST_PASTED = 2_000


def by_hand(work: Work, noun: str, key: str, ids: Sequence[int], to: Hand) -> None:
    """Put products in by hand, keep them out, or leave them to the condition. Raises Refusal."""
    work.need(Right.EDIT)
    shop.lock_definitions(work.session)
    _need_products(work, ids)

    def edit(current: StoredThing | None) -> Edit:
        if current is None:
            words = f"There is no {NOUNS[noun].name} {key[:60]}"
            raise Refusal("not_found", words, (), "It may have been removed")
        state = state_of(current.thing)
        return Edit(state, {**state, **moved(state, ids, to)})

    writes.apply(work, noun, key, edit)


def moved(state: Mapping[str, Any], ids: Sequence[int], to: Hand) -> dict[str, list[int]]:
    """The members of a thing's state that say who is in by hand, once some products are put elsewhere."""
    wanted = set(ids)
    lists = {member: [number for number in state[member] if number not in wanted] for member in BY_HAND}
    if to != "neither":
        had = {number for number in state[to] if number in wanted}
        lists[to] = [*state[to], *(number for number in dict.fromkeys(ids) if number not in had)]
    return lists


def _need_products(work: Work, ids: Sequence[int]) -> None:
    there = products.groups_of(work.session, ids)
    if missing := [number for number in ids if number not in there]:
        raise Refusal("not_found", f"There is no product {missing[0]}", ("ids",), "It may have been removed")


@dataclass(frozen=True)
class Pasted:
    """What a pasted list of SKUs came to: products found, and what was not found or stood there twice."""

    found: int
    unknown: list[str]
    twice: list[str]


def paste(work: Work, noun: str, key: str, text: str, to: Hand) -> Pasted:
    """Put in or keep out the products of a pasted list: SKUs by line, comma or tab. Raises Refusal `too_many`, `required`."""
    work.need(Right.EDIT)
    found = named(work, text)
    if found.ids:
        by_hand(work, noun, key, found.ids, to)
    return Pasted(len(found.ids), found.unknown, found.twice)


@dataclass(frozen=True)
class Named:
    """The products of a pasted list in its order, and the codes that were not found or stood there twice."""

    ids: list[int]
    unknown: list[str]
    twice: list[str]


def named(work: Work, text: str) -> Named:
    """The products of a pasted list of SKUs, by line, comma or tab. Raises Refusal `too_many`, `required`."""
    codes = [part.strip() for part in re.split(r"[\n\r\t,;]+", text) if part.strip()]
    if not codes:
        raise Refusal("required", "No SKU stands there", ("text",), "Paste SKUs, one a line")
    if len(codes) > MOST_PASTED:
        raise Refusal("too_many", f"At most {MOST_PASTED:,} SKUs at once", ("text",), "Paste them in parts")
    wanted = list(dict.fromkeys(code.upper() for code in codes))
    found = {code.upper(): holder for code, (holder, _) in products.holders(work.session, "sku", wanted).items()}
    upper = [code.upper() for code in codes]
    return Named(
        list(dict.fromkeys(found[code] for code in wanted if code in found)),
        [code for code in dict.fromkeys(codes) if code.upper() not in found],
        [code for code in wanted if upper.count(code) > 1],
    )


def gather(work: Work, noun: str, key: str) -> None:
    """Have the products of a thing gathered, or variants matched, whose job was stopped or lost. Raises Refusal."""
    writes.need_current(work, noun, key)
    if GATHERERS[noun].note(key) in gathering.open_keys(work.session) or not unmatched(work.session):
        memberships.gather_again(work, noun, key)
    else:
        variants.match_again(work)
