"""Find: any definition or product by a few letters of its name or key."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from heapq import nsmallest
from typing import Any

from young_fabric.core.base.wording.finding import LEAST, Finder, rank
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import Noun
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.products import products

MOST = 8


@dataclass(frozen=True)
class Hit:
    """A thing found: what it is, its key, its name, and a word to tell it by."""

    noun: str
    key: str
    name: str
    note: str


def find(work: Work, words: str) -> list[Hit]:
    """Up to eight of each sort, the best found first: things by name, key and what is said of them, what is found within them by
    its own name, and products. Without words the first things of each noun."""
    work.need(Right.LOOK)
    defs, finder = plans.draft(work.session), Finder(words)
    best: list[tuple[int, str, Hit]] = []
    for noun in NOUNS.values():
        if noun.blank is not None:
            things = defs.things[noun.code].items()
            best += _best(
                (finder.rank(thing.name, (key,), getattr(thing, "help", "")), thing.name, noun.code, key, "")
                for key, thing in things
            )
            if words.strip():
                best += _within(noun, things, finder)
    if words.strip():
        best += _products(work, words)
    best.sort(key=lambda hit: hit[0])
    return [_noted(hit, defs) for _, _, hit in best]


def _within(noun: Noun, things: Iterable[tuple[str, Any]], finder: Finder) -> list[tuple[int, str, Hit]]:
    return _best(
        (finder.rank(part.name, part.also), part.name, part.sort, part.key, part.note)
        for _, thing in things
        for part in noun.calling.within(thing)
    )


def _best(found: Iterable[tuple[int | None, str, str, str, str]]) -> list[tuple[int, str, Hit]]:
    """The best of those that are found (rank, name, sort, key, note)."""
    there = ((ranked, name, sort, key, note) for ranked, name, sort, key, note in found if ranked is not None)
    return [(ranked, name, Hit(sort, key, name, note)) for ranked, name, sort, key, note in nsmallest(MOST, there)]


def _products(work: Work, words: str) -> list[tuple[int, str, Hit]]:
    out = []
    for product in products.find(work, words, MOST):
        ranked = rank(words, product.title, (product.sku,))
        hit = Hit(PRODUCT.code, str(product.id), product.title, product.sku)
        out.append((LEAST if ranked is None else ranked, product.title, hit))
    return out


def _noted(hit: Hit, defs: Definitions) -> Hit:
    """With the word that its noun tells it by: worked out for those that are shown alone."""
    noun = NOUNS.get(hit.noun)
    return replace(hit, note=noun.calling.note(defs.things[hit.noun][hit.key], defs)) if noun else hit
