"""Definitions as files: out, in after a plan, and what such files look like."""

from __future__ import annotations

from flask import Response

from young_fabric.service.acting.actors import Right
from young_fabric.service.defining import bundles
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.api.shared.downloads import document, json_answer
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import bundles as s

api = blueprint("bundles")
MOST_BUNDLE = 20 * 1024 * 1024


@api.get("/definitions.json", responses=json_answer())
@allow(Right.LOOK)
def bundles_export(query: s.ExportQuery) -> Response:
    """All definitions, or one product type with all it needs, as one document."""
    with work() as unit:
        return document(bundles.export(unit, query.type), query.type or "definitions")


@api.get("/definitions/schema.json", responses=json_answer())
@allow(Right.LOOK)
def bundles_schema() -> Response:
    """The JSON Schema of such documents."""
    return document(bundles.schema(), "definitions.schema")


@api.post("/definitions/import", responses=answers(s.ImportOut))
@allow(Right.EDIT, most_json=MOST_BUNDLE)
def bundles_import(body: s.ImportIn) -> Response:
    """Import a document in one stroke, or tell what that comes to."""
    with work() as unit:
        found = (bundles.import_definitions if body.apply else bundles.plan)(unit, body.bundle, body.from_file)
        return reply(s.ImportOut, {"things": list(found)})
