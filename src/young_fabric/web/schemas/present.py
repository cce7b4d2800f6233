"""The weave, display settings, why and what is missing, as the API takes and sends them."""

from __future__ import annotations

from typing import Any

from pydantic import Field as Member

from young_fabric.service.pages.weave_cells import MOST_CELLS
from young_fabric.web.schemas.common import Id, In, Key, Out, Version
from young_fabric.web.schemas.nouns import ConsequencesOut


class ResolvedOut(Out):
    """A property and where it came from."""

    value: Any
    origin: str
    origin_name: str


class CellOut(Out):
    """One field on one surface."""

    surface: str
    state: str
    settings: dict[str, ResolvedOut]
    own: dict[str, Any]
    version: int | None
    reason: str


class WeaveRow(Out):
    """A field's cells."""

    key: str
    name: str
    cells: list[CellOut]


class WeaveGroup(Out):
    """Rows under what brings them."""

    title: str
    note: str
    rows: list[WeaveRow]


class WholeOut(Out):
    """What a scope says of every field on a surface, of a field on every surface, or of all (`*`)."""

    field: str
    surface: str
    own: dict[str, Any]
    version: int | None


class ChosenLayoutOut(Out):
    """The layout in force on a surface, who chose it, and what is chosen here, "" for nothing."""

    surface: str
    key: str
    name: str
    origin: str
    origin_name: str
    own: str


class CellQuery(In):
    """Which cell: a field or `*`, and a surface or `*`."""

    scope: str = Member(default="shop", max_length=80)
    field: str = Member(max_length=80)
    surface: str = Member(max_length=80)


class CellChoiceOut(Out):
    """A value that can be chosen, and what it is called."""

    value: Any
    label: str


class CellPropertyOut(Out):
    """A property in a cell: what holds, where it came from, whether it is set here, and its choices there."""

    code: str
    value: Any
    origin: str
    origin_name: str
    own: bool
    choices: list[CellChoiceOut]


class OpenCellOut(Out):
    """All that can be set in a cell."""

    version: int | None
    properties: list[CellPropertyOut]


class CellIn(In):
    """Properties put in a cell, null taking one away; `version` is the one read, null when nothing was set."""

    field: Key
    surface: Key
    set: dict[str, Any] = Member(min_length=1)
    version: Version | None = None


class SettingsIn(In):
    """Cells of one scope to set together."""

    scope: Key
    cells: list[CellIn] = Member(min_length=1, max_length=MOST_CELLS)


class TriedCellIn(In):
    """A cell, and what it would be set to besides what all are."""

    field: Key
    surface: Key
    set: dict[str, Any] = {}


class TriedCellsIn(In):
    """Cells of one scope, and what all of them would be set to: one thing or another."""

    scope: Key
    cells: list[TriedCellIn] = Member(min_length=1, max_length=MOST_CELLS)
    sets: list[dict[Key, Any]] = Member([{}], min_length=1, max_length=4)


class TouchedCellsOut(Out):
    """What each would touch, in the order in which they were asked."""

    touched: list[ConsequencesOut]


class SettingsOut(Out):
    """The versions after the write, in the order of the cells, null where nothing is set any more."""

    versions: list[int | None]


class WeaveOut(Out):
    """The weave of a scope."""

    scope: str
    scope_name: str
    groups: list[WeaveGroup]
    wholes: list[WholeOut]
    layouts: list[ChosenLayoutOut]
    products: int
    example: int | None


class ScopeQuery(In):
    """Whom the weave is asked for: shop, type:KEY or product:ID."""

    scope: str = Member(default="shop", max_length=80)


class SettingIn(In):
    """Properties to set; one given as null goes back to inherited. `version` is the one read, null when nothing was set."""

    scope: Key
    field: Key
    surface: Key
    set: dict[str, Any] = Member(min_length=1)
    version: Version | None = None


class SettingOut(Out):
    """The version after the write, None when nothing is set there any more."""

    version: int | None


class MendOut(Out):
    """A place to mend a failure; where one press mends it, what a display setting there is to say."""

    text: str
    noun: str
    key: str
    says: dict[str, Any] | None


class StepOut(Out):
    """One step of the chain."""

    name: str
    ok: bool | None
    text: str
    mend: MendOut | None


class WhyQuery(In):
    """Which field or option is asked about, of a product or a record; of an option also a value, and what is chosen besides
    (`option=code`, several times)."""

    product: Id | None = None
    record: Key | None = None
    field: Key
    surface: Key | None = None
    value: Key | None = None
    chosen: list[str] = []
    device: Key | None = None


class WhyBlockQuery(In):
    """Which block is asked about, of the layout in force for a product or a record, or of one that is tried."""

    product: Id | None = None
    record: Key | None = None
    block: Key
    surface: Key | None = None
    layout: Key | None = None
    device: Key | None = None


class WhyListingQuery(In):
    """Which product is asked about, on which listing: that of a type, a collection or a record."""

    product: Id
    noun: Key
    key: Key


class DeciderOut(Out):
    """A thing that has a say, what it says, and whether that holds here."""

    noun: str
    key: str
    name: str
    says: str
    holds: bool


class WhyOut(Out):
    """The chain for one field, block or listing, by name and of what, and all that has a say."""

    field: str
    field_name: str
    surface: str
    title: str
    shows: bool
    steps: list[StepOut]
    deciders: list[DeciderOut]


class MissingQuery(In):
    """Which product, surface and width."""

    product: Id
    surface: Key | None = None
    device: Key | None = None


class MissingOne(Out):
    """A field not on the page, and the first step that fails."""

    key: str
    name: str
    step: StepOut


class MissingOut(Out):
    """Fields that are not on the page."""

    missing: list[MissingOne]


class ExampleQuery(In):
    """A field or set or type to find a product for."""

    noun: Key
    key: Key


class ExampleOut(Out):
    """A product to prove with, or a record where pages of records are proved."""

    product: int | None
    title: str = ""
    record: str | None = None


class FieldQuery(In):
    """A field to find products for."""

    field: Key


class FieldExampleOut(Out):
    """A product worth proving a field with, and why."""

    how: str
    words: str
    product: int
    title: str


class ExamplesOut(Out):
    """Products worth proving a field with."""

    examples: list[FieldExampleOut]
