"""All definitions of a shop at one moment, as the chain from definitions to a page reads them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from young_fabric.core.display import Cascade, DisplaySetting
from young_fabric.core.field_sets import FieldSet
from young_fabric.core.fields import BUILT_IN, Field, spec_of
from young_fabric.core.kinds import Spec
from young_fabric.core.product_types import EffectiveField, ProductType, ancestry, effective_fields
from young_fabric.core.value_lists import ValueList


@dataclass(frozen=True, slots=True)
class Shop:
    """What holds for the whole shop: its name, the prefix of its own keys, its currency (ISO 4217) and locale."""

    name: str = "Shop"
    prefix: str = ""
    currency: str = "EUR"
    locale: str = "en"


@dataclass(frozen=True, slots=True)
class Product:
    """A product: values by field key, built-in ones too, canonical; `unread` is typed text not understood.

    `offered` ones are in the shop; `stock` None means not counted.
    """

    id: int
    type: str
    values: Mapping[str, Any]
    unread: Mapping[str, Any] = field(default_factory=dict)
    offered: bool = True
    stock: int | None = None

    @property
    def title(self) -> str:
        """Its title, or what stands for it."""
        return str(self.values.get("title") or "Untitled")


@dataclass(frozen=True)
class Definitions:
    """Fields (own ones), value lists, sets, types and display settings, each by key, and the shop."""

    shop: Shop
    fields: Mapping[str, Field] = field(default_factory=dict)
    lists: Mapping[str, ValueList] = field(default_factory=dict)
    sets: Mapping[str, FieldSet] = field(default_factory=dict)
    types: Mapping[str, ProductType] = field(default_factory=dict)
    settings: Mapping[str, DisplaySetting] = field(default_factory=dict)

    @cached_property
    def all_fields(self) -> Mapping[str, Field]:
        """Built-in and own fields."""
        return {**BUILT_IN, **self.fields}

    @cached_property
    def cascade(self) -> Cascade:
        """The settings, indexed."""
        return Cascade(self.settings.values())

    @cached_property
    def _effective(self) -> dict[str, tuple[EffectiveField, ...]]:
        return {}

    def effective(self, type_key: str) -> tuple[EffectiveField, ...]:
        """The fields of a type, worked out once."""
        if type_key not in self._effective:
            self._effective[type_key] = effective_fields(type_key, self.types, self.sets, self.fields)
        return self._effective[type_key]

    def spec(self, this: Field) -> Spec:
        """All a field's kind must know."""
        return spec_of(this, self.lists, self.shop.locale, self.shop.currency)

    def chain(self, type_key: str) -> tuple[str, ...]:
        """A type and its ancestors, nearest first."""
        return ancestry(type_key, self.types)

    def having(self, noun: str, key: str, thing: Any | None) -> Definitions:
        """The same with one thing put in, or taken out when None."""
        member = _MEMBERS[noun]
        things = dict(getattr(self, member))
        if thing is None:
            things.pop(key, None)
        else:
            things[key] = thing
        changed: dict[str, Any] = {member: things}
        return replace(self, **changed)


_MEMBERS = {"field": "fields", "list": "lists", "set": "sets", "type": "types", "setting": "settings"}


def setting_key(setting: DisplaySetting) -> str:
    """The key a setting goes by: scope, field and surface."""
    return f"{setting.scope}/{setting.field}/{setting.surface}"
