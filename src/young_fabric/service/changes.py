"""History and undo: what was changed, by whom, and taking it back."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any
from uuid import uuid4

from young_fabric.core.changes import describe, merge_back
from young_fabric.core.errors import Refusal
from young_fabric.service import plans, products, writes
from young_fabric.service.actors import Clash, Right, Work
from young_fabric.store.repos import changes
from young_fabric.store.repos import products as product_rows
from young_fabric.store.states import state_of, thing_of
from young_fabric.store.tables import ChangeRow

PAGE = 50


@dataclass(frozen=True)
class Recorded:
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


def history(work: Work, noun: str | None, key: str | None, before: int | None) -> list[Recorded]:
    """Changes of a thing, or of all, last first."""
    work.need(Right.LOOK)
    rows = changes.history(work.session, noun, key, before, PAGE)
    undone = changes.undone(work.session, [row[0].id for row in rows])
    defs = plans.draft(work.session)
    return [
        Recorded(
            c.id,
            c.at,
            person,
            c.noun,
            c.key,
            c.name,
            describe(c.noun, c.before, c.after, defs),
            c.id in undone,
            c.turn % 2 == 1,
        )
        for c, person in rows
    ]


@dataclass(frozen=True)
class Undone:
    """What was taken back: the names of the things and their first words."""

    name: str
    noun: str
    key: str
    lines: list[str]


def undo(work: Work, change_id: int) -> Undone:
    """Take back a change, and all made in one stroke with it. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    found = changes.get(work.session, change_id)
    if found is None:
        raise Refusal("not_found", "There is no such change")
    together = changes.group(work.session, found.group_id)
    if changes.undone(work.session, [one.id for one in together]):
        raise Refusal("undone", f"This change of {found.name} was undone already", (), "See its history")
    group = uuid4().hex
    for one in together:
        _undo_one(work, one, group)
    defs = plans.draft(work.session)
    return Undone(found.name, found.noun, found.key, describe(found.noun, found.before, found.after, defs))


def undo_last(work: Work) -> Undone:
    """Take back the actor's own last change that was not taken back yet. Raises Refusal `nothing_to_undo`."""
    work.need(Right.EDIT)
    found = changes.last_undoable(work.session, work.actor.id)
    if found is None:
        raise Refusal("nothing_to_undo", "There is nothing of yours to undo")
    return undo(work, found.id)


def redo_last(work: Work) -> Undone:
    """Do again what the actor last took back, unless something new was changed since. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    found = changes.last_redoable(work.session, work.actor.id)
    if found is None:
        raise Refusal("nothing_to_undo", "There is nothing of yours to do again")
    return undo(work, found.id)


def _undo_one(work: Work, change: ChangeRow, group: str) -> None:
    if change.noun == "stock":
        products.set_stock(work, int(change.key), change.after["amount"], change.before["amount"], undoes=change.id)
    elif change.noun == "product":
        _undo_product(work, change, group)
    else:
        _undo_definition(work, change, group)


def _undo_definition(work: Work, change: ChangeRow, group: str) -> None:
    found = writes.current(work, change.noun, change.key)
    state = _state_back(change, state_of(change.noun, found[0]) if found else None, found[1] if found else None)
    thing = thing_of(change.noun, change.key, state) if state is not None else None
    writes.write(work, change.noun, change.key, thing, -1, group=group, undoes=change.id)


def _undo_product(work: Work, change: ChangeRow, group: str) -> None:
    product_id = int(change.key)
    stored = product_rows.get(work.session, [product_id]).get(product_id)
    state = _state_back(
        change, state_of("product", stored.product) if stored else None, stored.version if stored else None
    )
    if state is None:
        products.remove(work, product_id, -1, group=group, undoes=change.id)
        return
    thing = thing_of("product", change.key, state)
    thing = replace(thing, stock=stored.product.stock if stored else None)
    products.check_own(work, thing)
    products.put(work, stored, thing, stored.version if stored else 0, group=group, undoes=change.id)


def _state_back(change: ChangeRow, current: Any, version: int | None) -> dict[str, Any] | None:
    """The state to write to take a change back, None to remove the thing. Raises Clash."""
    if change.before is None:
        if current is not None and current != change.after:
            raise Clash(change.name, None, current, version)
        return None
    if change.after is None:
        if current is not None:
            raise Clash(change.name, change.before, current, version)
        return dict(change.before)
    if current is None:
        raise Clash(change.name, change.before, None, None)
    merged, in_the_way = merge_back(change.before, change.after, current)
    if in_the_way:
        raise Clash(change.name, change.before, current, version)
    return merged
