"""A throwaway subject with a table of its own: its fields are filled, converted, merged, counted, held and taken back like any."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import pytest
from sqlalchemy import Connection, insert, select, update
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, Session, mapped_column

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import State
from young_fabric.core.nouns.fields.fields import NO_NOUNS
from young_fabric.core.subjects.registry import SUBJECTS, Subject
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, field_merging, fields, value_lists, value_merging
from young_fabric.service.defining.field_merging import FieldMerge
from young_fabric.service.defining.value_merging import ValueMerge
from young_fabric.service.planning import plans
from young_fabric.service.values.holding import HOLDERS, HolderName, TableHolders
from young_fabric.service.values.value_states import Standing, ValueEdit, merge_edits
from young_fabric.store.repos import changes, stored_values
from young_fabric.store.repos.stored_values import HolderTable


class OwnTables(DeclarativeBase):
    """Tables of this test alone."""


class StallRow(OwnTables):
    """A market stall: where the shop stands on market days."""

    __tablename__ = "stall"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    fields: Mapped[dict[str, Any]] = mapped_column(JSONB)
    unread: Mapped[dict[str, Any]] = mapped_column(JSONB)
    version: Mapped[int]


@dataclass(frozen=True)
class Stall:
    """A market stall, and what it holds."""

    id: int
    name: str
    values: Mapping[str, Any] = field(default_factory=dict)
    unread: Mapping[str, Any] = field(default_factory=dict)
    version: int = 1


def state_of(stall: Stall) -> State:
    return {"values": dict(stall.values), "unread": dict(stall.unread)}


def described(before: State | None, after: State | None, _defs: Definitions) -> list[str]:
    return [f"{(before or {}).get('values')} → {(after or {}).get('values')}"]


STALL = Subject(
    "stall", "stalls", "stall", "Products", {}, state_of, lambda number, state: Stall(number, "", **state), described
)


def read(session: Session, ids: Sequence[int], *, lock: bool = False) -> dict[int, Stall]:
    query = select(StallRow).where(StallRow.id.in_(ids)).execution_options(populate_existing=True)
    rows = session.scalars(query.with_for_update() if lock else query)
    return {row.id: Stall(row.id, row.name, row.fields, row.unread, row.version) for row in rows}


def write(work: Work, edits: Sequence[ValueEdit], group: str, _follows: bool) -> None:
    found = read(work.session, [edit.id for edit in edits], lock=True)
    stands = {key: Standing(str(key), stall.name, state_of(stall), stall.version) for key, stall in found.items()}
    known = plans.draft(work.session).fields_of(STALL.code)
    merged = merge_edits(work, STALL, edits, stands, known)
    for row in merged:
        values = {"fields": row.state["values"], "unread": row.state["unread"], "version": row.version}
        work.session.execute(update(StallRow).where(StallRow.id == row.id).values(**values))
    recorded = [row.change for row in merged]
    changes.add_many(work.session, recorded, at=work.now, person_id=work.actor.id, group_id=group)


def named(work: Work, ids: Sequence[int]) -> dict[int, HolderName]:
    return {key: HolderName(str(key), stall.name) for key, stall in read(work.session, ids).items()}


HELD = TableHolders(STALL, read, lambda session, ids: read(session, ids, lock=True), named, write)


@pytest.fixture(autouse=True)
def _registered(monkeypatch: pytest.MonkeyPatch, connection: Connection) -> Iterator[None]:
    OwnTables.metadata.create_all(connection)
    monkeypatch.setitem(SUBJECTS, STALL.code, STALL)
    monkeypatch.setitem(stored_values.TABLES, STALL.code, HolderTable(StallRow))
    monkeypatch.setitem(HOLDERS, STALL.code, HELD)
    NO_NOUNS.append(STALL.code)
    plans.forget()
    yield
    NO_NOUNS.remove(STALL.code)
    plans.forget()


@pytest.fixture
def stalls(work: Work) -> list[int]:
    names = ("Quay", "Church green", "Ferry")
    rows = [{"id": at, "name": name, "fields": {}, "unread": {}, "version": 1} for at, name in enumerate(names, 1)]
    work.session.execute(insert(StallRow), rows)
    return [row["id"] for row in rows]  # type: ignore[misc]


def make_field(work: Work, name: str, kind: str, **options: Any) -> str:
    members = {"kind": kind, "subject": STALL.code, "options": options}
    return str(definitions.create(work, "field", name, members).thing.key)


def change_field(work: Work, key: str, **members: Any) -> None:
    version = plans.draft_of(work.session).loaded.versions["field", key]
    definitions.change(work, "field", key, version, members)


def fill(work: Work, key: str, stall: int, typed: Any, version: int | None = None) -> None:
    write(work, [ValueEdit(stall, version, {key: typed})], f"fill {key} {stall} {typed}", False)


def held(work: Work, key: str) -> dict[int, Any]:
    found = read(work.session, [1, 2, 3])
    return {at: stall.values.get(key, stall.unread.get(key)) for at, stall in sorted(found.items())}


def test_its_values_follow_their_field_and_come_back(work: Work, stalls: list[int]) -> None:
    key = make_field(work, "Metres", "text")
    fill(work, key, 1, "3")
    fill(work, key, 2, "wide")
    thing = definitions.changed_thing(work, "field", key, {"kind": "whole"})
    told = definitions.consequences(work, "field", key, thing).effects
    assert told is not None
    assert [(row.noun, row.key, row.name) for row in told.examples if row.how == "lost"] == [
        ("stall", "2", "Church green")
    ]
    change_field(work, key, kind="whole", limits={"max": "5"})
    assert read(work.session, [2])[2].unread == {key: "wide"}
    history.undo_last(work)
    assert held(work, key) == {1: "3", 2: "wide", 3: None}
    history.redo_last(work)
    assert read(work.session, [1])[1].values == {key: "3"}


def test_what_others_did_meanwhile_is_kept_and_a_clash_is_told(work: Work, stalls: list[int]) -> None:
    first, second = make_field(work, "Metres", "whole"), make_field(work, "Days", "whole")
    fill(work, first, 1, "3", 1)
    fill(work, second, 1, "2", 1)
    assert read(work.session, [1])[1].values == {first: "3", second: "2"}
    for version, code in ((9, "version"), (0, "version")):
        with pytest.raises(Refusal) as caught:
            fill(work, first, 1, "4", version)
        assert caught.value.code == code
    with pytest.raises(Refusal) as caught:
        fill(work, "ss_wood", 1, "ash")
    assert (caught.value.code, caught.value.message) == ("unknown_field", "Stalls have no field ss_wood")
    with pytest.raises(Refusal) as caught:
        fill(work, first, 99, "4")
    assert caught.value.code == "not_found"


def test_values_and_fields_are_merged_on_it_and_its_use_is_counted(work: Work, stalls: list[int]) -> None:
    roof, goes = make_field(work, "Roof", "one_of", list="wood"), make_field(work, "Poles", "one_of", list="wood")
    fill(work, roof, 1, "elm")
    fill(work, goes, 2, "elm")
    assert {use.code: use.held for use in value_lists.usage(work, "wood")}["elm"]["stall"] == 2
    use = fields.overview(work, roof)[0]
    assert (use.products, use.filled, use.wrong) == (3, 1, 0)
    merge = ValueMerge("wood", "elm", "ash")
    assert value_merging.reach(work, merge).held["stall"] == 2
    value_merging.merge_values(work, merge)
    assert (held(work, roof)[1], held(work, goes)[2]) == ("ash", "ash")
    assert field_merging.reach(work, FieldMerge(goes, roof)).moves == 1
    field_merging.merge_fields(work, FieldMerge(goes, roof))
    assert held(work, roof) == {1: "ash", 2: "ash", 3: None}
    history.undo_last(work)
    assert held(work, goes)[2] == "ash"


def test_it_holds_its_fields_and_what_it_names(work: Work, stalls: list[int]) -> None:
    key = make_field(work, "Kept by", "record", record_type="maker")
    maker = definitions.create(work, "record", "Sedge and Rush", {"type": "maker"}).thing.key
    fill(work, key, 3, maker)

    def version(noun: str, name: str) -> int:
        return plans.draft_of(work.session).loaded.versions[noun, name]

    for noun, name, words in (("field", key, "1 stall with a value"), ("record", maker, "used by 1 stall")):
        with pytest.raises(Refusal) as caught:
            definitions.remove(work, noun, name, version(noun, name))
        assert caught.value.code == "in_use"
        assert words in caught.value.message
    with pytest.raises(Refusal) as caught:
        change_field(work, key, subject="product")
    assert caught.value.code == "values_exist"
