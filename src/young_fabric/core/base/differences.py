"""What differs between two texts, word by word."""

from __future__ import annotations

import re
from difflib import SequenceMatcher
from typing import NamedTuple

MOST_WORDS = 2_000
"""Of longer texts it is only told that they differ."""
SAME, GONE, ADDED = "same", "gone", "added"
_WORDS = re.compile(r"\S+\s*")


class Piece(NamedTuple):
    """A stretch of text that is the same in both, gone from the first, or added in the second."""

    how: str
    text: str


def differences(first: str, second: str) -> tuple[Piece, ...]:
    """The pieces of two texts, in order: those of the first are same and gone, those of the second same and added."""
    old, new = _WORDS.findall(first), _WORDS.findall(second)
    if max(len(old), len(new)) > MOST_WORDS:
        return (Piece(GONE, first), Piece(ADDED, second))
    out: list[Piece] = []
    for sort, a, b, c, d in SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        if sort == "equal":
            out.append(Piece(SAME, "".join(old[a:b])))
            continue
        out += [Piece(how, "".join(words)) for how, words in ((GONE, old[a:b]), (ADDED, new[c:d])) if words]
    return tuple(out)
