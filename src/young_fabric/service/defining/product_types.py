"""Use cases of product types: the tree with counts."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from young_fabric.core.interchange.type_schema import schema_of_type
from young_fabric.core.nouns.types.product_types import NOUN, EffectiveField, ProductType, ancestry, type_path
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes
from young_fabric.store.repos import fills


@dataclass(frozen=True)
class TypeUse:
    """A product type with its path and ancestors, and how many products it has, itself and with all below."""

    thing: ProductType
    version: int
    path: str
    ancestors: tuple[str, ...]
    products: int
    below: int


def overview(work: Work, only: str | None = None) -> list[TypeUse]:
    """All product types (or one), parents before children."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    types = draft.defs.types
    counts = fills.counts_by_type(work.session)
    below: dict[str, int] = {}
    for key in types:
        for ancestor in ancestry(key, types):
            below[ancestor] = below.get(ancestor, 0) + counts.get(key, 0)
    rows = [
        TypeUse(
            product_type,
            draft.loaded.versions[NOUN.code, key],
            type_path(key, types),
            ancestry(key, types)[1:],
            counts.get(key, 0),
            below[key],
        )
        for key, product_type in types.items()
        if only in (None, key)
    ]
    return sorted(rows, key=lambda row: row.path)


def fields_of(work: Work, key: str) -> tuple[EffectiveField, ...]:
    """All fields of a type with where each comes from. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    writes.need_current(work, NOUN.code, key)
    return plans.draft(work.session).effective(key)


def schema(work: Work, key: str) -> dict[str, Any]:
    """The JSON Schema of the values that products of a type hold. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    writes.need_current(work, NOUN.code, key)
    return schema_of_type(plans.draft(work.session), key)
