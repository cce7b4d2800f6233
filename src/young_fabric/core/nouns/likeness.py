"""Whether two things look like the same one defined twice: by their names, or by what they hold."""

from __future__ import annotations

from collections.abc import Collection, Hashable
from difflib import SequenceMatcher

from young_fabric.core.base.text import fold

ALIKE = 0.82
"""From how alike names, of 1 for the same, they are told."""
SHARED, SHARE = 3, 0.6
"""How many values two must have in common, and which part of all they have."""


def alike_names(one: str, other: str) -> bool:
    """Whether two names are nearly the same, whatever the order of their words: `Paper weight`, `Weight of papers`."""
    names = [
        " ".join(sorted(word for word in fold(name).replace("-", " ").split() if len(word) > 2))
        for name in (one, other)
    ]
    if not all(names):
        return fold(one) == fold(other)
    return SequenceMatcher(None, names[0], names[1]).ratio() >= ALIKE


def alike_values(one: Collection[Hashable], other: Collection[Hashable]) -> bool:
    """Whether two hold mostly the same."""
    shared, every = set(one) & set(other), set(one) | set(other)
    return len(shared) >= SHARED and len(shared) / len(every) >= SHARE
