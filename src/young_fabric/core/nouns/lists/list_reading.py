"""Values of a list read from pasted lines and from tables, and written as a table."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.text import fold, make_code
from young_fabric.core.kinds.colours import read_colour
from young_fabric.core.nouns.lists.list_values import ListValue, check_values
from young_fabric.core.nouns.lists.value_lists import MOST_VALUES, ValueList

_HEX = re.compile(r"#(?:[0-9a-f]{6}|[0-9a-f]{3})(?![0-9a-z])", re.IGNORECASE)
Given = Mapping[str, str]
"""Cells of a value by column; columns that are not there leave what stands."""


@dataclass
class KnownValues:
    """Where values stand, by code and by folded label."""

    codes: dict[str, int]
    labels: dict[str, int]


Meant = Callable[[Given, KnownValues], tuple[int | None, Given]]
"""Where the value stands that a row means (None: it is new), and what the row says of it."""


@dataclass(frozen=True)
class ListReading:
    """What was read comes to: the list after it, values added and changed, and lines skipped: (number, text, reason)."""

    result: ValueList
    added: tuple[ListValue, ...] = ()
    changed: tuple[ListValue, ...] = ()
    skipped: tuple[tuple[int, str, str], ...] = ()


def paste(values: ValueList, text: str) -> ListReading:
    """Read one value a line: `label`, or `label<tab>code<tab>synonym, synonym`, with colours as #rrggbb anywhere after it.

    Semicolons do for tabs, and capitals in a code for small letters. Lines are numbered from 1. A line of a retired value brings it back.
    """
    rows = ((number, _line(line)) for number, line in enumerate(text.splitlines(), start=1))
    return _read(values, ((number, given) for number, given in rows if given["label"]), _by_label)


def _line(line: str) -> Given:
    colours = _HEX.findall(line)
    label, *parts = [part.strip() for part in re.split(r"[\t;]", _HEX.sub("", line) if colours else line)]
    code, *others = parts or [""]
    given = {"label": label.rstrip(" ,:–-") if colours else label, "retired": ""}
    given |= {"code": code.lower()} if code else {}
    given |= {"also": ", ".join(others)} if others else {}
    return given | ({"colours": " ".join(colours)} if colours else {})


def read_table(values: ValueList, rows: Sequence[Sequence[str]]) -> ListReading:
    """Read a table with columns of COLUMNS by name; a value is known by its code, else by its label. Raises Refusal `table`."""
    if not rows:
        raise Refusal("table", "There is nothing in this table", ("text",), "Its first line names the columns")
    head = [fold(cell) for cell in rows[0]]
    unknown = [cell for cell in head if cell and cell not in COLUMNS]
    if unknown or not {"code", "label"} & set(head):
        words = f"There is no column {unknown[0][:40]}" if unknown else "There is neither a column code nor label"
        raise Refusal("table", words, ("text",), f"Columns are {', '.join(COLUMNS)}")
    given = (
        (number, {name: _cell(name, cell.strip()) for name, cell in zip(head, row, strict=False) if name})
        for number, row in enumerate(rows[1:], start=2)
    )
    return _read(values, given, _by_code)


def _cell(column: str, text: str) -> str:
    """A cell as it is meant: capitals of a code tell nothing apart."""
    return text.lower() if column == "code" else text


def _read(values: ValueList, rows: Iterable[tuple[int, Given]], meant: Meant) -> ListReading:
    current = list(values.values)
    known = KnownValues(
        {value.code: index for index, value in enumerate(current)},
        {fold(value.label): index for index, value in enumerate(current)},
    )
    added: dict[int, ListValue] = {}
    changed: dict[int, ListValue] = {}
    skipped: list[tuple[int, str, str]] = []
    for number, row in rows:
        try:
            index, given = meant(row, known)
            old = current[index] if index is not None else None
            new = _new_value(old, given, known, index)
        except Refusal as refusal:
            skipped.append(
                (
                    number,
                    row.get("label") or row.get("code", ""),
                    ". ".join(filter(None, (refusal.message, refusal.help))),
                )
            )
            continue
        position = len(current) if index is None else index
        if old is None:
            current.append(new)
        else:
            current[position] = new
            known.labels.pop(fold(old.label), None)
        known.codes[new.code] = known.labels[fold(new.label)] = position
        (added if old is None or position in added or (old.retired and not new.retired) else changed)[position] = new
    rest = [value for position, value in changed.items() if position not in added]
    return ListReading(replace(values, values=tuple(current)), tuple(added.values()), tuple(rest), tuple(skipped))


def _new_value(old: ListValue | None, given: Given, known: KnownValues, index: int | None) -> ListValue:
    """The value a row comes to. Raises Refusal when it can't stand in the list, or nothing of it is new."""
    new = _value(old, given, known.codes)
    if old == new:
        raise Refusal("twice", "already in the list")
    if old is None and len(known.codes) >= MOST_VALUES:
        raise Refusal("too_many", f"a list holds at most {MOST_VALUES} values")
    if known.labels.get(fold(new.label), index) != index:
        raise Refusal("label_twice", f"“{new.label}” stands in the list twice")
    return new


def _by_label(given: Given, known: KnownValues) -> tuple[int | None, Given]:
    """A line means the value of its label; to one there is it says colours alone. Raises Refusal when its code is another's."""
    index = known.labels.get(fold(given["label"]))
    if index is None and given.get("code") in known.codes:
        raise Refusal("code_twice", f"the code {given['code']} is taken")
    return index, given if index is None else {name: cell for name, cell in given.items() if name in _OF_KNOWN}


def _by_code(given: Given, known: KnownValues) -> tuple[int | None, Given]:
    """A row of a table means the value of its code, else that of its label."""
    index = known.codes.get(given.get("code", ""))
    return (known.labels.get(fold(given.get("label", ""))) if index is None else index), given


_OF_KNOWN = frozenset({"retired", "colours"})


def _value(old: ListValue | None, given: Given, codes: Mapping[str, int]) -> ListValue:
    label = given.get("label") or (old.label if old else given.get("code", ""))
    value = old or ListValue(given.get("code") or make_code(label, codes), label)
    value = replace(value, label=label)
    for name, cell in given.items():
        put = COLUMNS[name].put
        if put is not None:
            value = put(value, cell)
    check_values((value,))
    return value


@dataclass(frozen=True)
class ListColumn:
    """A column of a table of values: how a cell is written, and put into a value (None: it says which value it is)."""

    write: Callable[[ListValue], str]
    put: Callable[[ListValue, str], ListValue] | None = None


def _swatch(value: ListValue, **members: object) -> ListValue:
    return replace(value, swatch=replace(value.swatch, **members))  # type: ignore[arg-type]


def _colours(value: ListValue, cell: str) -> ListValue:
    return (
        _swatch(value, colours=tuple(map(read_colour, re.split(r"[\s,;/+]+", cell))))
        if cell
        else _swatch(value, colours=())
    )


def _retired(value: ListValue, cell: str) -> ListValue:
    return replace(value, retired=fold(cell) in ("yes", "true", "1", "x"))


def _also(value: ListValue, cell: str) -> ListValue:
    return replace(value, synonyms=tuple(part.strip() for part in cell.split(",") if part.strip()))


COLUMNS: Mapping[str, ListColumn] = {
    "code": ListColumn(lambda value: value.code),
    "label": ListColumn(lambda value: value.label),
    "also": ListColumn(lambda value: ", ".join(value.synonyms), _also),
    "retired": ListColumn(lambda value: "yes" if value.retired else "", _retired),
    "colours": ListColumn(lambda value: " ".join(value.swatch.colours), _colours),
    "picture": ListColumn(lambda value: value.swatch.picture, lambda value, cell: _swatch(value, picture=cell)),
    "short": ListColumn(lambda value: value.swatch.short, lambda value, cell: _swatch(value, short=cell)),
    "note": ListColumn(lambda value: value.note, lambda value, cell: replace(value, note=cell)),
    "link": ListColumn(lambda value: value.link, lambda value, cell: replace(value, link=cell)),
}
"""The columns of a table of values, in their order."""


def table_of(values: ValueList) -> list[list[str]]:
    """A list as rows, the first naming the columns; `read_table` of it changes nothing."""
    return [list(COLUMNS), *[[column.write(value) for column in COLUMNS.values()] for value in values.values]]
