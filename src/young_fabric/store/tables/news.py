"""What was written a moment ago, and who is where in the studio; gone when the server breaks down, as it is of moments."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, func, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base, Words


class NewsRow(Base):
    """A write of some things: [noun, key, version] of each, None where they are many. `xact` is the transaction that wrote it, by
    which a reader finds what was committed since it last looked, in whatever order; `window_id` the window of the studio, "" for none."""

    __tablename__ = "news"
    __table_args__ = ({"prefixes": ["UNLOGGED"]},)
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    xact: Mapped[int] = mapped_column(
        BigInteger, server_default=text("(pg_current_xact_id()::text::bigint)"), index=True
    )
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"))
    window_id: Mapped[str]
    nouns: Mapped[list[str]] = mapped_column(Words())
    things: Mapped[list[Any] | None] = mapped_column(JSONB(none_as_null=True))


class PresenceRow(Base):
    """A window of the studio: whose it is, what is open in it, and when it was last heard of."""

    __tablename__ = "presence"
    __table_args__ = ({"prefixes": ["UNLOGGED"]},)
    window_id: Mapped[str] = mapped_column(primary_key=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"))
    noun: Mapped[str]
    key: Mapped[str]
    seen: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
