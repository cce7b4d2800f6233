"""How well something is found by words: one order for every place where things are looked for."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Callable, Sequence

LEAST = 9
"""The rank of what is found in the last way."""
_BETWEEN = re.compile(r"[^\w]+|_+")


def rank(words: str, name: str, also: Sequence[str] = (), help: str = "") -> int | None:
    """How well something is found by words: the less the better, None where it is not.

    Names come first: the very name, one that begins so, whole words, beginnings of words, letters within; then what else people call
    it (`also`); then what is said of it (`help`). No words find everything alike.
    """
    asked, each = _plain(words).strip(), _parts(words)
    if not asked:
        return 0
    called, others, said = _plain(name), [_plain(other) for other in also], _plain(help)
    # Most of many thousands have none of the words: seen before anything is taken apart.
    there = [called, *others, said]
    if not (each and all(any(word in text for text in there) for word in each) or any(asked in text for text in there)):
        return None
    own = _parts(name)
    known = [*own, *(part for other in also for part in _parts(other))]
    steps: Sequence[Callable[[], bool]] = (
        lambda: called == asked,
        lambda: called.startswith(asked),
        lambda: _every(each, own, str.__eq__),
        lambda: _every(each, own, str.startswith),
        lambda: asked in others,
        lambda: asked in called,
        lambda: any(other.startswith(asked) for other in others) or _every(each, known, str.startswith),
        lambda: any(asked in other for other in others),
        lambda: asked in said,
        lambda: _every(each, [*known, *_parts(help)], str.startswith),
    )
    return next((at for at, holds in enumerate(steps) if holds()), None)


def _every(words: Sequence[str], parts: Sequence[str], test: Callable[[str, str], bool]) -> bool:
    return bool(words) and all(any(test(part, word) for part in parts) for word in words)


def _plain(text: str) -> str:
    if text.isascii():
        return text.lower()
    return "".join(char for char in unicodedata.normalize("NFKD", text) if not unicodedata.combining(char)).casefold()


def _parts(text: str) -> list[str]:
    return [part for part in _BETWEEN.split(_plain(text)) if part]
