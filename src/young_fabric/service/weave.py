"""The weave: fields by surfaces for the shop, a type or a product, and where each setting comes from."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from young_fabric.core.definitions import Definitions
from young_fabric.core.display import SURFACES, Cascade, Chain, Resolved, Scope, defaults_for
from young_fabric.core.errors import Refusal
from young_fabric.core.fields import Field
from young_fabric.core.resolve import EntryPlan
from young_fabric.core.steps import step_audience
from young_fabric.service import plans, proofs
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos.things import REPOS, settings_of_products


@dataclass(frozen=True)
class Cell:
    """One field on one surface: `state` is here, inherited, hidden, off or impossible; `own` is what is set here."""

    surface: str
    state: str
    settings: Mapping[str, Resolved]
    own: Mapping[str, Any]
    version: int
    reason: str


@dataclass(frozen=True)
class Row:
    """A field's cells."""

    field: Field
    cells: tuple[Cell, ...]


@dataclass(frozen=True)
class Group:
    """Rows under the set and section (or neither) that bring them."""

    title: str
    note: str
    rows: tuple[Row, ...]


def scope_of(text: str) -> Scope:
    """`shop`, `type:KEY` or `product:ID` as a scope. Raises Refusal `scope`."""
    kind, _, key = text.partition(":")
    if kind == "shop" and not key:
        return Scope("shop")
    if kind == "type" and key:
        return Scope("type", key)
    if kind == "product" and key.isdecimal():
        return Scope("product", key)
    raise Refusal("scope", f"“{text}” is not a scope", ("scope",), "Write shop, type:KEY or product:ID")


def weave(work: Work, scope: Scope) -> list[Group]:
    """All rows for a scope, in set order. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    all_plans = plans.draft_plans(work.session)
    defs = all_plans.defs
    if scope.kind == "shop":
        return _shop(work, defs)
    if scope.kind == "type" and scope.key not in defs.types:
        raise Refusal("not_found", f"There is no product type {scope.key}", ("scope",), "Choose another")
    if scope.kind == "type":
        entries = {s: all_plans.of_type(scope.key, s).entries for s in SURFACES}
        cascade = defs.cascade
    else:
        product = proofs.need_product(work, int(scope.key))
        own = settings_of_products(work.session, [product.id]).get(product.id, ())
        entries = {s: all_plans.of_product(product, s, own).entries for s in SURFACES}
        cascade = Cascade((*defs.settings.values(), *own))
    versions = _versions(work, scope, list(entries["product_page"]))
    groups: dict[tuple[str, str], list[Row]] = {}
    for key, first in entries["product_page"].items():
        if first.field.audience == "staff" and not first.field.own:
            continue
        cells = tuple(_cell(cascade, scope, s, entries[s][key], versions) for s in SURFACES)
        groups.setdefault(_heading(defs, first), []).append(Row(first.field, cells))
    return [Group(title, note, tuple(rows)) for (title, note), rows in groups.items()]


def _heading(defs: Definitions, entry: EntryPlan) -> tuple[str, str]:
    one = entry.effective
    if one.type is None:
        return "Every product", "built in"
    type_name = defs.types[one.type].name
    if one.set is None:
        return f"Single fields of {type_name}", "product type"
    this = defs.sets[one.set]
    users = sum(1 for key in defs.types if any(one.set in defs.types[k].sets for k in defs.chain(key)))
    return this.name, f"field set, {len(this.fields)} fields, {users} type{'s' if users != 1 else ''}, by {type_name}"


def _shop(work: Work, defs: Definitions) -> list[Group]:
    scope = Scope("shop")
    shown = [one for one in defs.all_fields.values() if one.own or one.audience != "staff"]
    versions = _versions(work, scope, [one.key for one in shown])
    built_in: list[Row] = []
    own: list[Row] = []
    for this in shown:
        cells = []
        for surface in SURFACES:
            settings = defs.cascade.resolve(Chain(), this.key, surface, defaults_for(this, surface))
            audience = step_audience(this, surface)
            here = defs.cascade.set_here(scope, this.key, surface)
            reason = "" if audience.ok else audience.text
            version = versions.get(f"{scope}/{this.key}/{surface}", 0)
            cells.append(Cell(surface, _state(settings, here, bool(audience.ok)), settings, here, version, reason))
        (own if this.own else built_in).append(Row(this, tuple(cells)))
    return [Group("Every product", "built in", tuple(built_in)), Group("Fields of the shop", "any type", tuple(own))]


def _versions(work: Work, scope: Scope, keys: list[str]) -> dict[str, int]:
    wanted = [f"{scope}/{key}/{surface}" for key in keys for surface in SURFACES]
    return {key: pair[1] for key, pair in REPOS["setting"].load(work.session, wanted).items()}


def _cell(cascade: Cascade, scope: Scope, surface: str, entry: EntryPlan, versions: Mapping[str, int]) -> Cell:
    own = cascade.set_here(scope, entry.field.key, surface)
    failed = next((step for step in entry.steps if not step.ok and step.name != "shown"), None)
    version = versions.get(f"{scope}/{entry.field.key}/{surface}", 0)
    state = _state(entry.settings, own, failed is None)
    return Cell(surface, state, entry.settings, own, version, failed.text if failed else "")


def _state(settings: Mapping[str, Resolved], own: Mapping[str, Any], possible: bool) -> str:
    if settings["shown"].value:
        if not possible:
            return "impossible" if settings["shown"].origin != "default" else "off"
        return "here" if own else "inherited"
    return "hidden" if own.get("shown") is False else "off"
