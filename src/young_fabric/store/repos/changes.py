"""The record of changes and the list of what is not released."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import Integer, Select, and_, case, cast, delete, func, insert, select
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.orm import Session, aliased

from young_fabric.store.tables import ChangeRow, LiveThingRow, PersonRow, ProductRow, UnreleasedRow

C = ChangeRow
L = LiveThingRow
P = ProductRow
U = UnreleasedRow
UNKNOWN = "unknown"
"""The hash of drafts noted before hashes were kept: they count as changed until the next release has put them live."""


def add(session: Session, **row: Any) -> int:
    """Record one change; gives its id."""
    if row.get("undoes") is not None:
        row["turn"] = select(C.turn + 1).where(C.id == row["undoes"]).scalar_subquery()
    return int(session.execute(insert(C).values(**row).returning(C.id)).scalar_one())


def get(session: Session, change_id: int) -> ChangeRow | None:
    """One change."""
    return session.get(C, change_id)


def group(session: Session, group_id: str) -> Sequence[ChangeRow]:
    """The changes of a group, last first."""
    return session.scalars(select(C).where(C.group_id == group_id).order_by(C.id.desc())).all()


def undone(session: Session, ids: Sequence[int]) -> set[int]:
    """Those of the changes that were undone, the undoing not undone itself."""
    later = aliased(C)
    return set(
        session.scalars(
            select(C.undoes).where(C.undoes.in_(ids), ~select(later.id).where(later.undoes == C.id).exists())
        )
    )


def last_undoable(session: Session, person_id: int) -> ChangeRow | None:
    """The person's last change, or redoing of one, that was not undone."""
    return session.scalar(_standing(person_id, 0))


def last_redoable(session: Session, person_id: int) -> ChangeRow | None:
    """The person's last undoing that was not taken back, unless something new was changed since."""
    newest = select(func.coalesce(func.max(C.id), 0)).where(C.person_id == person_id, C.turn == 0).scalar_subquery()
    return session.scalar(_standing(person_id, 1).where(C.id > newest))


def _standing(person_id: int, parity: int) -> Select[ChangeRow]:
    """The person's last change of even or odd turn that nothing takes back."""
    later = aliased(C)
    taken_back = select(later.id).where(later.undoes == C.id).exists()
    return select(C).where(C.person_id == person_id, C.turn % 2 == parity, ~taken_back).order_by(C.id.desc()).limit(1)


def history(
    session: Session, noun: str | None, key: str | None, before: int | None, limit: int
) -> list[tuple[ChangeRow, str]]:
    """Changes of a thing (or of all) with the person's name, last first."""
    query = select(C, PersonRow.name).join(PersonRow, PersonRow.id == C.person_id).order_by(C.id.desc()).limit(limit)
    if noun is not None:
        query = query.where(C.noun == noun)
    if key is not None:
        query = query.where(C.key == key)
    if before is not None:
        query = query.where(C.id < before)
    return [(row[0], row[1]) for row in session.execute(query)]


def mark(session: Session, noun: str, key: str, digest: str | None) -> None:
    """Note the hash of a thing's draft, None when it was removed."""
    row = upsert(U).values(noun=noun, key=key, hash=digest)
    session.execute(row.on_conflict_do_update(index_elements=["noun", "key"], set_={"hash": digest}))


def mark_all(session: Session, noun: str, drafts: Mapping[str, str | None]) -> None:
    """The same for many things of a noun, those noted already left as they are: a writer knows better."""
    if drafts:
        rows = [{"noun": noun, "key": key, "hash": digest} for key, digest in drafts.items()]
        session.execute(upsert(U).values(rows).on_conflict_do_nothing())


def _with_live(query: Any) -> Any:
    live = and_(L.noun == U.noun, L.key == U.key, L.until.is_(None))
    return query.select_from(U).outerjoin(L, live).where(U.hash.is_distinct_from(L.hash))


def unreleased(session: Session, noun: str | None = None, limit: int | None = None) -> list[tuple[str, str]]:
    """(noun, key) of things whose draft differs from what is live, definitions before products."""
    query = _with_live(select(U.noun, U.key)).order_by(U.noun == "product", U.noun, U.key)
    if noun is not None:
        query = query.where(U.noun == noun)
    return [(row[0], row[1]) for row in session.execute(query.limit(limit) if limit else query)]


def unreleased_count(session: Session) -> int:
    """How many things differ from what is live."""
    return int(session.scalar(_with_live(select(func.count()))) or 0)


def unreleased_by_type(session: Session) -> dict[str, int]:
    """Type → products there are whose draft differs from what is live."""
    query = _with_live(select(P.type_key, func.count())).join(
        P, P.id == case((U.noun == "product", cast(U.key, Integer)))
    )
    return {row[0]: row[1] for row in session.execute(query.where(U.noun == "product").group_by(P.type_key))}


def forget_released(session: Session) -> None:
    """Drop the notes of things that do not differ from what is live."""
    same = and_(L.noun == U.noun, L.key == U.key, L.until.is_(None), L.hash == U.hash)
    gone = and_(U.hash.is_(None), ~select(L.id).where(L.noun == U.noun, L.key == U.key, L.until.is_(None)).exists())
    for released in (select(L.id).where(same).exists(), gone, U.hash == UNKNOWN):
        session.execute(delete(U).where(released).execution_options(synchronize_session=False))


def last_at(session: Session, noun: str, key: str) -> datetime | None:
    """When a thing was last changed."""
    return session.scalar(select(C.at).where(C.noun == noun, C.key == key).order_by(C.id.desc()).limit(1))
