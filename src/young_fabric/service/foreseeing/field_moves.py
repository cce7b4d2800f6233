"""Which fields products get and lose by a change of what types, sets and collections bring, and what becomes of their values."""

from __future__ import annotations

from dataclasses import dataclass, field

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.subjects.product_labels import Names
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.planning.naming import names_for
from young_fabric.service.products.products import need_record
from young_fabric.store.repos import fills


@dataclass(frozen=True)
class FieldMove:
    """A field that products get or lose: on how many, and how many of them hold a value, kept aside or coming back."""

    key: str
    name: str
    products: int
    values: int


@dataclass(frozen=True)
class FieldMoves:
    """The fields that go and those that come."""

    gone: list[FieldMove] = field(default_factory=list)
    come: list[FieldMove] = field(default_factory=list)


def field_moves(work: Work, before: Definitions, after: Definitions) -> FieldMoves:
    """What types that stay lose and get. No value is dropped: it is kept aside, and back when its field is."""
    stay = before.types.keys() & after.types.keys()
    lost, got = {}, {}
    for key in before.product_fields.keys() & after.product_fields.keys():
        had, have = (defs.holders[key].types if key in defs.holders else frozenset() for defs in (before, after))
        if had != have:
            lost[key], got[key] = (had - have) & stay, (have - had) & stay
    if not lost:
        return FieldMoves()
    there, held = fills.counts_by_type(work.session), fills.by_type(work.session, sorted(lost))

    def moves(types_of: dict[str, frozenset[str]]) -> list[FieldMove]:
        out = []
        for key, types in types_of.items():
            count = sum(there.get(of, 0) for of in types)
            values = sum(sum(held.get(key, {}).get(of, fills.NONE)) for of in types)
            if count:
                out.append(FieldMove(key, before.product_fields[key].name, count, values))
        return sorted(out, key=lambda move: (-move.values, move.name))

    return FieldMoves(moves(lost), moves(got))


@dataclass(frozen=True)
class MovedValue:
    """A field a product loses or gets, with the value that is kept aside or comes back, as shown, "" for none."""

    key: str
    name: str
    shown: str


@dataclass(frozen=True)
class TypeChange:
    """What a product loses and gets by becoming of another type."""

    gone: list[MovedValue]
    come: list[MovedValue]


def type_change(work: Work, number: int, to: str) -> TypeChange:
    """What would become of a product's values, were it of another type; nothing is written. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    product = need_record(work, number).product
    draft = plans.draft_of(work.session)
    if to not in draft.defs.types:
        raise Refusal("not_found", f"There is no product type {to[:60]}", ("type",), "Choose another")
    names = names_for(work.session, draft.defs, [product])
    had, have = (
        [row.field.key for row in draft.defs.applicable(draft.assessor.group(of, product.collections))]
        for of in (product.type, to)
    )
    return TypeChange(
        [_moved(names, product, key) for key in had if key not in have],
        [_moved(names, product, key) for key in have if key not in had],
    )


def _moved(names: Names, product: Product, key: str) -> MovedValue:
    definition = names.defs.all_fields[key]
    rules, value = FieldRules(definition, names.defs.spec(definition)), product.values.get(key)
    if key in product.unread:
        return MovedValue(key, definition.name, str(product.unread[key]))
    named = names.put_in(definition, value)
    good = value is not None and rules.judge(named) is None
    return MovedValue(
        key, definition.name, (rules.text(named) or "filled") if good else "" if value is None else "filled"
    )
