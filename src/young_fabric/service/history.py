"""History and undo: what was changed, by whom, and taking it back."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import uuid4

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.base.patches import backward
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.stock import CHOICE_STOCK, PRODUCT_STOCK, VARIANT_STOCK
from young_fabric.core.subjects.variants import VARIANT_CHOICES
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.defining import option_sets
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.sales import variant_values
from young_fabric.service.values import judging, value_states, value_writer, variant_choices
from young_fabric.service.values.holding import HOLDERS, TableHolders
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit, ThingEdit
from young_fabric.store.repos import changes, jobs, shop
from young_fabric.store.repos.definitions import StoredThing
from young_fabric.store.tables import ChangeRow

PAGE = 50
UNDO = "undo"


@dataclass(frozen=True)
class RecordedChange:
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


def history(work: Work, noun: str | None, key: str | None, before: int | None) -> list[RecordedChange]:
    """Changes of a thing, or of all, last first."""
    work.need(Right.LOOK)
    rows = changes.history(work.session, noun, key, before, PAGE)
    undone = changes.undone(work.session, [change.id for change, _ in rows])
    return [
        RecordedChange(
            change.id,
            change.at,
            person,
            change.noun,
            change.key,
            change.name,
            change.lines,
            change.id in undone,
            change.undo_depth % 2 == 1,
        )
        for change, person in rows
    ]


@dataclass(frozen=True)
class TakenBack:
    """What was taken back: the name of the thing and the words of the change, of how many that were one stroke; a `job` does it where
    many go together."""

    name: str
    noun: str
    key: str
    lines: list[str]
    job: int | None = None
    count: int = 1


def undo(work: Work, change_id: int) -> TakenBack:
    """Take back a change, and all made in one stroke with it: at once, or by a job where that is more than 2,000 changes.

    Raises Refusal `undone`, `busy`, Clash.
    """
    work.need(Right.EDIT)
    found = _need(work, change_id)
    _need_quiet(work, found)
    count = changes.size_of_group(work.session, found.group_id)
    if count > judging.MOST_AT_ONCE:
        if not changes.undoable(work.session, [found.id]):
            raise _undone(found)
        busy = "This change is being undone already"
        job = hand_in(work, UNDO, {"change": change_id}, f"undo {found.group_id}", busy)
        return TakenBack(found.name, found.noun, found.key, found.lines, job, count)
    return undo_at_once(work, change_id)


def _need(work: Work, change_id: int) -> ChangeRow:
    found = changes.get(work.session, change_id)
    if found is None:
        raise Refusal("not_found", "There is no such change")
    return found


def _need_quiet(work: Work, found: ChangeRow) -> None:
    """Raises Refusal `busy` while a job goes on writing in the group of a change."""
    if jobs.writes_in(work.session, found.group_id):
        words = f"{found.name} is still being changed everywhere"
        raise Refusal("busy", words, (), "Wait until that job is done, then undo it")


def _undone(found: ChangeRow) -> Refusal:
    return Refusal("undone", f"This change of {found.name} was undone already", (), "See its history")


def undo_at_once(work: Work, change_id: int) -> TakenBack:
    """Take back a change, and all made in one stroke with it, however many those are: batch by batch in one transaction.

    Raises Refusal `undone`, `busy`, Clash.
    """
    work.need(Right.EDIT)
    session, found = work.session, _need(work, change_id)
    if changes.makes_or_defines(session, found.group_id, list(NOUNS)):
        shop.lock_definitions(session)
    changes.hold_group(session, found.group_id)
    _need_quiet(work, found)
    if changes.undone_in_group(session, found.group_id):
        raise _undone(found)
    group = uuid4().hex
    plans.refresh(session)
    before = plans.draft(session)
    of_nouns = changes.of_group(session, found.group_id, nouns=list(NOUNS))
    count = changes.size_of_group(session, found.group_id)
    others = count > len(of_nouns)
    _undo_others(work, found, [*NOUNS, *HOLDERS, *(noun for noun in UNDOERS if noun not in FIRST)], group)
    # Definitions first, so that values are put back under those they were right by; but what was made along with values goes when
    # they have gone.
    fresh = [change for change in of_nouns if others and _made_it(change)]
    _undo_definitions(work, [change for change in of_nouns if change not in fresh], group)
    _undo_others(work, found, [*NOUNS, *FIRST], group)
    _undo_definitions(work, fresh, group)
    for change in of_nouns:
        writes.follow(work, before, plans.draft(session), change.noun, change.key, group)
    return TakenBack(found.name, found.noun, found.key, found.lines, count=count)


def _undo_others(work: Work, found: ChangeRow, without: Sequence[str], group: str) -> None:
    """Take back all changes in a group but those of some nouns, by how each is taken back."""
    for batch in changes.others_of_group(work.session, found.group_id, without, value_writer.BATCH):
        for run in _runs(batch):
            _undoer(run[0].noun)(work, run, group)


def _undoer(noun: str) -> Undo:
    """How changes of what is no definition are taken back. Raises Refusal of what there is no more."""
    if noun not in UNDOERS and noun not in HOLDERS:
        writes.noun_of(noun)
    return UNDOERS.get(noun, _undo_values)


def _made_it(change: ChangeRow) -> bool:
    """Whether a change made its thing: taking it back removes the thing, and what is said of it alone."""
    return "is" in change.patch and "was" not in change.patch


def undo_last(work: Work) -> TakenBack:
    """Take back the actor's own last change that was not taken back yet. Raises Refusal `nothing_to_undo`."""
    work.need(Right.EDIT)
    found = changes.last_undoable(work.session, work.actor.id)
    if found is None:
        raise Refusal("nothing_to_undo", "There is nothing of yours to undo")
    return undo(work, found.id)


def redo_last(work: Work) -> TakenBack:
    """Do again what the actor last took back, unless something new was changed since. Raises Refusal, Clash."""
    work.need(Right.EDIT)
    found = changes.last_redoable(work.session, work.actor.id)
    if found is None:
        raise Refusal("nothing_to_undo", "There is nothing of yours to do again")
    return undo(work, found.id)


def _runs(together: Sequence[ChangeRow]) -> list[list[ChangeRow]]:
    """Changes next to each other of one noun, so that many products are written at once."""
    runs: list[list[ChangeRow]] = []
    for change in together:
        if runs and runs[-1][0].noun == change.noun:
            runs[-1].append(change)
        else:
            runs.append([change])
    return runs


def _states_around(change: ChangeRow, current: Any, later: Sequence[ChangeRow], written: int) -> tuple[Any, Any]:
    """(after, before) of a change, from the state that stands and what was changed since, last first.

    Raises Refusal `undone` when it was made in an older format than states have now.
    """
    if any(row.format != written for row in (change, *later)):
        words = f"This change of {change.name} was made before an upgrade"
        raise Refusal("undone", words, (), "Make it back by hand")
    state = current
    for row in later:
        state = backward(state, row.patch)
    return state, backward(state, change.patch)


def _undo_definitions(work: Work, run: Sequence[ChangeRow], group: str) -> None:
    """Take back changes of definitions, last first: as many together as are of different things."""
    for part in _of_different_things(run):
        later = _later(work, part)
        writes.apply_many(work, [_definition_edit(change, later[change.id]) for change in part], group)


def _later(work: Work, part: Sequence[ChangeRow]) -> dict[int, list[ChangeRow]]:
    """Change → those of its thing after it, last first; of changes of different things."""
    found = changes.since_versions(work.session, {(change.noun, change.key): change.version for change in part})
    return {change.id: found[change.noun, change.key] for change in part}


def _of_different_things(run: Sequence[ChangeRow]) -> Iterator[list[ChangeRow]]:
    """Changes in their order, in parts that have no thing twice."""
    part: dict[tuple[str, str], ChangeRow] = {}
    for change in run:
        if (change.noun, change.key) in part:
            yield list(part.values())
            part = {}
        part[change.noun, change.key] = change
    if part:
        yield list(part.values())


def _definition_edit(change: ChangeRow, later: Sequence[ChangeRow]) -> ThingEdit:
    noun = writes.noun_of(change.noun)

    def edit(stored: StoredThing | None) -> Edit:
        current = state_of(stored.thing) if stored else ABSENT
        return Edit(*_states_around(change, current, later, noun.stored.format))

    return ThingEdit(change.noun, change.key, edit, change.id)


def _undo_values(work: Work, run: Sequence[ChangeRow], group: str) -> None:
    """Take back what was written of holders of values, all of one subject."""
    shop.hold_definitions(work.session)
    holders = HOLDERS[run[0].noun]
    for part in _of_different_things(run):
        _undo_each_holder(work, holders, part, group)


def _undo_each_holder(work: Work, holders: TableHolders, run: Sequence[ChangeRow], group: str) -> None:
    stand = holders.locked(work, sorted(holders.id_of(change.key) for change in run))
    later = _later(work, run)
    edits, going = [], []
    for change in run:
        number = holders.id_of(change.key)
        if number not in stand and not holders.comes_back:
            raise Refusal("undone", f"{change.name} is gone", (), "Bring its product back first")
        states = _states_around(change, stand.get(number, ABSENT), later[change.id], value_states.FORMAT)
        edits.append(ValueEdit(number, states=states, undoes=change.id))
        if states[1] is ABSENT:
            going.append(number)
    products.take_out_own(work, holders.subject.code, going, group)
    holders.write(work, edits, group, False)


Undo = Callable[[Work, Sequence[ChangeRow], str], None]
UNDOERS: dict[str, Undo] = {
    PRODUCT_STOCK: products.undo_stocks,
    VARIANT_CHOICES: variant_choices.undo,
    VARIANT_STOCK: variant_values.undo_stocks,
    CHOICE_STOCK: option_sets.undo_stocks,
}
"""How changes are taken back that are neither of definitions nor of values."""
FIRST = (VARIANT_CHOICES,)
"""Those that are taken back before definitions are: what variants are made of, so that they are found by what is offered then."""
