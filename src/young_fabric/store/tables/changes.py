"""The record of every write, and what is not released yet."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, Index, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class ChangeRow(Base):
    """One write of one thing: its state before (None when made) and after (None when removed).

    `undoes` names the change it takes back, `turn` how many takings-back it stands on: even ones do, odd ones undo.
    """

    __tablename__ = "change"
    __table_args__ = (Index("ix_change_thing", "noun", "key", "id"), Index("ix_change_person", "person_id", "id"))
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    noun: Mapped[str]
    key: Mapped[str]
    name: Mapped[str]
    before: Mapped[Any] = mapped_column(JSONB(none_as_null=True), nullable=True)
    after: Mapped[Any] = mapped_column(JSONB(none_as_null=True), nullable=True)
    group_id: Mapped[str] = mapped_column(index=True)
    undoes: Mapped[int | None] = mapped_column(ForeignKey("change.id"), unique=True)
    turn: Mapped[int] = mapped_column(server_default=text("0"))


class UnreleasedRow(Base):
    """A thing that was changed since its last release, with the hash of its draft (None when it was removed).

    It is unreleased while that hash differs from the live one; the rows themselves are never taken back by a writer,
    so that writing and releasing at one time can't lose a change.
    """

    __tablename__ = "unreleased"
    noun: Mapped[str] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    hash: Mapped[str | None]
