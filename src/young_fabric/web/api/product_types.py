"""Product types: what all nouns have, and the fields they have."""

from __future__ import annotations

from flask import Response

from young_fabric.core.nouns.product_types import NOUN
from young_fabric.service import product_types
from young_fabric.service.actors import Right
from young_fabric.web.api import answers, reply
from young_fabric.web.api.downloads import document, json_answer
from young_fabric.web.api.nouns import NounApi, register_noun_api
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import nouns as s
from young_fabric.web.schemas.common import KeyPath

api = register_noun_api(NounApi(NOUN, s.ProductTypeOut, product_types.overview))


@api.get("/product_types/<key>/fields", responses=answers(s.EffectivesOut))
@allow(Right.LOOK)
def types_fields(path: KeyPath) -> Response:
    """All fields of a type with where each comes from."""
    with work() as unit:
        return reply(s.EffectivesOut, {"fields": product_types.fields_of(unit, path.key)})


@api.get("/product_types/<key>/schema.json", responses=json_answer())
@allow(Right.LOOK)
def types_schema(path: KeyPath) -> Response:
    """The JSON Schema of the values that products of a type hold."""
    with work() as unit:
        return document(product_types.schema(unit, path.key), f"{path.key}.schema")
