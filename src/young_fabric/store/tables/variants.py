"""Variants of products, their stock, and the stock that single values of options have of their own."""

from __future__ import annotations

from typing import Any

from sqlalchemy import BigInteger, CheckConstraint, Computed, ForeignKey, ForeignKeyConstraint, Identity, Index, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class VariantRow(Base):
    """One combination of a product's options. `choices` are option → code, `fields` what it has of its own by field key.

    `sku` is the one it goes by, None where it goes by the product's; `retired` ones are not offered now and keep all they hold.
    One whose product is removed stands apart (`product_id` None), and is found again by `former_product` when that is undone.
    """

    __tablename__ = "variant"
    __table_args__ = (
        Index("ix_variant_product_id_position", "product_id", "retired", "position"),
        Index("ix_variant_former_product", "former_product", postgresql_where=text("product_id IS NULL")),
        Index("ix_variant_without_sku", "product_id", postgresql_where=text("sku IS NULL AND retired IS false")),
        Index("ix_variant_unread", "product_id", postgresql_where=text("unread <> '{}' AND NOT retired")),
        Index("ix_variant_fields", "fields", postgresql_using="gin"),
        Index("uq_variant_choices", "product_id", "choices", unique=True, postgresql_where=text("NOT retired")),
    )
    id: Mapped[int] = mapped_column(Identity(), primary_key=True)
    product_id: Mapped[int | None] = mapped_column(ForeignKey("product.id", ondelete="SET NULL"))
    former_product: Mapped[int]
    position: Mapped[int]
    choices: Mapped[dict[str, str]] = mapped_column(JSONB)
    fields: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default=text("'{}'"))
    unread: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default=text("'{}'"))
    sku: Mapped[str | None]
    retired: Mapped[bool] = mapped_column(server_default=text("false"))
    version: Mapped[int] = mapped_column(server_default=text("1"))


class VariantStockRow(Base):
    """How many of a variant are there, None where that is not counted; live at once, never part of a release."""

    __tablename__ = "variant_stock"
    __table_args__ = (CheckConstraint("amount >= 0", name="amount"),)
    variant_id: Mapped[int] = mapped_column(ForeignKey("variant.id", ondelete="CASCADE"), primary_key=True)
    amount: Mapped[int | None]


class ChoiceStockRow(Base):
    """How many of a value of an option (code "" of a request) are there, for all products that offer it; live at once."""

    __tablename__ = "choice_stock"
    __table_args__ = (
        ForeignKeyConstraint(
            ["set_noun", "set_key"],
            ["definition.noun", "definition.key"],
            name="fk_choice_stock_option_set",
            ondelete="CASCADE",
        ),
        CheckConstraint("amount >= 0", name="amount"),
    )
    set_noun: Mapped[str] = mapped_column(Computed("'option_set'", persisted=True))
    set_key: Mapped[str] = mapped_column(primary_key=True)
    option: Mapped[str] = mapped_column(primary_key=True)
    code: Mapped[str] = mapped_column(primary_key=True)
    amount: Mapped[int | None]


class TakenSkuRow(Base):
    """That a product or a variant has a SKU: one a shop. Kept by the database itself, beside the rows that have them."""

    __tablename__ = "taken_sku"
    __table_args__ = (
        CheckConstraint("(product_id IS NULL) <> (variant_id IS NULL)", name="of_one"),
        Index("uq_taken_sku_product_id", "product_id", unique=True, postgresql_where=text("product_id IS NOT NULL")),
        Index("uq_taken_sku_variant_id", "variant_id", unique=True, postgresql_where=text("variant_id IS NOT NULL")),
    )
    sku: Mapped[str] = mapped_column(primary_key=True)
    product_id: Mapped[int | None] = mapped_column(ForeignKey("product.id", ondelete="CASCADE"))
    variant_id: Mapped[int | None] = mapped_column(ForeignKey("variant.id", ondelete="CASCADE"))


class UnmatchedRow(Base):
    """That variants of the products offered an option set are yet to be matched, since definitions had a stamp."""

    __tablename__ = "unmatched"
    option_set: Mapped[str] = mapped_column(primary_key=True)
    stamp: Mapped[int] = mapped_column(BigInteger)
