"""The kinds of block a layout is made of: a registry. Each has a partial of its own name in the shop's templates."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

from young_fabric.core.pages import document
from young_fabric.core.subjects.products import Product


class PlacedField(NamedTuple):
    """A field in a block: how its entry is made from a value, what stands for an empty one, and what it is computed from."""

    field: str
    make: Callable[[Any], document.Entry | None]
    default: Any
    stand_in: document.Entry | None
    reads: tuple[str, ...]


class BlockPlan(NamedTuple):
    """A block ready for any product: the fields placed in it, or the regions it shows."""

    id: str
    kind: str
    heading: str
    render: Callable[[BlockPlan, Product], document.Block | document.Columns | None]
    entries: tuple[PlacedField, ...] = ()
    regions: tuple[RegionPlan, ...] = ()


class RegionPlan(NamedTuple):
    """Blocks of a region."""

    id: str
    blocks: tuple[BlockPlan, ...]


@dataclass(frozen=True)
class BlockKind:
    """A kind of block. `render` gives what it shows of a product, None when there is nothing; `takes_fields` ones are slots."""

    code: str
    name: str
    render: Callable[[BlockPlan, Product], document.Block | document.Columns | None]
    takes_fields: bool = True


def render_region(plan: RegionPlan, product: Product) -> document.Region | None:
    """What a region shows of a product, None when there is nothing."""
    blocks = []
    for block in plan.blocks:
        made = block.render(block, product)
        if made is not None:
            blocks.append(made)
    return document.Region(plan.id, tuple(blocks)) if blocks else None


def _entries(fields: Sequence[PlacedField], product: Product) -> tuple[list[document.Entry], bool]:
    """The entries of a block, and whether any of them has a value."""
    values, unread = product.values, product.unread
    entries, filled = [], False
    for key, make, default, stand_in, reads in fields:
        made = None
        if reads:
            inputs = tuple(None if name in unread else values.get(name) for name in reads)
            made = None if None in inputs else make(inputs)
        elif key not in unread:
            value = values.get(key, default)
            made = None if value is None else make(value)
        if made is not None:
            filled = True
            entries.append(made)
        elif stand_in is not None:
            entries.append(stand_in)
    return entries, filled


def render_slot(plan: BlockPlan, product: Product) -> document.Block | None:
    """A block of fields: it stands when one has a value, or something stands for one."""
    entries, _ = _entries(plan.entries, product)
    return document.Block(plan.id, plan.kind, plan.heading, tuple(entries)) if entries else None


def render_filled_slot(plan: BlockPlan, product: Product) -> document.Block | None:
    """A block of fields that stands only when one of them has a value."""
    entries, filled = _entries(plan.entries, product)
    return document.Block(plan.id, plan.kind, plan.heading, tuple(entries)) if filled else None


def render_columns(plan: BlockPlan, product: Product) -> document.Columns | None:
    """Regions side by side; those with nothing in them fall away."""
    inner = tuple(filter(None, (render_region(region, product) for region in plan.regions)))
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
