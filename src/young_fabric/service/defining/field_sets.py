"""Use cases of field sets: the list with use."""

from __future__ import annotations

from dataclasses import dataclass

from young_fabric.core.definitions.reach import Reach
from young_fabric.core.nouns.types.field_sets import NOUN, FieldSet
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.store.repos import fills


@dataclass(frozen=True)
class SetUse:
    """A field set with the types that have it, themselves or from above, how many products do, and of the values these could
    have, how many they have."""

    thing: FieldSet
    version: int
    types: tuple[str, ...]
    products: int
    values: int
    filled: int


def overview(work: Work, only: str | None = None) -> list[SetUse]:
    """All field sets (or one), by name."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    counts = fills.counts_by_group(work.session)
    held_by = fills.by_group(work.session)
    sets_of = {
        key: {taken for up in draft.defs.chain(key) for taken in draft.defs.types[up].sets} for key in draft.defs.types
    }
    out = []
    for field_set in sorted(draft.defs.sets.values(), key=lambda field_set: field_set.name.casefold()):
        if only in (None, field_set.key):
            users = tuple(key for key, sets in sets_of.items() if field_set.key in sets)
            version = draft.loaded.versions[NOUN.code, field_set.key]
            limited = frozenset(field_set.collections)
            reach = Reach(collections=limited) if limited else Reach(frozenset(users))
            within = [group for group in counts if reach.takes_in(*group)]
            held = sum(counts[group] for group in within)
            filled = sum(
                held_by[name][group].filled
                for name in field_set.fields
                for group in within
                if name in held_by and group in held_by[name]
            )
            out.append(SetUse(field_set, version, () if limited else users, held, held * len(field_set.fields), filled))
    return out
