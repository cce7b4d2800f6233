"""The chain from definitions to a page: a plan is compiled once, a document rendered for each product.

Rendering, why, the weave and the checks all read the steps made here.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, NamedTuple

from young_fabric.core import document
from young_fabric.core.definitions import Definitions, Product
from young_fabric.core.display import Cascade, Chain, DisplaySetting, Resolved, defaults_for
from young_fabric.core.entries import Outcome, dash_entry, entry_maker, outcome_of
from young_fabric.core.fields import DERIVED, Field
from young_fabric.core.hashes import content_hash
from young_fabric.core.kinds import Spec
from young_fabric.core.layouts import LAYOUTS, Layout, fill_slots
from young_fabric.core.product_types import EffectiveField
from young_fabric.core.steps import Step, step_applies, step_audience, step_shown, step_slot


@dataclass(frozen=True)
class EntryPlan:
    """One field on one surface, ready for any product."""

    effective: EffectiveField
    settings: Mapping[str, Resolved]
    label: str
    spec: Spec
    steps: tuple[Step, ...]
    blocks: tuple[str, ...]

    @property
    def field(self) -> Field:
        """The field."""
        return self.effective.field

    @property
    def placed(self) -> bool:
        """Whether it shows for a product that has a value."""
        return all(step.ok for step in self.steps)

    def outcome(self, product: Product) -> Outcome:
        """The value step for one product."""
        return outcome_of(self.field, self.spec, product)


class Placed(NamedTuple):
    """A field in a block: how its entry is made from a value, and the dash that stands for an empty one, if any."""

    field: str
    make: Callable[[Any], document.Entry | None]
    default: Any
    dash: document.Entry | None
    derived: bool


class BlockPlan(NamedTuple):
    """A block and the fields placed in it."""

    id: str
    kind: str
    heading: str
    entries: tuple[Placed, ...]


class ColumnsPlan(NamedTuple):
    """Regions side by side."""

    id: str
    regions: tuple[RegionPlan, ...]


class RegionPlan(NamedTuple):
    """Blocks of a region."""

    id: str
    blocks: tuple[BlockPlan | ColumnsPlan, ...]


@dataclass(frozen=True)
class Plan:
    """All that depends on definitions alone, for one type (or product) on one surface.

    `hash` is equal for plans that render every product alike; `reads` are the things it was made from.
    """

    surface: str
    type: str
    layout: Layout
    region: RegionPlan
    entries: Mapping[str, EntryPlan]
    reads: frozenset[tuple[str, str]]
    hash: str

    def render(self, product: Product) -> document.RenderDoc:
        """The document of one product. What has nothing in it vanishes with its heading."""
        region = _render_region(self.region, product) or document.Region(self.region.id, ())
        return document.RenderDoc(self.surface, product.id, region)


def compile_plan(
    defs: Definitions,
    type_key: str,
    surface: str,
    product: str | None = None,
    own_settings: tuple[DisplaySetting, ...] = (),
) -> Plan:
    """Resolve the cascade, fill the slots and bind the formats for a type, or for one product with its own settings."""
    cascade = Cascade((*defs.settings.values(), *own_settings)) if own_settings else defs.cascade
    chain = Chain(product, (), defs.chain(type_key))
    layout = LAYOUTS[surface]
    effective = defs.effective(type_key)
    slots = fill_slots(layout, effective)
    entries: dict[str, EntryPlan] = {}
    for one in effective:
        settings = cascade.resolve(chain, one.field.key, surface, defaults_for(one.field, surface))
        entries[one.field.key] = plan_entry(defs, one, settings, layout, slots, surface)
    placed = {
        block: tuple(_placed(entries[key]) for key in keys if entries[key].placed) for block, keys in slots.items()
    }
    region = _plan_region(layout, layout.regions[0].id, placed)
    return Plan(surface, type_key, layout, region, entries, _reads(defs, chain, entries), _hash(defs, region, entries))


def plan_entry(
    defs: Definitions,
    one: EffectiveField,
    settings: Mapping[str, Resolved],
    layout: Layout,
    slots: Mapping[str, tuple[str, ...]],
    surface: str,
) -> EntryPlan:
    """One field's plan, with the outcome of each step that definitions decide."""
    blocks = tuple(block for block, keys in slots.items() if one.field.key in keys)
    steps = (
        step_applies(defs, one),
        step_audience(one.field, surface),
        step_shown(defs, one.field, settings, surface),
        step_slot(layout, blocks),
    )
    label = settings["label_text"].value or one.field.label
    return EntryPlan(one, settings, label, defs.spec(one.field), steps, blocks)


def _placed(entry: EntryPlan) -> Placed:
    this, settings = entry.field, entry.settings
    make = entry_maker(this, entry.spec, entry.label, settings)
    return Placed(this.key, make, this.default, dash_entry(this, entry.label, settings), this.key in DERIVED)


def _plan_region(layout: Layout, region_id: str, placed: Mapping[str, tuple[Any, ...]]) -> RegionPlan:
    region = next(one for one in layout.regions if one.id == region_id)
    blocks: list[BlockPlan | ColumnsPlan] = []
    for block in region.blocks:
        if block.kind == "columns":
            inner = tuple(_plan_region(layout, one, placed) for one in block.regions)
            blocks.append(ColumnsPlan(block.id, inner))
        elif placed[block.id]:
            blocks.append(BlockPlan(block.id, block.kind, block.heading, placed[block.id]))
    return RegionPlan(region.id, tuple(blocks))


def _render_region(plan: RegionPlan, product: Product) -> document.Region | None:
    blocks: list[document.Block | document.Columns] = []
    values, unread = product.values, product.unread
    for block in plan.blocks:
        if isinstance(block, ColumnsPlan):
            inner = tuple(filter(None, (_render_region(one, product) for one in block.regions)))
            if inner:
                blocks.append(document.Columns(block.id, inner))
            continue
        entries = []
        some = False
        for key, make, default, dash, derived in block.entries:
            value = (values.get("price"), values.get("contents")) if derived else values.get(key, default)
            made = make(value) if value is not None and key not in unread else None
            if made is not None:
                some = True
                entries.append(made)
            elif dash is not None:
                entries.append(dash)
        if entries and (some or block.kind == "fields"):
            blocks.append(document.Block(block.id, block.kind, block.heading, tuple(entries)))
    return document.Region(plan.id, tuple(blocks)) if blocks else None


def _reads(defs: Definitions, chain: Chain, entries: Mapping[str, EntryPlan]) -> frozenset[tuple[str, str]]:
    reads: set[tuple[str, str]] = {("shop", "")}
    reads.update(("type", key) for key in chain.types)
    reads.update(("set", key) for one in chain.types for key in defs.types[one].sets)
    for key, entry in entries.items():
        reads.add(("field", key))
        if entry.field.list:
            reads.add(("list", entry.field.list))
    scopes = {str(scope) for scope in chain.scopes()}
    reads.update(("setting", key) for key, one in defs.settings.items() if str(one.scope) in scopes)
    return frozenset(reads)


def _hash(defs: Definitions, region: RegionPlan, entries: Mapping[str, EntryPlan]) -> str:
    def told(placed: Placed) -> Any:
        this, settings = entries[placed.field].field, entries[placed.field].settings
        values = defs.lists.get(this.list or "")
        choices = [(v.code, v.label) for v in values.values] if values else None
        shown = [entries[placed.field].label, *(settings[name].value for name in ("label", "empty", "devices"))]
        return [this.key, *shown, this.kind, this.many, this.unit, this.limits.given(), this.default, choices]

    def tree(one: RegionPlan) -> Any:
        return [
            one.id,
            [
                [b.id, [tree(r) for r in b.regions]]
                if isinstance(b, ColumnsPlan)
                else [b.id, b.kind, b.heading, [told(e) for e in b.entries]]
                for b in one.blocks
            ],
        ]

    shop = defs.shop
    return content_hash([shop.currency, shop.locale, tree(region)])
