"""Whether two things look like the same one defined twice: by their names, or by what they hold."""

from __future__ import annotations

from collections.abc import Collection, Hashable
from difflib import SequenceMatcher

from young_fabric.core.base.text import fold

ALIKE = 0.82
"""From how alike names, of 1 for the same, they are told."""
SHARED, SHARE = 3, 0.6
"""How many values two must have in common, and which part of all they have."""


def alike_names(first: str, second: str) -> bool:
    """Whether two names are nearly the same, whatever the order of their words: `Paper weight`, `Weight of papers`."""
    names = [
        " ".join(sorted(word for word in fold(name).replace("-", " ").split() if len(word) > 2))
        for name in (first, second)
    ]
    if not all(names):
        return fold(first) == fold(second)
    return SequenceMatcher(None, names[0], names[1]).ratio() >= ALIKE


def alike_values(first: Collection[Hashable], second: Collection[Hashable]) -> bool:
    """Whether two hold mostly the same."""
    shared, every = set(first) & set(second), set(first) | set(second)
    return len(shared) >= SHARED and len(shared) / len(every) >= SHARE
