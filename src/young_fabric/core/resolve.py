"""The chain from definitions to a page: a plan is compiled once, a document rendered for each product.

Rendering, why, the weave and the checks all read the steps made here.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, NamedTuple

from young_fabric.core import document, locales, pricing, units
from young_fabric.core.definitions import Definitions, Product
from young_fabric.core.display import SURFACES, Cascade, Chain, DisplaySetting, Resolved, defaults_for
from young_fabric.core.errors import Refusal
from young_fabric.core.fields import DERIVED, Field
from young_fabric.core.kinds import Spec
from young_fabric.core.layouts import LAYOUTS, Layout, fill_slots
from young_fabric.core.product_types import EffectiveField
from young_fabric.core.values import judge, show_value

KEPT_ENTRIES = 1024
PLAIN = frozenset({"text", "whole", "decimal", "one_of", "date", "colour", "yes_no"})
UNLIKE_EACH_OTHER = frozenset({"long_text", "picture", "gtin", "title", "sku", "slug"})
NOTHING = "–"


class Mend(NamedTuple):
    """A place to mend a failure: what to do, and the thing to open (noun, key)."""

    text: str
    noun: str
    key: str


class Step(NamedTuple):
    """One step of the chain for one field: passed, failed, or None when it could not be asked."""

    name: str
    ok: bool | None
    text: str
    mend: Mend | None = None


class Outcome(NamedTuple):
    """A product's value for a field: `text` as shown when `state` is good, else what is wrong."""

    state: str
    value: Any
    text: str
    wrong: Refusal | None = None
    source: str = "product"


@dataclass(frozen=True)
class EntryPlan:
    """One field on one surface, ready for any product."""

    effective: EffectiveField
    settings: Mapping[str, Resolved]
    label: str
    show: Callable[[Any], Outcome]
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
    return EntryPlan(one, settings, label, _shower(defs, one.field), steps, blocks)


def scope_name(defs: Definitions, origin: str) -> str:
    """`type:paint` → `Paint`, `shop` → `the shop`, as sentences have it."""
    kind, _, key = origin.partition(":")
    if kind == "type":
        return defs.types[key].name if key in defs.types else key
    return {"shop": "the shop", "default": "default", "product": "this product"}.get(kind, key)


def step_applies(defs: Definitions, one: EffectiveField) -> Step:
    """Where the product has the field from."""
    if one.type is None:
        return Step("applies", True, "Every product has it")
    name = defs.types[one.type].name
    if one.set is None:
        return Step("applies", True, f"{name} takes it as a single field")
    return Step("applies", True, f"{name} takes it from the set {defs.sets[one.set].name}")


def step_audience(this: Field, surface: str) -> Step:
    """Whether the surface may show the field."""
    mend = Mend("Change who it is for", "field", this.key)
    if this.audience == "staff":
        return Step("audience", False, "It is for staff, and never leaves the studio", mend if this.own else None)
    if this.audience == "feeds" and surface != "structured_data":
        return Step("audience", False, "It is for other systems, shoppers don't see it", mend if this.own else None)
    return Step("audience", True, "It is for shoppers" if this.audience == "shoppers" else "It is for other systems")


def step_shown(defs: Definitions, this: Field, settings: Mapping[str, Resolved], surface: str) -> Step:
    """Whether the setting in force shows it, and who said so."""
    shown = settings["shown"]
    by = "by default" if shown.origin == "default" else f"by the setting on {scope_name(defs, shown.origin)}"
    verb = "Shown" if shown.value else "Not shown"
    mend = None if shown.value else Mend("Show it there", "setting", f"{shown.origin}/{this.key}/{surface}")
    return Step("shown", bool(shown.value), f"{verb} on the {SURFACES[surface]} {by}", mend)


def step_slot(layout: Layout, blocks: tuple[str, ...]) -> Step:
    """Whether the layout in force has a place."""
    if not blocks:
        return Step("slot", False, f"The layout {layout.name}, which the shop uses, has no slot that takes it")
    found = [block for block in layout.blocks() if block.id in blocks]
    names = " and ".join(block.heading or block.id for block in found)
    return Step("slot", True, f"The layout {layout.name} has a place for it, in {names}")


def _placed(entry: EntryPlan) -> Placed:
    s, key = entry.settings, entry.field.key
    dash = None
    if s["empty"].value == "dash":
        dash = document.Entry(key, entry.label, s["label"].value, NOTHING, None, tuple(s["devices"].value))
    return Placed(key, _maker(entry), entry.field.default, dash, key in DERIVED)


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


def _shower(defs: Definitions, this: Field) -> Callable[[Any], Outcome]:
    """A function from stored value to outcome."""
    spec = defs.spec(this)
    if this.key == "unit_price":
        return lambda value: _show_unit_price(value, spec)
    if this.many:
        return lambda value: _show(this, value, spec)
    rules = this.sort
    well_formed, check, show = rules.well_formed, rules.check, rules.show

    def one(value: Any) -> Outcome:
        if not well_formed(value) or check(value, spec) is not None:
            return Outcome("wrong", value, "", judge(this, value, spec))
        return Outcome("good", value, show(value, spec))

    return one


def _maker(entry: EntryPlan) -> Callable[[Any], document.Entry | None]:
    """A function from stored value to the finished entry, None when it is not good.

    Entries are frozen, so where values recur from product to product the same one serves again.
    """
    this, s, show = entry.field, entry.settings, entry.show
    head = (this.key, entry.label, s["label"].value)
    devices = tuple(s["devices"].value)

    def fresh(value: Any) -> document.Entry | None:
        found = show(value)
        return document.Entry(*head, found.text, found.value, devices) if found.state == "good" else None

    if this.kind in UNLIKE_EACH_OTHER or this.key in UNLIKE_EACH_OTHER:
        return fresh
    known: dict[Any, document.Entry | None] = {}
    plain = this.kind in PLAIN and not this.many
    told_apart_by = tuple if this.kind == "many_of" or (this.many and this.kind in PLAIN) else _frozen

    def make(value: Any) -> document.Entry | None:
        key = value if plain else told_apart_by(value)
        if key in known:
            return known[key]
        if len(known) >= KEPT_ENTRIES:
            known.clear()
        made = known[key] = fresh(value)
        return made

    return make


def _frozen(value: Any) -> Any:
    if isinstance(value, dict):
        return tuple(value.values())
    if isinstance(value, list | tuple):
        return tuple(_frozen(item) for item in value)
    return value


def _show(this: Field, value: Any, spec: Spec) -> Outcome:
    wrong = judge(this, value, spec)
    if wrong:
        return Outcome("wrong", value, "", wrong)
    return Outcome("good", value, show_value(this, value, spec))


def _show_unit_price(value: Any, spec: Spec) -> Outcome:
    price, contents = value
    if price is None or contents is None:
        missing = "price" if price is None else "contents"
        return Outcome("empty", None, "", Refusal("no_contents", f"there is no {missing} to compute it from"))
    unit = units.find(contents["unit"])
    reference = units.REFERENCE_AMOUNTS.get(unit.dimension if unit else "", ("1", contents["unit"]))
    try:
        told = pricing.unit_price(
            Decimal(price),
            spec.currency,
            contents["count"],
            (Decimal(contents["amount"]), contents["unit"]),
            (Decimal(reference[0]), reference[1]),
        )
    except Refusal as refusal:
        return Outcome("wrong", None, "", refusal)
    raw = {"amount": told.amount, "reference": told.reference, "unit": told.unit}
    text = f"{locales.show_money(told.amount, spec.currency, spec.locale)} {told.label}"
    return Outcome("good", raw, text)


def value_of(this: Field, product: Product) -> Any:
    """What a product holds for a field; for computed ones what they are computed from."""
    if this.key in DERIVED:
        return (product.values.get("price"), product.values.get("contents"))
    return product.values.get(this.key)


def outcome(entry: EntryPlan, product: Product) -> Outcome:
    """The value step for one product: good, empty or wrong, and where the value came from."""
    key = entry.field.key
    if key in product.unread:
        return Outcome("wrong", None, "", Refusal("unread", f"“{str(product.unread[key])[:60]}” was not understood"))
    value = value_of(entry.field, product)
    if value is None:
        if entry.field.default is None:
            return Outcome("empty", None, "")
        return entry.show(entry.field.default)._replace(source="default")
    return entry.show(value)


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
        for one in block.entries:
            value = (values.get("price"), values.get("contents")) if one.derived else values.get(one.field, one.default)
            made = one.make(value) if value is not None and one.field not in unread else None
            if made is not None:
                some = True
                entries.append(made)
            elif one.dash is not None:
                entries.append(one.dash)
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


def content_hash(content: Any) -> str:
    """SHA-256 of JSON values, in one spelling."""
    text = json.dumps(content, sort_keys=True, separators=(",", ":"), ensure_ascii=False, default=dict)
    return hashlib.sha256(text.encode()).hexdigest()


class Plans:
    """Plans of one set of definitions, each compiled when first asked for."""

    def __init__(self, defs: Definitions) -> None:
        self.defs = defs
        self._plans: dict[tuple[str, str], Plan] = {}

    def of_type(self, type_key: str, surface: str) -> Plan:
        """The plan of a type on a surface."""
        place = (type_key, surface)
        if place not in self._plans:
            self._plans[place] = compile_plan(self.defs, type_key, surface)
        return self._plans[place]

    def of_product(self, product: Product, surface: str, own_settings: tuple[DisplaySetting, ...]) -> Plan:
        """The plan for one product, with the settings said for it alone."""
        if not own_settings:
            return self.of_type(product.type, surface)
        return compile_plan(self.defs, product.type, surface, str(product.id), own_settings)

    def type_hash(self, type_key: str) -> str:
        """One hash over all surfaces of a type."""
        return content_hash([self.of_type(type_key, surface).hash for surface in SURFACES])


def reached_types(plans: Plans, noun: str, key: str) -> frozenset[str]:
    """The types whose pages read a thing."""
    if noun == "setting":
        scope = key.split("/", 1)[0]
        if scope.startswith("product:"):
            return frozenset()
        if scope.startswith("type:"):
            wanted = scope.partition(":")[2]
            return frozenset(t for t in plans.defs.types if wanted in plans.defs.chain(t))
        return frozenset(plans.defs.types)
    return frozenset(t for t in plans.defs.types if (noun, key) in plans.of_type(t, "product_page").reads)


def changed_types(before: Plans, after: Plans) -> dict[str, frozenset[str]]:
    """Surface → types that render differently after than before."""
    out = {}
    for surface in SURFACES:
        both = before.defs.types.keys() & after.defs.types.keys()
        out[surface] = frozenset(t for t in both if before.of_type(t, surface).hash != after.of_type(t, surface).hash)
    return out
