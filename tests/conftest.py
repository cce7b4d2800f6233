"""One template database per run, one database per worker made from it, each test in a transaction rolled back."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from pathlib import Path
from uuid import uuid4

import hypothesis
import pytest
from sqlalchemy import Connection, Engine, text
from sqlalchemy.orm import Session, sessionmaker

from young_fabric.core.base.collector import seldom_collected
from young_fabric.demo.load import PEOPLE, load
from young_fabric.service.acting.actors import Actor, Right, Work
from young_fabric.service.acting.people import actor_of
from young_fabric.service.planning import plans
from young_fabric.store import glances
from young_fabric.store.base import make_engine, make_sessions
from young_fabric.store.migrate import migrate
from young_fabric.store.repos import people

hypothesis.settings.register_profile("fabric", deadline=None, derandomize=True, max_examples=60)
hypothesis.settings.load_profile("fabric")

glances.LONGEST_WAIT = 60.0
"""However slow the machine is, a glance comes."""
NOW = datetime(2026, 3, 1, 12, 0, tzinfo=UTC)


def admin_url() -> str:
    url = os.environ.get("DATABASE_URL")
    if not url:
        pytest.exit("Tests need a PostgreSQL server: start them with bin/test", returncode=2)
    return url.replace("postgresql://", "postgresql+psycopg://")


def administer(statement: str) -> None:
    engine = make_engine(admin_url(), 1).execution_options(isolation_level="AUTOCOMMIT")
    with engine.connect() as connection:
        connection.execute(text(statement))
    engine.dispose()


def database_url(name: str) -> str:
    return admin_url().rsplit("/", 1)[0] + f"/{name}"


def needs_database(config: pytest.Config) -> bool:
    wanted = [str(argument) for argument in config.args]
    return not wanted or any("core" not in argument for argument in wanted)


def pytest_configure(config: pytest.Config) -> None:
    """The controller makes the template; workers find its name in the environment."""
    if os.environ.get("PYTEST_XDIST_WORKER") or config.option.collectonly or not needs_database(config):
        return
    name = f"yf_template_{os.getpid()}"
    os.environ["YF_TEMPLATE"] = name
    administer(f"CREATE DATABASE {name}")
    engine = make_engine(database_url(name), 2)
    migrate(engine)
    load(make_sessions(engine), Path("/nonexistent"), with_pictures=False)
    engine.dispose()


def pytest_unconfigure(config: pytest.Config) -> None:
    if not os.environ.get("PYTEST_XDIST_WORKER") and os.environ.get("YF_TEMPLATE"):
        administer(f"DROP DATABASE IF EXISTS {os.environ['YF_TEMPLATE']} WITH (FORCE)")


def pytest_collection_finish() -> None:
    """As in the server and its worker."""
    seldom_collected()


def copy_of_template(label: str) -> str:
    worker = os.environ.get("PYTEST_XDIST_WORKER", "main")
    name = f"yf_{label}_{os.environ['YF_TEMPLATE'].rsplit('_', 1)[1]}_{worker}"
    administer(f"CREATE DATABASE {name} TEMPLATE {os.environ['YF_TEMPLATE']}")
    return name


@pytest.fixture(scope="session")
def engine() -> Iterator[Engine]:
    """A database of the worker's own, holding the demo without pictures."""
    name = copy_of_template("work")
    engine = make_engine(database_url(name), 4)
    yield engine
    engine.dispose()
    administer(f"DROP DATABASE {name} WITH (FORCE)")


@pytest.fixture(scope="session")
def standing(engine: Engine) -> plans.Kept:
    """What is worked out of the demo's definitions, once for all tests of the worker that begin with it."""
    plans.set_back()
    with make_sessions(engine)() as session:
        plans.draft_of(session)
        plans.live_plans(session)
    return plans.kept()


@pytest.fixture
def own_engine() -> Iterator[Engine]:
    """A database of the test's own, where what is committed stays: for work done in several transactions."""
    name = copy_of_template(f"own{uuid4().hex[:8]}")
    engine = make_engine(database_url(name), 6)
    plans.set_back()
    yield engine
    engine.dispose()
    administer(f"DROP DATABASE {name} WITH (FORCE)")


@pytest.fixture
def connection(engine: Engine, standing: plans.Kept) -> Iterator[Connection]:
    """A transaction that is rolled back after the test."""
    with engine.connect() as connection:
        transaction = connection.begin()
        plans.set_back(standing)
        yield connection
        transaction.rollback()


@pytest.fixture
def sessions(connection: Connection) -> Callable[[], Session]:
    """Sessions inside the test's transaction: their commits are savepoints."""
    return sessionmaker(connection, expire_on_commit=False, join_transaction_mode="create_savepoint")


@pytest.fixture
def session(sessions: Callable[[], Session]) -> Iterator[Session]:
    with sessions() as session:
        yield session


def person(session: Session, place: int) -> Actor:
    found = people.by_email(session, PEOPLE[place][0])
    assert found is not None
    return actor_of(found)


@pytest.fixture
def work(session: Session) -> Work:
    """Work for Rosa, who may do all."""
    return Work(session, person(session, 0), NOW)


@pytest.fixture
def looking(session: Session) -> Work:
    """Work for Lena, who may only look."""
    actor = person(session, 2)
    assert actor.rights == frozenset({Right.LOOK})
    return Work(session, actor, NOW)


@pytest.fixture
def shop(own_engine: Engine) -> Callable[[], Session]:
    """Sessions on a database where commits stay."""
    return make_sessions(own_engine)


@pytest.fixture
def rosa(shop: Callable[[], Session]) -> Actor:
    """The first person, there."""
    with shop() as session:
        return person(session, 0)
