"""Value lists and their values."""

from __future__ import annotations

from sqlalchemy import ForeignKey, Text
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class ValueListRow(Base):
    """A list's head."""

    __tablename__ = "value_list"
    key: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    version: Mapped[int] = mapped_column(default=1)


class ListValueRow(Base):
    """One value of a list, at its place."""

    __tablename__ = "list_value"
    list_key: Mapped[str] = mapped_column(ForeignKey("value_list.key", ondelete="CASCADE"), primary_key=True)
    code: Mapped[str] = mapped_column(primary_key=True)
    label: Mapped[str]
    synonyms: Mapped[list[str]] = mapped_column(ARRAY(Text))
    retired: Mapped[bool]
    position: Mapped[int]
