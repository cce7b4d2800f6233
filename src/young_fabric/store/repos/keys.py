"""Keys of other systems: made, found by their hash, ended."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import func, insert, select, update
from sqlalchemy.orm import Session

from young_fabric.store.tables import ApiKeyRow, PersonRow

K = ApiKeyRow


def add(session: Session, **row: Any) -> int:
    """Keep a key's hash; gives its id."""
    return int(session.execute(insert(K).values(**row).returning(K.id)).scalar_one())


def all_of(session: Session) -> list[tuple[ApiKeyRow, str]]:
    """Every key with who made it, the newest first."""
    query = select(K, PersonRow.name).join(PersonRow, PersonRow.id == K.person_id).order_by(K.id.desc())
    return [(row[0], row[1]) for row in session.execute(query)]


def count_open(session: Session) -> int:
    """How many keys are not ended."""
    return int(session.scalar(select(func.count()).where(K.ended.is_(None))) or 0)


def find(session: Session, digest: str) -> ApiKeyRow | None:
    """The key with a hash, unless it was ended."""
    return session.scalar(select(K).where(K.hash == digest, K.ended.is_(None)))


def use(session: Session, number: int, at: datetime) -> None:
    """Note when a key was used last."""
    session.execute(update(K).where(K.id == number).values(used=at).execution_options(synchronize_session=False))


def end(session: Session, number: int, at: datetime) -> bool:
    """End a key; says whether there was one that was not ended."""
    query = update(K).where(K.id == number, K.ended.is_(None)).values(ended=at)
    return bool(session.execute(query.execution_options(synchronize_session=False)).rowcount)  # type: ignore[attr-defined]
