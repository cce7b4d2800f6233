"""Long work asked for by a person and done by the worker."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, Index, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class JobRow(Base):
    """One job. `state` is waiting, running, done, stopped or failed; `beat` is when it was last heard of, `tries` how often it was
    begun, `mark` where the batches of it that are committed ended.

    `exclusive` is what no other open job may have; `args` are what it was asked with, `result` what it gave, or the code,
    message and help of what went wrong.
    """

    __tablename__ = "job"
    __table_args__ = (
        Index(
            "uq_job_open",
            "exclusive",
            unique=True,
            postgresql_where=text("exclusive IS NOT NULL AND state IN ('waiting', 'running')"),
        ),
        Index("ix_job_state", "state", "beat"),
    )
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    kind: Mapped[str]
    state: Mapped[str]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    exclusive: Mapped[str | None]
    args: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default=text("'{}'"))
    asked: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    beat: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    stop: Mapped[bool] = mapped_column(server_default=text("false"))
    done: Mapped[int] = mapped_column(server_default=text("0"))
    total: Mapped[int] = mapped_column(server_default=text("0"))
    tries: Mapped[int] = mapped_column(server_default=text("0"))
    mark: Mapped[int] = mapped_column(BigInteger, server_default=text("0"))
    result: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default=text("'{}'"))
