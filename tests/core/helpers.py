"""Short ways to make what the core's tests are about."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds import Spec
from young_fabric.core.nouns.fields.fields import Field, judge_of
from young_fabric.core.nouns.lists.value_lists import ValueList
from young_fabric.core.subjects.values import FieldRules, Reading

NOUNS = {
    "fields": "field",
    "lists": "value_list",
    "sets": "field_set",
    "types": "product_type",
    "collections": "collection",
}


def limits(**given: Any) -> dict[str, Any]:
    """Limits as a field holds them."""
    return given


def field(*members: Any, unit: str | None = None, list: str | None = None, **more: Any) -> Field:
    """A field with its options by name."""
    options = {name: value for name, value in (("unit", unit), ("list", list)) if value is not None}
    return Field(*members, options=options, **more)


def spec_with(
    limits: Mapping[str, Any] | None = None,
    unit: str | None = None,
    values: ValueList | None = None,
    locale: str = "en",
    currency: str = "EUR",
) -> Spec:
    """All a kind must know."""
    return Spec(limits or {}, {"unit": unit} if unit else {}, values, locale, currency)


def defs_of(
    shop: Shop | None = None, settings: Mapping[str, Any] | None = None, **things: Mapping[str, Any]
) -> Definitions:
    """Definitions from fields, lists, sets and types by key."""
    named = {NOUNS[name]: rows for name, rows in things.items()}
    return Definitions(shop or Shop(), {**named, "display_setting": settings or {}})


def judge(definition: Field, value: Any, spec: Spec) -> Any:
    """What is wrong with a value."""
    return judge_of(definition, spec)(value)


def read_field(definition: Field, typed: Any, spec: Spec) -> Reading:
    """What became of something typed."""
    return FieldRules(definition, spec).read(typed)


def show_value(definition: Field, value: Any, spec: Spec) -> str:
    """A value as shoppers read it."""
    return FieldRules(definition, spec).text(value)


def typed_value(definition: Field, value: Any, spec: Spec) -> Any:
    """A value as one would type it."""
    return FieldRules(definition, spec).typed(value)
