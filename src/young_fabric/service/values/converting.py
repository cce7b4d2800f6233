"""Values follow a field that is read otherwise, whatever holds them: converted at once up to 2,000 of them, beyond that by a job.

What can't be converted is kept as typed and marked; when the field is read as before again, it is taken back.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields.fields import NOUN, Field
from young_fabric.core.subjects.converting import convert, reading_of, taken_back
from young_fabric.core.subjects.values import FieldRules, Reading
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.planning import plans
from young_fabric.service.values import judging
from young_fabric.service.values.holding import HOLDERS, DefinitionWrite, HeldState, Holders, holders_of
from young_fabric.store.repos import shop
from young_fabric.store.repos.stored_values import Holding
from young_fabric.store.states import thing_of

BATCH = 1_000


@dataclass(frozen=True)
class Rereading:
    """A field's rules as they were and as they are."""

    old: FieldRules
    new: FieldRules

    @property
    def key(self) -> str:
        """The field."""
        return self.new.field.key

    def state(self, state: Mapping[str, Any]) -> dict[str, Any]:
        """A holder's state with its value converted, and what was not understood read anew."""
        held, unread = dict(state["values"]), dict(state["unread"])
        reading = self._reading(held.pop(self.key, None), unread.pop(self.key, None))
        if reading.kept is not None:
            unread[self.key] = reading.kept
        elif reading.value is not None:
            held[self.key] = reading.value
        return {**state, "values": held, "unread": unread}

    def _reading(self, value: Any, typed: Any) -> Reading:
        if value is not None:
            return convert(self.old, self.new, value).reading
        return taken_back(self.new, typed) if typed is not None else Reading()


def follow(
    work: Work, before: Definitions, after: Definitions, old: Field | None, new: Field | None, group: str
) -> Iterable[DefinitionWrite]:
    """Convert values in step with a field, at once or by a job; gives the definitions that are to be written for it."""
    if old is None or new is None or reading_of(old) == reading_of(new):
        return ()
    rereading = Rereading(FieldRules(old, before.spec(old)), FieldRules(new, after.spec(new)))
    holders, wanted = holders_of(after, new.subject), Holding(new.key)
    count = holders.count(work, wanted, judging.MOST_AT_ONCE + 1)
    if new.subject in HOLDERS and count > judging.MOST_AT_ONCE:
        args = {"field": new.key, "was": state_of(old), "group": group}
        hand_in(work, judging.CONVERT, args)
        return ()
    return _convert(work, holders, rereading, holders.held(work, wanted, 0, count), group)


def _convert(
    work: Work, holders: Holders, rereading: Rereading, found: Sequence[HeldState], group: str
) -> list[DefinitionWrite]:
    """Convert the values of some holders; gives the definitions that are to be written for it."""
    return holders.put(work, [(holder, rereading.state(holder.state)) for holder in found], group, follows=True)


def convert_batch(work: Work, args: Mapping[str, Any], after: int) -> tuple[int, int]:
    """Convert the values of the next holders, by the field as it is now; gives (last id, how many)."""
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    defs = plans.draft(work.session)
    was: Field = thing_of(NOUN.code, args["was"])
    field = defs.fields.get(was.key)
    if field is None or reading_of(field) == reading_of(was):
        return after, 0
    holders = HOLDERS[field.subject]
    found = holders.held(work, Holding(was.key), after, BATCH)
    rereading = Rereading(FieldRules(was, defs.spec(was)), FieldRules(field, defs.spec(field)))
    _convert(work, holders, rereading, found, args["group"])
    return (found[-1].id if found else after), len(found)


def total(work: Work, args: Mapping[str, Any]) -> int:
    """How many holders a job has to look at."""
    was: Field = thing_of(NOUN.code, args["was"])
    return HOLDERS[was.subject].count(work, Holding(was.key))
