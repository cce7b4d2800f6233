"""Texts in the order of a language: the Unicode Collation Algorithm (UTS 10), with the letters some languages put last."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import Any

from pyuca import Collator

_LAST = {"sv": "åäö", "fi": "åäö", "da": "æøå", "nb": "æøå", "nn": "æøå", "no": "æøå", "is": "þæö", "et": "õäöü"}
"""Letters that stand after z, in their order, by language."""
_AFTER_ALL = 0xF0000
"""Characters from here on stand after all others, in order of code point."""


@cache
def _collator() -> Collator:
    return Collator()


@cache
def order_of(locale: str) -> Callable[[str], Any]:
    """A sort key for texts in the language of a locale, such as `sv` or `de_CH`."""
    last = _LAST.get(locale.replace("-", "_").split("_")[0], "")
    moved = {ord(letter): chr(_AFTER_ALL + rank) for rank, letter in enumerate(last)}
    moved |= {ord(letter.upper()): chr(_AFTER_ALL + rank) for rank, letter in enumerate(last)}
    sort_key = _collator().sort_key
    return lambda text: (sort_key(text.translate(moved)), text)
