"""Find: any definition or product by a few letters of its name or key."""

from __future__ import annotations

from dataclasses import dataclass

from young_fabric.core.base.text import fold
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
    """Up to eight of each noun, those whose name begins with the words first."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    wanted = fold(words)
    out: list[Hit] = []
    for noun in NOUNS.values():
        if noun.blank is None:
            continue
        hits = [
            (key, thing)
            for key, thing in defs.things[noun.code].items()
            if wanted in fold(thing.name) or wanted in fold(key)
        ]
        hits.sort(key=lambda pair: (not fold(pair[1].name).startswith(wanted), pair[1].name))
        out += [Hit(noun.code, key, thing.name, noun.calling.note(thing, defs)) for key, thing in hits[:MOST]]
    if wanted:
        found = products.find(work, words, MOST)
        out += [Hit(PRODUCT.code, str(product.id), product.title, product.sku) for product in found]
    return out
