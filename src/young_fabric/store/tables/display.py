"""Display settings by scope, field and surface."""

from __future__ import annotations

from typing import Any

from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from young_fabric.store.base import Base


class DisplaySettingRow(Base):
    """Properties set for one scope, field or `*`, and surface or `*`."""

    __tablename__ = "display_setting"
    scope_kind: Mapped[str] = mapped_column(primary_key=True)
    scope_key: Mapped[str] = mapped_column(primary_key=True)
    field: Mapped[str] = mapped_column(primary_key=True)
    surface: Mapped[str] = mapped_column(primary_key=True)
    properties: Mapped[dict[str, Any]] = mapped_column(JSONB)
    version: Mapped[int] = mapped_column(default=1)
