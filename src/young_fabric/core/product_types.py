"""Product types: a tree that says which fields products of a sort have."""

from __future__ import annotations

from collections.abc import Container, Mapping
from dataclasses import dataclass, field

from young_fabric.core.errors import Refusal
from young_fabric.core.field_sets import FieldSet
from young_fabric.core.fields import BUILT_IN, Field, Need, stricter

DEEPEST = 8


@dataclass(frozen=True)
class ProductType:
    """A type takes field sets and single fields, has all its parent has, and may raise a field's need."""

    key: str
    name: str
    parent: str | None = None
    slug: str = ""
    sets: tuple[str, ...] = ()
    fields: tuple[str, ...] = ()
    needs: Mapping[str, Need] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class EffectiveField:
    """A field a type has, with where it comes from: the type, and the set and section or neither.

    `built_in` ones come with every product. `need_from` is the type that made the need stricter, if one did.
    """

    field: Field
    need: Need
    type: str | None
    set: str | None
    section: str | None
    need_from: str | None = None


def ancestry(key: str, types: Mapping[str, ProductType]) -> tuple[str, ...]:
    """The type, its parent and so on, nearest first. Raises Refusal `loop` when it leads back to itself."""
    chain: list[str] = []
    at: str | None = key
    while at is not None:
        if at in chain:
            raise Refusal("loop", "The type would stand under itself", ("parent",), "Choose another parent")
        chain.append(at)
        at = types[at].parent if at in types else None
    return tuple(chain)


def descendants(key: str, types: Mapping[str, ProductType]) -> frozenset[str]:
    """The type and all below it."""
    return frozenset(other for other in types if key in ancestry(other, types))


def type_path(key: str, types: Mapping[str, ProductType], joiner: str = " › ") -> str:
    """The names from the top down, such as `Paper › Printmaking`."""
    return joiner.join(types[one].name for one in reversed(ancestry(key, types)))


def effective_fields(
    key: str, types: Mapping[str, ProductType], sets: Mapping[str, FieldSet], fields: Mapping[str, Field]
) -> tuple[EffectiveField, ...]:
    """All fields of a type: built-in ones, then ancestors' first, a type's sets in order, then its single fields.

    A field that comes twice stands where it came first; of two needs the stricter holds.
    """
    chain = tuple(reversed(ancestry(key, types)))
    found: dict[str, EffectiveField] = {
        name: EffectiveField(one, one.need, None, None, None) for name, one in BUILT_IN.items()
    }

    def take(name: str, origin: str, of_set: str | None, section: str | None) -> None:
        if name in fields and name not in found:
            found[name] = EffectiveField(fields[name], fields[name].need, origin, of_set, section)

    for type_key in chain:
        this = types[type_key]
        for set_key in this.sets:
            for section in sets[set_key].sections if set_key in sets else ():
                for name in section.fields:
                    take(name, type_key, set_key, section.key)
        for name in this.fields:
            take(name, type_key, None, None)
    for type_key in chain:
        for name, need in types[type_key].needs.items():
            one = found.get(name)
            if one and stricter(one.need, need) != one.need:
                found[name] = EffectiveField(one.field, need, one.type, one.set, one.section, type_key)
    return tuple(found.values())


def check_type(
    this: ProductType, types: Mapping[str, ProductType], sets: Container[str], fields: Container[str]
) -> None:
    """Raises Refusal: `required`, `unknown_type`, `loop`, `deep`, `unknown_set`, `unknown_field`, `twice`."""
    if not this.name.strip():
        raise Refusal("required", "A product type needs a name", ("name",), "Type a name")
    if this.parent is not None and this.parent not in types:
        raise Refusal("unknown_type", "The parent is gone", ("parent",), "Choose another parent")
    all_types = {**types, this.key: this}
    if max(len(ancestry(key, all_types)) for key in descendants(this.key, all_types)) > DEEPEST:
        raise Refusal("deep", f"The tree is at most {DEEPEST} types deep", ("parent",), "Choose a parent higher up")
    for member, known, what in (("sets", sets, "set"), ("fields", fields, "field")):
        taken = getattr(this, member)
        for place, key in enumerate(taken):
            if key not in known:
                raise Refusal(f"unknown_{what}", f"There is no {what} {key}", (member, place), "Take it off")
            if key in taken[:place]:
                raise Refusal("twice", f"{key} stands here twice", (member, place), "Keep one")
    for key in this.needs:
        if key not in fields and key not in BUILT_IN:
            raise Refusal("unknown_field", f"There is no field {key}", ("needs", key), "Take it off")
