"""Models of products, pictures, the weave, why, changes and releases."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from pydantic import Field as Member

from young_fabric.core.fields import Field, Need
from young_fabric.web.schemas.common import In, Out


class SignInIn(In):
    """Address and password."""

    email: str = Member(max_length=200)
    password: str = Member(max_length=1000)


class PasswordIn(In):
    """The present and the new password."""

    old: str = Member(max_length=1000)
    new: str = Member(max_length=1000)


class SessionOut(Out):
    """Who is signed in, if anyone, and the token writes must send."""

    csrf: str
    name: str | None = None
    email: str | None = None
    rights: list[str] = []


class ValueOut(Out):
    """A field's value as stored, as typed, as shown, and what is wrong with it."""

    state: str
    value: Any
    typed: Any
    shown: str
    code: str | None
    message: str | None
    help: str | None


class EditField(Out):
    """A field in the product editor."""

    field: Field
    need: Need
    value: ValueOut
    surfaces: list[str]


class EditSection(Out):
    """A section of fields, with the set or type that brings it."""

    title: str
    note: str
    set: str | None
    fields: list[EditField]


class CompletenessOut(Out):
    """What is filled and missing, and what to fill next."""

    required_filled: int
    required_missing: list[str]
    wanted_filled: int
    wanted_missing: list[str]
    percent: int
    next: str | None


class ProductOut(Out):
    """A product as the editor shows it."""

    id: int
    version: int
    title: str
    type: str
    type_path: str
    offered: bool
    stock: int | None
    unit_price: str
    sections: list[EditSection]
    completeness: CompletenessOut
    wrong: list[str]


class ProductRowOut(Out):
    """A product in a list."""

    id: int
    title: str
    sku: str
    type: str
    type_name: str
    picture: str | None
    missing: int
    wrong: int
    offered: bool


class ProductsOut(Out):
    """A page of products; `cursor` asks for the next."""

    rows: list[ProductRowOut]
    total: int
    gaps: int
    cursor: str | None


class ProductQuery(In):
    """What a list of products is narrowed by."""

    q: str = Member(default="", max_length=200)
    type: str | None = None
    gaps: bool = False
    lacking: str | None = None
    wrong: str | None = None
    cursor: str | None = None


class ProductNew(In):
    """A new product."""

    type: str
    title: str = Member(max_length=400)


class ProductPatch(In):
    """Values as typed, by field key; type; in the shop or not."""

    version: int
    values: dict[str, Any] = {}
    type: str | None = None
    offered: bool | None = None


class StockIn(In):
    """Counted stock, None when not counted; `expected` is what was read."""

    expected: int | None
    amount: int | None


class StockOut(Out):
    """The stock as it stands."""

    amount: int | None


class PictureOut(Out):
    """A picture as kept."""

    file: str
    width: int
    height: int


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


class ChangeOut(Out):
    """One change as the history tells it."""

    id: int
    at: datetime
    person: str
    noun: str
    key: str
    name: str
    lines: list[str]
    undone: bool
    is_undo: bool


class ChangesOut(Out):
    """Changes, last first."""

    changes: list[ChangeOut]


class ChangesQuery(In):
    """Of which thing, and before which change."""

    noun: str | None = None
    key: str | None = None
    before: int | None = None


class UndoneOut(Out):
    """What was taken back."""

    name: str
    noun: str
    key: str
    lines: list[str]


class PendingOne(Out):
    """One thing that would change."""

    group: str
    noun: str
    key: str
    name: str
    lines: list[str]
    pages: int
    cards: int
    example: int | None


class PendingOut(Out):
    """All that would change."""

    count: int
    pages: int
    cards: int
    things: list[PendingOne]


class CountOut(Out):
    """Counts for the top bar."""

    unreleased: int
    gaps: int
    release: int


class CheckOut(Out):
    """A finding."""

    code: str
    level: str
    text: str
    count: int
    link: list[str] | None


class ChecksOut(Out):
    """All findings."""

    checks: list[CheckOut]


class ReleaseIn(In):
    """A note on what it is about."""

    note: str = Member(default="", max_length=400)


class ReleaseOut(Out):
    """One release."""

    number: int
    at: datetime
    person: str
    note: str
    things: int
    pages: int
    cards: int
    back_to: int | None


class ReleasesOut(Out):
    """Releases, last first."""

    releases: list[ReleaseOut]
    current: int


class FindQuery(In):
    """A few letters."""

    q: str = Member(default="", max_length=100)


class HitOut(Out):
    """A thing found."""

    noun: str
    key: str
    name: str
    note: str


class FoundOut(Out):
    """Things found."""

    hits: list[HitOut]
