"""Baskets of shoppers, pretend orders, and the files shoppers sent."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import DateTime, ForeignKey, Identity, Index, func, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class BasketRow(Base):
    """A shopper's basket, known by a hash of the token its browser has."""

    __tablename__ = "basket"
    id: Mapped[int] = mapped_column(Identity(), primary_key=True)
    token: Mapped[str] = mapped_column(unique=True)
    used_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now(), index=True)


class BasketLineRow(Base):
    """A line: so many of a product, with all that was chosen by option, and the price that was last told, each and once a line."""

    __tablename__ = "basket_line"
    id: Mapped[int] = mapped_column(Identity(), primary_key=True)
    basket_id: Mapped[int] = mapped_column(ForeignKey("basket.id", ondelete="CASCADE"), index=True)
    product_id: Mapped[int]
    choices: Mapped[dict[str, Any]] = mapped_column(JSONB)
    quantity: Mapped[int]
    seen_each: Mapped[str | None]
    seen_once: Mapped[str | None]


class ShopOrderRow(Base):
    """A pretend order with its document, known to the shopper by a token; `written` says whether the document is a file too."""

    __tablename__ = "shop_order"
    __table_args__ = (Index("ix_shop_order_unwritten", "number", postgresql_where=text("NOT written")),)
    number: Mapped[int] = mapped_column(Identity(start=1001), primary_key=True)
    token: Mapped[str] = mapped_column(unique=True)
    placed_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    document: Mapped[dict[str, Any]] = mapped_column(JSONB)
    written: Mapped[bool] = mapped_column(server_default=text("false"))


class SentFileRow(Base):
    """A file a shopper sent, known by a token; kept a month unless an order holds it. `sender` tells browsers' addresses apart."""

    __tablename__ = "sent_file"
    __table_args__ = (
        Index("ix_sent_file_sent_at", "sent_at", postgresql_where=text("order_number IS NULL")),
        Index("ix_sent_file_file", "file"),
        Index("ix_sent_file_sender", "sender", "sent_at"),
    )
    token: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    type: Mapped[str]
    file: Mapped[str]
    bytes: Mapped[int]
    width: Mapped[int]
    height: Mapped[int]
    sender: Mapped[str] = mapped_column(server_default=text("''"))
    sent_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    order_number: Mapped[int | None] = mapped_column(ForeignKey("shop_order.number"))
