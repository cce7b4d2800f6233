"""The record of changes and the list of what is not released."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import delete, func, insert, select
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.orm import Session, aliased

from young_fabric.store.tables import ChangeRow, PersonRow, UnreleasedRow

C = ChangeRow


def add(session: Session, **row: Any) -> int:
    """Record one change; gives its id."""
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
    """The person's last change that is no undoing and was not undone."""
    later = aliased(C)
    return session.scalar(
        select(C)
        .where(C.person_id == person_id, C.undoes.is_(None), ~select(later.id).where(later.undoes == C.id).exists())
        .order_by(C.id.desc())
        .limit(1)
    )


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


def mark(session: Session, noun: str, key: str, differs: bool) -> None:
    """Say whether a thing's draft differs from what is live."""
    if differs:
        session.execute(upsert(UnreleasedRow).values(noun=noun, key=key).on_conflict_do_nothing())
    else:
        session.execute(delete(UnreleasedRow).where(UnreleasedRow.noun == noun, UnreleasedRow.key == key))


def unreleased(session: Session, noun: str | None = None, limit: int | None = None) -> list[tuple[str, str]]:
    """(noun, key) of things that differ from what is live."""
    query = select(UnreleasedRow.noun, UnreleasedRow.key).order_by(UnreleasedRow.noun, UnreleasedRow.key)
    if noun is not None:
        query = query.where(UnreleasedRow.noun == noun)
    return [(row[0], row[1]) for row in session.execute(query.limit(limit) if limit else query)]


def unreleased_count(session: Session) -> int:
    """How many things differ from what is live."""
    return int(session.scalar(select(func.count()).select_from(UnreleasedRow)) or 0)


def clear_unreleased(session: Session) -> None:
    """Nothing differs any more."""
    session.execute(delete(UnreleasedRow))


def last_at(session: Session, noun: str, key: str) -> datetime | None:
    """When a thing was last changed."""
    return session.scalar(select(C.at).where(C.noun == noun, C.key == key).order_by(C.id.desc()).limit(1))
