"""How well each field is filled."""

from __future__ import annotations

from sqlalchemy import text
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base, Words


class FieldFillRow(Base):
    """How many products of a type, in some collections, have a good value for a field, and a wrong one; kept up with every write.

    The row of no field ("") counts all of them, and as wrong those with gaps.
    """

    __tablename__ = "field_fill"
    field_key: Mapped[str] = mapped_column(primary_key=True)
    type_key: Mapped[str] = mapped_column(primary_key=True)
    collections: Mapped[list[str]] = mapped_column(Words(), primary_key=True)
    filled: Mapped[int]
    wrong: Mapped[int] = mapped_column(server_default=text("0"))
