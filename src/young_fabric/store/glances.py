"""Connections for what is one statement by itself: no transaction, no session, and nothing asked but that.

Every page of the shop asks one, and what a session takes for it would be most of it. They are the driver's own, from its own pool.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock
from typing import Any, cast

import orjson
import psycopg
from psycopg.types.json import set_json_loads
from psycopg_pool import ConnectionPool
from sqlalchemy import event
from sqlalchemy.engine import Engine
from sqlalchemy.orm import Session

Glance = psycopg.Connection[tuple[Any, ...]]
NoGlance = (psycopg.OperationalError, psycopg.InterfaceError)
"""Raised where a glance fails: whoever asks asks again through a session, which says what is wrong."""
LONGEST_WAIT = 2.0
"""Seconds until a connection is given up for."""


class Glances:
    """A database's connections for glances, made when first asked for; they are closed with the engine."""

    def __init__(self, engine: Engine, most: int) -> None:
        self._address = engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
        self._most, self._lock = most, Lock()
        self._pool: ConnectionPool[Glance] | None = None
        event.listen(engine, "engine_disposed", lambda _engine: self._close())

    @contextmanager
    def __call__(self) -> Iterator[Glance]:
        """A connection on which each statement is a transaction of its own. Raises NoGlance."""
        with self._open().connection(LONGEST_WAIT) as connection:
            yield connection

    def _open(self) -> ConnectionPool[Glance]:
        with self._lock:
            if self._pool is None:
                self._pool = ConnectionPool(
                    self._address,
                    kwargs={"autocommit": True},
                    min_size=0,
                    max_size=self._most,
                    open=True,
                    configure=_read_json,
                )
            return self._pool

    def _close(self) -> None:
        with self._lock:
            pool, self._pool = self._pool, None
        if pool is not None:
            pool.close()


def _read_json(connection: Glance) -> None:
    set_json_loads(orjson.loads, connection)


def of_session(session: Session) -> Glance:
    """The connection that a session speaks by: what is asked of it is asked within the session's transaction."""
    return cast(Glance, session.connection().connection.driver_connection)
