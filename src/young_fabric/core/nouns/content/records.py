"""Records: things that products refer to, each of a record type whose fields it fills."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.text import ADDRESS, make_code
from young_fabric.core.kinds.base import Items, Target, in_words
from young_fabric.core.nouns.base import (
    AsValue,
    Bearing,
    Calling,
    HoldingValues,
    Known,
    Noun,
    Reference,
    Referring,
    Sent,
    State,
    Stored,
    Telling,
)
from young_fabric.core.nouns.content.record_types import RECORDS
from young_fabric.core.nouns.fields.cells import Cell, cells_changed, cells_with_items, refers_of_cells, without_cell
from young_fabric.core.nouns.fields.fields import Field


@dataclass(frozen=True)
class Record:
    """A record of a type, `filled` with values of that type's fields, each one thing, understood or not."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    type: str = ""
    slug: str = ""
    filled: Mapping[str, Cell] = field(default_factory=dict)


def check_record(record: Record, defs: Known) -> None:
    """Raises Refusal: `required`, `long`, `pattern`, `record_type`."""
    if not record.name.strip():
        raise Refusal("required", "A record needs a name", ("name",), "Type a name")
    if len(record.name) > 80 or len(record.slug) > 120:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    if not ADDRESS.fullmatch(record.slug):
        words = "An address has small letters, digits and hyphens"
        raise Refusal("pattern", words, ("slug",), "Such as fenwick-and-sons")
    if record.type not in defs.things["record_type"]:
        raise Refusal("record_type", "There is no such record type", ("type",), "Choose one, or make one")


def fields_of_record(record: Record, defs: Known) -> Mapping[str, Field]:
    """The fields of a record, in the order of its type."""
    record_type, known = defs.things["record_type"].get(record.type), defs.fields_of(RECORDS)
    return {key: known[key] for key in record_type.fields if key in known} if record_type is not None else {}


def page_of(record: Record, defs: Known) -> str:
    """The address of a record's page in the shop, "" when its type has none."""
    record_type = defs.things["record_type"].get(record.type)
    return record.slug if record_type is not None and record_type.page else ""


def _blank(key: str, name: str, defs: Known) -> Record:
    code = make_code(name, ()).replace("_", "-")
    taken = {thing.slug for noun in ("product_type", "collection", RECORDS) for thing in defs.things[noun].values()}
    number, slug = 1, code
    while slug in taken:
        number += 1
        slug = f"{code}-{number}"
    return Record(key, name, slug=slug)


def _refers(record: Record) -> Iterable[Reference]:
    yield Reference("record_type", record.type, "type")
    yield from refers_of_cells(record.filled, ())


def _describe(before: State, after: State, defs: Known) -> list[str]:
    out = cells_changed(before["filled"], after["filled"], defs)
    for member in ("name", "slug"):
        if before[member] != after[member]:
            out.append(f"{member} {in_words(before[member])} → {in_words(after[member])}")
    return out or ["no difference"]


def _note(record: Record, defs: Known) -> str:
    record_type = defs.things["record_type"].get(record.type)
    return record_type.name if record_type is not None else record.type


def _with_items(record: Record, target: Target, items: Items, defs: Known) -> Record:
    return replace(record, filled=cells_with_items(record.filled, defs.fields_of(RECORDS), target, items))


def _with_field(record: Record, field: str, into: str) -> Record:
    if field not in record.filled:
        return record
    filled = {key: cell for key, cell in record.filled.items() if key != field}
    return replace(record, filled={into: record.filled[field], **filled})


NOUN = Noun(
    code=RECORDS,
    plural="records",
    name="record",
    group="What it is",
    type=Record,
    check=check_record,
    blank=_blank,
    telling=Telling(describe=_describe),
    referring=Referring(refers=_refers, without=without_cell, with_items=_with_items, with_field=_with_field),
    holding=HoldingValues(fields={}, own_fields=fields_of_record),
    stored=Stored(guarded=frozenset({"filled"})),
    sent=Sent(local=frozenset({"filled"}), content=True),
    calling=Calling(address=lambda thing: str(thing.slug), note=_note, own_alone=frozenset({"slug"})),
    bearing=Bearing(unplanned=frozenset({"name", "type", "slug", "filled"})),
    chosen=AsValue(page=page_of, item_of=lambda thing: ("record_type", thing.type)),
)
