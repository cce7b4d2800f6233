"""Find: any field, value list, set, type or product by a few letters of its name or key."""

from __future__ import annotations

from dataclasses import dataclass

from young_fabric.core.product_types import type_path
from young_fabric.core.value_lists import fold
from young_fabric.service import plans
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import products

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
    hits = [
        *[Hit("field", one.key, one.name, one.key) for one in defs.fields.values()],
        *[Hit("set", one.key, one.name, f"{len(one.fields)} fields") for one in defs.sets.values()],
        *[Hit("type", one.key, one.name, type_path(one.key, defs.types)) for one in defs.types.values()],
        *[Hit("list", one.key, one.name, f"{len(one.values)} values") for one in defs.lists.values()],
    ]
    fits = [one for one in hits if wanted in fold(one.name) or wanted in fold(one.key)]
    fits.sort(key=lambda one: (not fold(one.name).startswith(wanted), one.name))
    out: list[Hit] = []
    for noun in ("field", "set", "type", "list"):
        out += [one for one in fits if one.noun == noun][:MOST]
    if wanted:
        found = products.page(work.session, products.Search(words=words), None, MOST)
        out += [
            Hit("product", str(one.product.id), one.product.title, str(one.product.values.get("sku", "")))
            for one in found
        ]
    return out
