"""Which documents a change of definitions may change: never more than hold a value, and where few do, just those."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.blocks import BLOCK_KINDS
from young_fabric.core.display.cascade import EVERY
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.pages.blocks import BlockPlan, RegionPlan
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.converting import convert, reading_of
from young_fabric.core.subjects.values import FieldRules
from young_fabric.service.acting.actors import Work
from young_fabric.service.foreseeing.bounds import Bounds, told_apart
from young_fabric.service.planning import plans
from young_fabric.store.repos import products, stored_values

MOST_LOOKED_AT = 2_000
"""How many values are looked at one by one."""


def touched_documents(
    work: Work, before: Plans, after: Plans, differ: Mapping[str, frozenset[Group]], bounds: Bounds
) -> dict[str, dict[Group, int]]:
    """Surface → group → documents that may differ, of groups that render differently there: never more than hold a value.

    Where only single fields render differently, and empty ones show nothing, only products with a value are touched; where
    few have one, and nothing but how it shows is different, only those it shows otherwise for.
    """
    holders: dict[tuple[str, bool], dict[Group, int]] = {}
    out: dict[str, dict[Group, int]] = {}
    for surface, groups in differ.items():
        out[surface] = {}
        for group in groups:
            keys = fields_that_differ(before, after, group, surface)
            most = bounds.counts.get(group, 0)
            held = None if keys is None else 0
            for key, in_place in (keys or {}).items():
                if (key, in_place) not in holders:
                    holders[key, in_place] = _holders(work, before, after, key, in_place=in_place)
                there = holders[key, in_place].get(group, 0)
                held = (held or 0) + (most - there if in_place else there)
            out[surface][group] = bounds.within(surface, group, most if held is None else min(most, held))
    return out


def _holders(work: Work, before: Plans, after: Plans, key: str, *, in_place: bool) -> dict[Group, int]:
    """Group → products whose documents a field that renders differently may change; of what stands `in_place` of values, the
    products that have one."""
    speaking = told_apart(before, after)
    ids = None if in_place else _shown_otherwise(work, before.defs, after.defs, key)
    if ids is None:
        return plans.group_counts(work.session, before.defs, key, speaking)
    out: dict[Group, int] = {}
    for type_key, collections in products.groups_of(work.session, ids).values():
        group = before.defs.group_of(type_key, collections, speaking)
        out[group] = out.get(group, 0) + 1
    return out


def _shown_otherwise(work: Work, before: Definitions, after: Definitions, key: str) -> list[int] | None:
    """The products whose value shows otherwise by other definitions of its field; None where more than values decides, or
    too many have one to look at each."""
    old, new = before.fields.get(key), after.fields.get(key)
    if old is None or new is None or old.label != new.label:
        return None
    if before.render_mark(old) == after.render_mark(new):
        # What is otherwise is said elsewhere: by a type, or by what its fields stand on.
        return None
    if _said(before, key) != _said(after, key):
        return None
    rows = stored_values.values_after(work.session, stored_values.OF_PRODUCTS, key, 0, MOST_LOOKED_AT + 1)
    if len(rows) > MOST_LOOKED_AT:
        return None
    had, have = FieldRules(old, before.spec(old)), FieldRules(new, after.spec(new))
    was, becomes = _node(had), _node(have)
    if reading_of(old) != reading_of(new):
        return [row[0] for row in rows if was(row[1]) != becomes(convert(had, have, row[1]).reading.value)]
    return [product_id for product_id, value in rows if was(value) != becomes(value)]


def _said(defs: Definitions, key: str) -> Any:
    """Where a field is, who gets it, and what is set for it: what decides besides its values which documents have it."""
    field, holders = defs.fields[key], defs.holders.get(key)
    settings = {name: setting.set for name, setting in defs.settings.items() if setting.field in (key, EVERY)}
    return field.audience, field.default, holders, settings


def _node(rules: FieldRules) -> Callable[[Any], Any]:
    show, judge = rules.shower({}), rules.judge
    return lambda value: show(value) if value is not None and judge(value) is None else None


def fields_that_differ(before: Plans, after: Plans, group: Group, surface: str) -> dict[str, bool] | None:
    """The fields whose entries differ between two plans, when all else is alike, and whether only what stands in place of values
    does; None when more than entries differs."""
    if before.defs.chain(group.type) != after.defs.chain(group.type) or before.defs.shop != after.defs.shop:
        return None
    old, new = before.of_group(group, surface), after.of_group(group, surface)
    if old.layout != new.layout or _blocks_differ(old.region, new.region):
        return None
    keys: dict[str, bool] = {}
    for key in {*old.entries, *new.entries}:
        was, now = old.entries.get(key), new.entries.get(key)
        shown = [entry is not None and (entry.placed or key in plan.said) for plan, entry in ((old, was), (new, now))]
        if not any(shown):
            continue
        if was is None or now is None or shown[0] != shown[1] or _rendered(before, was) != _rendered(after, now):
            keys[key] = False
            for entry in (was, now):
                if entry is not None and entry.placed and shows_when_empty(entry, surface):
                    return None
        elif was.field.default != now.field.default:
            keys[key] = True
    order = [[key for key, entry in plan.entries.items() if entry.placed and key not in keys] for plan in (old, new)]
    return keys if order[0] == order[1] else None


def _blocks_differ(old: RegionPlan, new: RegionPlan) -> bool:
    """Whether blocks differ in more than the fields in them: options, words, what stands beside, how they look."""
    was, now = ({block.id: block for block in _blocks_of(region)} for region in (old, new))
    for name in {*was, *now}:
        both = [made.get(name) for made in (was, now)]
        if None in both:
            if not all(block is None or BLOCK_KINDS[block.kind].takes_fields for block in both):
                return True
        elif _said_of(both[0]) != _said_of(both[1]):
            return True
    return False


def _blocks_of(region: RegionPlan) -> Iterator[BlockPlan]:
    for block in region.blocks:
        yield block
        for inner in block.regions:
            yield from _blocks_of(inner)


def _said_of(block: BlockPlan | None) -> Any:
    return block and (block.kind, block.heading, block.devices, dict(block.look), block.mark)


def _rendered(made: Plans, entry: Any) -> Any:
    properties = {code: found.value for code, found in entry.settings.items()}
    return made.defs.render_mark(entry.field), entry.label, properties, entry.blocks


def shows_when_empty(entry: Any, surface: str) -> bool:
    """Whether a field shows something for products without a value: a default, something computed, or a stand-in."""
    stand_in = SURFACES[surface].stand_ins and entry.settings["empty"].value != "omit"
    return entry.field.default is not None or entry.rules.derived is not None or stand_in
