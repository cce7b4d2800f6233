"""Products, their stock, and pictures."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import (
    CheckConstraint,
    Computed,
    DateTime,
    ForeignKey,
    ForeignKeyConstraint,
    Identity,
    Index,
    UniqueConstraint,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base, Words

SEARCHED = "lower(title || ' ' || coalesce(sku, '') || ' ' || coalesce(fields ->> 'gtin', ''))"
"""What finding looks through: any part of title, SKU or GTIN."""


class ProductRow(Base):
    """A product. `fields` holds values by key (some have columns), `unread` what was typed and not understood.

    `wrong` names the fields whose value breaks a limit or was not understood, `gaps` says whether there are any or a
    required one is missing; `hash` is of the whole state. `collections` are all it is in, in their order, `option_sets` those
    it is offered by condition or by hand, `gathered` what else gathers it: noun → keys.
    """

    __tablename__ = "product"
    __table_args__ = (
        ForeignKeyConstraint(["type_noun", "type_key"], ["definition.noun", "definition.key"], name="fk_product_type"),
        Index("ix_product_group", "type_key", "collections"),
        UniqueConstraint("slug", deferrable=True, initially="IMMEDIATE"),
        UniqueConstraint("sku", deferrable=True, initially="IMMEDIATE"),
        Index("ix_product_collections", "collections", postgresql_using="gin"),
        Index("ix_product_option_sets", "option_sets", postgresql_using="gin"),
        Index("ix_product_gathered", "gathered", postgresql_using="gin"),
        Index("ix_product_offered", "type_key", postgresql_where=text("option_sets <> '{}'")),
        Index("ix_product_search", "search", postgresql_using="gin", postgresql_ops={"search": "gin_trgm_ops"}),
        Index("ix_product_fields", "fields", postgresql_using="gin"),
        Index("ix_product_gaps", "title", "id", postgresql_where=text("gaps")),
        Index("ix_product_wrong", "id", postgresql_where=text("wrong <> '{}'")),
    )
    id: Mapped[int] = mapped_column(Identity(), primary_key=True)
    type_noun: Mapped[str] = mapped_column(Computed("'product_type'", persisted=True))
    type_key: Mapped[str]
    title: Mapped[str]
    search: Mapped[str] = mapped_column(Computed(SEARCHED, persisted=True))
    slug: Mapped[str | None]
    sku: Mapped[str | None]
    fields: Mapped[dict[str, Any]] = mapped_column(JSONB)
    unread: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default=text("'{}'"))
    wrong: Mapped[list[str]] = mapped_column(Words(), server_default=text("'{}'"))
    gaps: Mapped[bool] = mapped_column(server_default=text("false"))
    offered: Mapped[bool] = mapped_column(server_default=text("true"))
    collections: Mapped[list[str]] = mapped_column(Words(), server_default=text("'{}'"))
    option_sets: Mapped[list[str]] = mapped_column(Words(), server_default=text("'{}'"))
    gathered: Mapped[dict[str, list[str]]] = mapped_column(JSONB, server_default=text("'{}'"))
    hash: Mapped[str]
    version: Mapped[int] = mapped_column(default=1)


class StockRow(Base):
    """How many are there, None where that is not counted; live at once, never part of a release."""

    __tablename__ = "stock"
    __table_args__ = (CheckConstraint("amount >= 0", name="amount"),)
    product_id: Mapped[int] = mapped_column(ForeignKey("product.id", ondelete="CASCADE"), primary_key=True)
    amount: Mapped[int | None]


class KeptFileRow(Base):
    """An uploaded file for download, stored under the SHA-256 of what is in it; the name it first came with."""

    __tablename__ = "kept_file"
    file: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    type: Mapped[str]
    bytes: Mapped[int]
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())


class PictureRow(Base):
    """An uploaded picture, stored under the SHA-256 of its re-encoded original."""

    __tablename__ = "picture"
    file: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    width: Mapped[int]
    height: Mapped[int]
    bytes: Mapped[int]
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
