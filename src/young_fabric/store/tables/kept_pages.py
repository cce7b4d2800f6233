"""Live pages as they were made, for all processes; gone when the server breaks down, as they can be made again."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import DateTime, Integer, func
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base, Words


class KeptPageRow(Base):
    """A page by its address: what made it (`mark`), the state of the shop it was made of, and whose stock it tells."""

    __tablename__ = "kept_page"
    __table_args__ = ({"prefixes": ["UNLOGGED"]},)
    address: Mapped[str] = mapped_column(primary_key=True)
    mark: Mapped[str]
    state: Mapped[str]
    ids: Mapped[list[int]] = mapped_column(ARRAY(Integer))
    sets: Mapped[list[str]] = mapped_column(Words())
    etag: Mapped[str]
    body: Mapped[str]
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now(), index=True)
