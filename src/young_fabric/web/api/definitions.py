"""What the definitions share: kinds, units and surfaces, what a change would touch, and removing."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.core.display import SURFACES
from young_fabric.core.errors import Refusal
from young_fabric.core.kinds import KINDS
from young_fabric.core.units import UNITS
from young_fabric.service import definitions, plans
from young_fabric.service.actors import Right
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import definitions as s
from young_fabric.web.schemas.common import Done, KeyPath, VersionQuery

api = blueprint("definitions")


@api.get("/meta", responses=answers(s.MetaOut))
@allow(Right.LOOK)
def meta() -> Response:
    """Kinds, units, surfaces and the shop."""
    with work() as unit:
        shop = plans.draft(unit.session).shop
    kinds = [
        s.KindOut(
            code=k.code,
            name=k.name,
            example=k.example,
            limits=list(k.limits),
            takes_unit=k.takes_unit,
            takes_list=k.takes_list,
            takes_many=k.takes_many,
        )
        for k in KINDS.values()
        if k.own_fields
    ]
    return reply(
        s.MetaOut,
        s.MetaOut(
            kinds=kinds,
            units=[s.UnitOut(symbol=u.symbol, dimension=u.dimension) for u in UNITS],
            surfaces=[s.SurfaceOut(code=code, name=name) for code, name in SURFACES.items()],
            shop_name=shop.name,
            prefix=shop.prefix,
            currency=shop.currency,
        ),
    )


_NOUNS = {"fields": "field", "lists": "list", "sets": "set", "types": "type"}


class PluralPath(KeyPath):
    """A thing by its noun's plural and key."""

    nouns: str


@api.post("/<nouns>/<key>/consequences", responses=answers(s.ConsequencesOut))
@allow(Right.LOOK)
def consequences(path: PluralPath, body: s.ConsequencesIn) -> Response:
    """What a change of a definition would touch; nothing is written."""
    if path.nouns not in _NOUNS:
        raise Refusal("not_found", f"There is nothing called {path.nouns}", ("nouns",))
    noun = _NOUNS[path.nouns]
    with work() as unit:
        thing = None if body.remove else definitions.changed_thing(unit, noun, path.key, body.changes)
        return reply(s.ConsequencesOut, consequences_out(definitions.consequences(unit, noun, path.key, thing)))


def consequences_out(found: definitions.Consequences) -> dict[str, Any]:
    """Consequences as the response has them."""
    outside = found.outside
    told = (
        None
        if outside is None
        else {
            "values": outside.values,
            "wrong": outside.wrong,
            "examples": [{"id": number, "title": title} for number, title in outside.examples],
        }
    )
    return {**vars(found), "outside": told}


def remove(noun: str, path: KeyPath, query: VersionQuery) -> Response:
    """Remove a definition of a noun."""
    with work() as unit:
        definitions.remove(unit, noun, path.key, query.version)
        return reply(Done, Done())
