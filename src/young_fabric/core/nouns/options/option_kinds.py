"""The kinds of options: what shoppers choose or type, and which of them make variants. A registry by code."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.registry import Registry
from young_fabric.core.kinds.file_types import FILE_TYPES
from young_fabric.core.kinds.limits import (
    FEWEST,
    LARGEST_FILE,
    LEAST_HEIGHT,
    LEAST_WIDTH,
    LONGEST,
    MOST_VALUES,
    PATTERN,
    SHORTEST,
    Limit,
    narrower_count,
)

PICTURE = "picture"
UPLOADS: Mapping[str, str] = {PICTURE: "pictures", **{code: sort.label for code, sort in FILE_TYPES.items()}}
"""The sorts of files shoppers can send, with their words."""


def _uploads(value: Any) -> Refusal | None:
    if isinstance(value, list | tuple) and value and all(isinstance(code, str) and code in UPLOADS for code in value):
        return None
    return Refusal("file_kind", "Not sorts of files that are taken", help="Tick one or more")


TAKEN_FILES = Limit("uploads", "sorts of file", "uploads", _uploads)
SOONEST = narrower_count("from_days", "soonest, days from today", below="to_days")
LATEST = narrower_count("to_days", "latest, days from today")
OF_DAYS = frozenset({SOONEST.code, LATEST.code})
"""Limits that count from the day of asking."""


PICK, LINE, LINES, DAY, UPLOAD, TICK = "pick", "line", "lines", "day", "upload", "tick"
"""How what shoppers give is given."""


@dataclass(frozen=True)
class OptionKind:
    """A kind of option. `kind` is that of fields by which what shoppers give is read; `makes_variants` ones give each
    combination a SKU and stock of its own; values are chosen of `chooses` ones, `several` at a time where told; `default` says
    whether something can be chosen beforehand, `control` how it is given: picked of values, typed in a line or lines, a day, a file
    sent, or ticked."""

    code: str
    name: str
    kind: str
    makes_variants: bool = False
    chooses: bool = False
    several: bool = False
    default: bool = True
    control: str = PICK
    limits: tuple[Limit, ...] = ()


_KNOWN: Mapping[str, OptionKind] = {
    kind.code: kind
    for kind in (
        OptionKind("variant", "makes variants", "one_of", makes_variants=True, chooses=True),
        OptionKind("one_of", "one of a list", "one_of", chooses=True),
        OptionKind("many_of", "many of a list", "many_of", chooses=True, several=True, limits=(FEWEST, MOST_VALUES)),
        OptionKind("text", "text", "text", control=LINE, limits=(SHORTEST, LONGEST, PATTERN)),
        OptionKind("long_text", "long text", "long_text", control=LINES, limits=(SHORTEST, LONGEST)),
        OptionKind("date", "date", "date", default=False, control=DAY, limits=(SOONEST, LATEST)),
        OptionKind(
            "file",
            "file",
            "file",
            default=False,
            control=UPLOAD,
            limits=(TAKEN_FILES, LARGEST_FILE, LEAST_WIDTH, LEAST_HEIGHT),
        ),
        OptionKind("tick", "tick", "yes_no", control=TICK),
    )
}
OPTION_KINDS: Registry[OptionKind] = Registry(
    _KNOWN, lambda code: OptionKind(code, "something this version does not know", "unknown", default=False)
)
"""Every kind of option by its code, the one that makes variants first."""
