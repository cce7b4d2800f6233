"""Products and pictures, as the API takes and sends them."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field as Member

from young_fabric.core.nouns.fields.fields import Field, Need
from young_fabric.web.schemas.common import In, Key, Out, Version


class NamedItemOut(Out):
    """A thing that a value names: its key or number, its name, "" when it is gone, and its address in the shop, if any."""

    item: str | int
    name: str
    address: str


class FaultOut(Out):
    """A place in a value, and what is wrong there."""

    at: list[str | int]
    message: str


class ValueOut(Out):
    """A field's value as stored, as typed, as shown, what is wrong with it first and at each place in it, and the things it names."""

    state: str
    value: Any
    typed: Any
    shown: str
    code: str | None
    message: str | None
    help: str | None
    faults: list[FaultOut] = []
    named: list[NamedItemOut] = []


class PieceOut(Out):
    """A stretch of text that is the same as what stands, gone from it, or added."""

    how: str
    text: str


class StandingOut(Out):
    """What stands where a field has no value: the value, as shown, what it stems from in words, and how the field's own differs."""

    value: Any
    shown: str
    source: str
    differs: list[PieceOut]


class EditField(Out):
    """A field in the product editor."""

    field: Field
    need: Need
    own: bool
    computed: bool
    value: ValueOut
    surfaces: list[str]
    example: str
    standing: StandingOut | None = None


class TypeQuery(In):
    """A product type."""

    type: Key


class MovedValueOut(Out):
    """A field a product loses or gets, with the value that is kept aside or comes back, as shown, "" for none."""

    key: str
    name: str
    shown: str


class TypeChangeOut(Out):
    """What a product loses and gets by becoming of another type."""

    gone: list[MovedValueOut]
    come: list[MovedValueOut]


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


class ComputedOut(Out):
    """A field that is computed, as shown; "" when there is nothing to compute it from."""

    key: str
    name: str
    shown: str


class PlaceOut(Out):
    """A collection, and whether and how a product is in it: picked, matches, kept out, or none."""

    key: str
    name: str
    inside: bool
    how: str | None


class ProductOut(Out):
    """A product as the editor shows it."""

    id: int
    version: int
    title: str
    sku: str
    type: str
    type_path: str
    offered: bool
    stock: int | None
    computed: list[ComputedOut]
    sections: list[EditSection]
    completeness: CompletenessOut
    wrong: list[str]
    collections: list[PlaceOut]
    variants: int


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
    type: Key | None = None
    collection: Key | None = None
    gaps: bool = False
    lacking: Key | None = None
    wrong: Key | None = None
    cursor: str | None = Member(default=None, max_length=2000)


class ProductNew(In):
    """A new product."""

    type: Key
    title: str = Member(max_length=400)


class ProductPatch(In):
    """Values as typed, by field key; type; in the shop or not."""

    version: Version
    values: dict[str, Any] = {}
    type: Key | None = None
    offered: bool | None = None


class StockIn(In):
    """Counted stock, None when not counted; `expected` is what was read."""

    expected: Annotated[int, Member(ge=-(2**31), lt=2**31)] | None
    amount: Annotated[int, Member(ge=-(2**31), lt=2**31)] | None


class StockOut(Out):
    """The stock as it stands."""

    amount: int | None


class FileOut(Out):
    """A file for download as kept, with the name it came with."""

    file: str
    name: str
    type: str
    bytes: int


class PictureOut(Out):
    """A picture as kept."""

    file: str
    width: int
    height: int
