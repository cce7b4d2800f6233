"""What holds for the whole shop."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Shop:
    """What holds for the whole shop: its name, the prefix of its own keys, its currency (ISO 4217) and locale."""

    name: str = "Shop"
    prefix: str = ""
    currency: str = "EUR"
    locale: str = "en"
    collation: str = "und-x-icu"
