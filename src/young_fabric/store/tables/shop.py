"""The shop's own row, and the stamp that rises with every change of a definition."""

from __future__ import annotations

from sqlalchemy import BigInteger, CheckConstraint, text
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class ShopRow(Base):
    """The one shop. `stamp` rises with every change of a definition; `title_order` is how its locale orders titles."""

    __tablename__ = "shop"
    __table_args__ = (CheckConstraint("id = 1", name="single"),)
    id: Mapped[int] = mapped_column(primary_key=True, default=1)
    name: Mapped[str]
    prefix: Mapped[str]
    currency: Mapped[str]
    locale: Mapped[str]
    title_order: Mapped[str] = mapped_column(server_default=text("'und-x-icu'"))
    stamp: Mapped[int] = mapped_column(BigInteger, default=0)
