"""Field sets: made, changed and removed."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.service import definitions, plans
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import products
from young_fabric.store.repos.things import REPOS
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.api.definitions import remove
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import definitions as s
from young_fabric.web.schemas.common import Done, KeyPath, VersionQuery

api = blueprint("field_sets")


def _set_out(unit: Work, thing: Any, version: int, counts: dict[str, int] | None = None) -> dict[str, Any]:
    defs = plans.draft(unit.session)
    held = counts if counts is not None else products.counts_by_type(unit.session)
    users = [key for key in defs.types if any(thing.key in defs.types[up].sets for up in defs.chain(key))]
    return {"set": thing, "version": version, "types": users, "products": sum(held.get(key, 0) for key in users)}


@api.get("/sets", responses=answers(s.SetsOut))
@allow(Right.LOOK)
def sets_list() -> Response:
    """All field sets."""
    with work() as unit:
        unit.need(Right.LOOK)
        counts = products.counts_by_type(unit.session)
        rows = [_set_out(unit, *pair, counts) for pair in REPOS["set"].load(unit.session, None).values()]
        return reply(s.SetsOut, {"sets": rows})


@api.post("/sets", responses=answers(s.SetOut))
@allow(Right.EDIT)
def sets_new(body: s.NewNamed) -> Response:
    """Make a field set."""
    with work() as unit:
        made = definitions.create(unit, "set", body.name, {"key": body.key})
        return reply(s.SetOut, _set_out(unit, made.thing, made.version))


@api.patch("/sets/<key>", responses=answers(s.SetOut))
@allow(Right.EDIT)
def sets_change(path: KeyPath, body: s.SetPatch) -> Response:
    """Change a field set."""
    with work() as unit:
        given = body.given()
        made = definitions.change(unit, "set", path.key, given.pop("version"), given)
        return reply(s.SetOut, _set_out(unit, made.thing, made.version))


@api.delete("/sets/<key>", responses=answers(Done))
@allow(Right.EDIT)
def sets_remove(path: KeyPath, query: VersionQuery) -> Response:
    """Remove a field set no type takes."""
    return remove("set", path, query)
