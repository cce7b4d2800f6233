"""Use cases of fields: the list with use and filling, and trying a value."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.definitions.reach import Reach
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.nouns.base import Reference
from young_fabric.core.nouns.fields.built_in import DERIVED
from young_fabric.core.nouns.fields.fields import NOUN, PRODUCTS, Field
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.values import FieldRules
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import plans
from young_fabric.service.values.holding import HOLDERS
from young_fabric.store.repos import fills, stored_values


@dataclass(frozen=True)
class FieldUse:
    """A field with where it is used: sets and types by key, products that have it, products
    filled, and wrong or not understood, surfaces."""

    thing: Field
    version: int
    sets: tuple[str, ...]
    types: tuple[str, ...]
    products: int
    filled: int
    wrong: int
    surfaces: tuple[str, ...]
    example: str
    own: bool


def overview(work: Work, only: str | None = None) -> list[FieldUse]:
    """All fields (or one), own ones by name, then built-in ones."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    defs = draft.defs
    wanted: Sequence[Field] = (
        *sorted(defs.fields.values(), key=lambda field: field.name.casefold()),
        *[field for field in defs.all_fields.values() if not field.own and field.key not in DERIVED],
    )
    if only is not None:
        wanted = [field for field in wanted if field.key == only]
    filled = fills.by_group(work.session, [only, fills.EVERY_PRODUCT] if only is not None else None)
    there = {group: count.filled for group, count in filled.get(fills.EVERY_PRODUCT, {}).items()}
    others = _of_tables(work, wanted)
    shown = _surfaces_of(draft.plans, _groups_having(defs, only, there))
    return [
        FieldUse(
            field,
            draft.loaded.versions.get((NOUN.code, field.key), 0),
            tuple(dict.fromkeys(noun_key for noun_key in _sets_of(defs, field.key))),
            tuple(key for key in defs.types if key in defs.holders.get(field.key, Reach()).types),
            *(others.get(field.key) or _held(defs, field, there, filled.get(field.key, {}))),
            tuple(code for code in product_surfaces() if code in shown.get(field.key, ())),
            field.example or field.rules.example_for(defs.spec(field)),
            field.own,
        )
        for field in wanted
    ]


def _of_tables(work: Work, wanted: Iterable[Field]) -> dict[str, tuple[int, int, int]]:
    """Field of what has a table and is no product → (things there are, those with a value, those with something not understood)."""
    by_subject: dict[str, list[str]] = {}
    for field in wanted:
        if field.own and field.subject in HOLDERS and field.subject != PRODUCTS:
            by_subject.setdefault(field.subject, []).append(field.key)
    return {
        key: found
        for subject, keys in by_subject.items()
        for key, found in stored_values.filled(work.session, HOLDERS[subject].table, keys).items()
    }


def _held(
    defs: Definitions,
    field: Field,
    there: Mapping[fills.GroupKey, int],
    filled: Mapping[fills.GroupKey, fills.FillCount],
) -> tuple[int, int, int]:
    """(things that have a field, things with a good value, things with a wrong one)."""
    if field.subject != PRODUCTS:
        having = [thing for thing in defs.things[field.subject].values() if _has(defs, field, thing)]
        return len(having), sum(1 for thing in having if field.key in thing.filled), 0
    reach = defs.holders.get(field.key, Reach())
    groups = [group for group in there if reach.takes_in(*group)]
    counts = [filled.get(group, fills.NONE) for group in groups]
    wrong = sum(count.wrong for count in filled.values())
    return sum(there[group] for group in groups), sum(count.filled for count in counts), wrong


def _has(defs: Definitions, field: Field, thing: Any) -> bool:
    """Whether a thing that is no product has a field; all have it where they are not told apart."""
    own = NOUNS[field.subject].holding.own_fields
    return own is None or field.key in own(thing, defs)


def _groups_having(defs: Definitions, only: str | None, there: Iterable[fills.GroupKey]) -> set[Group]:
    """The groups of the types that have a field (any: None), and of products that have it by a collection."""
    reach = Reach(frozenset(defs.types)) if only is None else defs.holders.get(only, Reach())
    by_collection = [group for group in there if not reach.collections.isdisjoint(group[1]) or only is None]
    return {Group(key) for key in reach.types} | {defs.group_of(*group) for group in by_collection}


def _surfaces_of(made: Plans, groups: Iterable[Group]) -> dict[str, set[str]]:
    shown: dict[str, set[str]] = {}
    for group in made.there(groups):
        for surface in product_surfaces():
            for key, entry in made.of_group(group, surface).entries.items():
                if entry.placed:
                    shown.setdefault(key, set()).add(surface)
    return shown


def _sets_of(defs: Definitions, key: str) -> Iterable[str]:
    rows: Iterable[tuple[str, str, Reference]] = defs.referrers(NOUN.code, key)
    return (user for noun, user, _ in rows if user in defs.sets and defs.things[noun] is defs.sets)


@dataclass(frozen=True)
class TriedText:
    """What typed text becomes: as stored, as shown on the page, or why not."""

    text: str
    stored: str
    shown: str
    wrong: Refusal | None


@dataclass(frozen=True)
class Tried:
    """What became of texts, and an example of what one would type."""

    texts: list[TriedText]
    example: str


def try_texts(work: Work, key: str, changes: Mapping[str, Any], texts: Sequence[str]) -> Tried:
    """Try texts on a field with changes that are not saved.

    Raises Refusal `not_found`, or of the definition when it would be unsound.
    """
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    known = {**defs.all_fields, **defs.fields}
    if key not in known:
        raise Refusal("not_found", f"There is no field {key}", ("key",))
    definition = known[key]
    if definition.own:
        definition = definitions.changed_thing(work, NOUN.code, key, changes)
    rules = FieldRules(definition, defs.spec(definition))
    out = []
    for text in texts[:20]:
        read = rules.read(text)
        stored = "" if read.value is None or (read.wrong and read.wrong.code == "shape") else rules.text(read.value)
        out.append(TriedText(text, stored, "" if read.wrong else stored, read.wrong))
    return Tried(out, definition.example or definition.rules.example_for(rules.spec))
