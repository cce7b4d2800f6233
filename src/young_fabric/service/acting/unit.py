"""The unit of work: one session and one transaction per use case; this is the only place that commits."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from young_fabric.service.acting.actors import Actor, Work


@contextmanager
def unit_of_work(
    sessions: Callable[[], Session],
    actor: Actor,
    now: Callable[[], datetime] = lambda: datetime.now(UTC),
    *,
    as_of_begin: bool = False,
    hand_over: Callable[[int], None] | None = None,
) -> Iterator[Work]:
    """Work for an actor: committed when it ends well, rolled back when anything is raised.

    `as_of_begin` sees the database as it stands at the first question, whatever others write meanwhile; a session
    inside a transaction of somebody else's sees what that one sees. `hand_over` gets the ids of jobs asked for, once
    they are committed; a worker hands over again what was not.
    """
    session = sessions()
    work = Work(session, actor, now())
    try:
        if as_of_begin and isinstance(session.get_bind(), Engine):
            session.connection(execution_options={"isolation_level": "REPEATABLE READ"})
        yield work
        session.commit()
    except BaseException:
        session.rollback()
        raise
    finally:
        session.close()
    if hand_over is not None:
        for job_id in work.asked:
            hand_over(job_id)
