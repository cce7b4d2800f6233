"""The weave: fields by surfaces for the shop, a type or a product, and where each setting comes from."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.counting import counted
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.cascade import EVERY, Cascade, Chain, Resolved, Scope
from young_fabric.core.display.properties import LAYOUT, PROPERTIES
from young_fabric.core.display.property import FieldSaid
from young_fabric.core.display.surfaces import PRODUCTS, RECORDS, Surface, product_surfaces, surfaces_of
from young_fabric.core.nouns.content import collections, record_types
from young_fabric.core.nouns.fields.fields import Field
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.nouns.layouts.display_settings import SettingKey
from young_fabric.core.nouns.options.said_options import options_of_set
from young_fabric.core.nouns.types import product_types
from young_fabric.core.nouns.types.product_types import descendants, type_path
from young_fabric.core.pages.entry_plan import EntryPlan
from young_fabric.core.pages.plan import layout_in_force, settings_of
from young_fabric.core.pages.steps import step_audience
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.pages import proofs
from young_fabric.service.planning import plans
from young_fabric.service.planning.offering import Offers, offered_within
from young_fabric.store.repos import definitions, fills
from young_fabric.store.repos.products import Search

SETTING = display_settings.NOUN
SHOWN = "shown"


@dataclass(frozen=True)
class WeaveCell:
    """One field on one surface: `state` is here, inherited, hidden, off or impossible; `settings` what is set by any scope,
    and whether it shows; `own` what is set here.

    `version` is that of the setting here, None when there is none.
    """

    surface: str
    state: str
    settings: Mapping[str, Resolved]
    own: Mapping[str, Any]
    version: int | None
    reason: str


@dataclass(frozen=True)
class Whole:
    """What is said for whole rows or columns: of every field on a surface, of a field on every surface, or of all; `own` is
    what this scope says, `version` that of its setting, None when there is none."""

    field: str
    surface: str
    own: Mapping[str, Any]
    version: int | None


@dataclass(frozen=True)
class ChosenLayout:
    """The layout in force for a scope on a surface, and who chose it; `own` is what is chosen here, "" for nothing."""

    surface: str
    key: str
    name: str
    origin: str
    own: str


@dataclass(frozen=True)
class Row:
    """The cells of a field or an option."""

    field: FieldSaid
    cells: tuple[WeaveCell, ...]


@dataclass(frozen=True)
class RowGroup:
    """Rows under the set and section (or neither) that bring them."""

    title: str
    note: str
    rows: tuple[Row, ...]


@dataclass(frozen=True)
class Weave:
    """All rows for a scope, what the scope is called, how many products it takes in, and one of them to prove with."""

    scope: Scope
    name: str
    products: int
    example: int | None
    groups: Sequence[RowGroup]
    wholes: Sequence[Whole] = ()
    layouts: Sequence[ChosenLayout] = ()


def weave(work: Work, scope: Scope) -> Weave:
    """All rows for a scope, in set order. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    reader = READERS.get(scope.sort.noun or scope.sort.subject or "")
    if reader is None and scope.key:
        raise Refusal("not_found", f"There is no weave for {scope}", ("scope",), "Choose another")
    found = _of_shop(work, scope) if reader is None else reader(work, scope)
    cascade, chain = asked_cascade(work, scope)
    found = replace(found, groups=[*found.groups, *option_rows(work, scope, cascade, chain)])
    rows = [row.field.key for group in found.groups for row in group.rows]
    return replace(found, wholes=_wholes(work, scope, cascade, rows), layouts=_layouts(work, scope, cascade, chain))


def surfaces_of_scope(scope: Scope) -> Mapping[str, Surface]:
    """The surfaces that settings of a scope are told for; of the shop those of products."""
    return surfaces_of(scope.sort.of or PRODUCTS)


def asked_cascade(work: Work, scope: Scope) -> tuple[Cascade, Chain]:
    """The cascade with what a scope says, and whom it is asked for."""
    defs = plans.draft(work.session)
    if scope.sort.subject is not None:
        product = proofs.need_product(work, int(scope.key))
        own = proofs.own_settings(work, [product.id]).get(str(product.id), ())
        group = defs.group_of(product.type, product.collections)._replace(product=scope.key)
        return Cascade((*defs.settings.values(), *own)), defs.cascade_chain(group)
    if scope.sort.noun == product_types.NOUN.code:
        return defs.cascade, Chain(None, (), defs.chain(scope.key))
    if scope.sort.noun == record_types.NOUN.code:
        return defs.cascade, Chain(record_type=scope.key)
    return defs.cascade, Chain(None, (scope.key,)) if scope.key else Chain()


def _wholes(work: Work, scope: Scope, cascade: Cascade, rows: Sequence[str]) -> list[Whole]:
    wanted = [(EVERY, EVERY), *((EVERY, code) for code in surfaces_of_scope(scope)), *((key, EVERY) for key in rows)]
    keys = {cell: str(SettingKey(scope, *cell)) for cell in wanted}
    versions = definitions.versions_of(work.session, SETTING.code, list(keys.values()))
    return [
        Whole(*cell, {code: value for code, value in own.items() if not _is_whole(code)}, versions.get(keys[cell]))
        for cell in wanted
        if (own := cascade.set_here(scope, *cell)) or cell[0] == EVERY
    ]


def _is_whole(code: str) -> bool:
    return code in PROPERTIES and PROPERTIES[code].whole


def _layouts(work: Work, scope: Scope, cascade: Cascade, chain: Chain) -> list[ChosenLayout]:
    defs = plans.draft(work.session)
    out = []
    for code, surface in surfaces_of_scope(scope).items():
        chosen = layout_in_force(cascade, chain, surface)
        layout = defs.layouts.get(chosen.value)
        own = cascade.set_here(scope, EVERY, code).get(LAYOUT.code, "")
        out.append(ChosenLayout(code, chosen.value, layout.name if layout else chosen.value, chosen.origin, own))
    return out


def _of_type(work: Work, scope: Scope) -> Weave:
    made = plans.draft_plans(work.session)
    if scope.key not in made.defs.types:
        raise Refusal("not_found", f"There is no product type {scope.key[:80]}", ("scope",), "Choose another")
    entries = {code: made.of_type(scope.key, code).entries for code in product_surfaces()}
    types = sorted(descendants(scope.key, made.defs.types))
    counts = fills.counts_by_type(work.session)
    return Weave(
        scope,
        type_path(scope.key, made.defs.types),
        sum(counts.get(key, 0) for key in types),
        proofs.example_product(work, Search(types=tuple(types))),
        _groups(work, scope, made.defs, made.defs.cascade, entries),
    )


def _of_product(work: Work, scope: Scope) -> Weave:
    made = plans.draft_plans(work.session)
    if len(scope.key) > 9:
        raise Refusal("not_found", "There is no such product", ("scope",), "Choose another")
    product = proofs.need_product(work, int(scope.key))
    own = proofs.own_settings(work, [product.id]).get(str(product.id), ())
    entries = {code: made.of_product(product, code, own).entries for code in product_surfaces()}
    cascade = Cascade((*made.defs.settings.values(), *own))
    return Weave(scope, product.title, 1, product.id, _groups(work, scope, made.defs, cascade, entries))


def _groups(
    work: Work, scope: Scope, defs: Definitions, cascade: Cascade, entries: Mapping[str, Mapping[str, EntryPlan]]
) -> list[RowGroup]:
    first = next(iter(entries.values()))
    versions = _versions(work, scope, list(first))
    groups: dict[tuple[str, str], list[Row]] = {}
    for key, entry in first.items():
        if entry.field.audience == "staff" and not entry.field.own:
            continue
        cells = tuple(
            _cell(cascade, scope, surface, entries[code][key], versions)
            for code, surface in surfaces_of_scope(scope).items()
        )
        groups.setdefault(_heading(defs, entry), []).append(Row(entry.field, cells))
    return [RowGroup(title, note, tuple(rows)) for (title, note), rows in groups.items()]


def _heading(defs: Definitions, entry: EntryPlan) -> tuple[str, str]:
    effective = entry.effective
    if effective.record_type is not None:
        return defs.things[record_types.NOUN.code][effective.record_type].name, "record type"
    if effective.collection is not None and effective.set is not None:
        field_set = defs.sets[effective.set]
        by = defs.things["collection"][effective.collection].name
        return field_set.name, f"field set, {counted(len(field_set.fields), 'field')}, by being in {by}"
    if effective.type is None:
        return "Every product", "built in"
    type_name = defs.types[effective.type].name
    if effective.set is None:
        return f"Single fields of {type_name}", "product type"
    field_set = defs.sets[effective.set]
    users = sum(1 for key in defs.types if any(effective.set in defs.types[up].sets for up in defs.chain(key)))
    return (
        field_set.name,
        f"field set, {counted(len(field_set.fields), 'field')}, {counted(users, 'type')}, by {type_name}",
    )


def _of_shop(work: Work, scope: Scope) -> Weave:
    defs = plans.draft(work.session)
    groups = _of_fields(work, scope, Chain(), defs.all_fields.values(), "any type")
    total = sum(fills.counts_by_type(work.session).values())
    return Weave(scope, "Whole shop", total, proofs.example_product(work, Search()), groups)


def _of_collection(work: Work, scope: Scope) -> Weave:
    """The fields that any product of the collection has; what comes from types differs and is told of each product."""
    defs = plans.draft(work.session)
    if scope.key not in defs.things[collections.NOUN.code]:
        raise Refusal("not_found", f"There is no collection {scope.key[:80]}", ("scope",), "Choose another")
    counts = {group: count for group, count in fills.counts_by_group(work.session).items() if scope.key in group[1]}
    had = {
        effective.field.key
        for group in {defs.group_of(*stored) for stored in counts}
        for effective in defs.applicable(group)
    }
    had |= {key for name in defs.limited_sets.get(scope.key, ()) for key in defs.sets[name].fields}
    shown = [field for key, field in defs.all_fields.items() if not field.own or key in had]
    groups = _of_fields(work, scope, Chain(None, (scope.key,)), shown, "on any product of it")
    name = defs.things[collections.NOUN.code][scope.key].name
    example = proofs.example_product(work, Search(collection=scope.key))
    return Weave(scope, name, sum(counts.values()), example, groups)


def option_rows(work: Work, scope: Scope, cascade: Cascade, chain: Chain) -> list[RowGroup]:
    """Rows of the options that products of a scope are offered, under their sets; of the shop and of collections all there are."""
    defs = plans.draft(work.session)
    if scope.sort.of == RECORDS:
        return []
    surfaces = surfaces_of_scope(scope)
    found = [defs.option_sets[key] for key in _sets_of(work, scope, defs)]
    versions = _versions(work, scope, [said.key for options in found for said in options_of_set(options)])
    groups = []
    for options in found:
        rows = []
        for said in options_of_set(options):
            cells = []
            for code, surface in surfaces.items():
                settings = settings_of(defs, cascade, chain, said, surface)
                here = cascade.set_here(scope, said.key, code)
                reason = "" if surface.options else f"Options do not stand on the {surface.name}"
                version = versions.get(str(SettingKey(scope, said.key, code)))
                state = _state(settings, here, possible=True) if surface.options else _unable(here)
                cells.append(WeaveCell(code, state, _said(settings), here, version, reason))
            rows.append(Row(said, tuple(cells)))
        groups.append(RowGroup(options.name, f"option set, {counted(len(rows), 'option')}", tuple(rows)))
    return groups


def _sets_of(work: Work, scope: Scope, defs: Definitions) -> Sequence[str]:
    offers = Offers(defs)
    if scope.sort.subject is not None:
        product = proofs.need_product(work, int(scope.key))
        return offers.sets(product.type, product.option_sets)
    if scope.sort.noun == product_types.NOUN.code:
        reached = {key for name in descendants(scope.key, defs.types) for key in offers.of_type(name)}
        reached |= offered_within(work.session, sorted(descendants(scope.key, defs.types)))
        return [key for key in defs.option_sets if key in reached]
    return list(defs.option_sets)


def _of_fields(work: Work, scope: Scope, chain: Chain, fields: Iterable[Field], note: str) -> list[RowGroup]:
    """Rows of fields asked of a chain alone, whatever the type."""
    defs = plans.draft(work.session)
    shown = [field for field in fields if field.own or field.audience != "staff"]
    versions = _versions(work, scope, [field.key for field in shown])
    built_in: list[Row] = []
    own: list[Row] = []
    for field in shown:
        cells = []
        for code, surface in surfaces_of_scope(scope).items():
            settings = settings_of(defs, defs.cascade, chain, field, surface)
            audience = step_audience(field, surface)
            here = defs.cascade.set_here(scope, field.key, code)
            state = _state(settings, here, bool(audience.ok))
            reason = "" if audience.ok else audience.text
            version = versions.get(str(SettingKey(scope, field.key, code)))
            cells.append(WeaveCell(code, state, _said(settings), here, version, reason))
        (own if field.own else built_in).append(Row(field, tuple(cells)))
    return [RowGroup("Every product", "built in", tuple(built_in)), RowGroup("Fields of the shop", note, tuple(own))]


def _of_records(work: Work, scope: Scope) -> Weave:
    """The fields of records of a type on their page."""
    made = plans.draft_plans(work.session)
    found = made.defs.things[record_types.NOUN.code].get(scope.key)
    if found is None:
        raise Refusal("not_found", f"There is no record type {scope.key[:80]}", ("scope",), "Choose another")
    entries = {code: made.of_records(scope.key).entries for code in surfaces_of_scope(scope)}
    groups = _groups(work, scope, made.defs, made.defs.cascade, entries)
    return Weave(scope, found.name, len(made.defs.records_of(scope.key)), None, groups)


READERS = {
    product_types.NOUN.code: _of_type,
    collections.NOUN.code: _of_collection,
    PRODUCT.code: _of_product,
    record_types.NOUN.code: _of_records,
}
"""How the rows of a scope are found, by what its key names."""


def _versions(work: Work, scope: Scope, keys: list[str]) -> dict[str, int]:
    wanted = [str(SettingKey(scope, key, code)) for key in keys for code in surfaces_of_scope(scope)]
    return definitions.versions_of(work.session, SETTING.code, wanted)


def _said(settings: Mapping[str, Resolved]) -> Mapping[str, Resolved]:
    """What any scope sets, and whether it shows."""
    return {code: found for code, found in settings.items() if found.origin != "default" or code == SHOWN}


def _cell(cascade: Cascade, scope: Scope, surface: Surface, entry: EntryPlan, versions: Mapping[str, int]) -> WeaveCell:
    own = cascade.set_here(scope, entry.field.key, surface.code)
    failed = next((step for step in entry.steps if not step.ok and step.name != "shown"), None)
    version = versions.get(str(SettingKey(scope, entry.field.key, surface.code)))
    state = _state(entry.settings, own, failed is None)
    reason = failed.text if failed else ""
    return WeaveCell(surface.code, state, _said(entry.settings), own, version, reason)


def _unable(own: Mapping[str, Any]) -> str:
    """How an option stands where none can: wanted there only where that is said of it, not of all fields."""
    return "impossible" if own.get(SHOWN) else "off"


def _state(settings: Mapping[str, Resolved], own: Mapping[str, Any], possible: bool) -> str:
    if settings["shown"].value:
        if not possible:
            return "impossible" if settings["shown"].origin != "default" else "off"
        return "here" if own else "inherited"
    return "hidden" if own.get("shown") is False else "off"
