"""What rows show as: a table, text, a list, or cards in a grid, a carousel or an accordion."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from young_fabric.core.kinds.base import Column, Show, Spec, Value
from young_fabric.core.kinds.shown import Cards, Items, Nothing, Table, Text

NOTHING = Nothing("")
Cells = Sequence[tuple[Column, Show]]
Arrange = Callable[[Value, Cells, str, str], Any]


def rows_shower(spec: Spec, properties: Mapping[str, Any]) -> Show:
    """A function from rows to their node, by display properties: how, which columns, and which heads each row."""
    how = properties.get("rows_as") or "table"
    showers = _columns(spec, properties.get("rows_columns") or ())
    arrange: Arrange = _ARRANGED.get(how, _table)
    heading = properties.get("rows_heading") or ""

    def show(value: Value) -> Any:
        there = [cell for cell in showers if any(row.get(cell[0].key) is not None for row in value)]
        return arrange(value, there, how, heading)

    return show


def _columns(spec: Spec, chosen: Sequence[str]) -> Cells:
    """The columns that show, in the order chosen; all of them when none that is chosen is there."""
    showers: dict[str, tuple[Column, Show]] = {
        part.key: (part.column, part.kind.shower(part.spec, {})) for part in spec.parts
    }
    return [showers[key] for key in chosen if key in showers] or list(showers.values())


def _node(row: Mapping[str, Any], cell: tuple[Column, Show]) -> Any:
    column, show = cell
    value = row.get(column.key)
    return NOTHING if value is None else show(value)


def _table(value: Value, cells: Cells, _how: str, _heading: str) -> Table:
    rows = tuple(tuple(_node(row, cell) for cell in cells) for row in value)
    return Table(tuple(column.label for column, _ in cells), rows)


def _line(row: Mapping[str, Any], cells: Cells) -> Any:
    """A row on one line: its only cell as it is, several as text."""
    nodes = [node for node in (_node(row, cell) for cell in cells) if node is not NOTHING]
    return nodes[0] if len(nodes) == 1 else Text(", ".join(node.plain for node in nodes))


def _items(value: Value, cells: Cells, how: str, _heading: str) -> Items:
    lines = (_line(row, cells) for row in value)
    return Items(how, tuple(line for line in lines if line.plain or line.__class__ is not Text))


def _text(value: Value, cells: Cells, _how: str, _heading: str) -> Text:
    return Text("; ".join(filter(None, (_line(row, cells).plain for row in value))))


def _cards(value: Value, cells: Cells, how: str, heading: str) -> Cards:
    """Rows under the cell that heads each, the first column's where none is chosen; rows without any cell left out."""
    head = next((cell for cell in cells if cell[0].key == heading), cells[0] if cells else None)
    made = []
    for row in value:
        top = _node(row, head) if head is not None else NOTHING
        rest = tuple(
            (cell[0].label, node) for cell in cells if cell is not head and (node := _node(row, cell)) is not NOTHING
        )
        if rest or top is not NOTHING:
            made.append((top, rest))
    return Cards(how, tuple(made))


_ARRANGED: Mapping[str, Arrange] = {
    "table": _table,
    "text": _text,
    **dict.fromkeys(("list", "marks", "numbers"), _items),
    **dict.fromkeys(("grid", "carousel", "accordion"), _cards),
}
"""How rows are arranged, by the value of the property that says it."""
