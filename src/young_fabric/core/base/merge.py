"""Merging three states of one JSON value: the base both sides began from, mine, and theirs.

Mappings merge member by member, lists at the paths that `keyed` names item by item; all else is one thing. What only one
side changed stands; what both changed to different ends is a clash, and theirs stands there.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import Enum
from typing import Any, Final, NamedTuple

Keyed = Mapping[str, str]
"""Path of a list (steps joined by `/`, `*` for any) → the member its items are known by, "" when by themselves."""

ItemKey = tuple[str, Any]
"""What an item is known by, with the type of it, so that 1 and yes are two."""

Path = tuple[Any, ...]


class _Absent(Enum):
    ABSENT = "absent"

    def __bool__(self) -> bool:
        return False


ABSENT: Final = _Absent.ABSENT
"""A member or item that is not there, which is a state too."""


class Merge(NamedTuple):
    """What came of it: the merged value, and the paths where both sides changed one thing to different ends."""

    merged: Any
    clashes: list[list[Any]]


def merge(base: Any, mine: Any, theirs: Any, keyed: Keyed | None = None) -> Merge:
    """Merge JSON values. Clashes are sorted step by step, by code point; an item's step is what it is known by."""
    merger = _Merger({tuple(path.split("/")): member for path, member in (keyed or {}).items()})
    merged = merger.value(base, mine, theirs, ())
    merger.clashes.sort(key=lambda path: [str(step) for step in path])
    return Merge(merged, merger.clashes)


def same(value: Any, other: Any) -> bool:
    """Whether two JSON values are alike; text, numbers and yes/no are never equal across types."""
    if isinstance(value, dict):
        return (
            isinstance(other, dict)
            and value.keys() == other.keys()
            and all(same(item, other[name]) for name, item in value.items())
        )
    if isinstance(value, list | tuple):
        return (
            isinstance(other, list | tuple)
            and len(value) == len(other)
            and all(same(item, twin) for item, twin in zip(value, other, strict=True))
        )
    return _sort(value) == _sort(other) and bool(value == other)


def _sort(value: Any) -> str:
    if isinstance(value, bool):
        return "yes_no"
    if isinstance(value, int | float):
        return "number"
    return type(value).__name__


def member_of(keyed: Mapping[tuple[str, ...], str], path: Path) -> str | None:
    """The member by which the items of the list at a path are known, None when that list is one thing."""
    for pattern, member in keyed.items():
        if len(pattern) == len(path) and all(
            part in ("*", str(step)) for part, step in zip(pattern, path, strict=True)
        ):
            return member
    return None


def items_by_key(items: Sequence[Any], member: str) -> dict[ItemKey, Any] | None:
    """What each item is known by → the item, in order; None when an item is there twice or not named."""
    found: dict[ItemKey, Any] = {}
    for item in items:
        key = item if member == "" else item.get(member) if isinstance(item, Mapping) else None
        if not isinstance(key, str | int | float):
            return None
        typed = (_sort(key), key)
        if typed in found:
            return None
        found[typed] = item
    return found


@dataclass
class _Merger:
    keyed: Mapping[tuple[str, ...], str]
    clashes: list[list[Any]] = field(default_factory=list)

    def value(self, base: Any, mine: Any, theirs: Any, path: Path) -> Any:
        if same(mine, theirs) or same(base, mine):
            return theirs
        if same(base, theirs):
            return mine
        if isinstance(mine, dict) and isinstance(theirs, dict):
            return self.mapping(base if isinstance(base, dict) else {}, mine, theirs, path)
        if isinstance(mine, list) and isinstance(theirs, list):
            member = member_of(self.keyed, path)
            if member is not None:
                was, now, stands = (
                    items_by_key(state if isinstance(state, list) else [], member) for state in (base, mine, theirs)
                )
                if was is not None and now is not None and stands is not None:
                    return self.items(was, now, stands, path)
        self.clashes.append(list(path))
        return theirs

    def mapping(self, base: dict[str, Any], mine: dict[str, Any], theirs: dict[str, Any], path: Path) -> dict[str, Any]:
        merged = {}
        for name in {**theirs, **mine}:
            sides = [state.get(name, ABSENT) for state in (base, mine, theirs)]
            value = self.value(sides[0], sides[1], sides[2], (*path, name))
            if value is not ABSENT:
                merged[name] = value
        return merged

    def items(
        self, base: dict[ItemKey, Any], mine: dict[ItemKey, Any], theirs: dict[ItemKey, Any], path: Path
    ) -> list[Any]:
        merged: dict[ItemKey, Any] = {}
        for key in {**theirs, **mine}:
            sides = [state.get(key, ABSENT) for state in (base, mine, theirs)]
            value = self.value(sides[0], sides[1], sides[2], (*path, key[1]))
            if value is not ABSENT:
                merged[key] = value
        return [merged[key] for key in _order(base, mine, theirs, merged)]


def _order(
    base: Mapping[ItemKey, Any],
    mine: Mapping[ItemKey, Any],
    theirs: Mapping[ItemKey, Any],
    merged: Mapping[ItemKey, Any],
) -> list[ItemKey]:
    """Theirs is the frame unless I moved items that all three have; what only the other has goes after its neighbour."""
    in_all = base.keys() & mine.keys() & theirs.keys()
    moved = [key for key in base if key in in_all] != [key for key in mine if key in in_all]
    frame, other = (mine, theirs) if moved else (theirs, mine)
    return woven([key for key in frame if key in merged], [key for key in other if key in merged])


def woven(frame: Sequence[Any], other: Sequence[Any]) -> list[Any]:
    """`frame` with what only `other` has put after the nearest item before it there, else first."""
    runs: dict[Any, list[Any]] = {}
    standing = set(frame)
    anchor: Any = None
    for key in other:
        if key in standing:
            anchor = key
        else:
            runs.setdefault(anchor, []).append(key)
    out = list(runs.get(None, ()))
    for key in frame:
        out += [key, *runs.get(key, ())]
    return out
