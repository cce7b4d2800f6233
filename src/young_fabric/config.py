"""Typed settings from the environment; starting fails on what is missing or unknown."""

from __future__ import annotations

import os
from functools import lru_cache
from pathlib import Path

from pydantic import Field, SecretStr
from pydantic_settings import BaseSettings, SettingsConfigDict


class Settings(BaseSettings):
    """`DATABASE_URL` and `FABRIC_SECRET` are needed; the rest have defaults."""

    model_config = SettingsConfigDict(env_prefix="FABRIC_", extra="forbid")

    database_url: str = Field(validation_alias="DATABASE_URL")
    secret: SecretStr = Field(min_length=32)
    files: Path = Path(".data/files")
    most_sent_mb: int = Field(default=4096, ge=1)
    secure_cookies: bool = False
    pool: int = 8
    sign_ins_per_minute: int = Field(default=10, ge=1)
    shop_address: str = Field(default="http://127.0.0.1:8000", pattern=r"^https?://[^/\s]+/?$")
    trusted_proxies: int = Field(default=0, ge=0, le=10)

    @property
    def sqlalchemy_url(self) -> str:
        """The address with the driver named."""
        return self.database_url.replace("postgresql://", "postgresql+psycopg://", 1)


KNOWN = {f"FABRIC_{name.upper()}" for name in Settings.model_fields} | {"FABRIC_VECTORS"}


@lru_cache
def settings() -> Settings:
    """The settings of this process. Raises ValueError on an unknown FABRIC_ variable."""
    unknown = sorted(name for name in os.environ if name.startswith("FABRIC_") and name not in KNOWN)
    if unknown:
        raise ValueError(f"Unknown settings: {', '.join(unknown)}. Known are {', '.join(sorted(KNOWN))}")
    return Settings()
