"""Models of definitions. What every noun shares is made from its dataclass; here is what single nouns add."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from typing import Annotated, Any, get_type_hints

from pydantic import AwareDatetime, create_model
from pydantic import Field as Member

from young_fabric.core.nouns.base import Noun
from young_fabric.core.nouns.fields.fields import Field, Need
from young_fabric.core.nouns.lists.list_values import ListValue
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.nouns.types.field_sets import FieldSet
from young_fabric.core.nouns.types.product_types import ProductType
from young_fabric.web.schemas.common import In, Key, Out, Version


class ThingOut(Out):
    """A definition with its version; nouns add what is their own."""

    version: int


class FieldOut(ThingOut):
    """A field with where it is used, how well it is filled, and an example of what one would type."""

    thing: Field
    sets: list[str]
    types: list[str]
    products: int
    filled: int
    wrong: int
    surfaces: list[str]
    example: str
    own: bool


class ValueListOut(ThingOut):
    """A value list with the fields that take from it."""

    thing: ValueList
    fields: list[str]


class FieldSetOut(ThingOut):
    """A field set with the types that take it, how many products have it, and of the values these could have, how many they have."""

    thing: FieldSet
    types: list[str]
    products: int
    values: int
    filled: int


class ProductTypeOut(ThingOut):
    """A product type with its ancestors and how many products it has, itself and below."""

    thing: ProductType
    path: str
    ancestors: list[str]
    products: int
    below: int


def request_models(noun: Noun) -> tuple[type[In], type[In]]:
    """(new, patch) models of a noun, from the members of its dataclass."""
    hints = get_type_hints(noun.type)
    members: dict[str, Any] = {
        member.name: (hints[member.name] | None, None)
        for member in dataclasses.fields(noun.type)
        if member.name != "key" and member.name not in noun.stored.guarded
    }
    name = noun.type.__name__
    new: Mapping[str, Any] = {**members, "name": (str, Member(max_length=200)), "key": (Key | None, None)}
    made: type[In] = create_model(f"{name}New", __base__=In, __doc__=f"A new {noun.name}: a name is enough.", **new)
    patch: Mapping[str, Any] = {"version": (Version, ...), **_plain(noun, members)}
    doc = f"Members of a {noun.name} to change, from the version that was read."
    changed: type[In] = create_model(f"{name}Patch", __base__=In, __doc__=doc, **patch)
    return made, changed


def _plain(noun: Noun, members: Mapping[str, Any]) -> dict[str, Any]:
    """Members as they are: what can't be None is refused when sent so."""
    hints = get_type_hints(noun.type)
    return {name: (hints[name], Member(default=None, json_schema_extra=_without_default)) for name in members}


def _without_default(schema: dict[str, Any]) -> None:
    """What is left out stays as it is: that is no value the member could have."""
    schema.pop("default", None)


class UseOut(Out):
    """What refers to a thing, and where in it; `loose` ones let go of it when it is removed."""

    noun: str
    key: str
    name: str
    place: str
    loose: bool


class UsesOut(Out):
    """All that refers to a thing."""

    uses: list[UseOut]


class TakerIn(In):
    """What a new field goes to: a set or a type."""

    noun: Key
    key: Key


class WholeFieldIn(In):
    """A new field with what goes with it: `values` are a new list of its own, one a line, `shown` says surfaces on which it shows, or
    does not, other than is usual there."""

    name: str = Member(max_length=200)
    kind: Key
    many: bool = False
    options: dict[str, Any] = {}
    values: str | None = Member(default=None, max_length=200_000)
    into: TakerIn | None = None
    shown: dict[Key, bool] = Member(default_factory=dict, max_length=20)


class StarterOut(Out):
    """A starter field: its key without a prefix, what it is, and the key of the shop's field made from it, if there is one."""

    key: str
    group: str
    name: str
    kind: str
    help: str
    schema_org: str
    there: str | None


class StartersOut(Out):
    """All starter fields, in groups."""

    fields: list[StarterOut]


class AddStartersIn(In):
    """Starter fields to make, and where they go."""

    keys: list[Key] = Member(min_length=1, max_length=200)
    into: TakerIn | None = None


class AddedFieldsOut(Out):
    """The keys of fields made."""

    keys: list[str]


class TryIn(In):
    """Texts to try on a field as given."""

    key: Key
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
    """What became of the texts, and an example of what one would type."""

    tried: list[TriedOut]
    example: str


class ReadValuesIn(In):
    """Values of a list as pasted lines or a CSV table; `apply` writes them, else they are only read."""

    version: Version
    text: str = Member(max_length=2_000_000)
    apply: bool = False


class SkippedOut(Out):
    """A line that was not taken, and why."""

    line: int
    text: str
    reason: str


class ReadValuesOut(Out):
    """What values read come to: those added and changed, and lines skipped."""

    added: list[ListValue]
    changed: list[ListValue]
    skipped: list[SkippedOut]
    list: ValueList
    version: int


class HeldOut(Out):
    """How many of a sort hold a value, and what so many are called."""

    count: int
    name: str


class ValueUseOut(Out):
    """How much a value of a list is used: what holds it, and definitions that ask for it."""

    code: str
    held: list[HeldOut]
    definitions: list[str]


class ValueUsesOut(Out):
    """How much each value of a list is used."""

    values: list[ValueUseOut]


class MergeIn(In):
    """Values of a list: those of `codes` go, `into` stands for them; without `apply` it is only told what that touches."""

    codes: list[Key] = Member(min_length=1, max_length=200)
    into: Key
    apply: bool = False


class MergeOut(Out):
    """What a merge touches or touched: what holds the value, variants made of it, those of them that meet one made of the other, and
    definitions; `job` does it where there are many."""

    held: list[HeldOut]
    made: int
    meeting: int
    definitions: list[str]
    job: int | None


class AskOut(Out):
    """That a type says how much a field is needed."""

    type: str
    need: Need


class EffectiveOut(Out):
    """A field a type has, and where it comes from."""

    field: Field
    need: Need
    type: str | None
    set: str | None
    section: str | None
    need_from: str | None
    computed: bool
    said_by: str | None
    sets: list[str]
    asks: list[AskOut]


class EffectivesOut(Out):
    """All fields of a type."""

    fields: list[EffectiveOut]


class ValueEffectOut(Out):
    """A stored value a change makes wrong, changes or loses (`how`): of what, for which field, and in words before and after.

    `after` of a wrong or lost one says why.
    """

    noun: str
    key: str
    name: str
    field: str
    how: str
    before: str
    after: str


class ValueEffectsOut(Out):
    """What becomes of the stored values looked at, each one told that does not stay as it is; `next` is where to look on."""

    values: int
    wrong: int
    changed: int
    lost: int
    examples: list[ValueEffectOut]
    next: str | None


class ConsequencesIn(In):
    """A change that is thought of: members of a definition, or removing it."""

    changes: dict[str, Any] = {}
    remove: bool = False


class EffectsIn(In):
    """A change that is thought of, and where to look on at stored values."""

    changes: dict[str, Any] = {}
    after: str = Member(max_length=100)


class FieldMoveOut(Out):
    """A field that products get or lose: on how many, and how many of them hold a value, kept aside or coming back."""

    key: str
    name: str
    products: int
    values: int


class FieldMovesOut(Out):
    """The fields that go and those that come."""

    gone: list[FieldMoveOut]
    come: list[FieldMoveOut]


class VariantChangeOut(Out):
    """A variant that is retired, or whose SKU or price changes: of which product and choice, from what to what."""

    product: int
    title: str
    choice: str
    before: str
    after: str


class VariantEffectsOut(Out):
    """What becomes of variants of how many products; `retired_stock` is in stock of those retired; `whole` is false when there
    are more than were looked at."""

    products: int
    kept: int
    added: int
    back: int
    retired: int
    retired_stock: int
    skus: int
    prices: int
    sku_examples: list[VariantChangeOut]
    price_examples: list[VariantChangeOut]
    retired_examples: list[VariantChangeOut]
    whole: bool


class ConsequencesOut(Out):
    """What a change would touch: the change in short lines, documents by surface, at most where not `exact`, stored values, None when it bears on none, and the fields
    that products get and lose."""

    types: int
    products: int
    surfaces: dict[str, int]
    effects: ValueEffectsOut | None
    moves: FieldMovesOut
    variants: VariantEffectsOut | None
    lines: list[str]
    exact: bool


class FieldMergeIn(In):
    """The field that stands for one that goes; without `apply` it is only told what that touches."""

    into: Key
    apply: bool = False


class ExampleHolder(Out):
    """Something that holds values, by what it is, its key there and what it is called."""

    noun: str
    key: str
    name: str


class FieldMergeOut(Out):
    """What a merge of two fields touches: values that move, what has other values in both (and what so many are called), definitions
    by name."""

    moves: int
    differ: HeldOut
    examples: list[ExampleHolder]
    definitions: list[str]
    job: int | None


class FindingOut(Out):
    """Something to tidy: unused, unfilled, or alike to another."""

    sort: str
    noun: str
    key: str
    name: str
    words: str
    other: str | None
    other_name: str
    changed: AwareDatetime | None
    version: int


class RemovedIn(In):
    """A thing that is removed, as it was read."""

    noun: Annotated[str, Member(max_length=40)]
    key: Annotated[str, Member(max_length=200)]
    version: int


class RemovalIn(In):
    """Things that are removed in one stroke."""

    things: list[RemovedIn] = Member(min_length=1, max_length=500)


class FindingsOut(Out):
    """All there is to tidy."""

    findings: list[FindingOut]


class FitsOut(Out):
    """How many values of a field were looked at, and how many of them each kind would take."""

    looked: int
    kinds: dict[str, int]
