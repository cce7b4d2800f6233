"""Definitions as files, as the API takes and sends them."""

from __future__ import annotations

from typing import Any

from young_fabric.web.schemas.common import In, Key, Out


class ExportQuery(In):
    """One product type with all it needs; all definitions where it is left out."""

    type: Key | None = None


class ImportIn(In):
    """A document of definitions; where both say otherwise what stands is kept, or the file's is taken; `apply` writes it."""

    bundle: dict[str, Any]
    from_file: bool = False
    apply: bool = False


class PlannedOut(Out):
    """What becomes of one definition: new, same, merged or clash, its change in words, the members that clash, and
    what the file says where they do."""

    noun: str
    key: str
    name: str
    how: str
    lines: list[str]
    clashes: list[str]
    of_file: list[str]


class ImportOut(Out):
    """What importing comes to or came to."""

    things: list[PlannedOut]
