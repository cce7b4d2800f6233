"""Use cases of fields: the list with use and filling, and trying a value."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.definitions import Definitions
from young_fabric.core.display import SURFACES
from young_fabric.core.errors import Refusal
from young_fabric.core.fields import DERIVED, Field, check_field
from young_fabric.core.values import read_field, show_value
from young_fabric.service import plans
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import products
from young_fabric.store.repos.things import REPOS


@dataclass(frozen=True)
class Use:
    """A field with where it is used: sets and types by key, products that have it, products filled, surfaces."""

    field: Field
    version: int
    sets: tuple[str, ...]
    types: tuple[str, ...]
    products: int
    filled: int
    surfaces: tuple[str, ...]


def overview(work: Work) -> list[Use]:
    """All fields, own ones by name, then built-in ones."""
    work.need(Right.LOOK)
    all_plans = plans.draft_plans(work.session)
    defs = all_plans.defs
    versions = {key: pair[1] for key, pair in REPOS["field"].load(work.session, None).items()}
    fills = products.fill_counts(work.session)
    counts = products.counts_by_type(work.session)
    types_of: dict[str, list[str]] = {}
    shown: dict[str, set[str]] = {}
    for type_key in defs.types:
        for one in defs.effective(type_key):
            types_of.setdefault(one.field.key, []).append(type_key)
        for surface in SURFACES:
            for key, entry in all_plans.of_type(type_key, surface).entries.items():
                if entry.placed:
                    shown.setdefault(key, set()).add(surface)
    sets_of = _sets_of(defs)
    return [
        Use(
            this,
            versions.get(this.key, 0),
            tuple(sets_of.get(this.key, ())),
            tuple(types_of.get(this.key, ())),
            sum(counts.get(t, 0) for t in types_of.get(this.key, ())),
            sum(fills.get(this.key, {}).get(t, 0) for t in types_of.get(this.key, ())),
            tuple(s for s in SURFACES if s in shown.get(this.key, ())),
        )
        for this in (
            *sorted(defs.fields.values(), key=lambda f: f.name.casefold()),
            *[f for f in defs.all_fields.values() if not f.own and f.key not in DERIVED],
        )
    ]


def _sets_of(defs: Definitions) -> dict[str, list[str]]:
    found: dict[str, list[str]] = {}
    for one in defs.sets.values():
        for key in one.fields:
            found.setdefault(key, []).append(one.key)
    return found


@dataclass(frozen=True)
class Tried:
    """What typed text becomes: as stored, as shown on the page, or why not."""

    text: str
    value: Any
    shown: str
    wrong: Refusal | None


def attempt(work: Work, this: Field, texts: Sequence[str]) -> list[Tried]:
    """Try texts on a definition, stored or not. Raises Refusal when the definition itself is unsound."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    check_field(this, defs.lists, defs.shop.prefix)
    spec = defs.spec(this)
    out = []
    for text in texts[:20]:
        read = read_field(this, text, spec)
        shown = show_value(this, read.value, spec) if read.value is not None and not read.wrong else ""
        out.append(Tried(text, read.value, shown, read.wrong))
    return out
