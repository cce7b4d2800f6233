"""The grid of a product's variants, as the API takes and sends it."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field as Member

from young_fabric.core.nouns.fields.fields import Field
from young_fabric.web.schemas.common import Id, In, Key, Out, Version


class GridCellOut(Out):
    """What a variant has of its own for a field: as typed, as shown, and what is wrong with it, "" for nothing."""

    typed: Any
    shown: str
    wrong: str


class GridRowOut(Out):
    """A variant: its combination in words, the SKU it goes by and the one made of its parts, who has that already, its price with
    all its choices do, and its own values by field; `lacks` names fields it has nothing for. `retired` ones are not offered now."""

    id: int
    version: int
    choices: dict[str, str]
    name: str
    sku: str
    made_sku: str
    clash: str
    price: str | None
    stock: int | None
    retired: bool
    cells: dict[str, GridCellOut]
    lacks: list[str]


class GridOptionOut(Out):
    """An option that makes the variants."""

    key: str
    name: str


class GridFieldOut(Out):
    """A field variants can have: whether it is one of the shop's own, and whether it is made where it is not typed."""

    field: Field
    own: bool
    made: bool


class VariantGridOut(Out):
    """All variants of a product, the fields they can have, and how many there are in figures."""

    product: int
    options: list[GridOptionOut]
    fields: list[GridFieldOut]
    rows: list[GridRowOut]
    formula: str


class VariantEditIn(In):
    """What becomes of one variant: values as typed by field, from the version that was read."""

    id: Id
    version: Version
    values: dict[Key, Any] = Member(min_length=1, max_length=100)


class VariantStockIn(In):
    """The stock of one variant (None: not counted), and what was read of it."""

    id: Id
    expected: int | None
    amount: Annotated[int, Member(ge=-(2**31), lt=2**31)] | None


class VariantsIn(In):
    """Edits of many variants at once, all or none."""

    edits: list[VariantEditIn] = Member(default=[], max_length=2000)
    stocks: list[VariantStockIn] = Member(default=[], max_length=2000)
