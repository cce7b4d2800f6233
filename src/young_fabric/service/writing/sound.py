"""Whether definitions may be written as they are to be: by themselves, by their keys and addresses, and by what products hold."""

from __future__ import annotations

from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import Noun
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.service.acting.actors import Work
from young_fabric.service.writing import noun_hooks


class Addresses:
    """Who has which address, worked out when somebody asks."""

    def __init__(self, defs: Definitions) -> None:
        self._defs = defs
        self._found: dict[str, list[tuple[str, str]]] | None = None

    def holder(self, address: str, noun: str, key: str) -> Any:
        """Another thing at an address, None where there is none."""
        if self._found is None:
            self._found = {}
            for code, things in self._defs.things.items():
                for other, thing in things.items():
                    if (found := NOUNS[code].calling.address(thing)) is not None:
                        self._found.setdefault(found, []).append((code, other))
        others = [id for id in self._found.get(address, ()) if id != (noun, key)]
        return self._defs.things[others[0][0]][others[0][1]] if others else None


def check(
    work: Work,
    before: Definitions,
    after: Definitions,
    noun: Noun,
    key: str,
    old: Any,
    thing: Any,
    addresses: Addresses,
) -> None:
    """Whether a definition may be written so: by itself, and by what products hold. Raises Refusal."""
    if old is None and noun.calling.key_of(thing) != key:
        raise Refusal("key", "The key can't be changed", ("key",), "Make a new one")
    if old is None and key in noun.calling.kept_keys():
        words = f"The key {key} is kept for the {noun.name} that comes with Young Fabric"
        raise Refusal("key", words, ("key",), "Choose another key")
    noun.check(thing, after)
    address = noun.calling.address(thing)
    holder = addresses.holder(address, noun.code, key) if address is not None else None
    if holder is not None:
        raise Refusal("taken", f"{holder.name} has this address already", ("slug",), "Choose another")
    noun_hooks.check_stored(work, before, after, noun.code, old, thing)
