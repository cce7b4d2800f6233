"""What every benchmark stands on: a database of its own, people's work, and a watch."""

from __future__ import annotations

import contextlib
import gc
import os
import time
from collections.abc import Callable, Iterator
from datetime import UTC, datetime

from sqlalchemy import Engine, event, select, text
from sqlalchemy.orm import Session

from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.people import actor_of
from young_fabric.service.planning import plans
from young_fabric.store.base import make_engine, make_sessions
from young_fabric.store.migrate import migrate
from young_fabric.store.tables import PersonRow

COUNT = 10_000
RUNS = 5


@contextlib.contextmanager
def database() -> Iterator[tuple[Engine, Callable[[], Session]]]:
    """A migrated database of its own, dropped at the end."""
    url = os.environ["DATABASE_URL"].replace("postgresql://", "postgresql+psycopg://")
    admin = make_engine(url, 1).execution_options(isolation_level="AUTOCOMMIT")
    name = f"bench_{os.getpid()}"
    with admin.connect() as connection:
        connection.execute(text(f"CREATE DATABASE {name}"))
    engine = make_engine(url.rsplit("/", 1)[0] + f"/{name}", 4)
    try:
        migrate(engine)
        # What was kept of the last database is not of this one.
        plans.forget()
        yield engine, make_sessions(engine)
    finally:
        engine.dispose()
        with admin.connect() as connection:
            connection.execute(text(f"DROP DATABASE {name} WITH (FORCE)"))
        admin.dispose()


def work_on(session: Session) -> Work:
    """Work for the first person."""
    person = session.scalars(select(PersonRow).order_by(PersonRow.id)).first()
    assert person is not None
    return Work(session, actor_of(person), datetime.now(UTC))


def timed(call: Callable[..., object], *args: object) -> float:
    """Seconds a call takes, the collector left out."""
    gc.collect()
    gc.disable()
    begun = time.perf_counter()
    call(*args)
    took = time.perf_counter() - begun
    gc.enable()
    return took


@contextlib.contextmanager
def statements(engine: Engine) -> Iterator[list[str]]:
    """The statements sent while it stands."""
    sent: list[str] = []

    def note(_connection: object, _cursor: object, statement: str, *_rest: object) -> None:
        sent.append(statement)

    event.listen(engine, "before_cursor_execute", note)
    try:
        yield sent
    finally:
        event.remove(engine, "before_cursor_execute", note)
