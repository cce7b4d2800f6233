"""What a collection does: which field sets and settings it brings, to how many of its products, and where another decides."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.cascade import EVERY, DisplaySetting, Scope, read_scope
from young_fabric.core.display.properties import PROPERTIES
from young_fabric.core.display.surfaces import SURFACES, product_surfaces
from young_fabric.core.nouns.content.collections import NOUN
from young_fabric.core.nouns.layouts.display_settings import scope_name, setting_name
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes
from young_fabric.store.repos import fills

Counts = Mapping[Group, int]


@dataclass(frozen=True)
class BroughtSet:
    """A field set limited to a collection: how many fields on how many products, and how many values they have."""

    key: str
    name: str
    fields: int
    products: int
    filled: int


@dataclass(frozen=True)
class Said:
    """A setting said for a collection: in words, for how many products it decides all it says, and who decides for the rest."""

    key: str
    field: str
    words: str
    products: int
    follows: int
    others: list[str]


@dataclass(frozen=True)
class CollectionEffect:
    """What a collection brings."""

    products: int
    sets: list[BroughtSet]
    settings: list[Said]


def effect(work: Work, key: str) -> CollectionEffect:
    """What a collection does to its products. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    writes.need_current(work, NOUN.code, key)
    draft = plans.draft_of(work.session)
    stored = {group: count for group, count in fills.counts_by_group(work.session).items() if key in group[1]}
    groups: dict[Group, int] = {}
    for found, count in stored.items():
        group = draft.defs.group_of(*found)
        groups[group] = groups.get(group, 0) + count
    settings = draft.defs.settings_by_scope.get(str(Scope("collection", key)), ())
    sets = [
        _brought(work, draft.defs, key, name, sum(stored.values())) for name in draft.defs.limited_sets.get(key, ())
    ]
    return CollectionEffect(sum(stored.values()), sets, [_said(draft.defs, name, groups) for name in settings])


def _brought(work: Work, defs: Definitions, key: str, name: str, products: int) -> BroughtSet:
    field_set = defs.sets[name]
    filled = fills.by_group(work.session, field_set.fields)
    held = sum(count.filled for groups in filled.values() for group, count in groups.items() if key in group[1])
    return BroughtSet(name, field_set.name, len(field_set.fields), products, held)


def _said(defs: Definitions, name: str, groups: Counts) -> Said:
    setting = defs.settings[name]
    follows, others = 0, set()
    for group, count in groups.items():
        deciders = _deciders(defs, setting, group)
        if deciders <= {str(setting.scope)}:
            follows += count
        others |= deciders - {str(setting.scope)}
    surface = SURFACES.get(setting.surface)
    where = f"on the {surface.name}" if surface else "everywhere"
    words = ", ".join(
        _state(PROPERTIES[code].words(value)) for code, value in setting.set.items() if code in PROPERTIES
    )
    return Said(
        name,
        setting_name(name, setting, defs),
        f"{words} {where}",
        sum(groups.values()),
        follows,
        sorted(scope_name(defs, read_scope(origin)) for origin in others),
    )


def _state(words: str) -> str:
    """The words of a change as what holds."""
    return words.removeprefix("now ").replace("no longer ", "not ")


def _deciders(defs: Definitions, setting: DisplaySetting, group: Group) -> set[str]:
    """Who decides what a setting says, for products of a group, of nearer ones that say the same of the same field."""
    chain = defs.cascade_chain(group)
    surfaces = [setting.surface] if setting.surface != EVERY else list(product_surfaces())
    found = set()
    for surface in surfaces:
        resolved = defs.cascade.resolve(chain, setting.field, surface, {})
        found |= {resolved[code].origin for code in setting.set if code in resolved}
    return found
