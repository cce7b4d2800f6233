"""Definitions as files: out, in after a plan, and what such files look like."""

from __future__ import annotations

from typing import Any

import orjson
from flask import Response, current_app

from young_fabric.service import bundles
from young_fabric.service.actors import Right
from young_fabric.web.api import PROBLEMS, answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import bundles as s

api = blueprint("bundles")
MOST_BUNDLE = 20 * 1024 * 1024
JSON = {"200": {"content": {"application/json": {}}}, **PROBLEMS}


def _download(content: Any, name: str) -> Response:
    text = orjson.dumps(content, option=orjson.OPT_INDENT_2) + b"\n"
    response = current_app.response_class(text, mimetype="application/json")
    response.headers["Content-Disposition"] = f'attachment; filename="{name}.json"'
    return response


@api.get("/definitions.json", responses=JSON)
@allow(Right.LOOK)
def bundles_export(query: s.ExportQuery) -> Response:
    """All definitions, or one product type with all it needs, as one document."""
    with work() as unit:
        return _download(bundles.export(unit, query.type), query.type or "definitions")


@api.get("/definitions/schema.json", responses=JSON)
@allow(Right.LOOK)
def bundles_schema() -> Response:
    """The JSON Schema of such documents."""
    return _download(bundles.schema(), "definitions.schema")


@api.post("/definitions/import", responses=answers(s.ImportOut))
@allow(Right.EDIT, most_json=MOST_BUNDLE)
def bundles_import(body: s.ImportIn) -> Response:
    """Import a document in one stroke, or tell what that comes to."""
    with work() as unit:
        found = (bundles.import_definitions if body.apply else bundles.plan)(unit, body.bundle, body.from_file)
        return reply(s.ImportOut, {"things": list(found)})
