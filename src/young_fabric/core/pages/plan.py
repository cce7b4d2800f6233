"""The chain from definitions to a page: a plan is compiled once, a document rendered for each product.

Rendering, why, the weave and the checks all read the steps made here.
"""

from __future__ import annotations

from collections.abc import Collection, Hashable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.cascade import EVERY, Cascade, Chain, DisplaySetting, Resolved
from young_fabric.core.display.layouts import Arrangement
from young_fabric.core.display.listing_properties import FanOut, rule_for
from young_fabric.core.display.properties import LAYOUT, PROPERTIES, resolved_defaults, writes_as_usual
from young_fabric.core.display.property import FieldSaid
from young_fabric.core.display.surfaces import SURFACES, Surface
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.layouts.layouts import LAYOUTS
from young_fabric.core.nouns.options.said_options import SaidOption, is_option_key
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.nouns.types.product_types import EffectiveField
from young_fabric.core.pages import document
from young_fabric.core.pages.arranging import Arranging
from young_fabric.core.pages.bare_texts import Bare
from young_fabric.core.pages.blocks import BlockPlan, PlacedField, RegionPlan, render_region
from young_fabric.core.pages.chooser import SOLD
from young_fabric.core.pages.entries import EntryBudget, entry_maker, stand_in
from young_fabric.core.pages.entry_plan import EntryPlan
from young_fabric.core.pages.slots import fill_slots
from young_fabric.core.pages.steps import step_applies, step_audience, step_shown, step_slot
from young_fabric.core.pages.when import Holding, bind_condition
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.values import FieldRules


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

    `hash` is equal for plans that render every product alike; `holding` are blocks by id, each with those it stands in and
    the conditions of all of them; `said` are the fields whose values stand in words of the layout; `fans` are how many cards a product has, on the
    listings of the collections that say it, by key, and on all others, "".
    """

    surface: Surface
    group: Group
    layout: Arrangement
    chosen: Resolved
    region: RegionPlan
    entries: Mapping[str, EntryPlan]
    reads: Reads
    hash: str
    defaults: Mapping[str, Any]
    computed: Mapping[str, tuple[str, ...]]
    holding: Mapping[str, Holding]
    said: frozenset[str] = frozenset()
    fans: Mapping[str, FanOut] = field(default_factory=dict)

    def values(self, product: Product) -> Mapping[str, Any]:
        """What pages read of a product: its values, defaults where it has none, of a computed field what it is computed from, and what
        can be chosen of it."""
        if not (self.defaults or self.computed or product.unread or product.sold):
            return product.values
        given, unread = product.values, product.unread
        values = {**self.defaults, **given}
        for key in unread:
            values.pop(key, None)
        for key, reads in self.computed.items():
            inputs = product.inputs(reads)
            values[key] = None if None in inputs else inputs
        if product.sold is not None:
            values[SOLD] = product.sold
        return values

    def render(self, product: Product) -> document.RenderDoc:
        """The document of one product. What has nothing in it vanishes with its heading."""
        region = render_region(self.region, self.values(product)) or document.ShownRegion(self.region.id, ())
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
    chosen = layout_in_force(cascade, chain, surface)
    layout = defs.arrangement(chosen.value, surface)
    applicable = defs.applicable(group)
    settings = {
        effective.field.key: settings_of(defs, cascade, chain, effective.field, surface) for effective in applicable
    }
    orders = {key: found["order"].value for key, found in settings.items() if found["order"].value}
    slots = fill_slots(layout, applicable, orders)
    entries = {
        effective.field.key: plan_entry(
            defs, effective, settings[effective.field.key], layout, chosen, slots, surface, group
        )
        for effective in applicable
    }
    placed = {
        block: tuple(_place(defs, entries[key], surface, budget) for key in keys if entries[key].placed)
        for block, keys in slots.items()
    }
    asked = OptionSettings(defs, cascade, chain, surface)
    arranging = Arranging(defs, group, layout, placed, entries, surface, budget, asked)
    region = arranging.plan()
    fans = _fans(cascade, chain, surface)
    return Plan(
        surface,
        group,
        layout,
        chosen,
        region,
        entries,
        reads or reads_of(defs, group),
        _hash(defs, surface, region, entries, arranging.said, fans),
        {key: entry.field.default for key, entry in entries.items() if entry.field.default is not None},
        {key: entry.rules.derived.reads for key, entry in entries.items() if entry.rules.derived is not None},
        arranging.holding,
        frozenset(arranging.said),
        fans,
    )


ONE_CARD = FanOut()


def _fans(cascade: Cascade, chain: Chain, surface: Surface) -> dict[str, FanOut]:
    """How many cards products have, where any scope says so."""
    if not surface.listed:
        return {}
    found = {key: rule_for(cascade, chain.product, key) for key in chain.collections}
    others = rule_for(cascade, chain.product, None)
    otherwise = {key: rule for key, rule in found.items() if rule != others}
    return {"": others, **otherwise} if otherwise or others != ONE_CARD else {}


def layout_in_force(cascade: Cascade, chain: Chain, surface: Surface) -> Resolved:
    """The key of the layout of a surface, and who chose it: the nearest scope that has one, else the surface's own."""
    found = cascade.said(chain, EVERY, surface.code).get(LAYOUT.code)
    return found if found is not None else Resolved(surface.layout, "default")


def settings_of(
    defs: Definitions, cascade: Cascade, chain: Chain, field: FieldSaid, surface: Surface
) -> dict[str, Resolved]:
    """All that holds for a field or an option on a surface: what is set where it means something there, and what holds by
    default. Where facts stand those show that the layout in force names."""
    out = resolved_defaults(field, surface)
    if surface.factual:
        layout = defs.arrangement(layout_in_force(cascade, chain, surface).value, surface)
        if any(field.key in block.takes.fields for block in layout.blocks()):
            out["shown"] = Resolved(True, f"{LAYOUTS}:{layout.key}")
    for code, found in cascade.said(chain, field.key, surface.code).items():
        prop = PROPERTIES.get(code)
        if prop is not None and not prop.whole and prop.means(field, surface):
            out[code] = found
    return out


class OptionSettings:
    """How options show on a surface for products of a group, each worked out when first asked for."""

    def __init__(self, defs: Definitions, cascade: Cascade, chain: Chain, surface: Surface) -> None:
        self._asked = (defs, cascade, chain)
        self.surface = surface
        self._found: dict[str, Mapping[str, Any]] = {}

    def of(self, said: SaidOption) -> Mapping[str, Any]:
        """All that holds for an option, by property."""
        found = self._found.get(said.key)
        if found is None:
            settings = settings_of(*self._asked, said, self.surface)
            found = self._found[said.key] = {code: resolved.value for code, resolved in settings.items()}
        return found

    @property
    def mark(self) -> Any:
        """What tells apart how options show: all that is set for every one, and for single ones."""
        _, cascade, chain = self._asked
        keys = (EVERY, *sorted(key for key in cascade.fields if is_option_key(key)))
        said = [
            [key, {code: found.value for code, found in cascade.said(chain, key, self.surface.code).items()}]
            for key in keys
        ]
        return [row for row in said if row[1]]


def plan_entry(
    defs: Definitions,
    effective: EffectiveField,
    settings: Mapping[str, Resolved],
    layout: Arrangement,
    chosen: Resolved,
    slots: Mapping[str, tuple[str, ...]],
    surface: Surface,
    group: Group,
) -> EntryPlan:
    """One field's plan, with the outcome of each step that definitions decide."""
    blocks = tuple(block for block, keys in slots.items() if effective.field.key in keys)
    steps = (
        step_applies(defs, effective),
        step_audience(effective.field, surface),
        step_shown(defs, effective.field, settings, surface),
        step_slot(defs, layout, chosen, blocks),
    )
    label = settings["label_text"].value or effective.field.label
    rules = FieldRules(effective.field, defs.spec(effective.field))
    known = {found.field.key for found in defs.applicable(group)} if settings["condition"].value else ()
    when = bind_condition(defs, settings["condition"].value, group.type, known)
    return EntryPlan(effective, settings, label, rules, steps, blocks, when)


def _place(defs: Definitions, entry: EntryPlan, surface: Surface, budget: EntryBudget | None) -> PlacedField:
    rules, label, settings = entry.rules, entry.label, entry.settings
    instead = stand_in(rules, label, settings, surface)
    maker = entry_maker(rules, label, settings, budget, entry_mark(defs, entry, surface))
    when = entry.when.holds if entry.when else None
    bare = _bare(entry, surface) if instead is None and when is None else None
    return PlacedField(entry.field.key, maker.make, maker.known, instead, when, bare)


def _bare(entry: EntryPlan, surface: Surface) -> Bare | None:
    lengths = entry.rules.bare()
    if lengths is None or not writes_as_usual(entry.field, surface, entry.settings):
        return None
    return Bare(entry.label, entry.settings["label"].value, tuple(entry.settings["devices"].value), *lengths)


def entry_mark(defs: Definitions, entry: EntryPlan, surface: Surface) -> Hashable:
    """What decides which entry a value of a field has: the field and its choices, its label, how it is set, and the shop."""
    usual = resolved_defaults(entry.field, surface)
    said = [(code, found.value) for code, found in entry.settings.items() if found.value != usual[code].value]
    shop = (defs.shop.locale, defs.shop.currency)
    return entry.field.key, defs.render_mark(entry.field), entry.label, entry.field.rules.label, repr(said), shop


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
    if chain.record_type is not None:
        waiting += [("field", effective.field.key) for effective in defs.applicable(group)]
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
            waiting += [
                (ref.noun, ref.key) for ref in NOUNS[noun].referring.refers(thing) if not (ref.loose or ref.apart)
            ]
    return frozenset(found)


def _hash(
    defs: Definitions,
    surface: Surface,
    region: RegionPlan,
    entries: Mapping[str, EntryPlan],
    said: Collection[str],
    fans: Mapping[str, FanOut],
) -> str:
    def field_state(key: str) -> Any:
        entry = entries[key]
        usual = resolved_defaults(entry.field, surface)
        properties = {code: found.value for code, found in entry.settings.items() if found.value != usual[code].value}
        when = entry.when.mark if entry.when else None
        return [key, defs.render_mark(entry.field), entry.field.default, entry.label, properties, when]

    def block_state(block: BlockPlan) -> Any:
        fields = [field_state(placed.field) for placed in block.entries]
        look = [block.devices, dict(block.look), block.mark]
        return [block.id, block.kind, block.heading, fields, list(map(tree, block.regions)), look]

    def tree(plan: RegionPlan) -> Any:
        return [plan.id, list(map(block_state, plan.blocks))]

    words = [field_state(key) for key in sorted(said)]
    made = [document.FORMAT, surface.code, defs.shop.currency, defs.shop.locale, tree(region), words]
    return content_hash([*made, {key: state_of(rule) for key, rule in fans.items()}] if fans else made)
