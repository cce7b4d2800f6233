"""The record of every write, and what is not released yet."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, Index, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base, Words


class ChangeRow(Base):
    """One write of one thing: what differs between its states before and after, in words and as a patch.

    `version` is the thing's after it, `format` that of the states the patch is between. `undoes` names the change it takes
    back, `undo_depth` how many takings-back it stands on: even ones do, odd ones undo.
    """

    __tablename__ = "change"
    __table_args__ = (
        Index("ix_change_thing", "noun", "key", "id"),
        Index("ix_change_person", "person_id", "id"),
        Index("uq_change_undoes", "undoes", unique=True),
    )
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    noun: Mapped[str]
    key: Mapped[str]
    name: Mapped[str]
    lines: Mapped[list[str]] = mapped_column(Words())
    patch: Mapped[dict[str, Any]] = mapped_column(JSONB)
    format: Mapped[int]
    version: Mapped[int]
    group_id: Mapped[str] = mapped_column(index=True)
    undoes: Mapped[int | None] = mapped_column(ForeignKey("change.id"))
    undo_depth: Mapped[int] = mapped_column(server_default=text("0"))


class UnreleasedRow(Base):
    """A thing that was changed since its last release, with the hash of its draft (None when it was removed).

    It is unreleased while that hash differs from the live one; the rows themselves are never taken back by a writer,
    so that writing and releasing at one time can't lose a change.
    """

    __tablename__ = "unreleased"
    noun: Mapped[str] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    hash: Mapped[str | None]
