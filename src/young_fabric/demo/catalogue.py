"""Saltmarsh Studio Supply, as it stands in the data files beside this one."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from importlib.resources import files
from typing import Any


@dataclass(frozen=True)
class DemoGoods:
    """One product: what is drawn (sort and colour), and its values as someone would type them."""

    type: str
    title: str
    sku: str
    price: str
    draw: tuple[str, str]
    contents: str = ""
    stock: int | None = None
    values: Mapping[str, Any] = field(default_factory=dict)


def read(name: str) -> dict[str, Any]:
    """A data file of the demo."""
    return tomllib.loads((files("young_fabric.demo") / "saltmarsh" / name).read_text("utf-8"))


@cache
def definitions() -> Mapping[str, Any]:
    """`prefix`, `lists` and `sets` by key, and `fields`, `types` and `settings` in order; keys without the prefix."""
    return read("definitions.toml")


@cache
def goods() -> tuple[DemoGoods, ...]:
    """Every product, in the order it was entered."""
    return tuple(
        _goods(type_key, {**shelf.get("common", {}), **product})
        for type_key, shelf in read("products.toml").items()
        for product in shelf["products"]
    )


def _goods(type_key: str, written: dict[str, Any]) -> DemoGoods:
    own = {name: written.pop(name) for name in ("title", "sku", "price", "contents", "stock") if name in written}
    sort, colour = written.pop("draw")
    return DemoGoods(type_key, draw=(sort, colour), values=written, **own)
