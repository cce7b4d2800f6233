"""Models of definitions: fields, value lists, field sets, product types."""

from __future__ import annotations

from typing import Any

from pydantic import Field as Member

from young_fabric.core.field_sets import FieldSet, Section
from young_fabric.core.fields import Audience, Field, Need
from young_fabric.core.kinds import Limits
from young_fabric.core.product_types import ProductType
from young_fabric.core.value_lists import ListValue, ValueList
from young_fabric.web.schemas.common import In, Out

Name = Member(max_length=200)


class KindOut(Out):
    """A kind of field that can be chosen, with the limits it knows."""

    code: str
    name: str
    example: str
    limits: list[str]
    takes_unit: bool
    takes_list: bool
    takes_many: bool


class UnitOut(Out):
    """A unit and what it measures."""

    symbol: str
    dimension: str


class SurfaceOut(Out):
    """A place where fields render."""

    code: str
    name: str


class MetaOut(Out):
    """What the studio asks once: kinds, units, surfaces and the shop."""

    kinds: list[KindOut]
    units: list[UnitOut]
    surfaces: list[SurfaceOut]
    shop_name: str
    prefix: str
    currency: str


class FieldUse(Out):
    """A field with where it is used and how well it is filled."""

    field: Field
    version: int
    sets: list[str]
    types: list[str]
    products: int
    filled: int
    surfaces: list[str]


class FieldsOut(Out):
    """All fields."""

    fields: list[FieldUse]


class FieldNew(In):
    """A new field: a name is enough."""

    name: str = Name
    key: str | None = None
    kind: str | None = None
    label: str | None = None
    unit: str | None = None
    list: str | None = None
    many: bool | None = None


class FieldPatch(In):
    """Members of a field to change."""

    version: int
    name: str = ""
    label: str = ""
    kind: str = "text"
    many: bool = False
    unit: str | None = None
    list: str | None = None
    limits: Limits = Limits()
    need: Need = "optional"
    audience: Audience = "shoppers"
    help: str = ""
    example: str = ""
    default: Any = None


class TryIn(In):
    """Texts to try on a field as given."""

    key: str
    changes: dict[str, Any] = {}
    texts: list[str] = Member(max_length=20)


class TriedOut(Out):
    """What became of one text."""

    text: str
    shown: str
    stored: str
    code: str | None
    message: str | None


class TryOut(Out):
    """What became of the texts."""

    tried: list[TriedOut]


Keys = list[str]


class ListOut(Out):
    """A value list with the fields that take from it."""

    list: ValueList
    version: int
    fields: Keys


class ListsOut(Out):
    """All value lists."""

    lists: list[ListOut]


class NewNamed(In):
    """A new thing: a name is enough."""

    name: str = Name
    key: str | None = None
    parent: str | None = None


class ListPatch(In):
    """Members of a value list to change."""

    version: int
    name: str = ""
    values: list[ListValue] = Member(default=[], max_length=2001)


class PasteIn(In):
    """A pasted list; `apply` writes it, else it is only read."""

    version: int
    text: str = Member(max_length=200_000)
    apply: bool = False


class Skipped(Out):
    """A line that was not taken, and why."""

    line: int
    text: str
    reason: str


class PasteOut(Out):
    """What a pasted list adds."""

    added: list[ListValue]
    skipped: list[Skipped]
    list: ValueList
    version: int


class SetOut(Out):
    """A field set with the types that take it and how many products have it."""

    set: FieldSet
    version: int
    types: list[str]
    products: int


class SetsOut(Out):
    """All field sets."""

    sets: list[SetOut]


class SetPatch(In):
    """Members of a field set to change."""

    version: int
    name: str = ""
    sections: list[Section] = []


class Effective(Out):
    """A field a type has, and where it comes from."""

    field: Field
    need: Need
    type: str | None
    set: str | None
    section: str | None
    need_from: str | None


class TypeOut(Out):
    """A product type with its ancestors and how many products it has, itself and below."""

    type: ProductType
    version: int
    path: str
    ancestors: list[str]
    products: int
    below: int


class TypesOut(Out):
    """All product types, parents before children."""

    types: list[TypeOut]


class EffectiveOut(Out):
    """All fields of a type."""

    fields: list[Effective]


class TypePatch(In):
    """Members of a product type to change."""

    version: int
    name: str = ""
    parent: str | None = None
    slug: str = ""
    sets: list[str] = []
    fields: list[str] = []
    needs: dict[str, Need] = {}


class Example(Out):
    """A product by id and title."""

    id: int
    title: str


class OutsideOut(Out):
    """Stored values a definition would make wrong."""

    values: int
    wrong: int
    examples: list[Example]


class ConsequencesIn(In):
    """A change that is thought of: members of a definition."""

    changes: dict[str, Any] = {}
    remove: bool = False


class ConsequencesOut(Out):
    """What a change would touch."""

    types: int
    products: int
    pages: int
    cards: int
    outside: OutsideOut | None
