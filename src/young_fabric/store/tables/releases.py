"""Releases, and what was live from which one on. Rows are valid from `since` up to before `until`."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, Index, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base, Spelled, Words


class ReleaseRow(Base):
    """One release. `plan_hashes` are [type, collections, hash] of each group, `counts` what it changed by surface.

    `back_to` is the release it went back to; `held_back` the products that could not go live, with the reason.
    """

    __tablename__ = "release"
    number: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    job_id: Mapped[int | None] = mapped_column(BigInteger)
    note: Mapped[str]
    things: Mapped[int]
    counts: Mapped[dict[str, int]] = mapped_column(JSONB)
    plan_hashes: Mapped[list[Any]] = mapped_column(JSONB)
    held_back: Mapped[list[Any]] = mapped_column(JSONB, server_default=text("'[]'"))
    back_to: Mapped[int | None]


class LiveThingRow(Base):
    """The frozen state of a definition or product."""

    __tablename__ = "live_thing"
    __table_args__ = (
        Index("uq_live_thing_open", "noun", "key", unique=True, postgresql_where=text("until IS NULL")),
        Index("ix_live_thing_since", "since"),
        Index(
            "ix_live_thing_own_settings",
            text("left(key, strpos(key, '/'))"),
            postgresql_where=text("until IS NULL AND noun = 'display_setting'"),
        ),
        Index("ix_live_thing_until", "until", postgresql_where=text("until IS NOT NULL")),
    )
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    noun: Mapped[str]
    key: Mapped[str]
    format: Mapped[int]
    hash: Mapped[str]
    state: Mapped[dict[str, Any]] = mapped_column(JSONB)
    since: Mapped[int]
    until: Mapped[int | None]


class LiveDocumentRow(Base):
    """What a surface shows of a subject, as released. `card` tells several of one product on listings apart.

    `address` is set where the surface has pages of its own, `listed` where it stands on listings; `under` are the types
    it belongs to, nearest first.
    """

    __tablename__ = "live_document"
    __table_args__ = (
        Index(
            "uq_live_document_open",
            "subject",
            "subject_id",
            "surface",
            "card",
            unique=True,
            postgresql_where=text("until IS NULL"),
        ),
        Index("ix_live_document_address", "address", postgresql_where=text("until IS NULL")),
        Index("ix_live_document_since", "since"),
        Index("ix_live_document_until", "until", postgresql_where=text("until IS NOT NULL")),
    )
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    surface: Mapped[str]
    subject: Mapped[str]
    subject_id: Mapped[str]
    card: Mapped[str] = mapped_column(server_default=text("''"))
    address: Mapped[str | None]
    title: Mapped[str]
    listed: Mapped[bool]
    under: Mapped[list[str]] = mapped_column(Words())
    document: Mapped[dict[str, Any]] = mapped_column(Spelled)
    format: Mapped[int]
    hash: Mapped[str]
    since: Mapped[int]
    until: Mapped[int | None]
