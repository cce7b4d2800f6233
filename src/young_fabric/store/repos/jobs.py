"""Jobs: asking, beginning, beating, ending."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from sqlalchemy import func, insert, select, update
from sqlalchemy.orm import Session

from young_fabric.store.tables import JobRow, PersonRow

J = JobRow
OPEN = ("waiting", "running")


def add(session: Session, kind: str, person_id: int, note: str, at: datetime) -> int:
    """A job that waits for the worker; gives its id. Raises IntegrityError when one of its kind is open."""
    row = {"kind": kind, "state": "waiting", "person_id": person_id, "note": note, "asked": at, "beat": at}
    return int(session.execute(insert(J).values(row).returning(J.id)).scalar_one())


def get(session: Session, job_id: int) -> tuple[JobRow, str] | None:
    """A job as it stands now, with the name of who asked for it."""
    query = select(J, PersonRow.name).join(PersonRow, PersonRow.id == J.person_id).where(J.id == job_id)
    row = session.execute(query.execution_options(populate_existing=True)).first()
    return (row[0], row[1]) if row else None


def last(session: Session, kind: str) -> tuple[JobRow, str] | None:
    """The job of a kind asked for last."""
    number = session.scalar(select(func.max(J.id)).where(J.kind == kind))
    return get(session, number) if number is not None else None


def move(session: Session, job_id: int, old: tuple[str, ...], new: str, **more: Any) -> bool:
    """Put a job in another state if it is still in one of some; says whether it was."""
    query = update(J).where(J.id == job_id, J.state.in_(old)).values(state=new, **more)
    return bool(session.execute(query.execution_options(synchronize_session=False)).rowcount)  # type: ignore[attr-defined]


def beat(session: Session, job_id: int, at: datetime, done: int, total: int) -> bool:
    """Tell how far a job is; says whether someone asked it to stop."""
    query = update(J).where(J.id == job_id).values(beat=at, done=done, total=total).returning(J.stop)
    return bool(session.execute(query.execution_options(synchronize_session=False)).scalar_one())


def ask_to_stop(session: Session, job_id: int) -> None:
    """Leave word for the worker."""
    session.execute(update(J).where(J.id == job_id).values(stop=True).execution_options(synchronize_session=False))


def bury(session: Session, kind: str, silent_since: datetime, result: Mapping[str, Any]) -> None:
    """Fail the open job of a kind whose worker was not heard of since a time."""
    query = update(J).where(J.kind == kind, J.state == "running", J.beat < silent_since)
    session.execute(query.values(state="failed", result=dict(result)).execution_options(synchronize_session=False))
