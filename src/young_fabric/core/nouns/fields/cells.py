"""What definitions hold that have values of their own: a cell a field, understood or not."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping
from dataclasses import replace
from typing import Any

from young_fabric.core.kinds.base import Items, Target
from young_fabric.core.nouns.base import Reference
from young_fabric.core.nouns.fields.fields import Field

Cell = tuple[str, Any]
"""("value", canonical) or ("typed", what was not understood)."""


def refers_of_cells(filled: Mapping[str, Cell], built_in: Container[str]) -> Iterable[Reference]:
    """The own fields that cells are of: what falls away with a field."""
    return (Reference("field", key, "filled", loose=True) for key in filled if key not in built_in)


def without_cell(thing: Any, reference: Reference) -> Any:
    """A thing without what it holds for a field."""
    return replace(thing, filled={key: cell for key, cell in thing.filled.items() if key != reference.key})


def cells_with_items(
    filled: Mapping[str, Cell], known: Mapping[str, Field], target: Target, items: Items
) -> dict[str, Cell]:
    """Cells with other items in place of some of a definition."""
    return {
        key: (sort, known[key].with_items(value, target, items)) if sort == "value" and key in known else (sort, value)
        for key, (sort, value) in filled.items()
    }


def cells_changed(before: Mapping[str, Any], after: Mapping[str, Any], known: Mapping[str, Field]) -> list[str]:
    """Which fields hold something else, in words."""
    return [
        f"{known[key].name if key in known else key} changed"
        for key in sorted({*before, *after})
        if before.get(key) != after.get(key)
    ]
