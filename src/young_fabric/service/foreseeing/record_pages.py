"""How many pages of records differ when definitions change, and which changes make them differ."""

from __future__ import annotations

from collections.abc import Iterable

from young_fabric.core.display.surfaces import record_surface
from young_fabric.core.nouns.content import record_types, records
from young_fabric.core.pages.plans import Plans, changed_record_types

Thing = tuple[str, str]


def record_pages(before: Plans, after: Plans, changed: Iterable[Thing]) -> dict[str, int]:
    """Surface → pages of records that differ by what changed: of whole types that are laid out otherwise, and single ones."""
    things = list(changed)
    types = {key for key in changed_record_types(before, after) if _reads(before, after, key, things)}
    count = sum(len(after.defs.records_of(key)) for key in types if _paged(after, key))
    for noun, key in things:
        if noun == records.NOUN.code:
            found = [made.defs.things[noun][key] for made in (before, after) if key in made.defs.things[noun]]
            count += int(any(_paged(after, record.type) and record.type not in types for record in found))
    return {record_surface().code: count}


def _paged(made: Plans, record_type: str) -> bool:
    found = made.defs.things[record_types.NOUN.code].get(record_type)
    return found is not None and found.page


def _reads(before: Plans, after: Plans, record_type: str, things: list[Thing]) -> bool:
    read = before.of_records(record_type).reads.marks.keys() | after.of_records(record_type).reads.marks.keys()
    return (record_types.NOUN.code, record_type) in things or any(thing in read for thing in things)
