"""Values follow a field that is read otherwise: converted at once up to 2,000 products, beyond that by a job.

What can't be converted is kept as typed and marked; when the field is read as before again, it is taken back.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.fields.fields import NOUN, PRODUCTS, Field
from young_fabric.core.subjects.converting import convert, reading_of, taken_back
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.values import FieldRules, Reading
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.planning import plans
from young_fabric.service.values import judging, value_writer
from young_fabric.service.values.value_writer import ValueEdit
from young_fabric.store.repos import products, shop, stored_values
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
        """A product's state with its value converted, and what was not understood read anew."""
        held, unread = dict(state["values"]), dict(state["unread"])
        reading = self._reading(held.pop(self.key, None), unread.pop(self.key, None))
        if reading.kept is not None:
            unread[self.key] = reading.kept
        elif reading.value is not None:
            held[self.key] = reading.value
        return {**state, "values": held, "unread": unread}

    def cell(self, cell: Sequence[Any]) -> list[Any]:
        """A cell of a definition that holds values, converted."""
        reading = self._reading(*((cell[1], None) if cell[0] == "value" else (None, cell[1])))
        return ["value", reading.value] if reading.kept is None else ["typed", reading.kept]

    def _reading(self, value: Any, typed: Any) -> Reading:
        if value is not None:
            return convert(self.old, self.new, value).reading
        return taken_back(self.new, typed) if typed is not None else Reading()


def follow(
    work: Work, before: Definitions, after: Definitions, old: Field | None, new: Field | None, group: str
) -> Iterator[tuple[str, str, dict[str, Any], dict[str, Any]]]:
    """Convert products' values in step with a field; gives what else is to be written: (noun, key, state, state after)."""
    if old is None or new is None or reading_of(old) == reading_of(new):
        return
    rereading = Rereading(FieldRules(old, before.spec(old)), FieldRules(new, after.spec(new)))
    if new.subject != PRODUCTS:
        for key, thing in sorted(after.things[new.subject].items()):
            if new.key in thing.filled:
                state = state_of(thing)
                yield new.subject, key, state, {**state, "filled": _refilled(state["filled"], rereading)}
        return
    wanted = stored_values.holding_any(new.key)
    if products.count_where(work.session, wanted, judging.MOST_AT_ONCE + 1) > judging.MOST_AT_ONCE:
        args = {"field": new.key, "was": state_of(old), "group": group}
        hand_in(work, judging.CONVERT, args)
        return
    _convert(work, rereading, products.stream_where(work.session, wanted, 0, judging.MOST_AT_ONCE), group)


def _refilled(filled: Mapping[str, Any], rereading: Rereading) -> dict[str, Any]:
    return {**filled, rereading.key: rereading.cell(filled[rereading.key])}


def _convert(work: Work, rereading: Rereading, found: Sequence[Any], group: str) -> int:
    """Convert the values of some products; gives how many."""
    edits = []
    for product in found:
        state = PRODUCT.state_of(product)
        edits.append(ValueEdit(product.id, states=(state, rereading.state(state))))
    value_writer.put_many(work, edits, group, follows=True)
    return len(edits)


def convert_batch(work: Work, args: Mapping[str, Any], after: int) -> tuple[int, int]:
    """Convert the values of the next products, by the field as it is now; gives (last id, how many)."""
    shop.hold_definitions(work.session)
    plans.refresh(work.session)
    defs = plans.draft(work.session)
    was: Field = thing_of(NOUN.code, args["was"])
    field = defs.fields.get(was.key)
    if field is None or reading_of(field) == reading_of(was):
        return after, 0
    wanted = stored_values.holding_any(was.key)
    found = products.stream_where(work.session, wanted, after, BATCH)
    rereading = Rereading(FieldRules(was, defs.spec(was)), FieldRules(field, defs.spec(field)))
    _convert(work, rereading, found, args["group"])
    return (found[-1].id if found else after), len(found)


def total(work: Work, args: Mapping[str, Any]) -> int:
    """How many products a job has to look at."""
    return products.count_where(work.session, stored_values.holding_any(args["was"]["key"]))
