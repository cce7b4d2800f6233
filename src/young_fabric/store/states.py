"""Core things as plain JSON states and back: what is stored, recorded in changes and frozen in releases."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from typing import Any

from pydantic import TypeAdapter

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.nouns.base import state_of, upgraded
from young_fabric.core.nouns.registry import NOUNS


@cache
def _adapter(noun: str) -> TypeAdapter[Any]:
    return TypeAdapter(NOUNS[noun].type)


def thing_of(noun: str, state: Mapping[str, Any], written: int | None = None) -> Any:
    """A thing from its state, `written` in some format (the current one unless told).

    Raises pydantic.ValidationError when it does not fit.
    """
    current = state if written is None else upgraded(NOUNS[noun], state, written)
    return _adapter(noun).validate_python(current)


def hash_of(thing: Any) -> str:
    """A hash of a thing's state, equal for equal states."""
    return content_hash(state_of(thing))
