"""The chain from definitions to a page: a plan is compiled once, a document rendered for each product.

Rendering, why, the weave and the checks all read the steps made here.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.display.cascade import Cascade, DisplaySetting, Resolved
from young_fabric.core.display.properties import defaults_for
from young_fabric.core.display.surfaces import SURFACES, Surface
from young_fabric.core.nouns.definitions import Definitions, Group, Shop
from young_fabric.core.nouns.fields import Field
from young_fabric.core.nouns.product_types import EffectiveField
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.pages import document
from young_fabric.core.pages.blocks import BLOCK_KINDS, BlockPlan, PlacedField, RegionPlan, render_region
from young_fabric.core.pages.entries import EntryBudget, entry_maker, stand_in
from young_fabric.core.pages.layouts import LAYOUTS, Layout, fill_slots
from young_fabric.core.pages.steps import Step, step_applies, step_audience, step_shown, step_slot
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules, Outcome


@dataclass(frozen=True)
class EntryPlan:
    """One field on one surface, ready for any product."""

    effective: EffectiveField
    settings: Mapping[str, Resolved]
    label: str
    rules: FieldRules
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
        return self.rules.outcome(product)


@dataclass(frozen=True)
class Reads:
    """What a plan was made from: marks of definitions by (noun, key), keys of settings by scope, sets limited to its
    collections, and the shop."""

    marks: Mapping[tuple[str, str], str]
    scopes: Mapping[str, tuple[str, ...]]
    limited: Mapping[str, tuple[str, ...]]
    shop: Shop

    def hold(self, defs: Definitions) -> bool:
        """Whether nothing of it is different in some definitions."""
        return (
            self.shop == defs.shop
            and all(defs.settings_by_scope.get(scope, ()) == keys for scope, keys in self.scopes.items())
            and all(defs.limited_sets.get(key, ()) == sets for key, sets in self.limited.items())
            and all(defs.mark(*thing) == mark for thing, mark in self.marks.items())
        )


@dataclass(frozen=True)
class Plan:
    """All that depends on definitions alone, for products of a group on one surface.

    `hash` is equal for plans that render every product alike.
    """

    surface: Surface
    group: Group
    layout: Layout
    region: RegionPlan
    entries: Mapping[str, EntryPlan]
    reads: Reads
    hash: str
    defaults: Mapping[str, Any]
    computed: Mapping[str, tuple[str, ...]]

    def values(self, product: Product) -> Mapping[str, Any]:
        """What pages read of a product: its values, defaults where it has none, and of a computed field what it is computed from."""
        if not (self.defaults or self.computed or product.unread):
            return product.values
        given, unread = product.values, product.unread
        values = {**self.defaults, **given}
        for key in unread:
            values.pop(key, None)
        for key, reads in self.computed.items():
            inputs = tuple([None if name in unread else given.get(name) for name in reads])
            values[key] = None if None in inputs else inputs
        return values

    def render(self, product: Product) -> document.RenderDoc:
        """The document of one product. What has nothing in it vanishes with its heading."""
        region = render_region(self.region, self.values(product)) or document.Region(self.region.id, ())
        return document.RenderDoc(self.surface.code, product.id, region)


def compile_plan(
    defs: Definitions,
    group: Group,
    surface_code: str,
    own_settings: Sequence[DisplaySetting] = (),
    budget: EntryBudget | None = None,
    reads: Reads | None = None,
) -> Plan:
    """Resolve the cascade, fill the slots and bind the formats for a group, or for one product with its own settings.

    `reads` is what it is made from, where that is known from another surface.
    """
    surface = SURFACES[surface_code]
    cascade = Cascade((*defs.settings.values(), *own_settings)) if own_settings else defs.cascade
    chain = defs.cascade_chain(group)
    layout = LAYOUTS[surface.layout]
    applicable = defs.applicable(group)
    slots = fill_slots(layout, applicable)
    entries: dict[str, EntryPlan] = {}
    for effective in applicable:
        settings = cascade.resolve(chain, effective.field.key, surface.code, defaults_for(effective.field, surface))
        entries[effective.field.key] = plan_entry(defs, effective, settings, layout, slots, surface)
    placed = {
        block: tuple(_place(entries[key], surface, budget) for key in keys if entries[key].placed)
        for block, keys in slots.items()
    }
    region = _plan_region(layout, layout.regions[0].id, placed)
    return Plan(
        surface,
        group,
        layout,
        region,
        entries,
        reads or reads_of(defs, group),
        _hash(defs, surface, region, entries),
        {key: entry.field.default for key, entry in entries.items() if entry.field.default is not None},
        {key: entry.rules.derived.reads for key, entry in entries.items() if entry.rules.derived is not None},
    )


def plan_entry(
    defs: Definitions,
    effective: EffectiveField,
    settings: Mapping[str, Resolved],
    layout: Layout,
    slots: Mapping[str, tuple[str, ...]],
    surface: Surface,
) -> EntryPlan:
    """One field's plan, with the outcome of each step that definitions decide."""
    blocks = tuple(block for block, keys in slots.items() if effective.field.key in keys)
    steps = (
        step_applies(defs, effective),
        step_audience(effective.field, surface),
        step_shown(defs, effective.field, settings, surface),
        step_slot(layout, blocks),
    )
    label = settings["label_text"].value or effective.field.label
    rules = FieldRules(effective.field, defs.spec(effective.field))
    return EntryPlan(effective, settings, label, rules, steps, blocks)


def _place(entry: EntryPlan, surface: Surface, budget: EntryBudget | None) -> PlacedField:
    rules, label, settings = entry.rules, entry.label, entry.settings
    instead = stand_in(rules, label, settings, surface)
    maker = entry_maker(rules, label, settings, budget)
    return PlacedField(entry.field.key, maker.make, maker.known, instead)


def _plan_region(layout: Layout, region_id: str, placed: Mapping[str, tuple[PlacedField, ...]]) -> RegionPlan:
    region = next(region for region in layout.regions if region.id == region_id)
    blocks: list[BlockPlan] = []
    for block in region.blocks:
        kind = BLOCK_KINDS[block.kind]
        if not kind.takes_fields:
            inner = tuple(_plan_region(layout, name, placed) for name in block.regions)
            blocks.append(BlockPlan(block.id, kind.code, block.heading, kind.render, regions=inner))
        elif placed[block.id]:
            blocks.append(BlockPlan(block.id, kind.code, block.heading, kind.render, placed[block.id]))
    return RegionPlan(region.id, tuple(blocks))


def reads_of(defs: Definitions, group: Group) -> Reads:
    """All that pages of a group are made from, as definitions have it."""
    return Reads(
        {thing: defs.mark(*thing) for thing in things_read(defs, group)},
        {scope: defs.settings_by_scope.get(scope, ()) for scope in map(str, defs.cascade_chain(group).scopes())},
        {key: defs.limited_sets.get(key, ()) for key in group.collections},
        defs.shop,
    )


def things_read(defs: Definitions, group: Group) -> frozenset[tuple[str, str]]:
    """(noun, key) of all definitions that pages of a group are made from: its types, all they refer to, its settings."""
    chain = defs.cascade_chain(group)
    found: set[tuple[str, str]] = set()
    waiting = [("product_type", key) for key in chain.types] + [("collection", key) for key in group.collections]
    waiting += [("field_set", key) for collection in group.collections for key in defs.limited_sets.get(collection, ())]
    waiting += [
        ("display_setting", key) for scope in chain.scopes() for key in defs.settings_by_scope.get(str(scope), ())
    ]
    while waiting:
        noun, key = waiting.pop()
        if (noun, key) in found:
            continue
        found.add((noun, key))
        thing = defs.things[noun].get(key)
        if thing is not None:
            waiting += [(ref.noun, ref.key) for ref in NOUNS[noun].refers(thing) if not (ref.loose or ref.apart)]
    return frozenset(found)


def _hash(defs: Definitions, surface: Surface, region: RegionPlan, entries: Mapping[str, EntryPlan]) -> str:
    def field_state(placed: PlacedField) -> Any:
        entry = entries[placed.field]
        properties = {code: found.value for code, found in entry.settings.items()}
        return [placed.field, defs.render_mark(entry.field), entry.field.default, entry.label, properties]

    def tree(plan: RegionPlan) -> Any:
        return [
            plan.id,
            [
                [
                    block.id,
                    block.kind,
                    block.heading,
                    list(map(field_state, block.entries)),
                    list(map(tree, block.regions)),
                ]
                for block in plan.blocks
            ],
        ]

    return content_hash([document.FORMAT, surface.code, defs.shop.currency, defs.shop.locale, tree(region)])
