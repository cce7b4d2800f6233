"""Orders of things: what stays when some are moved."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence


def longest_rising(numbers: Sequence[int]) -> list[int]:
    """The places of a longest run of ever larger numbers, others left out, in O(n log n)."""
    ends: list[int] = []
    at: list[int] = []
    before: list[int | None] = []
    for place, number in enumerate(numbers):
        length = bisect_left(ends, number)
        before.append(at[length - 1] if length else None)
        if length == len(ends):
            ends.append(number)
            at.append(place)
        else:
            ends[length], at[length] = number, place
    out: list[int] = []
    last = at[-1] if at else None
    while last is not None:
        out.append(last)
        last = before[last]
    return out[::-1]
