"""Types and fields as one sheet, as the API sends it."""

from __future__ import annotations

from young_fabric.core.nouns.fields.fields import Need
from young_fabric.web.schemas.common import Out
from young_fabric.web.schemas.nouns import AskOut


class SheetTypeOut(Out):
    """A column of the sheet: a type, how deep it stands, its version, and its products."""

    key: str
    name: str
    path: str
    depth: int
    version: int
    products: int


class SheetFieldOut(Out):
    """A row of the sheet: a field."""

    key: str
    name: str
    kind: str


class SheetGroupOut(Out):
    """Rows under a heading: the fields of a set, or those in none."""

    title: str
    set: str | None
    fields: list[SheetFieldOut]


class SheetCellOut(Out):
    """What a type has of a field: `how` is here, set or inherited; by which type and sets; how much it is needed, by whom (type
    and need); and how well it is filled."""

    how: str
    by: str
    sets: list[str]
    need: Need
    filled: int
    wrong: int
    asks: list[AskOut]


class TypeSheetOut(Out):
    """Types and fields as one sheet: cells by type and field."""

    types: list[SheetTypeOut]
    groups: list[SheetGroupOut]
    cells: dict[str, dict[str, SheetCellOut]]
