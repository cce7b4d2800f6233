"""Migrations: the database is what the tables say, down and up again too."""

from __future__ import annotations

from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import Engine, inspect, text

from young_fabric.store.base import Base, make_sessions
from young_fabric.store.migrate import alembic_config, migrate
from young_fabric.store.repos import changes


def ours(name: str | None, kind: str) -> bool:
    return not (kind == "table" and (name or "").startswith(("procrastinate", "alembic")))


def test_the_database_is_what_the_tables_say(own_engine: Engine) -> None:
    with own_engine.connect() as connection:
        options = {"include_name": lambda name, kind, _parents: ours(name, kind), "compare_server_default": True}
        context = MigrationContext.configure(connection, opts=options)
        found = compare_metadata(context, Base.metadata)
    assert [one for one in found if "ix_product_search" not in str(one)] == []


def test_down_and_up_again_keeps_what_waits_for_release(own_engine: Engine) -> None:
    config = alembic_config()
    with own_engine.begin() as connection:
        config.attributes["connection"] = connection
        command.downgrade(config, "0001")
        assert "job" not in inspect(connection).get_table_names()
        assert connection.execute(text("SELECT release FROM shop")).scalar_one() == 1
        left = connection.execute(
            text("SELECT count(*) FROM pg_class WHERE relname LIKE 'procrastinate%'")
        ).scalar_one()
        assert left == 0
    migrate(own_engine)
    with make_sessions(own_engine)() as session:
        waiting = changes.unreleased(session)
    assert {noun for noun, _ in waiting} == {"field", "setting", "product"}


def test_migrating_twice_does_nothing(own_engine: Engine) -> None:
    migrate(own_engine)
    migrate(own_engine)
    with own_engine.connect() as connection:
        assert connection.execute(text("SELECT version_num FROM alembic_version")).scalar_one() == "0002"
