"""The engine, sessions, and the base of all mapped tables."""

from __future__ import annotations

from typing import Any

import orjson
from sqlalchemy import MetaData, Text, TypeDecorator, create_engine
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.engine import Engine
from sqlalchemy.exc import UnboundExecutionError
from sqlalchemy.orm import DeclarativeBase, Session, sessionmaker

NAMES = {
    "ix": "ix_%(table_name)s_%(column_0_N_name)s",
    "uq": "uq_%(table_name)s_%(column_0_N_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_N_name)s_%(referred_table_name)s",
    "pk": "pk_%(table_name)s",
}


class Base(DeclarativeBase):
    """Every table's base; constraints get explicit names."""

    metadata = MetaData(naming_convention=NAMES)


class Spelled(TypeDecorator[Any]):
    """JSON kept as the text it was written as: nothing in the database looks into it."""

    impl = Text
    cache_ok = True

    def process_bind_param(self, value: Any, dialect: Any) -> str | None:  # noqa: ARG002
        return None if value is None else _dumps(value)

    def process_result_value(self, value: Any, dialect: Any) -> Any:  # noqa: ARG002
        return None if value is None else orjson.loads(value)


class Words(ARRAY[str]):
    """A list of text, read as the driver gives it."""

    cache_ok = True

    def __init__(self) -> None:
        super().__init__(Text)

    def result_processor(self, dialect: Any, coltype: Any) -> Any:
        """Nothing is left to do to what is read: the driver gives lists of str."""


def _dumps(value: Any) -> str:
    return orjson.dumps(value).decode()


def make_engine(url: str, pool: int = 8) -> Engine:
    """An engine whose JSON goes through orjson."""
    return create_engine(
        url,
        pool_size=pool,
        max_overflow=pool,
        pool_pre_ping=True,
        json_serializer=_dumps,
        json_deserializer=orjson.loads,
    )


STANDS_STILL = "stands still"
"""In the `info` of sessions that see one state of the database throughout, and write nothing."""
_DATABASE = "database"
AsksMore = UnboundExecutionError
"""Raised by sessions of `make_answered` that are asked anything."""


def make_sessions(engine: Engine) -> sessionmaker[Session]:
    """Sessions that keep what they read until asked again."""
    return sessionmaker(engine, expire_on_commit=False, info={_DATABASE: str(engine.url)})


def make_snapshots(engine: Engine) -> sessionmaker[Session]:
    """Sessions that only look, each at one state of the database."""
    still = engine.execution_options(isolation_level="REPEATABLE READ")
    return sessionmaker(still, expire_on_commit=False, info={STANDS_STILL: True, _DATABASE: str(engine.url)})


def make_answered(engine: Engine) -> sessionmaker[Session]:
    """Sessions for whoever has all from one statement, and from memory: they have no connection, and raise `AsksMore` when asked more."""
    return sessionmaker(None, info={STANDS_STILL: True, _DATABASE: str(engine.url)})


def database_of(session: Session) -> str:
    """Which database a session speaks to: its address without the password."""
    found: str | None = session.info.get(_DATABASE)
    if found is None:
        found = session.info[_DATABASE] = str(session.connection().engine.url)
    return found
