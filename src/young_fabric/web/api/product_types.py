"""Product types: made, changed and removed, and the fields they have."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.core.product_types import ancestry, descendants, type_path
from young_fabric.service import definitions, plans, writes
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import products
from young_fabric.store.repos.things import REPOS
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.api.definitions import remove
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import definitions as s
from young_fabric.web.schemas.common import Done, KeyPath, VersionQuery

api = blueprint("product_types")


def _type_out(unit: Work, thing: Any, version: int, counts: dict[str, int] | None = None) -> dict[str, Any]:
    types = plans.draft(unit.session).types
    held = counts if counts is not None else products.counts_by_type(unit.session)
    return {
        "type": thing,
        "version": version,
        "path": type_path(thing.key, types),
        "ancestors": list(ancestry(thing.key, types)[1:]),
        "products": held.get(thing.key, 0),
        "below": sum(held.get(key, 0) for key in descendants(thing.key, types)),
    }


@api.get("/types", responses=answers(s.TypesOut))
@allow(Right.LOOK)
def types_list() -> Response:
    """All product types, parents before children."""
    with work() as unit:
        unit.need(Right.LOOK)
        counts = products.counts_by_type(unit.session)
        rows = [_type_out(unit, *pair, counts) for pair in REPOS["type"].load(unit.session, None).values()]
        return reply(s.TypesOut, {"types": sorted(rows, key=lambda row: row["path"])})


@api.post("/types", responses=answers(s.TypeOut))
@allow(Right.EDIT)
def types_new(body: s.NewNamed) -> Response:
    """Make a product type."""
    with work() as unit:
        made = definitions.create(unit, "type", body.name, {"key": body.key, "parent": body.parent})
        return reply(s.TypeOut, _type_out(unit, made.thing, made.version))


@api.patch("/types/<key>", responses=answers(s.TypeOut))
@allow(Right.EDIT)
def types_change(path: KeyPath, body: s.TypePatch) -> Response:
    """Change a product type."""
    with work() as unit:
        given = body.given()
        made = definitions.change(unit, "type", path.key, given.pop("version"), given)
        return reply(s.TypeOut, _type_out(unit, made.thing, made.version))


@api.delete("/types/<key>", responses=answers(Done))
@allow(Right.EDIT)
def types_remove(path: KeyPath, query: VersionQuery) -> Response:
    """Remove a product type without products and children."""
    return remove("type", path, query)


@api.get("/types/<key>/fields", responses=answers(s.EffectiveOut))
@allow(Right.LOOK)
def types_fields(path: KeyPath) -> Response:
    """All fields of a type with where each comes from."""
    with work() as unit:
        unit.need(Right.LOOK)
        writes.need_current(unit, "type", path.key)
        return reply(s.EffectiveOut, {"fields": plans.draft(unit.session).effective(path.key)})
