"""The weave, display settings, why, and products to prove with."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.core.display.cascade import read_scope
from young_fabric.core.display.surfaces import addressed_surface
from young_fabric.core.nouns import display_settings
from young_fabric.core.nouns.display_settings import origin_name
from young_fabric.service import definitions, plans, proofs, weave
from young_fabric.service.actors import Right, Work
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import present as s
from young_fabric.web.schemas.nouns import ConsequencesOut

api = blueprint("present")
SETTINGS = display_settings.NOUN


@api.get("/weave", responses=answers(s.WeaveOut))
@allow(Right.LOOK)
def weave_get(query: s.ScopeQuery) -> Response:
    """Fields by surfaces for a scope."""
    scope = read_scope(query.scope)
    with work() as unit:
        found = weave.weave(unit, scope)
        groups = [
            {"title": group.title, "note": group.note, "rows": [_row(unit, row) for row in group.rows]}
            for group in found.groups
        ]
        head = {"scope": str(scope), "scope_name": found.name, "products": found.products, "example": found.example}
        return reply(s.WeaveOut, {**head, "groups": groups})


def _row(unit: Work, row: weave.Row) -> dict[str, Any]:
    defs = plans.draft(unit.session)
    names = ("surface", "state", "own", "version", "reason", "properties")
    return {
        "key": row.field.key,
        "name": row.field.name,
        "cells": [
            {
                **{name: getattr(cell, name) for name in names},
                "settings": {
                    prop: {"value": found.value, "origin": found.origin, "origin_name": origin_name(defs, found.origin)}
                    for prop, found in cell.settings.items()
                },
            }
            for cell in row.cells
        ],
    }


@api.patch(f"/{SETTINGS.plural}", responses=answers(s.SettingOut))
@allow(Right.EDIT)
def settings_set(body: s.SettingIn) -> Response:
    """Set display properties for a scope, field and surface; what others set meanwhile is kept."""
    scope = read_scope(body.scope)
    with work() as unit:
        done = definitions.display(unit, scope, body.field, body.surface, body.set, body.version)
        return reply(s.SettingOut, {"version": done.version if done.thing else None})


@api.post(f"/{SETTINGS.plural}/consequences", responses=answers(ConsequencesOut))
@allow(Right.LOOK)
def settings_consequences(body: s.SettingIn) -> Response:
    """What setting display properties would touch."""
    scope = read_scope(body.scope)
    with work() as unit:
        key, thing = definitions.changed_setting(unit, scope, body.field, body.surface, body.set)
        return reply(ConsequencesOut, definitions.consequences(unit, SETTINGS.code, key, thing))


@api.get("/why", responses=answers(s.WhyOut))
@allow(Right.LOOK)
def why_get(query: s.WhyQuery) -> Response:
    """Why a field shows or does not show."""
    surface = query.surface or addressed_surface().code
    with work() as unit:
        product, steps = proofs.explain(unit, query.product, query.field, surface)
        return reply(
            s.WhyOut,
            {
                "field": query.field,
                "field_name": plans.draft(unit.session).all_fields[query.field].name,
                "surface": surface,
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
    surface = query.surface or addressed_surface().code
    with work() as unit:
        return reply(s.MissingOut, {"missing": proofs.missing(unit, query.product, surface)})


@api.get("/example", responses=answers(s.ExampleOut))
@allow(Right.LOOK)
def example_get(query: s.ExampleQuery) -> Response:
    """A product whose pages read a thing: something to prove with."""
    with work() as unit:
        found = proofs.example_for(unit, query.noun, query.key)
        return reply(s.ExampleOut, {"product": found.id if found else None, "title": found.title if found else ""})
