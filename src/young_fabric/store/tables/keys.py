"""Keys of other systems."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import DateTime, ForeignKey, Identity
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class ApiKeyRow(Base):
    """A key another system reads with. Only its SHA-256 is kept, and its last four signs to tell it by."""

    __tablename__ = "api_key"
    id: Mapped[int] = mapped_column(Identity(), primary_key=True)
    name: Mapped[str]
    hash: Mapped[str] = mapped_column(unique=True)
    tail: Mapped[str]
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    made: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    used: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    ended: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
