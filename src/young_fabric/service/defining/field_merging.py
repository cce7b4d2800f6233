"""Merging two fields that record the same thing: values, places in sets and types and conditions move to the one that stays."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields.fields import NOUN, PRODUCTS
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.converting import reading_of
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.defining import definitions
from young_fabric.service.planning import plans
from young_fabric.service.values import judging, value_writer
from young_fabric.service.values.value_writer import ValueEdit
from young_fabric.service.writing import writes
from young_fabric.store.repos import products, shop, stored_values

MERGE = "merge_fields"
BATCH = 1_000
SHOWN = 20


@dataclass(frozen=True)
class FieldMerge:
    """A field that goes, and the one that stands for it."""

    field: str
    into: str


@dataclass(frozen=True)
class FieldMergeReach:
    """What a merge touches: products whose value moves, those with other values in both (some of them), and definitions."""

    moves: int
    differ: int
    examples: tuple[tuple[int, str], ...]
    definitions: tuple[str, ...]


def reach(work: Work, merge: FieldMerge) -> FieldMergeReach:
    """What a merge would touch; nothing is written. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    _check(defs, merge)
    session, differing = work.session, stored_values.differing(merge.field, merge.into)
    differ = products.count_where(session, differing)
    some = products.stream_where(session, differing, 0, SHOWN) if differ else []
    held = products.count_where(session, stored_values.holding_any(merge.field))
    named = tuple(
        NOUNS[noun].calling.name_of(key, defs.things[noun][key], defs) for noun, key, _ in _definitions(defs, merge)
    )
    return FieldMergeReach(held - differ, differ, tuple((product.id, product.title) for product in some), named)


def merge_fields(work: Work, merge: FieldMerge) -> int | None:
    """Merge two fields at once, up to 2,000 products; beyond that a job does, and its id is given.

    Raises Refusal `kind` when they are not read alike, `differ` when products have other values in both, or of a definition.
    """
    work.need(Right.EDIT)
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    _check(plans.draft(work.session), merge)
    _check_differing(work, merge)
    group = uuid4().hex
    held = stored_values.holding_any(merge.field)
    if products.count_where(work.session, held, judging.MOST_AT_ONCE + 1) > judging.MOST_AT_ONCE:
        args = {"field": merge.field, "into": merge.into, "group": group}
        return hand_in(work, MERGE, args, f"merge field {merge.field}", "This field is being merged already")
    finish(work, merge, group)
    return None


def _check(defs: Definitions, merge: FieldMerge) -> None:
    for member in ("field", "into"):
        key = getattr(merge, member)
        if key not in defs.fields or defs.fields[key].subject != PRODUCTS:
            raise Refusal("not_found", f"Products have no field {key[:60]} of your own", (member,), "Choose another")
    going, staying = defs.fields[merge.field], defs.fields[merge.into]
    if merge.field == merge.into:
        raise Refusal("twice", "A field can't be merged with itself", ("into",), "Choose another field")
    if reading_of(going) != reading_of(staying):
        words = f"{going.name} and {staying.name} are not of the same kind, unit or list"
        raise Refusal("kind", words, ("into",), f"Change the kind of {going.name} first")


def _check_differing(work: Work, merge: FieldMerge) -> None:
    differ = products.count_where(work.session, stored_values.differing(merge.field, merge.into))
    if differ:
        words = f"{differ} products have a value in both, and not the same"
        raise Refusal("differ", words, ("into",), "Empty one of the two on each first, then merge")


def merge_batch(work: Work, merge: FieldMerge, group: str, after: int = 0) -> tuple[int, int]:
    """Move the values of the next products that hold the field; gives (last id, how many)."""
    plans.refresh(work.session)
    _check(plans.draft(work.session), merge)
    found = products.stream_where(work.session, stored_values.holding_any(merge.field), after, BATCH)
    edits = [ValueEdit(product.id, states=_states(product, merge)) for product in found]
    value_writer.put_many(work, edits, group)
    return (found[-1].id if found else after), len(found)


def _states(product: Product, merge: FieldMerge) -> tuple[Any, Any]:
    state = PRODUCT.state_of(product)
    held, unread = dict(state["values"]), dict(state["unread"])
    for cells in (held, unread):
        if merge.field in cells:
            cell = cells.pop(merge.field)
            if merge.into not in held and merge.into not in unread:
                cells[merge.into] = cell
    return state, {**state, "values": held, "unread": unread}


def finish(work: Work, merge: FieldMerge, group: str) -> None:
    """Put the one field in the other's place wherever it is taken or asked for, move the values, and remove it."""
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    _check_differing(work, merge)
    for noun, key, state in list(_definitions(plans.draft(work.session), merge)):
        writes.apply(work, noun, key, writes.edit_to(state), group=group)
    while merge_batch(work, merge, group)[1]:
        pass
    current = writes.need_current(work, NOUN.code, merge.field)
    definitions.remove(work, NOUN.code, merge.field, current.version, group)


def _definitions(defs: Definitions, merge: FieldMerge) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Definitions that take the field or ask for it, with their states after the merge."""
    for code, noun in NOUNS.items():
        for key, thing in sorted(defs.things[code].items()):
            changed = noun.referring.with_field(thing, merge.field, merge.into)
            if changed != thing:
                yield code, key, state_of(changed)
