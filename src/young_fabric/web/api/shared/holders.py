"""Values that definitions hold of their own: the same two routes for every noun whose things have fields."""

# Annotations here are read when a noun is registered, so they are values, not text.
from flask import Response
from flask_openapi3 import APIBlueprint

from young_fabric.core.nouns.base import Noun
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import holders
from young_fabric.service.planning import plans
from young_fabric.web.api import answers, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import records as s
from young_fabric.web.schemas.common import KeyPath


def add_own_fields(api: APIBlueprint, noun: Noun) -> None:
    """The routes that read and fill a thing's own fields."""

    def dump(unit: Work, key: str) -> Response:
        fields = holders.fields_of(unit, noun.code, key)
        version = plans.draft_of(unit.session).loaded.versions[noun.code, key]
        return reply(s.OwnFieldsOut, {"version": version, "fields": fields})

    @api.get(f"/{noun.plural}/<key>/values", responses=answers(s.OwnFieldsOut), endpoint="values_open")
    @allow(Right.LOOK)
    def values_open(path: KeyPath) -> Response:
        """A thing's own fields with their values."""
        with work() as unit:
            return dump(unit, path.key)

    @api.patch(f"/{noun.plural}/<key>/values", responses=answers(s.OwnFieldsOut), endpoint="values_fill")
    @allow(Right.EDIT)
    def values_fill(path: KeyPath, body: s.ValuesIn) -> Response:
        """Fill a thing's own fields; what others filled meanwhile is kept."""
        with work() as unit:
            holders.fill(unit, noun.code, path.key, body.version, body.values)
            return dump(unit, path.key)
