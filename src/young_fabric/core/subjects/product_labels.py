"""Names of the things that values refer to, put in as pages are made: no plan and no stored value holds one."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from typing import Any, NamedTuple

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.kinds.base import Items, Target
from young_fabric.core.kinds.references import ToProduct, named
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.named_choices import NamedChoices
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.products import Product

PRODUCTS: Target = (ToProduct.noun, "")
"""What values that name products are chosen of."""


class ProductLabel(NamedTuple):
    """What stands for a product that another refers to: its title, and its address, "" when it is not in the shop."""

    title: str
    address: str


class _Definitions(Mapping[Any, Any]):
    """Things of a target by key, each as it is named; what is there no more has no name."""

    def __init__(self, defs: Definitions, choices: NamedChoices) -> None:
        self._defs, self._things = defs, choices.by_code
        self._page = NOUNS[choices.noun].chosen.page

    def __getitem__(self, key: Any) -> dict[str, Any]:
        thing = self._things.get(key) if isinstance(key, str) else None
        return named(key, thing.name, self._page(thing, self._defs)) if thing is not None else named(key, "", "")

    def __iter__(self) -> Iterator[str]:
        return iter(self._things)

    def __len__(self) -> int:
        return len(self._things)


class _Products(Mapping[Any, Any]):
    """Products by number, each as it is named."""

    def __init__(self, labels: Mapping[int, ProductLabel]) -> None:
        self._labels = labels

    def __getitem__(self, key: Any) -> dict[str, Any]:
        return named(key, *self._labels.get(key, ("", "")))

    def __iter__(self) -> Iterator[int]:
        return iter(self._labels)

    def __len__(self) -> int:
        return len(self._labels)


class Names:
    """The names of all that values refer to, by some definitions and the labels of products that were asked for."""

    def __init__(self, defs: Definitions, labels: Mapping[int, ProductLabel]) -> None:
        self.defs = defs
        self._items: dict[Target, Items] = {PRODUCTS: _Products(labels)}

    def of(self, target: Target) -> Items:
        """What stands for each thing of a target."""
        if target not in self._items:
            found = things_of_target(self.defs, target)
            self._items[target] = _Products({}) if found is None else _Definitions(self.defs, found)
        return self._items[target]

    def put_in(self, field: Field, value: Any) -> Any:
        """A stored value with names in place of keys and numbers."""
        for target in field.targets:
            value = field.with_items(value, target, self.of(target))
        return value

    def of_product(self, product: Product) -> Product:
        """A product with names in its values."""
        keys = self.defs.naming.keys() & product.values.keys()
        if not keys:
            return product
        found = {key: self.put_in(self.defs.naming[key], product.values[key]) for key in keys}
        return replace(product, values={**product.values, **found})

    def called(self, field: Field, value: Any) -> Iterator[tuple[Any, str, str]]:
        """(item, name, address) of all that a stored value names."""
        for target, item in field.items(value):
            found = self.of(target)[item]
            yield item, found["name"], found["address"]


def things_of_target(defs: Definitions, target: Target) -> NamedChoices | None:
    """The definitions that values of a target name; None for products."""
    found = defs.choices(target)
    return found if isinstance(found, NamedChoices) else None


def numbers_in(fields: Iterable[tuple[Field, Any]]) -> frozenset[int]:
    """The products that stored values name."""
    return frozenset(item for field, value in fields for target, item in field.items(value) if target == PRODUCTS)


def numbers_of(defs: Definitions, found: Iterable[Product]) -> frozenset[int]:
    """The products that some products refer to."""
    naming = {key: field for key, field in defs.naming.items() if PRODUCTS in field.targets}
    if not naming:
        return frozenset()
    return numbers_in(
        (field, product.values[key]) for product in found for key, field in naming.items() if key in product.values
    )


def is_there(defs: Definitions, products: frozenset[int], target: Target, item: Any) -> bool:
    """Whether a thing that a value names is there; `products` are those asked for that are."""
    if target == PRODUCTS:
        return item in products
    found = things_of_target(defs, target)
    return found is not None and item in found.by_code
