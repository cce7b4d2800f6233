"""Field sets, their sections, and the fields in them."""

from __future__ import annotations

from sqlalchemy import ForeignKey, ForeignKeyConstraint, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class FieldSetRow(Base):
    """A set's head."""

    __tablename__ = "field_set"
    key: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    version: Mapped[int] = mapped_column(default=1)


class SectionRow(Base):
    """A section of a set, at its place."""

    __tablename__ = "section"
    set_key: Mapped[str] = mapped_column(ForeignKey("field_set.key", ondelete="CASCADE"), primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    position: Mapped[int]


class SectionFieldRow(Base):
    """A field in a section, at its place; once in a set."""

    __tablename__ = "section_field"
    __table_args__ = (
        ForeignKeyConstraint(["set_key", "section_key"], ["section.set_key", "section.key"], ondelete="CASCADE"),
        UniqueConstraint("set_key", "section_key", "position"),
    )
    set_key: Mapped[str] = mapped_column(primary_key=True)
    field_key: Mapped[str] = mapped_column(ForeignKey("field.key"), primary_key=True, index=True)
    section_key: Mapped[str]
    position: Mapped[int]
