"""Slots: which block of a layout takes which field of a product."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.layouts import Arrangement, Block
from young_fabric.core.nouns.types.product_types import EffectiveField


def slots_of(layout: Arrangement) -> list[Block]:
    """The blocks of a layout that take fields, in reading order."""
    return [block for block in layout.blocks() if block.kind in BLOCK_KINDS and BLOCK_KINDS[block.kind].takes_fields]


def fill_slots(
    layout: Arrangement, fields: Sequence[EffectiveField], orders: Mapping[str, int] | None = None
) -> Mapping[str, tuple[str, ...]]:
    """Block id → keys of the fields it takes, in order.

    A field goes to every slot that names it, else to the first that takes its set or section, else to the
    first that takes the rest, else nowhere. They stand as named, else in set order, moved by `orders`.
    """
    slots = slots_of(layout)
    taken: dict[str, list[str]] = {block.id: [] for block in slots}
    for effective in fields:
        for block in _slots_for(slots, effective):
            taken[block.id].append(effective.field.key)
    moved = orders or {}
    for block in slots:
        named = {key: position for position, key in enumerate(block.takes.fields)}
        if named or moved:
            taken[block.id].sort(key=lambda key: (moved.get(key, 0), named.get(key, len(named))))
    return {block: tuple(keys) for block, keys in taken.items()}


def _slots_for(slots: Sequence[Block], effective: EffectiveField) -> Sequence[Block]:
    key, kind, section = effective.field.key, effective.field.rules, (effective.set, effective.section)
    naming = [block for block in slots if key in block.takes.fields and BLOCK_KINDS[block.kind].takes_kind(kind)]
    if naming:
        return naming
    for block in slots:
        takes = block.takes
        if effective.set is not None and (effective.set in takes.sets or section in takes.sections):
            return [block]
    return [block for block in slots if block.takes.rest][:1]
