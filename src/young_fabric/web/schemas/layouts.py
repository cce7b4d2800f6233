"""Layouts as the API takes and sends them."""

from __future__ import annotations

from typing import Any

from pydantic import Field as Member

from young_fabric.core.nouns.layouts.layouts import Layout
from young_fabric.web.schemas.common import In, Key, KeyPath, Out, Version
from young_fabric.web.schemas.nouns import ConsequencesOut, ThingOut


class LayoutOut(ThingOut):
    """A layout as it is written; `built_in` ones are brought by the core."""

    thing: Layout
    built_in: bool


class PlacedBlockOut(Out):
    """A block, the layout it comes from, what this layout does to it, how many pages show the words typed in it,
    and whether these hold values of fields."""

    block: dict[str, Any]
    layout: str
    steps: list[str]
    pages: int | None
    tokens: bool


class PlacedRegionOut(Out):
    """A part with its blocks."""

    id: str
    blocks: list[PlacedBlockOut]


class LostStepOut(Out):
    """A step that no longer fits."""

    key: str
    words: str


class LayoutUseOut(Out):
    """Whom a layout was chosen for."""

    scope: str
    name: str


class LayoutViewOut(Out):
    """A layout with all its steps taken."""

    key: str
    name: str
    surface: str
    base: str
    version: int
    built_in: bool
    regions: list[PlacedRegionOut]
    taken_away: list[dict[str, Any]]
    lost: list[LostStepOut]
    uses: list[LayoutUseOut]
    builders: list[str]
    shown: int


class BlockPath(KeyPath):
    """A block of a layout."""

    block: Key


class DifferingWordsOut(Out):
    """A place where words differ, and what stands there by layout."""

    name: str
    words: dict[str, str]


class AlikeLayoutsOut(Out):
    """Layouts that are the same but for words; none when there is no other."""

    layouts: list[str]
    differing: list[DifferingWordsOut]


class TriedEditsIn(In):
    """Edits, one after the other: each an object with its `op`."""

    edits: list[dict[str, Any]] = Member(min_length=1, max_length=100)


class LayoutEditsIn(TriedEditsIn):
    """The same, and the version of the layout that they were made of."""

    version: Version


class ArrangementQuery(In):
    """Whom an arrangement is for, and on which surface."""

    scope: str = Member(max_length=200)
    surface: Key


class ArrangementOut(Out):
    """What is arranged for a scope alone; `key` is null where nothing is yet, and the view then the one it would have."""

    key: str | None
    view: LayoutViewOut


class ArrangementEditsIn(TriedEditsIn):
    """Edits of what a scope has for itself, and the version that was read: null where it had nothing of its own yet."""

    scope: str = Member(max_length=200)
    surface: Key
    version: Version | None


class BuilderEffectOut(Out):
    """A layout that builds on the changed one, and its steps that would no longer fit."""

    key: str
    name: str
    lost: list[LostStepOut]


class LayoutConsequencesOut(Out):
    """What edits would touch."""

    consequences: ConsequencesOut
    builders: list[BuilderEffectOut]
    view: LayoutViewOut
