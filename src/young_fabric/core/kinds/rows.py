"""Rows: a repeating group of sub-fields, such as the steps of a technique."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import KEY, make_key
from young_fabric.core.base.wording.counting import counted
from young_fabric.core.kinds.base import (
    Column,
    Items,
    Judge,
    Kind,
    KindOption,
    Naming,
    Part,
    Show,
    Spec,
    StoredFile,
    Target,
    Value,
)
from young_fabric.core.kinds.counts import MOST, check_count
from young_fabric.core.kinds.limits import FEWEST, MOST_VALUES, check_limits
from young_fabric.core.kinds.rows_shown import rows_shower

MOST_COLUMNS = 12
LONGEST_LABEL = 80
LONGEST_CELL = 20_000
_EMPTY: tuple[Any, ...] = (None, "", [])


class Rows(Kind):
    """Rows as a list of {column: value}; a cell of no value is left out, one of a column that went is kept and not looked at.

    `kinds` are those its columns can be of.
    """

    code, name = "rows", "rows"
    limits = (FEWEST, MOST_VALUES)
    takes_many = False
    takes_default = False
    in_rows = False
    formats = ("rows_as", "rows_columns", "rows_heading")
    formats_of_many = ()
    comparison = "presence"
    recurs = False
    label = "above"

    def __init__(self, kinds: Mapping[str, Kind]) -> None:
        self.kinds = kinds
        self.options = (
            KindOption("columns", "columns", "columns", self._check_columns, "Say what a row holds", read=_with_keys),
        )

    def columns(self, options: Mapping[str, Any]) -> tuple[Column, ...]:
        """The columns that options describe, those of a kind there is not left out."""
        return tuple(
            Column(
                given["key"],
                given["label"],
                self.kinds[given["kind"]],
                given.get("options") or {},
                given.get("limits") or {},
                bool(given.get("required")),
            )
            for given in options.get("columns") or ()
            if given["kind"] in self.kinds
        )

    def named(self, options: Mapping[str, Any]) -> Iterable[Naming]:
        for index, column in enumerate(self.columns(options)):
            for naming in column.kind.named(column.options):
                yield naming._replace(where=("columns", index, *naming.where))

    def _check_columns(self, given: Any) -> Refusal | None:
        if not isinstance(given, list | tuple) or not given:
            return Refusal("columns", "Say what a row holds", help="Add a column, such as Step")
        if len(given) > MOST_COLUMNS:
            return Refusal("columns", f"A row has at most {MOST_COLUMNS} columns", help="Take some off")
        seen: set[str] = set()
        for index, column in enumerate(given):
            wrong = self._check_column(column, seen)
            if wrong:
                return wrong.at(index)
            seen.add(column["key"])
        return None

    def _check_column(self, given: Any, seen: set[str]) -> Refusal | None:
        members = {"key", "label", "kind", "options", "limits", "required"}
        if not isinstance(given, Mapping) or not {"key", "label", "kind"} <= given.keys() <= members:
            return Refusal("columns", "A column has a key, a label and a kind", help="Send it in the shape of the API")
        if not isinstance(given["key"], str) or not KEY.fullmatch(given["key"]) or given["key"] in seen:
            return Refusal("columns", "Two columns have the same key, or one has none", help="Give each its own")
        label = given["label"]
        if not isinstance(label, str) or not label.strip() or len(label) > LONGEST_LABEL or not label.isprintable():
            return Refusal("columns", f"A column has a label of at most {LONGEST_LABEL} characters", help="Type one")
        kind = self.kinds.get(given["kind"]) if isinstance(given["kind"], str) else None
        if kind is None:
            return Refusal("columns", f"{label} is of no kind that stands in rows", help="Choose one of those offered")
        return _check_members(kind, label, given)

    def read(self, text: str, spec: Spec) -> Value:
        """Rows pasted from a table: one a line, cells with tabs between, in the order of the columns."""
        rows = [line.split("\t") for line in text.splitlines() if line.strip()]
        widest = max(map(len, rows), default=0)
        if widest > len(spec.parts):
            raise Refusal("shape", f"{widest} cells for {len(spec.parts)} columns", help="Take the rest off")
        typed = [{part.key: cell for part, cell in zip(spec.parts, row, strict=False)} for row in rows]
        return self._taken(typed, spec)

    def take(self, value: Any, spec: Spec) -> Value:
        if isinstance(value, str):
            return self.read(value, spec)
        if not isinstance(value, list) or not all(isinstance(row, dict) for row in value):
            raise Refusal("shape", "Not rows", help="Send a list of rows, each by column")
        return self._taken(value, spec)

    def _taken(self, rows: list[dict[str, Any]], spec: Spec) -> Value:
        if len(rows) > MOST:
            raise Refusal("many", f"At most {MOST} rows fit", help="Take some off")
        parts = {part.key: part for part in spec.parts}
        taken = []
        for index, row in enumerate(rows):
            cells = {}
            for key, typed in row.items():
                cell = _kept(key, typed, index) if key not in parts else _cell(parts[key], typed, index)
                if cell not in _EMPTY:
                    cells[key] = cell
            if cells:
                taken.append({**{key: cells[key] for key in parts if key in cells}, **cells})
        return taken or None

    def well_formed(self, value: Any) -> bool:
        return isinstance(value, list) and bool(value) and all(isinstance(row, dict) for row in value)

    def checker(self, spec: Spec) -> Judge:
        judges = [(part.column, part.kind.judge(part.spec)) for part in spec.parts]

        def check(value: Value) -> Refusal | None:
            for index, row in enumerate(value):
                if not row:
                    return Refusal("shape", f"row {index + 1} is empty", (index,), "Fill it, or take it off")
                for column, judge in judges:
                    wrong = _wrong_cell(column, judge, row.get(column.key), index)
                    if wrong:
                        return wrong
            return check_count(len(value), spec.limits)

        return check

    def faults(self, typed: Any, spec: Spec) -> Iterable[Refusal]:
        if not self.well_formed(typed):
            return super().faults(typed, spec)
        judges = [(part, part.kind.judge(part.spec)) for part in spec.parts]
        found = []
        for index, row in enumerate(typed):
            for part, judge in judges:
                try:
                    wrong = _wrong_cell(part.column, judge, _cell(part, row.get(part.key), index), index)
                except Refusal as refusal:
                    wrong = refusal
                found += [] if wrong is None else [wrong]
        return found or super().faults(typed, spec)

    def shower(self, spec: Spec, properties: Mapping[str, Any]) -> Show:
        return rows_shower(spec, properties)

    def together(self, nodes: list[Any]) -> Any:
        return nodes[0]

    def typed(self, value: Value, spec: Spec) -> Any:
        return _each(value, spec, lambda part, cell: part.kind.typed(cell, part.spec))

    def retyped(self, value: Value, spec: Spec) -> Any:
        return _each(value, spec, lambda part, cell: part.kind.retyped(cell, part.spec))

    def to_text(self, value: Value, spec: Spec) -> str:
        cells = _each(value, spec, lambda part, cell: part.kind.to_text(cell, part.spec))
        return json.dumps(cells, ensure_ascii=False)

    def from_text(self, text: str, spec: Spec) -> Value:
        try:
            rows = json.loads(text)
        except (ValueError, RecursionError):
            rows = None
        if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows):
            raise Refusal("shape", "Rows stand in files as a JSON list", help='Such as [{"step": "Wet the paper"}]')
        parts = {part.key: part for part in spec.parts}

        def cell_of(key: str, text: Any) -> Any:
            part = parts.get(key)
            return part.kind.from_text(text, part.spec) if part and isinstance(text, str) else text

        return self._taken([{key: cell_of(key, text) for key, text in row.items()} for row in rows], spec)

    def json_schema(self, spec: Spec) -> dict[str, Any]:
        row: dict[str, Any] = {
            "type": "object",
            "minProperties": 1,
            "properties": {part.key: _cell_schema(part) for part in spec.parts},
            "required": sorted(part.key for part in spec.parts if part.column.required),
        }
        least, most = spec.limits.get("min_count") or 0, spec.limits.get("max_count")
        made = {"type": "array", "items": row, "minItems": max(1, least)}
        return made if most is None else {**made, "maxItems": most}

    def words(self, value: Value) -> str:
        return counted(len(value), "row") if self.well_formed(value) else super().words(value)

    def words_of(self, values: list[Value]) -> str:
        return self.words(values)

    def chosen(self, options: Mapping[str, Any]) -> Target | None:  # noqa: ARG002
        return None

    def targets(self, options: Mapping[str, Any]) -> tuple[Target, ...]:
        found = (target for column in self.columns(options) for target in column.kind.targets(column.options))
        return tuple(dict.fromkeys(found))

    def items(self, value: Value, options: Mapping[str, Any]) -> Iterable[tuple[Target, Any]]:
        columns = [column for column in self.columns(options) if column.kind.targets(column.options)]
        for row in value:
            for column in columns:
                if column.kind.well_formed(row.get(column.key)):
                    yield from column.kind.items(row[column.key], column.options)

    def containing(self, options: Mapping[str, Any], target: Target, item: Any) -> tuple[Any, ...]:
        return tuple(
            [{column.key: pattern}]
            for column in self.columns(options)
            for pattern in column.kind.containing(column.options, target, item)
        )

    def paths(self, options: Mapping[str, Any], target: Target) -> tuple[str, ...]:
        return tuple(
            f"[*].{column.key}{path}"
            for column in self.columns(options)
            for path in column.kind.paths(column.options, target)
        )

    def with_items(self, value: Value, options: Mapping[str, Any], target: Target, items: Items) -> Value:
        columns = {column.key: column for column in self.columns(options)}

        def cell(key: str, stored: Any) -> Any:
            column = columns.get(key)
            return stored if column is None else column.kind.with_items(stored, column.options, target, items)

        if not self.well_formed(value):
            return value
        return [{key: cell(key, stored) for key, stored in row.items()} for row in value]

    def files(self, value: Value, spec: Spec) -> tuple[str, ...]:
        return tuple(
            file
            for row in value
            for part in spec.parts
            if part.kind.well_formed(row.get(part.key))
            for file in part.kind.files(row[part.key], part.spec)
        )

    def with_files(self, value: Value, stored: Mapping[str, StoredFile], spec: Spec) -> Value:
        return _each(value, spec, lambda part, cell: part.kind.with_files(cell, stored, part.spec))


def _cell_schema(part: Part) -> dict[str, Any]:
    """A cell that is not required may be null, which is as if it were not there."""
    schema = part.kind.json_schema(part.spec)
    return schema if part.column.required else {"anyOf": [schema, {"type": "null"}]}


def _with_keys(given: Any) -> Any:
    """Columns as given, each without a key with one made from its label."""
    if not isinstance(given, list) or not all(isinstance(column, dict) for column in given):
        return given
    taken = {column["key"] for column in given if isinstance(column.get("key"), str)}
    out = []
    for column in given:
        named = column
        if not column.get("key") and isinstance(column.get("label"), str):
            named = {**column, "key": make_key(column["label"], "", taken)}
            taken.add(named["key"])
        out.append(named)
    return out


def _check_members(kind: Kind, label: str, given: Mapping[str, Any]) -> Refusal | None:
    """Whether options and limits of a column are those its kind has."""
    options, limits = given.get("options", {}), given.get("limits", {})
    if not isinstance(options, Mapping) or not isinstance(limits, Mapping):
        return Refusal("columns", "Options and limits go by name", help="Send it in the shape of the API")
    if not isinstance(given.get("required", False), bool):
        return Refusal("columns", "A column is required or not", help="Tick it, or don't")
    unknown = options.keys() - {option.code for option in kind.options}
    if unknown:
        return Refusal("columns", f"A column of kind {kind.name} has no {min(unknown)}", help="Take it away")
    for option in kind.options:
        wrong = option.check(options.get(option.code))
        if wrong:
            return Refusal("columns", f"{label}: {wrong.message}", (option.code,), wrong.help)
    try:
        check_limits(limits, tuple(limit for limit in kind.limits if not limit.alone), kind.name)
    except Refusal as refusal:
        return Refusal("columns", f"{label}: {refusal.message}", refusal.where, refusal.help)
    return None


def _cell(part: Part, typed: Any, index: int) -> Value | None:
    if typed in _EMPTY:
        return None
    try:
        return part.kind.take(typed, part.spec)
    except Refusal as refusal:
        words = f"row {index + 1}, {part.column.label}: {refusal.message}"
        raise Refusal(refusal.code, words, (index, part.key), refusal.help) from None


def _wrong_cell(column: Column, judge: Judge, cell: Value | None, index: int) -> Refusal | None:
    if cell is None:
        words = f"row {index + 1}: {column.label} is not filled"
        where = (index, column.key)
        return Refusal("required", words, where, "Fill it, or take the row off") if column.required else None
    wrong = judge(cell)
    if wrong is None:
        return None
    words = f"row {index + 1}, {column.label}: {wrong.message}"
    return Refusal(wrong.code, words, (index, column.key), wrong.help)


def _kept(key: str, cell: Any, index: int) -> Any:
    """A cell of a column that went, which comes back with it."""
    if KEY.fullmatch(key) and len(json.dumps(cell, ensure_ascii=False)) <= LONGEST_CELL:
        return cell
    raise Refusal("columns", f"There is no column {key[:60]}", (index, key[:60]), "Take it off")


def _each(value: Value, spec: Spec, made: Any) -> list[dict[str, Any]]:
    """Rows with every well-formed cell of a column made into something; others stand as they are."""
    parts = {part.key: part for part in spec.parts}

    def cell(key: str, stored: Any) -> Any:
        part = parts.get(key)
        return made(part, stored) if part is not None and part.kind.well_formed(stored) else stored

    return [{key: cell(key, stored) for key, stored in row.items()} for row in value]
