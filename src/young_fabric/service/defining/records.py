"""Use cases of record types and records: lists with counts, and a page of records by name."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from young_fabric.core.base.text import fold
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.content import record_types, records
from young_fabric.core.nouns.content.record_types import RecordType
from young_fabric.core.nouns.content.records import Record
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans

PAGE = 100


@dataclass(frozen=True)
class RecordTypeUse:
    """A record type with how many records there are of it, the names of the fields that choose of them, and of the values its
    records could have, how many they have."""

    thing: RecordType
    version: int
    records: int
    fields: list[str]
    values: int
    filled: int


def types_overview(work: Work, only: str | None = None) -> list[RecordTypeUse]:
    """All record types (or one) by name."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    defs, noun = draft.defs, record_types.NOUN.code
    counts = Counter(record.type for record in defs.things[records.NOUN.code].values())
    return [
        RecordTypeUse(
            thing,
            draft.loaded.versions[noun, key],
            counts[key],
            sorted(field.name for field in defs.fields.values() if (noun, key) in field.targets),
            counts[key] * len(thing.fields),
            sum(len(record.filled.keys() & set(thing.fields)) for record in defs.records_of(key).values()),
        )
        for key, thing in sorted(defs.things[noun].items(), key=lambda pair: fold(pair[1].name))
        if only in (None, key)
    ]


@dataclass(frozen=True)
class RecordUse:
    """A record with the name of its type, its address in the shop, "" for none, and how many required fields lack a value."""

    thing: Record
    version: int
    type_name: str
    page: str
    required_missing: int


def overview(work: Work, only: str | None = None) -> list[RecordUse]:
    """One record, or all of them."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    things = draft.defs.things[records.NOUN.code]
    found = things.values() if only is None else [things[only]] if only in things else []
    return [_use(draft, record) for record in found]


def _use(draft: plans.Draft, record: Record) -> RecordUse:
    defs = draft.defs
    return RecordUse(
        record,
        draft.loaded.versions[records.NOUN.code, record.key],
        defs.things[record_types.NOUN.code][record.type].name,
        records.page_of(record, defs),
        _missing(defs, record),
    )


def _missing(defs: Definitions, record: Record) -> int:
    fields = defs.fields_of_thing(records.NOUN.code, record)
    return sum(field.need == "required" and key not in record.filled for key, field in fields.items())


@dataclass(frozen=True)
class RecordPage:
    """A page of records, how many match, and where the next begins."""

    rows: list[RecordUse]
    total: int
    next: int | None


def page(work: Work, record_type: str | None, words: str, offset: int) -> RecordPage:
    """Records by name, of a type or all, whose name or key holds some words."""
    work.need(Right.LOOK)
    draft = plans.draft_of(work.session)
    things = draft.defs.things[records.NOUN.code] if record_type is None else draft.defs.records_of(record_type)
    wanted = fold(words)
    found = [thing for thing in things.values() if wanted in fold(thing.name) or wanted in thing.key]
    found.sort(key=lambda thing: (fold(thing.name), thing.key))
    rows = [_use(draft, record) for record in found[offset : offset + PAGE]]
    return RecordPage(rows, len(found), offset + PAGE if offset + PAGE < len(found) else None)
