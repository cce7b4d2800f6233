"""Products: what holds values of fields, and how their changes are told."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds.base import in_words
from young_fabric.core.nouns.base import State
from young_fabric.core.nouns.fields.built_in import CODE, COVER, TITLE
from young_fabric.core.nouns.fields.cells import stored_words


@dataclass(frozen=True, slots=True)
class Product:
    """A product: values by field key, built-in ones too, canonical; `unread` is what was typed and not understood.

    `offered` ones are in the shop; `stock` None means not counted. `collections` are all it is in, in their order,
    `option_sets` those it is offered by condition or by hand; `sold` is what pages tell of that, None where nothing can be chosen or
    it was not looked up. `gathered` is what else it is in, by noun.
    """

    id: int
    type: str
    values: Mapping[str, Any]
    unread: Mapping[str, Any] = field(default_factory=dict)
    offered: bool = True
    stock: int | None = None
    collections: tuple[str, ...] = ()
    option_sets: tuple[str, ...] = ()
    sold: Any = None
    gathered: Mapping[str, tuple[str, ...]] = field(default_factory=dict)

    @property
    def title(self) -> str:
        """Its title, or what stands for it."""
        return str(self.values.get(TITLE.key) or "Untitled")

    @property
    def sku(self) -> str:
        """Its stock keeping unit, "" when it has none."""
        return str(self.values.get(CODE.key) or "")

    @property
    def cover(self) -> str | None:
        """The stored file of its first picture."""
        pictures = self.values.get(COVER.key)
        first = pictures[0] if isinstance(pictures, list) and pictures else None
        return str(first["file"]) if isinstance(first, dict) and "file" in first else None

    def inputs(self, reads: Sequence[str]) -> tuple[Any, ...]:
        """What a computed field is computed from, None for what is not there or not understood: of a product that shows the price of one
        of its variants, what that has of its own."""
        values, unread = self.values, self.unread
        if self.sold is None or not self.sold.own:
            return tuple([None if key in unread else values.get(key) for key in reads])
        own = self.sold.own
        return tuple([own[key] if key in own else None if key in unread else values.get(key) for key in reads])

    @property
    def sold_out(self) -> bool:
        """Whether its stock is counted and there is none left."""
        return self.stock is not None and self.stock <= 0


def state_of_product(product: Product) -> dict[str, Any]:
    """What people edit of a product, as JSON values."""
    return {
        "type": product.type,
        "values": dict(product.values),
        "unread": dict(product.unread),
        "offered": product.offered,
    }


def product_of_state(product_id: int, state: State) -> Product:
    """The inverse of `state_of_product`."""
    return Product(product_id, state["type"], state["values"], state["unread"], state["offered"])


def describe_product(before: State | None, after: State | None, defs: Definitions) -> list[str]:
    """A change of a product in short lines; never raises, whatever was stored."""
    if before is None:
        return ["new"]
    if after is None:
        return ["removed"]
    out = []
    if before.get("offered") != after.get("offered"):
        out.append("put in the shop" if after.get("offered") else "kept out of the shop")
    if before.get("type") != after.get("type"):
        thing = defs.types.get(str(after.get("type")))
        out.append(f"now a {thing.name if thing else after.get('type')}")
    old, new = before.get("values") or {}, after.get("values") or {}
    for key in [*new, *[key for key in old if key not in new]]:
        if key not in old or key not in new or old[key] != new[key]:
            name = field_name(key, defs)
            out.append(f"{name} {stored_words(key, old.get(key), defs)} → {stored_words(key, new.get(key), defs)}")
    kept, typed = before.get("unread") or {}, after.get("unread") or {}
    out += [
        f"{field_name(key, defs)} {in_words(text)}, not understood"
        for key, text in typed.items()
        if kept.get(key) != text
    ]
    return out or ["no difference"]


def describe_stock(before: State | None, after: State | None, defs: Definitions) -> list[str]:  # noqa: ARG001
    """A change of counted stock."""

    def counted(state: State | None) -> str:
        amount = (state or {}).get("amount")
        return "not counted" if amount is None else str(amount)

    return [f"Stock {counted(before)} → {counted(after)}"]


def field_name(key: str, defs: Definitions) -> str:
    """What staff call a field, or its key when it is gone."""
    return defs.all_fields[key].name if key in defs.all_fields else key
