"""People who may sign in."""

from __future__ import annotations

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from young_fabric.store.tables import PersonRow


def by_email(session: Session, email: str) -> PersonRow | None:
    """The person with an address, case ignored."""
    return session.scalar(select(PersonRow).where(func.lower(PersonRow.email) == email.strip().lower()))


def get(session: Session, person_id: int) -> PersonRow | None:
    """A person by id."""
    return session.get(PersonRow, person_id)
