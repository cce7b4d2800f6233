"""How many of something, in words of the studio."""

from __future__ import annotations


def counted(count: int, single: str, several: str = "") -> str:
    """A number with what it counts: `1 product`, `1,204 products`; `several` where the plural is not made by an s."""
    return f"{count:,} {single if count == 1 else several or single + 's'}"
