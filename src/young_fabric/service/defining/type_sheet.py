"""Types and fields as one sheet: who has what, from where, how much it is needed and how well it is filled."""

from __future__ import annotations

from dataclasses import dataclass

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.fields.fields import Need
from young_fabric.core.nouns.types.product_types import EffectiveField, ancestry, type_path
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.store.repos import fills


@dataclass(frozen=True)
class SheetType:
    """A column: a type, how deep it stands, its version, and its products."""

    key: str
    name: str
    path: str
    depth: int
    version: int
    products: int


@dataclass(frozen=True)
class SheetField:
    """A row: a field."""

    key: str
    name: str
    kind: str


@dataclass(frozen=True)
class SheetGroup:
    """Rows under a heading: the fields of a set, or those in none."""

    title: str
    set: str | None
    fields: list[SheetField]


@dataclass(frozen=True)
class Ask:
    """That a type says how much a field is needed."""

    type: str
    need: Need


@dataclass(frozen=True)
class SheetCell:
    """What a type has of a field: `how` is here (a single field of its own), set (by a set it takes) or inherited; `by` is the type
    that takes it, `sets` the sets that bring it, `also` other types of its line that ask for it, each with the need."""

    how: str
    by: str
    sets: list[str]
    need: Need
    filled: int
    wrong: int
    asks: list[Ask]


@dataclass(frozen=True)
class TypeSheet:
    """Columns, rows in groups, and the cells there are, by type and field."""

    types: list[SheetType]
    groups: list[SheetGroup]
    cells: dict[str, dict[str, SheetCell]]


def sheet(work: Work) -> TypeSheet:
    """The sheet of all types and all of the shop's fields of products."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    defs = draft.defs
    there, held = fills.counts_by_type(work.session), fills.by_type(work.session)
    ordered = sorted(defs.types, key=lambda key: type_path(key, defs.types))
    columns = [
        SheetType(
            key,
            defs.types[key].name,
            type_path(key, defs.types),
            len(ancestry(key, defs.types)) - 1,
            draft.loaded.versions["product_type", key],
            there.get(key, 0),
        )
        for key in ordered
    ]
    cells = {
        key: {row.field.key: _cell(defs, key, row, held) for row in defs.effective(key) if row.field.own}
        for key in ordered
    }
    return TypeSheet(columns, _groups(defs), cells)


def _cell(defs: Definitions, key: str, row: EffectiveField, held: dict[str, dict[str, fills.FillCount]]) -> SheetCell:
    count = held.get(row.field.key, {}).get(key, fills.NONE)
    how = "inherited" if row.type != key else "here" if row.set is None else "set"
    sets = bringing(defs, key, row.field.key)
    return SheetCell(how, row.type or "", sets, row.need, count.filled, count.wrong, asking(defs, key, row.field.key))


def bringing(defs: Definitions, key: str, field: str) -> list[str]:
    """The sets by which a type, or those above it, have a field."""
    taken = [name for of in reversed(ancestry(key, defs.types)) for name in defs.types[of].sets]
    return [name for name in dict.fromkeys(taken) if name in defs.sets and field in defs.sets[name].fields]


def asking(defs: Definitions, key: str, field: str) -> list[Ask]:
    """The types of a line that say how much a field is needed, from the top down, each with what it says."""
    return [
        Ask(of, defs.types[of].needs[field])
        for of in reversed(ancestry(key, defs.types))
        if field in defs.types[of].needs
    ]


def _groups(defs: Definitions) -> list[SheetGroup]:
    """Sets by name, each field under the first that has it, then those in none."""
    seen: set[str] = set()
    groups = []
    for key, field_set in sorted(defs.sets.items(), key=lambda pair: pair[1].name.casefold()):
        fresh = [name for name in field_set.fields if name not in seen and name in defs.product_fields]
        seen.update(fresh)
        if fresh:
            groups.append(SheetGroup(field_set.name, key, [_row(defs, name) for name in fresh]))
    rest = sorted((name for name in defs.product_fields if name not in seen), key=lambda name: defs.fields[name].name)
    if rest:
        groups.append(SheetGroup("In no set", None, [_row(defs, name) for name in rest]))
    return groups


def _row(defs: Definitions, key: str) -> SheetField:
    definition = defs.fields[key]
    return SheetField(key, definition.name, definition.rules.name)
