"""Product types: what all nouns have, and the fields they have."""

from __future__ import annotations

from flask import Response

from young_fabric.core.nouns.types.product_types import NOUN
from young_fabric.service.acting.actors import Right
from young_fabric.service.defining import product_types, type_sheet
from young_fabric.service.planning import plans
from young_fabric.web.api import answers, reply
from young_fabric.web.api.shared.downloads import document, json_answer
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import nouns as s
from young_fabric.web.schemas.common import KeyPath
from young_fabric.web.schemas.type_sheet import TypeSheetOut

api = register_noun_api(NounApi(NOUN, s.ProductTypeOut, product_types.overview))


@api.get("/product_types/<key>/fields", responses=answers(s.EffectivesOut))
@allow(Right.LOOK)
def types_fields(path: KeyPath) -> Response:
    """All fields of a type with where each comes from."""
    with work() as unit:
        defs = plans.draft(unit.session)
        rows = [
            {
                **{
                    name: getattr(row, name)
                    for name in ("field", "need", "type", "set", "section", "need_from", "computed")
                },
                "said_by": row.said_by,
                "sets": type_sheet.bringing(defs, path.key, row.field.key),
                "asks": type_sheet.asking(defs, path.key, row.field.key),
            }
            for row in product_types.fields_of(unit, path.key)
        ]
        return reply(s.EffectivesOut, {"fields": rows})


@api.get("/sheet", responses=answers(TypeSheetOut))
@allow(Right.LOOK)
def types_sheet() -> Response:
    """All types and fields: who has what, from where, and how well it is filled."""
    with work() as unit:
        return reply(TypeSheetOut, type_sheet.sheet(unit))


@api.get("/product_types/<key>/schema.json", responses=json_answer())
@allow(Right.LOOK)
def types_schema(path: KeyPath) -> Response:
    """The JSON Schema of the values that products of a type hold."""
    with work() as unit:
        return document(product_types.schema(unit, path.key), f"{path.key}.schema")
