"""Product types: a tree that says which fields products of a sort have."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.base.text import ADDRESS, make_code
from young_fabric.core.kinds.base import Items, Target, in_words
from young_fabric.core.nouns.base import (
    Bearing,
    Calling,
    Known,
    Noun,
    Reference,
    Referring,
    State,
    Stored,
    Taking,
    Telling,
)
from young_fabric.core.nouns.fields.built_in import BUILT_IN
from young_fabric.core.nouns.fields.fields import Field, Need, stricter
from young_fabric.core.nouns.fields.tightening import Tightening, check_tightening, describe_tightening, tightened
from young_fabric.core.nouns.types.field_sets import FieldSet, field_names

DEEPEST = 8


@dataclass(frozen=True)
class ProductType:
    """A type takes field sets, single fields and option sets, has all its parent has, may raise a field's need, and say more of its `own`."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    parent: str | None = None
    slug: str = ""
    sets: tuple[str, ...] = ()
    fields: tuple[str, ...] = ()
    needs: Mapping[str, Need] = field(default_factory=dict)
    own: Mapping[str, Tightening] = field(default_factory=dict)
    option_sets: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class EffectiveField:
    """A field products have, with where it comes from: the type or the collection, and the set and section or neither.

    Built-in ones come with every product. The field is as its types and collections have it; `need_from` is the type that made
    the need stricter, if one did, `said_by` the nearest type that says more of the field, and `default_from` (noun, key) what
    its default stems from, None for its own definition. Of records it is the type of the record that brings it.
    """

    field: Field
    need: Need
    type: str | None
    set: str | None
    section: str | None
    need_from: str | None = None
    collection: str | None = None
    said_by: str | None = None
    default_from: tuple[str, str] | None = None
    record_type: str | None = None

    @property
    def computed(self) -> bool:
        """Whether its value is worked out, so that nothing can be asked of it."""
        return self.field.derived


def ancestry(key: str, types: Mapping[str, ProductType]) -> tuple[str, ...]:
    """The type, its parent and so on, nearest first, as far as there are such. Raises Refusal `loop` when it leads back to itself."""
    chain: list[str] = []
    current: str | None = key
    while current is not None:
        if current in chain:
            raise Refusal("loop", "The type would stand under itself", ("parent",), "Choose another parent")
        chain.append(current)
        above = types[current].parent if current in types else None
        current = above if above in types else None
    return tuple(chain)


def descendants(key: str, types: Mapping[str, ProductType]) -> frozenset[str]:
    """The type and all below it."""
    return frozenset(other for other in types if key in ancestry(other, types))


def type_path(key: str, types: Mapping[str, ProductType], joiner: str = " › ") -> str:
    """The names from the top down, such as `Paper › Printmaking`."""
    return joiner.join(types[ancestor].name for ancestor in reversed(ancestry(key, types)) if ancestor in types)


def effective_fields(
    key: str,
    types: Mapping[str, ProductType],
    sets: Mapping[str, FieldSet],
    fields: Mapping[str, Field],
    collections: Iterable[str] = (),
) -> tuple[EffectiveField, ...]:
    """All fields of a type: built-in ones, then ancestors' first, a type's sets in order, then its single fields, and
    last those of sets limited to `collections`, in their order.

    A field that comes twice stands where it came first; of two needs the stricter holds.
    """
    chain = tuple(reversed(ancestry(key, types)))
    found: dict[str, EffectiveField] = {
        name: EffectiveField(built_in, built_in.need, None, None, None) for name, built_in in BUILT_IN.items()
    }

    def take(name: str, origin: str | None, of_set: str | None, section: str | None, by: str | None = None) -> None:
        if name in fields and name not in found:
            found[name] = EffectiveField(fields[name], fields[name].need, origin, of_set, section, None, by)

    for type_key in chain:
        product_type = types[type_key]
        for set_key in product_type.sets:
            for section in sets[set_key].sections if set_key in sets and not sets[set_key].collections else ():
                for name in section.fields:
                    take(name, type_key, set_key, section.key)
        for name in product_type.fields:
            take(name, type_key, None, None)
    for collection in collections:
        for field_set in (sets[other] for other in sorted(sets) if collection in sets[other].collections):
            for section in field_set.sections:
                for name in section.fields:
                    take(name, None, field_set.key, section.key, collection)
    for type_key in chain:
        for name, need in types[type_key].needs.items():
            effective = found.get(name)
            if effective and stricter(effective.need, need) != effective.need:
                found[name] = replace(effective, need=need, need_from=type_key)
        for name, by in types[type_key].own.items():
            if name in found:
                origin = ("product_type", type_key) if by.default is not None else found[name].default_from
                field = tightened(found[name].field, by)
                found[name] = replace(found[name], field=field, said_by=type_key, default_from=origin)
    return tuple(found.values())


def check_type(product_type: ProductType, defs: Known) -> None:
    """Raises Refusal: `required`, `pattern`, `unknown_product_type`, `loop`, `deep`, `unknown_…`, `twice`."""
    if not product_type.name.strip():
        raise Refusal("required", "A product type needs a name", ("name",), "Type a name")
    if len(product_type.name) > 80 or len(product_type.slug) > 120:
        raise Refusal("long", "At most 80 characters fit", ("name",), "Shorten it")
    if not ADDRESS.fullmatch(product_type.slug):
        words = "An address has small letters, digits and hyphens"
        raise Refusal("pattern", words, ("slug",), "Such as watercolour-paper")
    if product_type.parent is not None and product_type.parent not in defs.types:
        raise Refusal("unknown_product_type", "The parent is gone", ("parent",), "Choose another parent")
    all_types = {**defs.types, product_type.key: product_type}
    if max(len(ancestry(key, all_types)) for key in descendants(product_type.key, all_types)) > DEEPEST:
        raise Refusal("deep", f"The tree is at most {DEEPEST} types deep", ("parent",), "Choose a parent higher up")
    known: Mapping[str, Any]
    for member, known, what in (
        ("sets", defs.sets, "field_set"),
        ("fields", defs.product_fields, "field"),
        ("option_sets", defs.things["option_set"], "option_set"),
    ):
        keys = getattr(product_type, member)
        for index, key in enumerate(keys):
            if key not in known:
                words = f"There is no {what.replace('_', ' ')} {key[:60]}"
                raise Refusal(f"unknown_{what}", words, (member, index), "Take it off")
            if key in keys[:index]:
                raise Refusal("twice", f"{key[:60]} stands here twice", (member, index), "Keep one")
    for key in product_type.needs:
        if key not in defs.all_fields:
            raise Refusal("unknown_field", f"There is no field {key[:60]}", ("needs", key), "Take it off")
    for key, by in product_type.own.items():
        try:
            check_tightening(key, by, defs)
        except Refusal as refusal:
            raise refusal.at("own", key) from None


def _blank(key: str, name: str, defs: Known) -> ProductType:
    return ProductType(key, name, slug=make_code(name, [other.slug for other in defs.types.values()]))


def _refers(product_type: ProductType) -> Iterable[Reference]:
    if product_type.parent is not None:
        yield Reference("product_type", product_type.parent, "parent")
    for key in product_type.sets:
        yield Reference("field_set", key, "sets")
    for key in product_type.fields:
        yield Reference("field", key, "fields")
    for key in product_type.option_sets:
        yield Reference("option_set", key, "option_sets")
    for key in product_type.needs:
        if key not in BUILT_IN:
            yield Reference("field", key, "needs", loose=True)
    for key in product_type.own:
        if key not in BUILT_IN:
            yield Reference("field", key, "own", loose=True)


def _without(product_type: ProductType, reference: Reference) -> ProductType:
    needs = {key: need for key, need in product_type.needs.items() if key != reference.key}
    own = {key: by for key, by in product_type.own.items() if key != reference.key}
    return replace(product_type, needs=needs, own=own)


def _describe(before: State, after: State, defs: Known) -> list[str]:
    out = []
    named: Mapping[str, Any]
    for member, named in (("sets", defs.sets), ("fields", defs.all_fields), ("option_sets", defs.things["option_set"])):
        old, new = before.get(member) or [], after.get(member) or []
        added = [key for key in new if key not in old]
        gone = [key for key in old if key not in new]
        if added:
            out.append(f"takes {field_names(added, named)}")
        if gone:
            out.append(f"no longer takes {field_names(gone, named)}")
        if not added and not gone and old != new:
            out.append(f"order of {member.replace('_', ' ')} changed")
    for key in sorted({*before["needs"], *after["needs"]}):
        if before["needs"].get(key) != after["needs"].get(key):
            out.append(f"{field_names([key], defs.all_fields)} {after['needs'].get(key, 'as inherited')}")
    out += describe_tightening(before.get("own") or {}, after.get("own") or {}, defs)
    if before["parent"] != after["parent"]:
        parent = after["parent"]
        out.append(f"now under {defs.types[parent].name if parent in defs.types else 'nothing'}")
    for member in ("name", "slug"):
        if before[member] != after[member]:
            out.append(f"{member} {in_words(before[member])} → {in_words(after[member])}")
    return out or ["no difference"]


def _with_field(product_type: ProductType, field: str, into: str) -> ProductType:
    """The field gives its place to the other; of their needs the stricter holds."""
    fields = tuple(dict.fromkeys(into if key == field else key for key in product_type.fields))
    needs = {key: need for key, need in product_type.needs.items() if key != field}
    if field in product_type.needs:
        needs[into] = stricter(product_type.needs[field], needs.get(into, "optional"))
    own = {key: by for key, by in product_type.own.items() if key != field}
    return replace(product_type, fields=fields, needs=needs, own=own)


def _with_items(product_type: ProductType, target: Target, items: Items, defs: Known) -> ProductType:
    """The defaults it gives."""
    own = {
        key: replace(by, default=defs.all_fields[key].with_items(by.default, target, items))
        if key in defs.all_fields and defs.all_fields[key].own
        else by
        for key, by in product_type.own.items()
    }
    return replace(product_type, own=own)


NOUN = Noun(
    code="product_type",
    plural="product_types",
    name="product type",
    group="What it is",
    type=ProductType,
    check=check_type,
    blank=_blank,
    bearing=Bearing(offers=True, judges=True, gathers=True, unplanned=frozenset({"option_sets"})),
    telling=Telling(describe=_describe),
    referring=Referring(refers=_refers, without=_without, with_field=_with_field, with_items=_with_items),
    stored=Stored(keyed={"sets": "", "fields": "", "option_sets": ""}),
    calling=Calling(
        own_alone=frozenset({"slug"}),
        note=lambda thing, defs: type_path(thing.key, defs.types) if thing.key in defs.types else "",
        address=lambda thing: str(thing.slug),
    ),
    taking=Taking(members=lambda thing, field: {} if field in thing.fields else {"fields": [*thing.fields, field]}),
)
