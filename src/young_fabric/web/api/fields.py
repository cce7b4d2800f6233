"""Fields: defined, changed, tried and removed."""

from __future__ import annotations

from flask import Response

from young_fabric.core.errors import Refusal
from young_fabric.core.kinds import KINDS
from young_fabric.service import definitions, fields, plans
from young_fabric.service.actors import Right, Work
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.api.definitions import remove
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import definitions as s
from young_fabric.web.schemas.common import Done, KeyPath, VersionQuery

api = blueprint("fields")


@api.get("/fields", responses=answers(s.FieldsOut))
@allow(Right.LOOK)
def fields_list() -> Response:
    """All fields with use and filling."""
    with work() as unit:
        return reply(s.FieldsOut, {"fields": fields.overview(unit)})


@api.post("/fields", responses=answers(s.FieldUse))
@allow(Right.EDIT)
def fields_new(body: s.FieldNew) -> Response:
    """Make a field."""
    with work() as unit:
        made = definitions.create(unit, "field", body.name, body.given())
        return _field_use(unit, made.thing.key)


@api.patch("/fields/<key>", responses=answers(s.FieldUse))
@allow(Right.EDIT)
def fields_change(path: KeyPath, body: s.FieldPatch) -> Response:
    """Change a field."""
    with work() as unit:
        given = body.given()
        definitions.change(unit, "field", path.key, given.pop("version"), given)
        return _field_use(unit, path.key)


def _field_use(unit: Work, key: str) -> Response:
    found = next(one for one in fields.overview(unit) if one.field.key == key)
    return reply(s.FieldUse, found)


@api.delete("/fields/<key>", responses=answers(Done))
@allow(Right.EDIT)
def fields_remove(path: KeyPath, query: VersionQuery) -> Response:
    """Remove a field nothing uses."""
    return remove("field", path, query)


@api.post("/fields/try", responses=answers(s.TryOut))
@allow(Right.LOOK)
def fields_try(body: s.TryIn) -> Response:
    """What typed texts become, with changes to the field that are not saved."""
    with work() as unit:
        defs = plans.draft(unit.session)
        if body.key in defs.fields:
            this = definitions.changed_thing(unit, "field", body.key, body.changes)
        elif body.key in defs.all_fields:
            this = defs.all_fields[body.key]
        else:
            raise Refusal("not_found", f"There is no field {body.key}", ("key",))
        rules = KINDS[this.kind]
        return reply(
            s.TryOut,
            {
                "tried": [
                    s.TriedOut(
                        text=one.text,
                        shown=one.shown,
                        stored=""
                        if one.value is None
                        else (rules.show(one.value, defs.spec(this)) if not this.many else one.shown),
                        code=one.wrong.code if one.wrong else None,
                        message=one.wrong.message if one.wrong else None,
                    )
                    for one in fields.attempt(unit, this, body.texts)
                ]
            },
        )
