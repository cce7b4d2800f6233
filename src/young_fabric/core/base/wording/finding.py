"""How well something is found by words: one order for every place where things are looked for."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Callable, Sequence
from functools import lru_cache

LEAST = 9
"""The rank of what is found in the last way."""
_BETWEEN = re.compile(r"[^\w]+|_+")


def rank(words: str, name: str, also: Sequence[str] = (), help: str = "") -> int | None:
    """How well something is found by words: the less the better, None where it is not.

    Names come first: the very name, one that begins so, whole words, beginnings of words, letters within; then what else people call
    it (`also`); then what is said of it (`help`). No words find everything alike.
    """
    return Finder(words).rank(name, also, help)


class Finder:
    """Looks for the same words in many things, one after the other."""

    def __init__(self, words: str) -> None:
        self._asked = _plain(words).strip()
        # Long ones first: fewer things have them.
        self._each = sorted(_parts(words), key=len, reverse=True)

    def rank(self, name: str, also: Sequence[str] = (), help: str = "") -> int | None:
        """How well a thing is found, as `rank` has it."""
        asked, each = self._asked, self._each
        called = _plain(name)
        if not asked or called == asked:
            return 0
        if called.startswith(asked):
            return 1
        texts = [called, *map(_plain, also), _plain(help)]
        # Most of many thousands lack one of the words: seen before anything is taken apart.
        lacks = not each or any(not any(word in text for text in texts) for word in each)
        if lacks and not any(asked in text for text in texts):
            return None
        own = _parts(name)
        known = [*own, *(part for other in also for part in _parts(other))]
        steps: Sequence[Callable[[], bool]] = (
            lambda: _every(each, own, str.__eq__),
            lambda: _every(each, own, str.startswith),
            lambda: asked in texts[1:-1],
            lambda: asked in called,
            lambda: any(other.startswith(asked) for other in texts[1:-1]) or _every(each, known, str.startswith),
            lambda: any(asked in other for other in texts[1:-1]),
            lambda: asked in texts[-1],
            lambda: _every(each, [*known, *_parts(help)], str.startswith),
        )
        return next((at for at, holds in enumerate(steps, 2) if holds()), None)


def _every(words: Sequence[str], parts: Sequence[str], test: Callable[[str, str], bool]) -> bool:
    return bool(words) and all(any(test(part, word) for part in parts) for word in words)


def _plain(text: str) -> str:
    return text.lower() if text.isascii() else _unmarked(text)


@lru_cache(maxsize=50_000)
def _unmarked(text: str) -> str:
    return "".join(char for char in unicodedata.normalize("NFKD", text) if not unicodedata.combining(char)).casefold()


def _parts(text: str) -> list[str]:
    return [part for part in _BETWEEN.split(_plain(text)) if part]
