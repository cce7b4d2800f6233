"""Things that values can refer to, looked for by name."""

from __future__ import annotations

from dataclasses import dataclass

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import fold
from young_fabric.core.kinds.base import Target
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.product_labels import PRODUCTS, things_of_target
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.products import products

MOST = 30


@dataclass(frozen=True)
class Candidate:
    """A thing that can be chosen: its key or number, its name, and a word to tell it by."""

    item: str | int
    name: str
    note: str


def choices(work: Work, target: Target, words: str) -> list[Candidate]:
    """The first things of a target whose name holds some words, those that begin with them first. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    if target == PRODUCTS:
        return [Candidate(product.id, product.title, product.sku) for product in products.find(work, words, MOST)]
    defs = plans.draft(work.session)
    found = things_of_target(defs, target)
    if found is None or (target[1] and target[1] not in defs.things[target[0]]):
        raise Refusal("not_found", f"There is nothing to choose of {target[0][:60]} {target[1][:60]}", ("of",))
    wanted, note = fold(words), NOUNS[found.noun].calling.note
    hits = [(key, thing) for key, thing in found.by_code.items() if wanted in fold(thing.name) or wanted in key]
    hits.sort(key=lambda pair: (not fold(pair[1].name).startswith(wanted), fold(pair[1].name)))
    return [Candidate(key, thing.name, note(thing, defs)) for key, thing in hits[:MOST]]
