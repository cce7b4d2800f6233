"""Starter fields: ready definitions of what nearly every shop records, in groups, mapped to schema.org where it has them."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from typing import Any

from young_fabric.core.kinds import KINDS

_OPTIONS = ("unit", "columns")
_APART = frozenset({"key", "group", "name", "values", *_OPTIONS})


@dataclass(frozen=True)
class Starter:
    """A ready definition: its key without a prefix, its group, its members, and the values of the list it takes from."""

    key: str
    group: str
    name: str
    members: Mapping[str, Any]
    values: tuple[str, ...] = field(default_factory=tuple)

    @property
    def kind_words(self) -> str:
        """Its kind, in words."""
        unit = self.members["options"].get("unit")
        many = ", many" if self.members.get("many") else ""
        return f"{KINDS[self.members['kind']].name}{f', {unit}' if unit else ''}{many}"


@cache
def starters() -> Mapping[str, Starter]:
    """Every starter field by its key, in the order of the groups."""
    rows = tomllib.loads((files("young_fabric.core.nouns.fields") / "starter_fields.toml").read_text("utf-8"))["fields"]
    return {row["key"]: _starter(row) for row in rows}


def _starter(row: dict[str, Any]) -> Starter:
    options = {name: row[name] for name in _OPTIONS if name in row}
    members = {name: value for name, value in row.items() if name not in _APART}
    return Starter(row["key"], row["group"], row["name"], {**members, "options": options}, tuple(row.get("values", ())))
