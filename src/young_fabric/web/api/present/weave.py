"""The weave, and display settings, one cell or many."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.display.cascade import read_scope
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.nouns.layouts.display_settings import origin_name
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import definitions
from young_fabric.service.defining.definitions import SettingEdit
from young_fabric.service.pages import weave, weave_cells
from young_fabric.service.planning import plans
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import present as s
from young_fabric.web.schemas.nouns import ConsequencesOut

api = blueprint("weave")
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
        defs = plans.draft(unit.session)
        layouts = [{**vars(chosen), "origin_name": _origin_name(defs, chosen.origin)} for chosen in found.layouts]
        return reply(s.WeaveOut, {**head, "groups": groups, "wholes": found.wholes, "layouts": layouts})


def _origin_name(defs: Definitions, origin: str) -> str:
    return "the surface itself" if origin == "default" else origin_name(defs, origin)


@api.get("/weave/cell", responses=answers(s.OpenCellOut))
@allow(Right.LOOK)
def weave_cell(query: s.CellQuery) -> Response:
    """All that can be set in a cell; `*` for a whole row or column."""
    scope = read_scope(query.scope)
    with work() as unit:
        found = weave_cells.open_cell(unit, scope, query.field, query.surface)
        defs = plans.draft(unit.session)
        properties = [
            {
                "code": prop.code,
                "value": prop.found.value,
                "origin": prop.found.origin,
                "origin_name": _origin_name(defs, prop.found.origin),
                "own": prop.own,
                "choices": prop.choices,
            }
            for prop in found.properties
        ]
        return reply(s.OpenCellOut, {"version": found.version, "properties": properties})


@api.patch(f"/{SETTINGS.plural}/several", responses=answers(s.SettingsOut))
@allow(Right.EDIT)
def settings_set_several(body: s.SettingsIn) -> Response:
    """Set display properties of many cells as one change."""
    scope = read_scope(body.scope)
    with work() as unit:
        done = weave_cells.put_several(unit, scope, _cells(body))
        return reply(s.SettingsOut, {"versions": [written.version if written.thing else None for written in done]})


@api.post(f"/{SETTINGS.plural}/several/consequences", responses=answers(s.TouchedCellsOut))
@allow(Right.LOOK)
def settings_several_consequences(body: s.TriedCellsIn) -> Response:
    """What setting many cells to one thing or another would touch."""
    scope = read_scope(body.scope)
    with work() as unit:
        tried = [
            [SettingEdit(cell.field, cell.surface, {**cell.set, **given}, None) for cell in body.cells]
            for given in body.sets
        ]
        found = [weave_cells.consequences_of_several(unit, scope, edits) for edits in tried]
        return reply(s.TouchedCellsOut, {"touched": found})


def _cells(body: s.SettingsIn) -> list[SettingEdit]:
    return [SettingEdit(cell.field, cell.surface, cell.set, cell.version) for cell in body.cells]


def _row(unit: Work, row: weave.Row) -> dict[str, Any]:
    defs = plans.draft(unit.session)
    names = ("surface", "state", "own", "version", "reason")
    return {
        "key": row.field.key,
        "name": row.field.name,
        "cells": [
            {
                **{name: getattr(cell, name) for name in names},
                "settings": {
                    prop: {
                        "value": found.value,
                        "origin": found.origin,
                        "origin_name": _origin_name(defs, found.origin),
                    }
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
        edit = SettingEdit(body.field, body.surface, body.set, body.version)
        [(key, thing)] = definitions.changed_settings(unit, scope, [edit])
        return reply(ConsequencesOut, definitions.consequences(unit, SETTINGS.code, key, thing))
