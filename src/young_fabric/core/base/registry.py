"""Registries by code that answer for what they don't know: things written by a later version, left unread until it is back."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TypeVar

T = TypeVar("T")


class Registry(dict[str, T]):
    """Members by code. One that is asked for by a code nobody knows is made up by `unknown`; `in` and `get` tell it from the others."""

    def __init__(self, members: Mapping[str, T], unknown: Callable[[str], T]) -> None:
        super().__init__(members)
        self._unknown = unknown

    def __missing__(self, code: str) -> T:
        return self._unknown(code)
