"""The demo's records: their types and fields are made before the fields that choose of them, they before the products."""

from __future__ import annotations

from collections.abc import Callable

from young_fabric.core.kinds import KINDS
from young_fabric.demo.catalogue import read
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, holders
from young_fabric.service.writing import writes

OPTIONS = {option.code for kind in KINDS.values() for option in kind.options}
"""What stands beside a field's members in the demo's files."""


def make_types(work: Work, own: Callable[[str], str]) -> None:
    """The record types, with the fields of their records."""
    data = read("records.toml")
    for row in data["types"]:
        definitions.create(work, "record_type", row["name"], {"key": row["key"], "page": row["page"]})
    for row in data["fields"]:
        options = {name: row[name] for name in OPTIONS if name in row}
        rest = {name: value for name, value in row.items() if name not in OPTIONS}
        given = {**rest, "options": options, "key": own(row["key"]), "subject": "record"}
        definitions.create(work, "field", row["name"], given)
    for row in data["types"]:
        definitions.change(work, "record_type", row["key"], 1, {"fields": list(map(own, row["fields"]))})


def fill(work: Work, own: Callable[[str], str]) -> None:
    """The records with their values, which may name one another."""
    rows = read("records.toml")["records"]
    for row in rows:
        definitions.create(work, "record", row["name"], {"key": row["key"], "type": row.get("type", "maker")})
    for row in rows:
        version = writes.need_current(work, "record", row["key"]).version
        holders.fill(work, "record", row["key"], version, {own(key): value for key, value in row["values"].items()})
