"""Find: any definition or product by a few letters of its name or key."""

from __future__ import annotations

from dataclasses import dataclass, replace

from young_fabric.core.base.finding import LEAST, rank
from young_fabric.core.definitions.definitions import Definitions
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
    defs = plans.draft(work.session)
    found: dict[str, list[tuple[int, str, Hit]]] = {}

    def take(ranked: int | None, hit: Hit) -> None:
        if ranked is not None:
            found.setdefault(hit.noun, []).append((ranked, hit.name, hit))

    for noun in NOUNS.values():
        if noun.blank is None:
            continue
        for key, thing in defs.things[noun.code].items():
            said = getattr(thing, "help", "")
            take(rank(words, thing.name, (key,), said), Hit(noun.code, key, thing.name, ""))
            for part in noun.calling.within(thing) if words.strip() else ():
                take(rank(words, part.name, part.also), Hit(part.sort, part.key, part.name, part.note))
    best = [ranked for hits in found.values() for ranked in sorted(hits, key=lambda hit: hit[:2])[:MOST]]
    if words.strip():
        best += _products(work, words)
    best.sort(key=lambda hit: hit[0])
    return [_noted(hit, defs) for _, _, hit in best]


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
