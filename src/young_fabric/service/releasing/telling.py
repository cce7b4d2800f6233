"""Changes of what is released, told in words: what each thing is called, under which heading, and what of it is otherwise."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import upgraded
from young_fabric.core.nouns.registry import NOUNS, describe
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED, describe_offered
from young_fabric.store.states import thing_of

GROUPS = tuple(dict.fromkeys([*(noun.group for noun in reversed(NOUNS.values())), PRODUCT.group]))
"""Headings, in the order they are told."""


def group_of(noun: str) -> str:
    """The heading that changes of a noun stand under."""
    return NOUNS[noun].group if noun in NOUNS else PRODUCT.group


def read_state(noun: str, stored: tuple[int, dict[str, Any]] | None) -> Any:
    """A frozen state (format, members) as it is written now; None where there is none."""
    if stored is None or noun not in NOUNS:
        return stored[1] if stored else None
    return upgraded(NOUNS[noun], stored[1], stored[0])


def thing_words(
    noun: str, key: str, before: Any, after: Any, defs: Definitions, titles: Mapping[int, str]
) -> tuple[str, list[str]]:
    if noun == PRODUCT.code:
        product = PRODUCT.thing_of(int(key), after or before)
        return product.title, PRODUCT.describe(before, after, defs)
    if noun == OFFERED:
        return titles.get(int(key), "A product"), describe_offered(before, after, defs)
    thing = thing_of(noun, after or before)
    return NOUNS[noun].calling.name_of(key, thing, defs), describe(NOUNS[noun], before, after, defs)
