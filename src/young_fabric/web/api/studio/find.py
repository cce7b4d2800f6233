"""Find: any definition or product by a few letters."""

from __future__ import annotations

from flask import Response

from young_fabric.service.acting.actors import Right
from young_fabric.service.products import find
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import release as s

api = blueprint("find")


@api.get("/find", responses=answers(s.FoundOut))
@allow(Right.LOOK)
def find_get(query: s.FindQuery) -> Response:
    """Find things by a few letters."""
    with work() as unit:
        return reply(s.FoundOut, {"hits": find.find(unit, query.q)})
