"""Merging two fields that record the same thing: values, places in sets and types and conditions move to the one that stays."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields.fields import NOUN
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.converting import reading_of
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.defining import definitions
from young_fabric.service.planning import plans
from young_fabric.service.values import judging
from young_fabric.service.values.holding import HolderName, Holders, holders_of
from young_fabric.service.values.value_states import State
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit
from young_fabric.store.repos import shop
from young_fabric.store.repos.definitions import StoredThing
from young_fabric.store.repos.stored_values import Differing, Holding

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
    """What a merge touches: what is `counted` so whose value moves, those with other values in both (some of them, by noun), and
    definitions."""

    counted: tuple[str, str]
    moves: int
    differ: int
    examples: tuple[tuple[str, HolderName], ...]
    definitions: tuple[str, ...]


def reach(work: Work, merge: FieldMerge) -> FieldMergeReach:
    """What a merge would touch; nothing is written. Raises Refusal."""
    work.need(Right.LOOK)
    defs = plans.draft(work.session)
    _check(defs, merge)
    subject, holders = _holders(defs, merge)
    differing = Differing(merge.field, merge.into)
    differ = holders.count(work, differing)
    some = [holder.id for holder in holders.held(work, differing, 0, SHOWN)] if differ else []
    held = holders.count(work, Holding(merge.field))
    named = tuple(
        NOUNS[noun].calling.name_of(key, defs.things[noun][key], defs) for noun, key, _ in _definitions(defs, merge)
    )
    examples = tuple((subject, name) for name in holders.named(work, some).values())
    return FieldMergeReach(holders.counted, held - differ, differ, examples, named)


def _holders(defs: Definitions, merge: FieldMerge) -> tuple[str, Holders]:
    """(what has the fields, what of it holds values)."""
    subject = defs.fields[merge.field].subject
    return subject, holders_of(defs, subject)


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
    _, holders = _holders(plans.draft(work.session), merge)
    if holders.count(work, Holding(merge.field), judging.MOST_AT_ONCE + 1) > judging.MOST_AT_ONCE:
        args = {"field": merge.field, "into": merge.into, "group": group}
        return hand_in(work, MERGE, args, f"merge field {merge.field}", "This field is being merged already")
    finish(work, merge, group)
    return None


def _check(defs: Definitions, merge: FieldMerge) -> None:
    for member in ("field", "into"):
        key = getattr(merge, member)
        if key not in defs.fields:
            raise Refusal("not_found", f"There is no field {key[:60]} of your own", (member,), "Choose another")
    going, staying = defs.fields[merge.field], defs.fields[merge.into]
    if going.subject != staying.subject:
        words = f"{going.name} and {staying.name} are of different sorts of thing"
        raise Refusal("kind", words, ("into",), "Choose another field")
    if merge.field == merge.into:
        raise Refusal("twice", "A field can't be merged with itself", ("into",), "Choose another field")
    if reading_of(going) != reading_of(staying):
        words = f"{going.name} and {staying.name} are not of the same kind, unit or list"
        raise Refusal("kind", words, ("into",), f"Change the kind of {going.name} first")


def _check_differing(work: Work, merge: FieldMerge) -> None:
    _, holders = _holders(plans.draft(work.session), merge)
    differ = holders.count(work, Differing(merge.field, merge.into))
    if differ:
        name = holders.counted[differ > 1]
        words = f"{differ} {name} {'have' if differ > 1 else 'has'} a value in both, and not the same"
        raise Refusal("differ", words, ("into",), "Empty one of the two on each first, then merge")


def _moved(state: State, merge: FieldMerge) -> State:
    held, unread = dict(state["values"]), dict(state["unread"])
    for cells in (held, unread):
        if merge.field in cells:
            cell = cells.pop(merge.field)
            if merge.into not in held and merge.into not in unread:
                cells[merge.into] = cell
    return {**state, "values": held, "unread": unread}


def _move_values(work: Work, merge: FieldMerge, group: str) -> None:
    """Move the values of all that hold the field, a batch after the other."""
    wanted, after = Holding(merge.field), 0
    _, holders = _holders(plans.draft(work.session), merge)
    while found := holders.held(work, wanted, after, BATCH):
        after = found[-1].id
        changed = [(holder, _moved(holder.state, merge)) for holder in found]
        for noun, key, state, moved in holders.put(work, changed, group):
            writes.apply(work, noun, key, _from(state, moved), group=group)


def _from(state: State, moved: State) -> Callable[[StoredThing | None], Edit]:
    return lambda _stored: Edit(state, moved)


def finish(work: Work, merge: FieldMerge, group: str) -> None:
    """Put the one field in the other's place wherever it is taken or asked for, move the values, and remove it."""
    shop.lock_definitions(work.session)
    plans.refresh(work.session)
    _check_differing(work, merge)
    for noun, key, state in list(_definitions(plans.draft(work.session), merge)):
        writes.apply(work, noun, key, writes.edit_to(state), group=group)
    _move_values(work, merge, group)
    current = writes.need_current(work, NOUN.code, merge.field)
    definitions.remove(work, NOUN.code, merge.field, current.version, group)


def _definitions(defs: Definitions, merge: FieldMerge) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Definitions that take the field or ask for it, with their states after the merge."""
    for code, noun in NOUNS.items():
        for key, thing in sorted(defs.things[code].items()):
            changed = noun.referring.with_field(thing, merge.field, merge.into)
            if changed != thing:
                yield code, key, state_of(changed)
