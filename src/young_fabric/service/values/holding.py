"""Whatever holds values, asked and written in one way: a registry of the subjects with a table; definitions that hold values are alike.

What follows a field, merges values or fields, tells what a change would do, or says what holds a thing fast goes by the holders
of the field's subject, and knows no subject by name.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple, Protocol

from sqlalchemy.orm import Session

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import Noun, state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.registry import PRODUCT, VARIANT, Subject
from young_fabric.service.acting.actors import Work
from young_fabric.service.values import value_writer, variant_writer
from young_fabric.service.values.value_states import State, ValueEdit, cells_of_state, state_of_cells
from young_fabric.store.repos import products, stored_values, variants
from young_fabric.store.repos.stored_values import Differing, Holding, Wanted


class HeldState(NamedTuple):
    """A holder by its number, and the state it is in."""

    id: int
    state: State


class HolderName(NamedTuple):
    """Under which key the history has a holder, and what it is called."""

    key: str
    name: str


DefinitionWrite = tuple[str, str, State, State]
"""A definition that is to be written: (noun, key, state, state after)."""


class Holders(Protocol):
    """What holds values of the fields of one subject. Holders are numbered; `after` is the number of the last one seen."""

    @property
    def counted(self) -> tuple[str, str]:
        """What they are called, one and several."""

    def count(self, work: Work, wanted: Holding | Differing, most: int | None = None) -> int:
        """How many there are, counting no further than `most`."""

    def held(self, work: Work, wanted: Holding | Differing, after: int, limit: int) -> list[HeldState]:
        """The next of them, by number."""

    def values(
        self, work: Work, key: str, after: int, limit: int, types: Iterable[str] | None = None
    ) -> list[tuple[int, Any]]:
        """(number, value) of the next with a value for a field; of products of some types alone, or of all."""

    def named(self, work: Work, ids: Sequence[int]) -> dict[int, HolderName]:
        """What some are called; those that are gone are left out."""

    def put(
        self, work: Work, changed: Sequence[tuple[HeldState, State]], group: str, *, follows: bool = False
    ) -> list[DefinitionWrite]:
        """Write what became of some, from the state they were seen in; gives the definitions that are to be written for it."""


@dataclass(frozen=True)
class TableHolders:
    """Holders with a table. `read` gives some by id, `lock` the same held until the transaction ends; `write` is their one writer,
    `id_of` the number of a key of the history. Those that do not `come back` by themselves can't be made again by an undo."""

    subject: Subject
    read: Callable[[Session, Sequence[int]], Mapping[int, Any]]
    lock: Callable[[Session, Sequence[int]], Mapping[int, Any]]
    names: Callable[[Work, Sequence[int]], dict[int, HolderName]]
    write: Callable[[Work, Sequence[ValueEdit], str, bool], object]
    id_of: Callable[[str], int] = int
    comes_back: bool = True

    @property
    def counted(self) -> tuple[str, str]:
        """What they are called, one and several."""
        return self.subject.name, self.subject.plural

    @property
    def table(self) -> stored_values.HolderTable:
        """Where they are stored."""
        return stored_values.TABLES[self.subject.code]

    def count(self, work: Work, wanted: Wanted, most: int | None = None) -> int:
        """How many there are, counting no further than `most`."""
        return stored_values.count(work.session, self.table, wanted, most)

    def held(self, work: Work, wanted: Wanted, after: int, limit: int) -> list[HeldState]:
        """The next of them, by number."""
        ids = stored_values.ids(work.session, self.table, wanted, after, limit)
        found = self.read(work.session, ids)
        return [HeldState(number, self.subject.state_of(found[number])) for number in sorted(found)]

    def locked(self, work: Work, ids: Sequence[int]) -> dict[int, State]:
        """The states of some, held until the transaction ends; those that are gone are left out."""
        return {number: self.subject.state_of(thing) for number, thing in self.lock(work.session, ids).items()}

    def values(
        self, work: Work, key: str, after: int, limit: int, types: Iterable[str] | None = None
    ) -> list[tuple[int, Any]]:
        """(number, value) of the next with a value for a field; of products of some types alone, or of all."""
        return stored_values.values_after(work.session, self.table, key, after, limit, types)

    def named(self, work: Work, ids: Sequence[int]) -> dict[int, HolderName]:
        """What some are called; those that are gone are left out."""
        return self.names(work, ids)

    def put(
        self, work: Work, changed: Sequence[tuple[HeldState, State]], group: str, *, follows: bool = False
    ) -> list[DefinitionWrite]:
        """Write what became of some at once."""
        edits = [ValueEdit(holder.id, states=(holder.state, after)) for holder, after in changed]
        self.write(work, edits, group, follows)
        return []


@dataclass(frozen=True)
class DefinitionHolders:
    """Definitions that hold values, such as collections: numbered in order of their keys, from 1."""

    noun: Noun
    defs: Definitions

    @property
    def counted(self) -> tuple[str, str]:
        """What they are called, one and several."""
        return self.noun.name, self.noun.plural.replace("_", " ")

    def _states(self) -> list[tuple[str, State]]:
        """All of them with the values they hold, as states of values."""
        things = sorted(self.defs.things[self.noun.code].items())
        return [(key, state_of_cells(thing.filled)) for key, thing in things]

    def count(self, work: Work, wanted: Holding | Differing, most: int | None = None) -> int:  # noqa: ARG002
        """How many there are."""
        return sum(wanted.of(state) for _, state in self._states())

    def held(self, work: Work, wanted: Holding | Differing, after: int, limit: int) -> list[HeldState]:  # noqa: ARG002
        """The next of them, by number."""
        numbered = enumerate(self._states(), start=1)
        found = [HeldState(number, state) for number, (_, state) in numbered if number > after and wanted.of(state)]
        return found[:limit]

    def values(
        self,
        work: Work,
        key: str,
        after: int,
        limit: int,
        types: Iterable[str] | None = None,  # noqa: ARG002
    ) -> list[tuple[int, Any]]:
        """(number, value) of the next with a value for a field."""
        found = self.held(work, Holding(key), after, len(self.defs.things[self.noun.code]))
        return [(number, state["values"][key]) for number, state in found if key in state["values"]][:limit]

    def named(self, work: Work, ids: Sequence[int]) -> dict[int, HolderName]:  # noqa: ARG002
        """What some are called."""
        things, keys = self.defs.things[self.noun.code], sorted(self.defs.things[self.noun.code])
        return {
            number: HolderName(
                keys[number - 1], self.noun.calling.name_of(keys[number - 1], things[keys[number - 1]], self.defs)
            )
            for number in ids
            if 0 < number <= len(keys)
        }

    def put(
        self,
        work: Work,  # noqa: ARG002
        changed: Sequence[tuple[HeldState, State]],
        group: str,  # noqa: ARG002
        *,
        follows: bool = False,  # noqa: ARG002
    ) -> list[DefinitionWrite]:
        """The definitions as they are to be: whoever writes definitions writes them."""
        things, keys = self.defs.things[self.noun.code], sorted(self.defs.things[self.noun.code])
        out = []
        for holder, after in changed:
            state = state_of(things[keys[holder.id - 1]])
            out.append((self.noun.code, keys[holder.id - 1], state, {**state, "filled": cells_of_state(after)}))
        return out


def _products(session: Session, ids: Sequence[int]) -> dict[int, Any]:
    return {number: record.product for number, record in products.get(session, ids).items()}


def _locked_products(session: Session, ids: Sequence[int]) -> dict[int, Any]:
    return {number: record.product for number, record in products.lock(session, ids).items()}


def _locked_variants(session: Session, ids: Sequence[int]) -> dict[int, Any]:
    stored = variant_writer.lock(session, ids)
    return {number: stored[number] for number in ids if number in stored}


def _product_names(work: Work, ids: Sequence[int]) -> dict[int, HolderName]:
    found = products.get(work.session, ids)
    return {number: HolderName(str(number), record.product.title) for number, record in found.items()}


def _variant_names(work: Work, ids: Sequence[int]) -> dict[int, HolderName]:
    found = variants.get(work.session, ids)
    offers = variant_writer.offers_of(work, [variant.product for variant in found.values()])
    names = {}
    for number, variant in found.items():
        name = variant_writer.name_of(*offers[variant.product], variant)
        names[number] = HolderName(variant_writer.key_of(variant), name)
    return names


HOLDERS: dict[str, TableHolders] = {
    holders.subject.code: holders
    for holders in (
        TableHolders(
            PRODUCT,
            _products,
            _locked_products,
            _product_names,
            lambda work, edits, group, follows: value_writer.put_many(work, edits, group, follows=follows),
        ),
        TableHolders(
            VARIANT,
            variants.get,
            _locked_variants,
            _variant_names,
            lambda work, edits, group, _follows: variant_writer.put_many(work, edits, group),
            lambda key: int(key.split("/")[1]),
            comes_back=False,
        ),
    )
}
"""The subjects that have a table, by code."""


def holders_of(defs: Definitions, subject: str) -> Holders:
    """What holds the values of a subject's fields."""
    return HOLDERS[subject] if subject in HOLDERS else DefinitionHolders(NOUNS[subject], defs)
