"""Field definitions, and how well each is filled per type."""

from __future__ import annotations

from typing import Any

from sqlalchemy import ForeignKey
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class FieldRow(Base):
    """One of the shop's own fields."""

    __tablename__ = "field"
    key: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    label: Mapped[str]
    kind: Mapped[str]
    many: Mapped[bool]
    unit: Mapped[str | None]
    list_key: Mapped[str | None] = mapped_column(ForeignKey("value_list.key"), index=True)
    limits: Mapped[dict[str, Any]] = mapped_column(JSONB)
    need: Mapped[str]
    audience: Mapped[str]
    help: Mapped[str]
    example: Mapped[str]
    default_value: Mapped[Any] = mapped_column(JSONB(none_as_null=True), nullable=True)
    version: Mapped[int] = mapped_column(default=1)


class FieldFillRow(Base):
    """How many products of a type have a good value for a field; kept up with every product write."""

    __tablename__ = "field_fill"
    field_key: Mapped[str] = mapped_column(primary_key=True)
    type_key: Mapped[str] = mapped_column(primary_key=True)
    filled: Mapped[int]
