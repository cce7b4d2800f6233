"""The unit of work: one session and one transaction per use case; this is the only place that commits."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from young_fabric.service.actors import Actor, Work


@contextmanager
def unit_of_work(
    sessions: Callable[[], Session],
    actor: Actor,
    now: Callable[[], datetime] = lambda: datetime.now(UTC),
    *,
    as_of_begin: bool = False,
) -> Iterator[Work]:
    """Work for an actor: committed when it ends well, rolled back when anything is raised.

    `as_of_begin` sees the database as it stands at the first question, whatever others write meanwhile; a session
    inside a transaction of somebody else's sees what that one sees.
    """
    session = sessions()
    try:
        if as_of_begin and isinstance(session.get_bind(), Engine):
            session.connection(execution_options={"isolation_level": "REPEATABLE READ"})
        yield Work(session, actor, now())
        session.commit()
    except BaseException:
        session.rollback()
        raise
    finally:
        session.close()
