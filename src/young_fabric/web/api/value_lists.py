"""Value lists: made, changed, pasted into and removed."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.core import value_lists
from young_fabric.core.definitions import Definitions
from young_fabric.service import definitions, plans, writes
from young_fabric.service.actors import Right
from young_fabric.store.repos.things import REPOS
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.api.definitions import remove
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import definitions as s
from young_fabric.web.schemas.common import Done, KeyPath, VersionQuery

api = blueprint("value_lists")


@api.get("/lists", responses=answers(s.ListsOut))
@allow(Right.LOOK)
def lists_list() -> Response:
    """All value lists."""
    with work() as unit:
        unit.need(Right.LOOK)
        defs = plans.draft(unit.session)
        return reply(
            s.ListsOut,
            {
                "lists": [
                    _list_out(defs, thing, version)
                    for thing, version in REPOS["list"].load(unit.session, None).values()
                ]
            },
        )


def _list_out(defs: Definitions, thing: value_lists.ValueList, version: int) -> dict[str, Any]:
    users = [one.key for one in defs.fields.values() if one.list == thing.key]
    return {"list": thing, "version": version, "fields": users}


@api.post("/lists", responses=answers(s.ListOut))
@allow(Right.EDIT)
def lists_new(body: s.NewNamed) -> Response:
    """Make a value list."""
    with work() as unit:
        made = definitions.create(unit, "list", body.name, {"key": body.key})
        return reply(s.ListOut, _list_out(plans.draft(unit.session), made.thing, made.version))


@api.patch("/lists/<key>", responses=answers(s.ListOut))
@allow(Right.EDIT)
def lists_change(path: KeyPath, body: s.ListPatch) -> Response:
    """Change a value list."""
    with work() as unit:
        given = body.given()
        made = definitions.change(unit, "list", path.key, given.pop("version"), given)
        return reply(s.ListOut, _list_out(plans.draft(unit.session), made.thing, made.version))


@api.delete("/lists/<key>", responses=answers(Done))
@allow(Right.EDIT)
def lists_remove(path: KeyPath, query: VersionQuery) -> Response:
    """Remove a value list nothing uses."""
    return remove("list", path, query)


@api.post("/lists/<key>/paste", responses=answers(s.PasteOut))
@allow(Right.EDIT)
def lists_paste(path: KeyPath, body: s.PasteIn) -> Response:
    """Read a pasted list of values, and write it when asked to."""
    with work() as unit:
        thing, version = writes.need_current(unit, "list", path.key)
        pasted = value_lists.paste(thing, body.text)
        if body.apply:
            version = writes.write(unit, "list", path.key, pasted.result, body.version).version
        skipped = [{"line": line, "text": text, "reason": reason} for line, text, reason in pasted.skipped]
        return reply(
            s.PasteOut, {"added": list(pasted.added), "skipped": skipped, "list": pasted.result, "version": version}
        )
