"""Ranks: decimal numbers as text that put things in an order, with room for one more between any two."""

from __future__ import annotations

import re
from decimal import Decimal, localcontext

LONGEST = 40
_RANK = re.compile(r"[0-9]{1,12}(\.[0-9]{1,40})?")


def is_rank(text: str) -> bool:
    """Whether a text is a rank: a plain decimal number of at most 40 characters."""
    return len(text) <= LONGEST and _RANK.fullmatch(text) is not None


def rank_between(before: str | None, after: str | None) -> str | None:
    """A rank after one and before another (None: no such neighbour); None when there is no room between them."""
    if after is None:
        return str(int(Decimal(before or "0")) + 1)
    low, high = Decimal(before or "0"), Decimal(after)
    with localcontext() as context:
        context.prec = 2 * LONGEST
        middle = (low + high) / 2
    found = f"{middle:f}"
    return found if low < middle < high and is_rank(found) else None
