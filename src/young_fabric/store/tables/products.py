"""Products, their stock, and pictures."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import DateTime, ForeignKey, Identity, Index, Text, func, text
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class ProductRow(Base):
    """A product. `fields` holds values by key (title, slug and SKU have columns), `unread` typed text not understood.

    `wrong` names the fields whose value breaks a limit or was not understood, `gaps` says whether there are any or a
    required one is missing; `hash` is of the whole state.
    """

    __tablename__ = "product"
    __table_args__ = (
        Index("ix_product_title", "title", "id"),
        Index(
            "ix_product_search",
            text("to_tsvector('simple', title || ' ' || coalesce(sku, ''))"),
            postgresql_using="gin",
        ),
        Index("ix_product_fields", "fields", postgresql_using="gin"),
        Index("ix_product_gaps", "title", "id", postgresql_where=text("gaps")),
        Index("ix_product_wrong", "id", postgresql_where=text("wrong <> '{}'")),
    )
    id: Mapped[int] = mapped_column(Identity(), primary_key=True)
    type_key: Mapped[str] = mapped_column(ForeignKey("product_type.key"), index=True)
    title: Mapped[str]
    slug: Mapped[str | None] = mapped_column(unique=True)
    sku: Mapped[str | None] = mapped_column(unique=True)
    fields: Mapped[dict[str, Any]] = mapped_column(JSONB)
    unread: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default=text("'{}'"))
    wrong: Mapped[list[str]] = mapped_column(ARRAY(Text), server_default=text("'{}'"))
    gaps: Mapped[bool] = mapped_column(server_default=text("false"))
    offered: Mapped[bool] = mapped_column(server_default=text("true"))
    hash: Mapped[str]
    version: Mapped[int] = mapped_column(default=1)


class StockRow(Base):
    """How many are there; live at once, never part of a release."""

    __tablename__ = "stock"
    product_id: Mapped[int] = mapped_column(ForeignKey("product.id", ondelete="CASCADE"), primary_key=True)
    amount: Mapped[int]
    version: Mapped[int] = mapped_column(default=1)


class PictureRow(Base):
    """An uploaded picture, stored under the SHA-256 of its re-encoded original."""

    __tablename__ = "picture"
    file: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    width: Mapped[int]
    height: Mapped[int]
    bytes: Mapped[int]
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
