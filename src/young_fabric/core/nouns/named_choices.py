"""Things chosen by name: what fields that refer to definitions choose of."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from itertools import islice
from typing import Any

from young_fabric.core.base.text import fold

SOME = 8


class NamedChoices:
    """Things by key, found by key first, then by name. How they show is no matter of definitions: names are put in later."""

    more = False
    looks = None

    def __init__(self, noun: str, things: Mapping[str, Any]) -> None:
        self.noun = noun
        self._things = things

    @property
    def by_code(self) -> Mapping[str, Any]:
        """Every thing by its key."""
        return self._things

    @cached_property
    def _by_name(self) -> Mapping[str, str]:
        found: dict[str, str] = {}
        for key, thing in self._things.items():
            found.setdefault(fold(thing.name), key)
        return found

    def find(self, text: str) -> str | None:
        """The key meant by typed text."""
        typed = text.strip()
        return typed if typed in self._things else self._by_name.get(fold(text))

    def label(self, code: str) -> str:
        """The name of a key's thing, or the key."""
        thing = self._things.get(code)
        return thing.name if thing is not None else code

    def offered(self) -> tuple[str, ...]:
        """The names of the first."""
        return tuple(thing.name for thing in islice(self._things.values(), SOME))
