"""The weave, why, and products to prove with."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.core.errors import Refusal
from young_fabric.core.product_types import descendants, type_path
from young_fabric.core.steps import scope_name
from young_fabric.service import definitions, plans, proofs, weave
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import products
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.api.definitions import consequences_out
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import present as s
from young_fabric.web.schemas.definitions import ConsequencesOut

api = blueprint("present")


@api.get("/weave", responses=answers(s.WeaveOut))
@allow(Right.LOOK)
def weave_get(query: s.ScopeQuery) -> Response:
    """Fields by surfaces for a scope."""
    scope = weave.scope_of(query.scope)
    with work() as unit:
        groups = weave.weave(unit, scope)
        return reply(
            s.WeaveOut,
            {
                **_about(unit, scope.kind, scope.key),
                "scope": str(scope),
                "groups": [
                    {"title": g.title, "note": g.note, "rows": [_row(unit, row) for row in g.rows]} for g in groups
                ],
            },
        )


def _about(unit: Work, kind: str, key: str) -> dict[str, Any]:
    defs = plans.draft(unit.session)
    counts = products.counts_by_type(unit.session)
    if kind == "product":
        title = products.get(unit.session, [int(key)])[int(key)].product.title
        return {"scope_name": title, "products": 1, "example": int(key)}
    types = sorted(descendants(key, defs.types)) if kind == "type" else sorted(defs.types)
    return {
        "scope_name": type_path(key, defs.types) if kind == "type" else "Whole shop",
        "products": sum(counts.get(one, 0) for one in types),
        "example": proofs.example_product(unit, types),
    }


def _row(unit: Work, row: weave.Row) -> dict[str, Any]:
    defs = plans.draft(unit.session)
    return {
        "key": row.field.key,
        "name": row.field.name,
        "cells": [
            {
                **{name: getattr(cell, name) for name in ("surface", "state", "own", "version", "reason")},
                "settings": {
                    prop: {"value": one.value, "origin": one.origin, "said": scope_name(defs, one.origin)}
                    for prop, one in cell.settings.items()
                },
            }
            for cell in row.cells
        ],
    }


@api.patch("/settings", responses=answers(s.SettingOut))
@allow(Right.EDIT)
def settings_set(body: s.SettingIn) -> Response:
    """Set display properties for a scope, field and surface."""
    scope = weave.scope_of(body.scope)
    with work() as unit:
        done = definitions.display(unit, scope, body.field, body.surface, body.set, body.version)
        return reply(s.SettingOut, {"version": done.version if done.thing else 0})


@api.post("/settings/consequences", responses=answers(ConsequencesOut))
@allow(Right.LOOK)
def settings_consequences(body: s.SettingIn) -> Response:
    """What setting display properties would touch."""
    scope = weave.scope_of(body.scope)
    with work() as unit:
        key, thing = definitions.changed_setting(unit, scope, body.field, body.surface, body.set)
        return reply(ConsequencesOut, consequences_out(definitions.consequences(unit, "setting", key, thing)))


@api.get("/why", responses=answers(s.WhyOut))
@allow(Right.LOOK)
def why_get(query: s.WhyQuery) -> Response:
    """Why a field shows or does not show."""
    with work() as unit:
        product, steps = proofs.explain(unit, query.product, query.field, query.surface)
        name = plans.draft(unit.session).all_fields[query.field].name
        return reply(
            s.WhyOut,
            {
                "field": query.field,
                "field_name": name,
                "surface": query.surface,
                "product": product.id,
                "product_title": product.title,
                "shows": steps[-1].name == "shows",
                "steps": steps,
            },
        )


@api.get("/missing", responses=answers(s.MissingOut))
@allow(Right.LOOK)
def missing_get(query: s.MissingQuery) -> Response:
    """The fields of a product that a surface does not show, with the first reason."""
    with work() as unit:
        return reply(s.MissingOut, {"missing": proofs.missing(unit, query.product, query.surface)})


@api.get("/example", responses=answers(s.ExampleOut))
@allow(Right.LOOK)
def example_get(query: s.ExampleQuery) -> Response:
    """A product that has a field, a set, a value list or a type: something to prove with."""
    with work() as unit:
        unit.need(Right.LOOK)
        defs = plans.draft(unit.session)
        wanted = {
            "field": lambda: [t for t in defs.types if any(e.field.key == query.key for e in defs.effective(t))],
            "set": lambda: [t for t in defs.types if any(e.set == query.key for e in defs.effective(t))],
            "list": lambda: [t for t in defs.types if any(e.field.list == query.key for e in defs.effective(t))],
            "type": lambda: sorted(descendants(query.key, defs.types)),
        }.get(query.noun)
        if wanted is None:
            raise Refusal("not_found", f"There is nothing called {query.noun}", ("noun",))
        found = proofs.example_product(unit, wanted())
        title = products.get(unit.session, [found])[found].product.title if found else ""
        return reply(s.ExampleOut, {"product": found, "title": title})
