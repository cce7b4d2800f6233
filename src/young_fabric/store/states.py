"""Core things as plain JSON states and back: what is recorded in changes and frozen in releases."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import TypeAdapter

from young_fabric.core.definitions import Definitions, Product, Shop
from young_fabric.core.display import DisplaySetting
from young_fabric.core.field_sets import FieldSet
from young_fabric.core.fields import Field
from young_fabric.core.hashes import content_hash
from young_fabric.core.product_types import ProductType
from young_fabric.core.value_lists import ValueList

ADAPTERS: Mapping[str, TypeAdapter[Any]] = {
    "list": TypeAdapter(ValueList),
    "field": TypeAdapter(Field),
    "set": TypeAdapter(FieldSet),
    "type": TypeAdapter(ProductType),
    "setting": TypeAdapter(DisplaySetting),
}
"""Definition nouns, each standing after those it refers to."""

NOUNS = (*ADAPTERS, "product")


def state_of(noun: str, thing: Any) -> dict[str, Any]:
    """A thing as JSON values."""
    if noun == "product":
        return {
            "type": thing.type,
            "values": dict(thing.values),
            "unread": dict(thing.unread),
            "offered": thing.offered,
        }
    state: dict[str, Any] = ADAPTERS[noun].dump_python(thing, mode="json")
    return state


def thing_of(noun: str, key: str, state: Mapping[str, Any]) -> Any:
    """The inverse of `state_of`. Raises pydantic.ValidationError when it does not fit."""
    if noun == "product":
        return Product(int(key), state["type"], state["values"], state["unread"], state["offered"])
    return ADAPTERS[noun].validate_python(state)


def hash_of(noun: str, thing: Any) -> str:
    """A hash of the state, equal for equal states."""
    return content_hash(state_of(noun, thing))


def definitions_of(shop: Shop, things: Mapping[str, Mapping[str, Any]]) -> Definitions:
    """Definitions from things by noun and key."""
    return Definitions(
        shop,
        things.get("field", {}),
        things.get("list", {}),
        things.get("set", {}),
        things.get("type", {}),
        things.get("setting", {}),
    )
