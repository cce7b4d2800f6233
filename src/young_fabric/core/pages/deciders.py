"""What else decides about a field on a surface: all that has a say, whether it is followed or overridden by something nearer."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.cascade import EVERY, Cascade
from young_fabric.core.display.properties import LAYOUT, PROPERTIES
from young_fabric.core.nouns.content import collections
from young_fabric.core.nouns.fields import fields
from young_fabric.core.nouns.layouts import display_settings, layouts
from young_fabric.core.nouns.layouts.display_settings import SettingKey, origin_name, said_words, scope_name
from young_fabric.core.nouns.layouts.layouts import chain_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.nouns.types import field_sets, product_types
from young_fabric.core.pages.entry_plan import EntryPlan
from young_fabric.core.pages.plan import Plan
from young_fabric.core.pages.steps import block_name

FIELD, SETTING = fields.NOUN.code, display_settings.NOUN.code


class Decider(NamedTuple):
    """A thing that has a say, by noun and key, what it says in words, and whether that holds here."""

    noun: str
    key: str
    name: str
    says: str
    holds: bool


def deciders(defs: Definitions, plan: Plan, cascade: Cascade, key: str) -> list[Decider]:
    """All that has a say about a field on the surface of a plan, what is nearest to the field first."""
    entry = plan.entries.get(key)
    found = [*_of_field(defs, entry)] if entry is not None else []
    found += _of_settings(defs, plan, cascade, key)
    return [*found, *_of_layouts(defs, plan, cascade, entry)]


def _of_field(defs: Definitions, entry: EntryPlan) -> Iterator[Decider]:
    field, effective = entry.field, entry.effective
    if field.own:
        yield Decider(FIELD, field.key, field.name, f"for {field.audience}, kind {field.rules.name}", True)
    for target in field.targets:
        noun, item = target
        if noun in NOUNS and item in defs.things[noun]:
            yield Decider(noun, item, defs.things[noun][item].name, "what can be chosen, and what it is called", True)
    if effective.set is not None:
        yield Decider(field_sets.NOUN.code, effective.set, defs.sets[effective.set].name, "brings the field", True)
    by_collection = defs.things[collections.NOUN.code].get(effective.collection or "")
    if by_collection is not None:
        says = "brings the set to what is in it"
        yield Decider(collections.NOUN.code, by_collection.key, by_collection.name, says, True)
    sort = defs.types.get(effective.type or "")
    if sort is not None:
        yield Decider(product_types.NOUN.code, sort.key, sort.name, "takes the field", True)
    by_type = defs.types.get(effective.said_by or "")
    if by_type is not None:
        yield Decider(product_types.NOUN.code, by_type.key, by_type.name, "says more of the field", True)


def _of_settings(defs: Definitions, plan: Plan, cascade: Cascade, key: str) -> list[Decider]:
    chain, surface = defs.cascade_chain(plan.group), plan.surface.code
    said = cascade.said(chain, key, surface)
    out = []
    for scope in chain.scopes():
        for cell in ((key, surface), (key, EVERY), (EVERY, surface), (EVERY, EVERY)):
            for code, value in cascade.set_here(scope, *cell).items():
                if code not in PROPERTIES or PROPERTIES[code].whole:
                    continue
                found = said[code]
                holds = found.origin == str(scope) and found.value == value
                words = said_words(code, value, defs)
                if not holds:
                    words += f", but {origin_name(defs, found.origin)} says otherwise"
                out.append(Decider(SETTING, str(SettingKey(scope, *cell)), scope_name(defs, scope), words, holds))
    return out


def _of_layouts(defs: Definitions, plan: Plan, cascade: Cascade, entry: EntryPlan | None) -> Iterator[Decider]:
    chain, surface = defs.cascade_chain(plan.group), plan.surface.code
    in_force = plan.layout.key
    for scope in chain.scopes():
        chosen = cascade.set_here(scope, EVERY, surface).get(LAYOUT.code)
        if chosen is not None and chosen in defs.layouts:
            holds = str(scope) == plan.chosen.origin
            words = f"chosen by {scope_name(defs, scope)}" + ("" if holds else ", but something nearer chooses another")
            yield Decider(layouts.NOUN.code, chosen, defs.layouts[chosen].name, words, holds)
    if plan.chosen.origin == "default":
        yield Decider(layouts.NOUN.code, in_force, plan.layout.name, "in force, as no other is chosen", True)
    for base in chain_of(defs.layouts, in_force)[1:]:
        yield Decider(layouts.NOUN.code, base, defs.layouts[base].name, f"{plan.layout.name} builds on it", True)
    blocks = [block for block in plan.layout.blocks() if entry is not None and block.id in entry.blocks]
    for block in blocks:
        holding = plan.holding[block.id]
        asks = any(condition is not None for condition in holding.conditions)
        words = "takes the field" + (", under a condition" if asks else "") + (", hidden" if holding.hidden else "")
        yield Decider("block", f"{in_force}/{block.id}", block_name(block), words, holding.hidden is None)
