"""The feed: live products with the fields other systems get, as records (JSON Lines) and as rows of a table (CSV, RFC 4180)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.surfaces import SURFACES, Surface
from young_fabric.core.interchange.tables import csv_text
from young_fabric.core.pages.document import Entry, RenderDoc
from young_fabric.core.subjects.values import FieldRules

HEAD = ("id", "type", "address", "gone")
"""What every record begins with."""


@dataclass(frozen=True)
class FeedItem:
    """A live product as the feed has it; one that went since is `doc` None."""

    id: int
    type: str
    address: str
    doc: RenderDoc | None


def feed_surface() -> Surface:
    """The surface the feed is made from."""
    return SURFACES["feed"]


def record(item: FeedItem) -> dict[str, Any]:
    """A record: `fields` by key, each with its label, its value as stored, and its text; `gone` for what is live no more."""
    head: dict[str, Any] = {"id": item.id, "type": item.type, "address": item.address}
    if item.doc is None:
        return {"id": item.id, "gone": True}
    fields = {entry.field: _field(entry) for entry in item.doc.entries()}
    return {**head, "fields": fields}


def _field(entry: Entry) -> dict[str, Any]:
    return {"label": entry.label, "value": entry.value, "text": entry.text}


def columns(defs: Definitions) -> tuple[str, ...]:
    """The fields a table of the feed has columns for: all its readers may get, whoever has them."""
    readers = feed_surface().readers
    return tuple(key for key, field in defs.all_fields.items() if field.audience in readers)


def table(defs: Definitions, items: Iterable[FeedItem], head: bool) -> str:
    """Rows of a table, values as files have them, several one a line; with the names of the columns when `head`."""
    keys = columns(defs)
    rules = {key: FieldRules(defs.all_fields[key], defs.spec(defs.all_fields[key])) for key in keys}
    named = [[*HEAD, *keys]] if head else []
    return csv_text([*named, *[_row(item, keys, rules) for item in items]])


def _row(item: FeedItem, keys: Sequence[str], rules: Mapping[str, FieldRules]) -> list[str]:
    entries = {entry.field: entry for entry in item.doc.entries()} if item.doc is not None else {}
    cells = [_cell(entries[key], rules[key]) if key in entries else "" for key in keys]
    return [str(item.id), item.type, item.address, "" if item.doc is not None else "yes", *cells]


def _cell(entry: Entry, rules: FieldRules) -> str:
    value = entry.value
    if rules.derived is not None or rules.judge(value) is not None:
        return entry.text
    items = value if rules.field.many and isinstance(value, list) else [value]
    return "\n".join(rules.kind.to_text(item, rules.spec) for item in items)
