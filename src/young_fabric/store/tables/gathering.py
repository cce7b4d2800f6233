"""What is still to be gathered."""

from __future__ import annotations

from sqlalchemy import BigInteger
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class GatheringRow(Base):
    """A collection whose products are not all placed yet, and the definitions' stamp they are to be placed by."""

    __tablename__ = "gathering"
    collection: Mapped[str] = mapped_column(primary_key=True)
    stamp: Mapped[int] = mapped_column(BigInteger)
