"""Layouts: regions of blocks, and which block takes which field of a product."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from young_fabric.core.nouns.product_types import EffectiveField
from young_fabric.core.pages.blocks import BLOCK_KINDS


@dataclass(frozen=True, slots=True)
class Takes:
    """What a slot takes: named fields, all fields of named sets, all of named sections (set, section), or the rest."""

    fields: tuple[str, ...] = ()
    sets: tuple[str, ...] = ()
    sections: tuple[tuple[str, str], ...] = ()
    rest: bool = False


@dataclass(frozen=True, slots=True)
class Block:
    """A block with an id; `regions` are those that one of a kind made of regions shows."""

    id: str
    kind: str
    takes: Takes = field(default_factory=Takes)
    heading: str = ""
    regions: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Region:
    """A named list of blocks."""

    id: str
    blocks: tuple[Block, ...]


@dataclass(frozen=True)
class Layout:
    """The arrangement of a surface: a flat list of regions, the first being where reading begins."""

    key: str
    name: str
    regions: tuple[Region, ...]

    def blocks(self) -> tuple[Block, ...]:
        """All blocks, in reading order of the regions."""
        return tuple(block for region in self.regions for block in region.blocks)


def _named(block: str, kind: str, *fields: str, heading: str = "") -> Block:
    return Block(block, kind, Takes(fields=fields), heading)


LAYOUTS: dict[str, Layout] = {
    layout.key: layout
    for layout in (
        Layout(
            "page",
            "Product page",
            (
                Region(
                    "main",
                    (
                        Block("top", "columns", regions=("gallery", "summary")),
                        Block("details", "fields", Takes(rest=True), "Details"),
                        _named("numbers", "fields", "sku", "gtin"),
                    ),
                ),
                Region("gallery", (_named("pictures", "pictures", "pictures"),)),
                Region(
                    "summary",
                    (
                        _named("title", "title", "title"),
                        _named("price", "price", "price", "unit_price"),
                        _named("description", "text", "description"),
                    ),
                ),
            ),
        ),
        Layout(
            "card",
            "Listing card",
            (
                Region(
                    "main",
                    (
                        _named("pictures", "pictures", "pictures"),
                        _named("title", "title", "title"),
                        _named("price", "price", "price", "unit_price"),
                        Block("facts", "fields", Takes(rest=True)),
                    ),
                ),
            ),
        ),
        Layout("data", "Structured data", (Region("main", (Block("facts", "fields", Takes(rest=True)),)),)),
    )
}
"""The layouts the core brings, by key."""


def fill_slots(layout: Layout, fields: Sequence[EffectiveField]) -> Mapping[str, tuple[str, ...]]:
    """Block id → keys of the fields it takes, in order.

    A field goes to every slot that names it, else to the first that takes its set or section, else to the
    first that takes the rest, else nowhere.
    """
    slots = [block for block in layout.blocks() if BLOCK_KINDS[block.kind].takes_fields]
    taken: dict[str, list[str]] = {block.id: [] for block in slots}
    for effective in fields:
        for block in _slots_for(slots, effective):
            taken[block.id].append(effective.field.key)
    for block in slots:
        if block.takes.fields:
            named = {key: position for position, key in enumerate(block.takes.fields)}
            taken[block.id].sort(key=lambda key: named.get(key, len(named)))
    return {block: tuple(keys) for block, keys in taken.items()}


def _slots_for(slots: Sequence[Block], effective: EffectiveField) -> Sequence[Block]:
    naming = [block for block in slots if effective.field.key in block.takes.fields]
    if naming:
        return naming
    section = (effective.set, effective.section)
    for block in slots:
        if effective.set is not None and (effective.set in block.takes.sets or section in block.takes.sections):
            return [block]
    return [block for block in slots if block.takes.rest][:1]
