"""Alembic's entry: migrations run on a connection handed in by the command line or the tests."""

from alembic import context

from young_fabric.store import tables  # noqa: F401
from young_fabric.store.base import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata, compare_server_default=True)
with context.begin_transaction():
    context.run_migrations()
