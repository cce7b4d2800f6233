"""Jobs: asking, beginning, beating, ending."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import func, insert, select, update
from sqlalchemy.orm import Session

from young_fabric.store.repos import news
from young_fabric.store.tables import JobRow, PersonRow

J = JobRow
OPEN = ("waiting", "running")
JOB = "job"
"""What news of a job, and of the release it makes, is of."""


def add(
    session: Session, kind: str, person_id: int, exclusive: str | None, args: Mapping[str, Any], at: datetime
) -> int:
    """A job that waits for the worker; gives its id. Those who listen hear of it. Raises IntegrityError when an open one excludes it."""
    row = {"kind": kind, "state": "waiting", "person_id": person_id, "exclusive": exclusive, "args": dict(args)}
    made = int(session.execute(insert(J).values(**row, asked=at, beat=at).returning(J.id)).scalar_one())
    news.tell(session, person_id, [JOB])
    return made


def get(session: Session, job_id: int) -> tuple[JobRow, str] | None:
    """A job as it stands now, with the name of who asked for it."""
    query = select(J, PersonRow.name).join(PersonRow, PersonRow.id == J.person_id).where(J.id == job_id)
    row = session.execute(query.execution_options(populate_existing=True)).first()
    return (row[0], row[1]) if row else None


def newest(session: Session, limit: int) -> list[tuple[JobRow, str]]:
    """The jobs asked for last, with who asked."""
    query = select(J, PersonRow.name).join(PersonRow, PersonRow.id == J.person_id).order_by(J.id.desc()).limit(limit)
    return [(row[0], row[1]) for row in session.execute(query.execution_options(populate_existing=True))]


def last(session: Session, kind: str) -> tuple[JobRow, str] | None:
    """The job of a kind asked for last."""
    number = session.scalar(select(func.max(J.id)).where(J.kind == kind))
    return get(session, number) if number is not None else None


def open_of(session: Session, kind: str) -> list[JobRow]:
    """The jobs of a kind that wait or run."""
    return list(session.scalars(select(J).where(J.kind == kind, J.state.in_(OPEN)).order_by(J.id)))


def move(session: Session, job_id: int, old: tuple[str, ...], new: str, **more: Any) -> bool:
    """Put a job in another state if it is still in one of some; says whether it was. Those who listen hear of it."""
    query = update(J).where(J.id == job_id, J.state.in_(old)).values(state=new, **more).returning(J.person_id)
    person_id = session.scalar(query.execution_options(synchronize_session=False))
    if person_id is not None and new not in old:
        news.tell(session, person_id, [JOB])
    return person_id is not None


def begin(session: Session, job_id: int, at: datetime) -> bool:
    """Have a job that waits run; says whether it did wait."""
    return move(session, job_id, ("waiting",), "running", beat=at, tries=J.tries + 1)


def hold(session: Session, job_id: int) -> bool:
    """Whether a job runs; if so, nobody takes it for lost until the transaction ends."""
    query = select(J.id).where(J.id == job_id, J.state == "running").with_for_update(read=True, key_share=True)
    return session.scalar(query) is not None


def beat(session: Session, job_id: int, at: datetime) -> None:
    """Say that a job is worked on."""
    move(session, job_id, ("running",), "running", beat=at)


def tell(session: Session, job_id: int, at: datetime, done: int, total: int) -> bool:
    """Tell how far a job is; says whether someone asked it to stop."""
    query = update(J).where(J.id == job_id).values(beat=at, done=done, total=total).returning(J.stop)
    return bool(session.execute(query.execution_options(synchronize_session=False)).scalar_one())


def put_mark(session: Session, job_id: int, mark: int, done: int) -> None:
    """Keep where the batches of a job that are committed ended, and how much was done."""
    query = update(J).where(J.id == job_id).values(mark=mark, done=done)
    session.execute(query.execution_options(synchronize_session=False))


def first_open(session: Session, kind: str) -> int | None:
    """The first job of a kind that waits or runs."""
    return session.scalar(select(func.min(J.id)).where(J.kind == kind, J.state.in_(OPEN)))


def writes_in(session: Session, group: str) -> bool:
    """Whether some job that waits or runs writes in a group of changes."""
    query = select(J.id).where(J.state.in_(OPEN), J.args["group"].astext == group).limit(1)
    return session.scalar(query) is not None


def ask_to_stop(session: Session, job_id: int) -> None:
    """Leave word for the worker."""
    session.execute(update(J).where(J.id == job_id).values(stop=True).execution_options(synchronize_session=False))


def silent(session: Session, since: datetime) -> Sequence[JobRow]:
    """Open jobs not heard of since a time, held so that they are seen to by one at a time."""
    query = select(J).where(J.state.in_(OPEN), J.beat < since).order_by(J.id).with_for_update(skip_locked=True)
    return session.scalars(query.execution_options(populate_existing=True)).all()
