"""Use cases of value lists: the list with use, and pasting values."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from young_fabric.core.base.merge import ABSENT
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.interchange.tables import read_csv
from young_fabric.core.kinds.base import Target
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.lists.list_reading import ListReading, paste, read_table
from young_fabric.core.nouns.lists.value_lists import NOUN, ValueList
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit
from young_fabric.store.repos import stored_values
from young_fabric.store.repos.definitions import StoredThing


@dataclass(frozen=True)
class ListUse:
    """A value list with the fields that take from it."""

    thing: ValueList
    version: int
    fields: tuple[str, ...]


def overview(work: Work, only: str | None = None) -> list[ListUse]:
    """All value lists (or one), by name."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    lists = [values for key, values in draft.defs.lists.items() if only in (None, key)]
    return [
        ListUse(
            values,
            draft.loaded.versions[NOUN.code, values.key],
            tuple(user for noun, user, _ in draft.defs.referrers(NOUN.code, values.key) if noun == fields.NOUN.code),
        )
        for values in sorted(lists, key=lambda values: values.name.casefold())
    ]


@dataclass(frozen=True)
class ReadList:
    """What values read came to, and the version of the list after it."""

    reading: ListReading
    version: int


Read = Callable[[ValueList], ListReading]


def paste_values(work: Work, key: str, text: str, version: int, apply: bool) -> ReadList:
    """Read pasted lines, and write them when asked to: added to what stands now. Raises Refusal, Clash."""
    return _read(work, key, lambda values: paste(values, text), version, apply)


def import_table(work: Work, key: str, text: str, version: int, apply: bool) -> ReadList:
    """Read a CSV table of values, and write it when asked to. Raises Refusal, Clash."""
    return _read(work, key, lambda values: read_table(values, read_csv(text)), version, apply)


def _read(work: Work, key: str, read: Read, version: int, apply: bool) -> ReadList:
    work.need(Right.EDIT if apply else Right.LOOK)
    if not apply:
        current = writes.need_current(work, NOUN.code, key)
        return ReadList(read(current.thing), current.version)
    found: list[ListReading] = []

    def edit(current: StoredThing | None) -> Edit:
        base = writes.state_at(work, NOUN, key, version, current)
        standing = state_of(current.thing) if current else base
        if current is None or base is ABSENT:
            return Edit(base, ABSENT)
        found.append(read(current.thing))
        return Edit(standing, state_of(found[0].result))

    done = writes.apply(work, NOUN.code, key, edit)
    return ReadList(found[0], done.version)


@dataclass(frozen=True)
class ValueUse:
    """How much a value of a list is used: what holds it, by subject, and definitions that ask for it, by name."""

    code: str
    held: Mapping[str, int]
    definitions: tuple[str, ...]


def usage(work: Work, key: str) -> list[ValueUse]:
    """How much each value of a list is used, in the order of the list. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    values = writes.need_current(work, NOUN.code, key).thing
    defs = plans.draft(work.session)
    target = (NOUN.code, key)
    counts: dict[str, dict[str, int]] = {}
    for subject, table in stored_values.TABLES.items():
        paths = [path for field in defs.fields.values() if field.subject == subject for path in field.paths(target)]
        counts[subject] = stored_values.item_counts(work.session, table, paths)

    def held(code: str) -> dict[str, int]:
        return {subject: found[code] for subject, found in counts.items() if code in found}

    return [ValueUse(value.code, held(value.code), _asking(defs, target, value.code)) for value in values.values]


def _asking(defs: Definitions, target: Target, code: str) -> tuple[str, ...]:
    """The names of definitions that hold or ask for a value: those that would differ with another in its place."""
    return tuple(
        noun.calling.name_of(key, thing, defs)
        for noun in NOUNS.values()
        for key, thing in sorted(defs.things[noun.code].items())
        if noun.referring.with_items(thing, target, {code: ""}, defs) != thing
    )
