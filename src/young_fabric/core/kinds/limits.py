"""The limits values are checked against, each with its words and the control that edits it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.locales import is_plain_decimal
from young_fabric.core.kinds.file_types import FILE_TYPES
from young_fabric.core.kinds.patterns import check_pattern

MOST = 100_000
MOST_MEGABYTES = 10
"""No file is kept that is larger."""


@dataclass(frozen=True)
class Limit:
    """One sort of limit. `control` is number (a plain decimal), count (a whole number), pattern, file_types or
    tick (it holds or not). `below` names the limit that this one may not exceed; `many` ones speak of how many values there are; `narrows` says
    whether of two values that can stand the second lets no more through than the first; `alone` ones are
    told by all products together, and stand with fields of theirs that hold one value.
    """

    code: str
    label: str
    control: str
    check: Callable[[Any], Refusal | None]
    below: str | None = None
    many: bool = False
    narrows: Callable[[Any, Any], bool] = lambda old, new: bool(old == new)
    alone: bool = False


def _up(old: Any, new: Any) -> bool:
    return Decimal(new) >= Decimal(old)


def _down(old: Any, new: Any) -> bool:
    return Decimal(new) <= Decimal(old)


def _fewer(old: Any, new: Any) -> bool:
    return set(new) <= set(old)


def _number(value: Any) -> Refusal | None:
    if is_plain_decimal(value):
        return None
    return Refusal("number", "Not a number that can be a limit", help="Write digits, such as 60")


def _count(most: int, words: str) -> Callable[[Any], Refusal | None]:
    def check(value: Any) -> Refusal | None:
        if isinstance(value, bool) or not isinstance(value, int) or not 0 <= value <= MOST:
            return Refusal("number", "Not a number that can be a limit", help="Write digits, such as 60")
        return Refusal("above", words, help=f"Write {most} or less") if value > most else None

    return check


def _pattern(value: Any) -> Refusal | None:
    if not isinstance(value, str):
        return Refusal("pattern_syntax", "A pattern is text", help="Letters stand for themselves, [A-Z] for a range")
    if len(value) > 300:
        return Refusal("long", "A pattern has at most 300 characters", help="Shorten it")
    try:
        check_pattern(value)
    except Refusal as refusal:
        return refusal
    return None


def _file_types(value: Any) -> Refusal | None:
    if (
        isinstance(value, list | tuple)
        and value
        and all(isinstance(code, str) and code in FILE_TYPES for code in value)
    ):
        return None
    return Refusal("file_kind", "Not sorts of files that are kept", help="Tick one or more")


def _megabytes(value: Any) -> Refusal | None:
    if not is_plain_decimal(value) or Decimal(value) <= 0:
        return Refusal("number", "Not a size that can be a limit", help="Write megabytes, such as 2.5")
    if Decimal(value) > MOST_MEGABYTES:
        return Refusal("above", f"At most {MOST_MEGABYTES} MB are kept", help=f"Write {MOST_MEGABYTES} or less")
    return None


def _tick(value: Any) -> Refusal | None:
    if value is True:
        return None
    return Refusal("limit", "It is ticked, or left out", help="Tick it, or don't")


_PLAIN_COUNT = _count(MOST, f"At most {MOST:,}")
SMALLEST = Limit("min", "smallest", "number", _number, below="max", narrows=_up)
LARGEST = Limit("max", "largest", "number", _number, narrows=_down)
DECIMALS = Limit("decimals", "decimals", "count", _count(12, "At most 12 decimals are kept"), narrows=_down)
SHORTEST = Limit("min_length", "shortest", "count", _PLAIN_COUNT, below="max_length", narrows=_up)
LONGEST = Limit("max_length", "longest", "count", _PLAIN_COUNT, narrows=_down)
PATTERN = Limit("pattern", "pattern", "pattern", _pattern)
FEWEST = Limit("min_count", "fewest values", "count", _PLAIN_COUNT, below="max_count", many=True, narrows=_up)
MOST_VALUES = Limit("max_count", "most values", "count", _PLAIN_COUNT, many=True, narrows=_down)
LEAST_WIDTH = Limit("min_width", "least width", "count", _PLAIN_COUNT, narrows=_up)
LEAST_HEIGHT = Limit("min_height", "least height", "count", _PLAIN_COUNT, narrows=_up)
ALLOWED_TYPES = Limit("types", "sorts of file", "file_types", _file_types, narrows=_fewer)
LARGEST_FILE = Limit("max_megabytes", "largest, MB", "number", _megabytes, narrows=_down)


def narrower_count(code: str, label: str, below: str | None = None) -> Limit:
    """A limit that is a whole number: of the smallest of a pair when it names the largest, else of the largest."""
    return Limit(code, label, "count", _PLAIN_COUNT, below=below, narrows=_up if below else _down)


UNIQUE = Limit("unique", "on one product alone", "tick", _tick, narrows=lambda _old, _new: True, alone=True)
"""No two products have the same value: told by what is stored, not by the value."""
OF_MANY = (FEWEST, MOST_VALUES)
"""Limits of any field that holds several values."""


def check_limits(given: Mapping[str, Any], allowed: tuple[Limit, ...], kind_name: str) -> None:
    """Whether limits can stand together. Raises Refusal with the limit in `where`."""
    by_code = {limit.code: limit for limit in allowed}
    for code, value in given.items():
        limit = by_code.get(code)
        if limit is None:
            raise Refusal("limit", f"A field of kind {kind_name} has no such limit", ("limits", code), "Take it away")
        wrong = limit.check(value)
        if wrong:
            raise wrong.at("limits", code)
    for limit in allowed:
        least, most = given.get(limit.code), given.get(limit.below or "")
        if least is not None and most is not None and Decimal(least) > Decimal(most):
            raise Refusal("limit_order", "The smallest is above the largest", ("limits", limit.code), "Swap the two")
