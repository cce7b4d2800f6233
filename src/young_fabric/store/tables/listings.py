"""Where live cards stand in listings, and where the parts of each listing begin."""

from __future__ import annotations

from decimal import Decimal

from sqlalchemy import BigInteger, Identity, Index, Numeric, text
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class ListedCardRow(Base):
    """A card in a listing (noun:key), valid from release `since` up to before `until`.

    Cards stand in order of rank, number, text in the shop's collation, product, position among those of the product, and card; `hash` is
    of the place.
    """

    __tablename__ = "listed_card"
    __table_args__ = (
        Index(
            "uq_listed_card_open", "product_id", "listing", "card", unique=True, postgresql_where=text("until IS NULL")
        ),
        Index("ix_listed_card_since", "since"),
        Index("ix_listed_card_until", "until", postgresql_where=text("until IS NOT NULL")),
    )
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    listing: Mapped[str]
    product_id: Mapped[int]
    card: Mapped[str] = mapped_column(server_default=text("''"))
    rank: Mapped[int]
    number: Mapped[Decimal] = mapped_column(Numeric)
    text: Mapped[str]
    position: Mapped[int] = mapped_column(server_default="0")
    hash: Mapped[str]
    since: Mapped[int]
    until: Mapped[int | None]


class ListingPartRow(Base):
    """A stretch of a listing as it is live: where it begins, and how many cards stand in it. The first begins before all."""

    __tablename__ = "listing_part"
    listing: Mapped[str] = mapped_column(primary_key=True)
    number_in_listing: Mapped[int] = mapped_column(primary_key=True)
    rank: Mapped[int]
    number: Mapped[Decimal] = mapped_column(Numeric)
    text: Mapped[str]
    product_id: Mapped[int]
    position: Mapped[int] = mapped_column(server_default="0")
    card: Mapped[str]
    cards: Mapped[int]
