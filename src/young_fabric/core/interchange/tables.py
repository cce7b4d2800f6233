"""Tables as CSV (RFC 4180), written and read."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence

from young_fabric.core.base.errors import Refusal

MOST_CELLS = 2_000_000
_FORMULA = ("=", "+", "-", "@", "\t")


def csv_text(rows: Iterable[Sequence[str]]) -> str:
    """Rows of cells as CSV, lines ending in CRLF; no cell is taken for a formula by a spreadsheet."""
    out = io.StringIO()
    csv.writer(out).writerows([*map(harmless, row)] for row in rows)
    return out.getvalue()


def read_csv(text: str) -> list[list[str]]:
    """Rows of cells from CSV with commas, semicolons or tabs between, as the first line has most of. Raises Refusal `table`."""
    text = text.removeprefix("\ufeff")
    first = text.split("\n", 1)[0]
    between = max(",;\t", key=first.count)
    try:
        rows = [row for row in csv.reader(io.StringIO(text, newline=""), delimiter=between) if any(map(str.strip, row))]
    except csv.Error as error:
        raise Refusal("table", f"This can't be read as a table: {error}", help="Save it as CSV in UTF-8") from error
    if sum(map(len, rows)) > MOST_CELLS:
        raise Refusal("table", f"At most {MOST_CELLS:,} cells are read", help="Split the file in two")
    return [[_as_written(cell) for cell in row] for row in rows]


def harmless(text: str) -> str:
    """Text that no spreadsheet takes for a formula."""
    return f"'{text}" if text[:1] in _FORMULA and not _is_number(text) else text


def _as_written(cell: str) -> str:
    return cell[1:] if cell[:1] == "'" and cell[1:2] in _FORMULA and len(cell) > 1 else cell


def _is_number(text: str) -> bool:
    return text.removeprefix("-").replace(".", "", 1).replace(",", "", 1).isdecimal()
