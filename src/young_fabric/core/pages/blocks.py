"""The kinds of block a layout is made of: a registry. Each has a partial of its own name in the shop's templates."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

from young_fabric.core.pages import document

Values = Mapping[str, Any]
"""What pages read of a product, by field key: see `Plan.values`."""


class PlacedField(NamedTuple):
    """A field in a block: how its entry is made from a value, which texts' entries are known, and what stands for an empty one."""

    field: str
    make: Callable[[Any], document.Entry | None]
    known: Mapping[Any, document.Entry | None]
    stand_in: document.Entry | None


class BlockPlan(NamedTuple):
    """A block ready for any product: the fields placed in it, or the regions it shows."""

    id: str
    kind: str
    heading: str
    render: Callable[[BlockPlan, Values], document.Block | document.Columns | None]
    entries: tuple[PlacedField, ...] = ()
    regions: tuple[RegionPlan, ...] = ()


class RegionPlan(NamedTuple):
    """Blocks of a region."""

    id: str
    blocks: tuple[BlockPlan, ...]


@dataclass(frozen=True)
class BlockKind:
    """A kind of block. `render` gives what it shows of a product's values, None when there is nothing; `takes_fields` ones are slots."""

    code: str
    name: str
    render: Callable[[BlockPlan, Values], document.Block | document.Columns | None]
    takes_fields: bool = True


def render_region(plan: RegionPlan, values: Values) -> document.Region | None:
    """What a region shows of a product, None when there is nothing."""
    blocks = []
    for block in plan.blocks:
        made = block.render(block, values)
        if made is not None:
            blocks.append(made)
    return document.Region(plan.id, tuple(blocks)) if blocks else None


_block = tuple.__new__
"""Makes a block of its members in order, at half the time of calling it."""


def _entries(fields: Sequence[PlacedField], values: Values) -> tuple[document.Entry, ...]:
    value_of, unknown, entries = values.get, document.UNKNOWN, []
    for key, make, known, stand_in in fields:
        value = value_of(key)
        # Most values are texts met before: no call is made for them.
        if value.__class__ is str:
            entry = known.get(value, unknown)
            if entry is unknown:
                entry = make(value)
        else:
            entry = None if value is None else make(value)
        if entry is not None:
            entries.append(entry)
        elif stand_in is not None:
            entries.append(stand_in)
    return tuple(entries)


def render_slot(plan: BlockPlan, values: Values) -> document.Block | None:
    """A block of fields: it stands when one has a value, or something stands for one."""
    entries = _entries(plan.entries, values)
    return _block(document.Block, (plan.id, plan.kind, plan.heading, entries)) if entries else None


def render_filled_slot(plan: BlockPlan, values: Values) -> document.Block | None:
    """A block of fields that stands only when one of them has a value."""
    entries = _entries(plan.entries, values)
    for entry in entries:
        if entry.value is not None:
            return _block(document.Block, (plan.id, plan.kind, plan.heading, entries))
    return None


def render_columns(plan: BlockPlan, values: Values) -> document.Columns | None:
    """Regions side by side; those with nothing in them fall away."""
    inner = tuple(filter(None, (render_region(region, values) for region in plan.regions)))
    return document.Columns(plan.id, plan.kind, inner) if inner else None


BLOCK_KINDS: dict[str, BlockKind] = {
    kind.code: kind
    for kind in (
        BlockKind("title", "title", render_filled_slot),
        BlockKind("pictures", "pictures", render_filled_slot),
        BlockKind("price", "price", render_filled_slot),
        BlockKind("text", "text", render_filled_slot),
        BlockKind("fields", "fields", render_slot),
        BlockKind("columns", "columns", render_columns, takes_fields=False),
    )
}
"""Every kind of block by its code."""
