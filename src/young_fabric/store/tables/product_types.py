"""The tree of product types and what each takes."""

from __future__ import annotations

from sqlalchemy import ForeignKey
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class ProductTypeRow(Base):
    """A type, under its parent."""

    __tablename__ = "product_type"
    key: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    parent: Mapped[str | None] = mapped_column(ForeignKey("product_type.key"), index=True)
    slug: Mapped[str] = mapped_column(unique=True)
    version: Mapped[int] = mapped_column(default=1)


class TypeSetRow(Base):
    """A set a type takes, at its place."""

    __tablename__ = "type_set"
    type_key: Mapped[str] = mapped_column(ForeignKey("product_type.key", ondelete="CASCADE"), primary_key=True)
    set_key: Mapped[str] = mapped_column(ForeignKey("field_set.key"), primary_key=True, index=True)
    position: Mapped[int]


class TypeFieldRow(Base):
    """A single field a type takes, at its place."""

    __tablename__ = "type_field"
    type_key: Mapped[str] = mapped_column(ForeignKey("product_type.key", ondelete="CASCADE"), primary_key=True)
    field_key: Mapped[str] = mapped_column(ForeignKey("field.key"), primary_key=True, index=True)
    position: Mapped[int]


class TypeNeedRow(Base):
    """A field a type makes wanted or required; built-in fields too, so the key is free."""

    __tablename__ = "type_need"
    type_key: Mapped[str] = mapped_column(ForeignKey("product_type.key", ondelete="CASCADE"), primary_key=True)
    field_key: Mapped[str] = mapped_column(primary_key=True)
    need: Mapped[str]
