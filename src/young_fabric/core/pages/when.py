"""Conditions under which something shows on the page of a product."""

from __future__ import annotations

from collections.abc import Callable, Container, Mapping
from typing import Any, NamedTuple

from young_fabric.core.base.conditions import check_condition, holds, tests_of
from young_fabric.core.base.errors import Refusal
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.layouts import Block
from young_fabric.core.nouns.fields.conditions import TYPE, comparisons

Values = Mapping[str, Any]
NEVER: Mapping[str, Any] = {"any": []}


class When(NamedTuple):
    """A condition bound to the products of a type: what it asks, of values alone; `mark` tells apart what decides it."""

    tree: Mapping[str, Any]
    holds: Callable[[Values], bool]
    mark: Any


def bind_condition(defs: Definitions, tree: Any, type_key: str, known: Container[str]) -> When | None:
    """A condition for products of a type that have some fields, None for one that always holds. A field that a product
    does not have is empty; a condition that can't be asked any more holds for none."""
    if not tree:
        return None
    kinds = comparisons(defs)
    try:
        check_condition(tree, kinds)
    except Refusal:
        tree = NEVER
    asked = sorted({test["field"] for test in tests_of(tree)})
    of_type = {TYPE: list(defs.chain(type_key))} if TYPE in asked else {}
    fields = tuple(key for key in asked if key != TYPE and key in known)

    def check(values: Values) -> bool:
        return holds(tree, {**of_type, **{key: values.get(key) for key in fields}}, kinds)

    return When(tree, check, [tree, of_type, [[key, kinds[key]] for key in fields]])


class Holding(NamedTuple):
    """A block with those it stands in, outermost first and itself last, and the condition of each, None for one without."""

    chain: tuple[Block, ...]
    conditions: tuple[When | None, ...]

    @property
    def hidden(self) -> Block | None:
        """The first of them that is hidden."""
        return next((block for block in self.chain if block.said.get("hidden") is True), None)

    def shows(self, values: Values) -> bool:
        """Whether none of them is hidden and all their conditions hold."""
        return self.hidden is None and all(when is None or when.holds(values) for when in self.conditions)
