"""People who may sign in, their sessions, and tries to sign in."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, Index
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base, Words


class PersonRow(Base):
    """A person: `rights` of look, edit, release."""

    __tablename__ = "person"
    id: Mapped[int] = mapped_column(primary_key=True)
    email: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    password_hash: Mapped[str]
    rights: Mapped[list[str]] = mapped_column(Words())


class SignInSessionRow(Base):
    """A session somebody signed in to; it ends by being deleted. `token` is the SHA-256 of what the cookie holds."""

    __tablename__ = "sign_in_session"
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    token: Mapped[str] = mapped_column(unique=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"), index=True)
    begun: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    seen: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    browser: Mapped[str]


class SignInTryRow(Base):
    """A try to sign in that failed: from which address, to which account (SHA-256 of its name)."""

    __tablename__ = "sign_in_try"
    __table_args__ = (
        Index("ix_sign_in_try_address", "address", "at"),
        Index("ix_sign_in_try_account", "account", "at"),
    )
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    address: Mapped[str]
    account: Mapped[str]
