"""The fields every product has. Each says what it is to the rest: a column, computed, shown on which surfaces, in which role."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.display.surfaces import Surface
from young_fabric.core.nouns.fields.fields import Field


def usually(surface: Surface) -> bool:
    """Where fields show that say nothing of it."""
    return surface.shows_by_default


def everywhere(surface: Surface) -> bool:  # noqa: ARG001
    """On every surface."""
    return True


def priced(surface: Surface) -> bool:
    """Wherever no reckoning of its own tells the price."""
    return not surface.reckoned


def nowhere(surface: Surface) -> bool:  # noqa: ARG001
    """On no surface."""
    return False


@dataclass(frozen=True)
class BuiltInField(Field):
    """A field every product has.

    `column` ones have a column of their own, `unique` ones one value a shop; `derived` ones are computed, never filled;
    of `unlike` ones hardly two products have the same value. `shown` says which surfaces show it unless set otherwise.
    `varies` ones a variant can have of its own. `role` is what it is to pages and lists: title, address, code, cover, price and what goes with that; `schema_org` the property of a
    schema.org Product it is.
    """

    column: bool = False
    unique: bool = False
    derived: bool = False
    shown: Callable[[Surface], bool] = usually
    role: str = ""
    unlike: bool = False
    varies: bool = False

    @property
    def own(self) -> bool:
        return False

    def shown_by_default(self, surface: Surface) -> bool:
        return self.shown(surface)


def _built_in(key: str, label: str, kind: str, **more: Any) -> BuiltInField:
    return BuiltInField(key, label, label, kind, **more)


BUILT_IN: Mapping[str, BuiltInField] = {
    field.key: field
    for field in (
        _built_in(
            "title",
            "Title",
            "text",
            need="required",
            limits={"max_length": 160},
            column=True,
            unlike=True,
            shown=everywhere,
            role="title",
            schema_org="name",
        ),
        _built_in(
            "slug",
            "Address",
            "text",
            need="required",
            audience="staff",
            limits={"pattern": "[a-z0-9]+(-[a-z0-9]+)*", "max_length": 120},
            column=True,
            unique=True,
            unlike=True,
            role="address",
        ),
        _built_in(
            "sku",
            "SKU",
            "text",
            need="required",
            limits={"pattern": "[A-Z0-9._/-]+", "max_length": 64},
            column=True,
            unique=True,
            unlike=True,
            role="code",
            schema_org="sku",
            varies=True,
        ),
        _built_in("gtin", "GTIN", "gtin", audience="feeds", schema_org="gtin", varies=True),
        _built_in(
            "price", "Price", "money", need="required", shown=priced, role="price", schema_org="offers", varies=True
        ),
        _built_in(
            "former_price",
            "Former price",
            "money",
            help="What it cost before: stands struck through beside a lower price",
            shown=nowhere,
            role="former_price",
            varies=True,
        ),
        _built_in(
            "unit_cost",
            "Cost",
            "money",
            audience="staff",
            help="What one piece costs the shop",
            shown=nowhere,
            role="cost",
            varies=True,
        ),
        _built_in(
            "shipping_weight",
            "Shipping weight",
            "measure",
            options={"unit": "g"},
            help="Of one piece, packed",
            shown=nowhere,
            role="weight",
            varies=True,
        ),
        _built_in(
            "contents",
            "Contents",
            "contents",
            help="What one piece holds: the unit price comes from it",
            shown=nowhere,
            role="contents",
            varies=True,
        ),
        _built_in(
            "unit_price",
            "Unit price",
            "unit_price",
            help="Computed from price and contents",
            schema_org="priceSpecification",
            derived=True,
            shown=everywhere,
        ),
        _built_in(
            "pictures",
            "Pictures",
            "picture",
            many=True,
            need="wanted",
            limits={"max_count": 12},
            shown=everywhere,
            role="cover",
            schema_org="image",
            varies=True,
        ),
        _built_in(
            "description",
            "Description",
            "long_text",
            need="wanted",
            limits={"max_length": 5000},
            schema_org="description",
        ),
    )
}
"""Fields every product has, in their order."""

COLUMNS: Mapping[str, BuiltInField] = {key: field for key, field in BUILT_IN.items() if field.column}
"""Those with a column of their own."""

UNIQUE: tuple[str, ...] = tuple(key for key, field in BUILT_IN.items() if field.unique)
"""Those whose value one product has and no other."""

DERIVED: frozenset[str] = frozenset(key for key, field in BUILT_IN.items() if field.derived)
"""Those that are computed, never filled."""


def in_role(role: str) -> BuiltInField:
    """The built-in field that is something to pages and lists."""
    return next(field for field in BUILT_IN.values() if field.role == role)


TITLE, ADDRESS, CODE, COVER, PRICE = (in_role(role) for role in ("title", "address", "code", "cover", "price"))
FORMER_PRICE, COST, WEIGHT, CONTENTS = (in_role(role) for role in ("former_price", "cost", "weight", "contents"))
