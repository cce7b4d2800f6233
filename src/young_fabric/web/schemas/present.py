"""The weave, display settings, why and what is missing, as the API takes and sends them."""

from __future__ import annotations

from typing import Any

from young_fabric.web.schemas.common import In, Out


class ResolvedOut(Out):
    """A property and where it came from."""

    value: Any
    origin: str
    said: str


class CellOut(Out):
    """One field on one surface."""

    surface: str
    state: str
    settings: dict[str, ResolvedOut]
    own: dict[str, Any]
    version: int
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


class WeaveOut(Out):
    """The weave of a scope."""

    scope: str
    scope_name: str
    groups: list[WeaveGroup]
    products: int
    example: int | None


class ScopeQuery(In):
    """Whom the weave is asked for: shop, type:KEY or product:ID."""

    scope: str = "shop"


class SettingIn(In):
    """Properties to set; one given as null goes back to inherited."""

    scope: str
    field: str
    surface: str
    set: dict[str, Any]
    version: int = 0


class SettingOut(Out):
    """The version after the write."""

    version: int


class MendOut(Out):
    """A place to mend a failure."""

    text: str
    noun: str
    key: str


class StepOut(Out):
    """One step of the chain."""

    name: str
    ok: bool | None
    text: str
    mend: MendOut | None


class WhyQuery(In):
    """What is asked."""

    product: int
    field: str
    surface: str = "product_page"


class WhyOut(Out):
    """The chain for one field of one product on one surface."""

    field: str
    field_name: str
    surface: str
    product: int
    product_title: str
    shows: bool
    steps: list[StepOut]


class MissingQuery(In):
    """Which product and surface."""

    product: int
    surface: str = "product_page"


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

    noun: str
    key: str


class ExampleOut(Out):
    """A product to prove with."""

    product: int | None
    title: str = ""
