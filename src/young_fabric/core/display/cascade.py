"""The cascade: what is set for scopes, resolved from the nearest outwards, property by property."""

from __future__ import annotations

import dataclasses
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.surfaces import PRODUCTS, RECORDS

EVERY = "*"
SHOP = "shop"


@dataclass(frozen=True)
class ScopeKind:
    """A sort of scope: the noun or subject its key names, how sentences name it when it has no name, and whose pages it
    speaks of, "" for all."""

    code: str
    noun: str | None = None
    subject: str | None = None
    words: str = ""
    of: str = PRODUCTS


SCOPES: dict[str, ScopeKind] = {
    kind.code: kind
    for kind in (
        ScopeKind(SHOP, words="the shop", of=""),
        ScopeKind("type", noun="product_type"),
        ScopeKind("collection", noun="collection"),
        ScopeKind("product", subject="product", words="this product"),
        ScopeKind("record_type", noun="record_type", of=RECORDS),
    )
}
"""For whom something can be said, from the farthest to the nearest."""


@dataclass(frozen=True, slots=True)
class Scope:
    """For whom a setting is said: the shop, or a type, collection or product by key."""

    kind: str
    key: str = ""

    def __str__(self) -> str:
        return f"{self.kind}:{self.key}" if self.key else self.kind

    @property
    def sort(self) -> ScopeKind:
        """What sort of scope it is."""
        return SCOPES[self.kind]


def read_scope(text: str) -> Scope:
    """`shop`, `type:KEY`, `collection:KEY`, `product:ID` or `record_type:KEY` as a scope. Raises Refusal `scope`."""
    kind, _, key = text.partition(":")
    found = SCOPES.get(kind)
    keyed = found is not None and (found.noun is not None or found.subject is not None)
    if found is None or bool(key) != keyed or (found.subject is not None and not (key.isascii() and key.isdecimal())):
        help_ = "Write shop, type:KEY, collection:KEY, product:ID or record_type:KEY"
        raise Refusal("scope", f"“{text[:80]}” is not a scope", ("scope",), help_)
    return Scope(kind, key)


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
    """Whom the cascade is asked for: a product, its collections in order, its type and the type's parents; or records of a
    type."""

    product: str | None = None
    collections: tuple[str, ...] = ()
    types: tuple[str, ...] = ()
    record_type: str | None = None

    def scopes(self) -> tuple[Scope, ...]:
        """The scopes from nearest to farthest."""
        return (
            *([Scope("product", self.product)] if self.product is not None else []),
            *(Scope("collection", key) for key in self.collections),
            *(Scope("type", key) for key in self.types),
            *([Scope("record_type", self.record_type)] if self.record_type is not None else []),
            Scope(SHOP),
        )


class Cascade:
    """Settings indexed once, asked for many fields and surfaces."""

    def __init__(self, settings: Iterable[DisplaySetting]) -> None:
        self._found: dict[tuple[str, str, str], Mapping[str, Any]] = {}
        for setting in settings:
            cell = (str(setting.scope), setting.field, setting.surface)
            self._found[cell] = {**self._found.get(cell, {}), **setting.set}
        self.fields = frozenset(field for _, field, _ in self._found)

    def resolve(self, chain: Chain, field: str, surface: str, defaults: Mapping[str, Any]) -> dict[str, Resolved]:
        """Each property of one field on one surface, taken alone from the nearest scope that sets it."""
        usual = {prop: Resolved(value, "default") for prop, value in defaults.items()}
        return {**usual, **self.said(chain, field, surface)}

    def said(self, chain: Chain, field: str, surface: str) -> dict[str, Resolved]:
        """Each property that any scope sets of one field on one surface, from the nearest that does."""
        out: dict[str, Resolved] = {}
        for scope in chain.scopes():
            origin = str(scope)
            for cell in ((field, surface), (field, EVERY), (EVERY, surface), (EVERY, EVERY)):
                for prop, value in self._found.get((origin, *cell), {}).items():
                    out.setdefault(prop, Resolved(value, origin))
        return out

    def set_here(self, scope: Scope, field: str, surface: str) -> Mapping[str, Any]:
        """What exactly this scope says of this field on this surface."""
        return self._found.get((str(scope), field, surface), {})
