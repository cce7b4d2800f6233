"""Releases, and what was live from which one on. Rows are valid from `since` up to before `until`."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, Index, Text, text
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class ReleaseRow(Base):
    """One release. `plans` is the plan hash of each type; `back_to` the release it went back to."""

    __tablename__ = "release"
    number: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    note: Mapped[str]
    things: Mapped[int]
    pages: Mapped[int]
    cards: Mapped[int]
    plans: Mapped[dict[str, str]] = mapped_column(JSONB)
    back_to: Mapped[int | None]


class LiveThingRow(Base):
    """The frozen state of a definition or product."""

    __tablename__ = "live_thing"
    __table_args__ = (
        Index("uq_live_thing_open", "noun", "key", unique=True, postgresql_where=text("until IS NULL")),
        Index("ix_live_thing_since", "since"),
        Index("ix_live_thing_until", "until"),
    )
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    noun: Mapped[str]
    key: Mapped[str]
    hash: Mapped[str]
    state: Mapped[dict[str, Any]] = mapped_column(JSONB)
    since: Mapped[int]
    until: Mapped[int | None]


class LiveDocRow(Base):
    """A product's page and structured data as released."""

    __tablename__ = "live_doc"
    __table_args__ = (
        Index("uq_live_doc_open", "product_id", unique=True, postgresql_where=text("until IS NULL")),
        Index("ix_live_doc_slug", "slug", postgresql_where=text("until IS NULL")),
        Index("ix_live_doc_since", "since"),
        Index("ix_live_doc_until", "until"),
    )
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    product_id: Mapped[int]
    slug: Mapped[str]
    title: Mapped[str]
    type_key: Mapped[str]
    page: Mapped[dict[str, Any]] = mapped_column(JSONB)
    facts: Mapped[dict[str, Any]] = mapped_column(JSONB)
    hash: Mapped[str]
    since: Mapped[int]
    until: Mapped[int | None]


class LiveCardRow(Base):
    """A product's card as released, found by the types it is listed under."""

    __tablename__ = "live_card"
    __table_args__ = (
        Index("uq_live_card_open", "product_id", unique=True, postgresql_where=text("until IS NULL")),
        Index("ix_live_card_types", "types", postgresql_using="gin", postgresql_where=text("until IS NULL")),
        Index("ix_live_card_since", "since"),
        Index("ix_live_card_until", "until"),
    )
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    product_id: Mapped[int]
    slug: Mapped[str]
    title: Mapped[str]
    types: Mapped[list[str]] = mapped_column(ARRAY(Text))
    card: Mapped[dict[str, Any]] = mapped_column(JSONB)
    hash: Mapped[str]
    since: Mapped[int]
    until: Mapped[int | None]
