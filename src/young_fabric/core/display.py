"""Display settings: how a field renders on a surface, said for a scope and inherited down a cascade."""

from __future__ import annotations

import dataclasses
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.errors import Refusal
from young_fabric.core.fields import Field

SURFACES: Mapping[str, str] = {
    "product_page": "product page",
    "listing_card": "listing card",
    "structured_data": "structured data",
}
"""Surfaces by code, with their names."""

LABELS = ("beside", "above", "hidden")
EMPTIES = ("omit", "dash")
DEVICES = ("phone", "tablet", "desktop")
SCOPES = ("shop", "type", "collection", "product")
EVERY = "*"


@dataclass(frozen=True, slots=True)
class Scope:
    """For whom a setting is said: the shop, or a type, collection or product by key."""

    kind: str
    key: str = ""

    def __str__(self) -> str:
        return "shop" if self.kind == "shop" else f"{self.kind}:{self.key}"


@dataclass(frozen=True)
class DisplaySetting:
    """Properties set for a scope, a field or `*`, and a surface or `*`."""

    scope: Scope
    field: str = EVERY
    surface: str = EVERY
    set: Mapping[str, Any] = dataclasses.field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Resolved:
    """A property's value and where it came from: `kind:key`, `shop` or `default`."""

    value: Any
    origin: str


@dataclass(frozen=True, slots=True)
class Chain:
    """Whom the cascade is asked for: a product, its collections in order, its type and the type's parents."""

    product: str | None = None
    collections: tuple[str, ...] = ()
    types: tuple[str, ...] = ()

    def scopes(self) -> tuple[Scope, ...]:
        """The scopes from nearest to farthest."""
        return (
            *([Scope("product", self.product)] if self.product is not None else []),
            *(Scope("collection", key) for key in self.collections),
            *(Scope("type", key) for key in self.types),
            Scope("shop"),
        )


class Cascade:
    """Settings indexed once, asked for many fields and surfaces."""

    def __init__(self, settings: Iterable[DisplaySetting]) -> None:
        self._found: dict[tuple[str, str, str], Mapping[str, Any]] = {}
        for one in settings:
            place = (str(one.scope), one.field, one.surface)
            self._found[place] = {**self._found.get(place, {}), **one.set}

    def resolve(self, chain: Chain, name: str, surface: str, defaults: Mapping[str, Any]) -> dict[str, Resolved]:
        """Each property of one field on one surface, taken alone from the nearest scope that sets it."""
        out: dict[str, Resolved] = {}
        for scope in chain.scopes():
            origin = str(scope)
            for place in ((name, surface), (name, EVERY), (EVERY, surface), (EVERY, EVERY)):
                for prop, value in self._found.get((origin, *place), {}).items():
                    out.setdefault(prop, Resolved(value, origin))
        for prop, value in defaults.items():
            out.setdefault(prop, Resolved(value, "default"))
        return out

    def set_here(self, scope: Scope, name: str, surface: str) -> Mapping[str, Any]:
        """What exactly this scope says of this field on this surface."""
        return self._found.get((str(scope), name, surface), {})


_ON_CARD = frozenset({"title", "pictures", "price", "unit_price"})
_OFF_PAGE = frozenset({"contents"})


def defaults_for(this: Field, surface: str) -> Mapping[str, Any]:
    """What holds where nothing is set: shown on the product page and in structured data; on cards the bare needed."""
    shown = surface != "listing_card" and this.key not in _OFF_PAGE
    if surface == "listing_card":
        shown = this.key in _ON_CARD
    return {"shown": shown, "label": this.sort.label, "label_text": "", "empty": "omit", "devices": DEVICES}


_ALLOWED: Mapping[str, Sequence[Any]] = {"shown": (True, False), "label": LABELS, "empty": EMPTIES}


def check_setting(this: DisplaySetting, fields: Mapping[str, Field]) -> None:
    """Raises Refusal: `unknown_field`, `unknown_surface`, `unknown_property`, `unknown`, `long`."""
    if this.field != EVERY and this.field not in fields:
        raise Refusal("unknown_field", f"There is no field {this.field}", ("field",), "Choose another")
    if this.surface != EVERY and this.surface not in SURFACES:
        raise Refusal("unknown_surface", f"There is no surface {this.surface}", ("surface",), "Choose another")
    for prop, value in this.set.items():
        if prop in _ALLOWED:
            sound = any(value is one or (isinstance(value, str) and value == one) for one in _ALLOWED[prop])
        elif prop == "label_text":
            sound = isinstance(value, str) and len(value) <= 120
        elif prop == "devices":
            sound = isinstance(value, list | tuple) and bool(value) and all(one in DEVICES for one in value)
        else:
            raise Refusal("unknown_property", f"There is no property {prop}", ("set", prop), "Take it away")
        if not sound:
            raise Refusal("unknown", "Not one of the choices", ("set", prop), "Choose one of those offered")
