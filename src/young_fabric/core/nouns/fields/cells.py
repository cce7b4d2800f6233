"""What definitions hold that have values of their own: a cell a field, understood or not."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping
from dataclasses import replace
from typing import Any

from young_fabric.core.kinds import KINDS
from young_fabric.core.kinds.base import Items, Target, in_words
from young_fabric.core.nouns.base import Known, Reference
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


def stored_words(key: str, value: Any, defs: Known) -> str:
    """Any stored value of a field in a few words, whatever it is; those of its list by their labels."""
    definition = _field(key, defs)
    if value is None or definition is None or definition.kind not in KINDS:
        return in_words(value)
    rules, target = definition.rules, definition.rules.chosen(definition.options)
    choices = defs.choices(target) if definition.targets and target is not None else None
    items = value if isinstance(value, list) else [value]
    if choices is not None:
        return ", ".join(choices.label(item) if isinstance(item, str) else in_words(item) for item in items)
    return (rules.words_of(value) or "nothing") if isinstance(value, list) else rules.words(value)


def _field(key: str, defs: Known) -> Field | None:
    """A field of whatever is there, built-in ones of products too."""
    return defs.all_fields.get(key) or defs.fields.get(key)


def cells_changed(before: Mapping[str, Any], after: Mapping[str, Any], defs: Known) -> list[str]:
    """Which fields hold something else, and what they held and hold, in words."""
    return [
        f"{found.name if (found := _field(key, defs)) else key} "
        f"{_cell_words(key, before.get(key), defs)} → {_cell_words(key, after.get(key), defs)}"
        for key in sorted({*before, *after})
        if before.get(key) != after.get(key)
    ]


def _cell_words(key: str, cell: Any, defs: Known) -> str:
    """What a cell holds, in words; never raises, whatever was stored."""
    if not isinstance(cell, list | tuple) or len(cell) != 2:
        return in_words(cell)
    return stored_words(key, cell[1], defs) if cell[0] == "value" else f"{in_words(cell[1])}, not understood"
