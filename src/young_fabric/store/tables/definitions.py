"""Definitions as versioned documents, and what each refers to."""

from __future__ import annotations

from typing import Any

from sqlalchemy import BigInteger, ForeignKeyConstraint, Index, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class DefinitionRow(Base):
    """A definition of any noun. `state` is its JSON in `format`, `hash` that of the state.

    `address` is unique among all definitions that have one; `of_subject` (code:id) is set for what is said of one subject
    alone; `stamp` is that of the shop when it was written.
    """

    __tablename__ = "definition"
    __table_args__ = (
        Index("uq_definition_address", "address", unique=True),
        Index("ix_definition_of_subject", "of_subject", postgresql_where=text("of_subject IS NOT NULL")),
    )
    noun: Mapped[str] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    version: Mapped[int]
    format: Mapped[int]
    state: Mapped[dict[str, Any]] = mapped_column(JSONB)
    hash: Mapped[str]
    address: Mapped[str | None]
    of_subject: Mapped[str | None]
    stamp: Mapped[int] = mapped_column(BigInteger)


class ReferenceRow(Base):
    """That a definition refers to another, and in which member of it. PostgreSQL itself refuses a dangling one."""

    __tablename__ = "reference"
    __table_args__ = (
        ForeignKeyConstraint(
            ["noun", "key"], ["definition.noun", "definition.key"], name="fk_reference_definition", ondelete="CASCADE"
        ),
        ForeignKeyConstraint(
            ["to_noun", "to_key"], ["definition.noun", "definition.key"], name="fk_reference_to_definition"
        ),
        Index("ix_reference_to", "to_noun", "to_key"),
    )
    noun: Mapped[str] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    to_noun: Mapped[str] = mapped_column(primary_key=True)
    to_key: Mapped[str] = mapped_column(primary_key=True)
    place: Mapped[str] = mapped_column(primary_key=True)
