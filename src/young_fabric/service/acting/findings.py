"""What a check finds."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Check:
    """A finding: `level` is wrong, look or good; `link` the place to mend it, as (sort of place, key)."""

    code: str
    level: str
    text: str
    count: int = 0
    link: tuple[str, str] | None = None
