"""People who may sign in."""

from __future__ import annotations

from sqlalchemy import Text
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class PersonRow(Base):
    """A person: `rights` of look, edit, release; `epoch` rises to end all sessions."""

    __tablename__ = "person"
    id: Mapped[int] = mapped_column(primary_key=True)
    email: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    password_hash: Mapped[str]
    rights: Mapped[list[str]] = mapped_column(ARRAY(Text))
    epoch: Mapped[int] = mapped_column(default=0)
