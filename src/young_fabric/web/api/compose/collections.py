"""Collections: what all nouns have; their order, hands and own values; members, conditions and what they bring."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.content.collections import NOUN
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.defining import collection_effect, collections
from young_fabric.service.planning import plans
from young_fabric.service.products import collection_members
from young_fabric.service.products.collection_members import CollectionMember
from young_fabric.web.api import answers, reply
from young_fabric.web.api.shared.hands import add_hands
from young_fabric.web.api.shared.holders import add_own_fields
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import collections as s
from young_fabric.web.schemas.common import KeyPath

COLLECTIONS = NounApi(NOUN, s.CollectionOut, collections.overview)
api = register_noun_api(COLLECTIONS)
add_own_fields(api, NOUN)
add_hands(api, COLLECTIONS)


def _rows(defs: Definitions, rows: list[CollectionMember]) -> list[dict[str, Any]]:
    return [
        {
            "id": row.product.id,
            "title": row.product.title,
            "sku": row.product.sku,
            "type_name": defs.types[row.product.type].name,
            "picture": row.product.cover,
            "offered": row.product.offered,
            "how": row.how,
            "reason": row.reason,
        }
        for row in rows
    ]


def _opened(unit: Work, key: str) -> Response:
    return reply(s.CollectionOut, collections.overview(unit, key)[0])


@api.get("/collections/<key>/members", responses=answers(s.MembersOut))
@allow(Right.LOOK)
def members(path: KeyPath, query: s.MembersQuery) -> Response:
    """Products of a collection in the order of its listing, each with how it got in."""
    with work() as unit:
        found = collection_members.members(unit, path.key, query.offset)
        defs = plans.draft(unit.session)
        rows = {"rows": _rows(defs, found.rows), "kept_out": _rows(defs, found.kept_out)}
        return reply(s.MembersOut, {**rows, "total": found.total, "next": found.next})


@api.get("/conditions/fields", responses=answers(s.AskedFieldsOut))
@allow(Right.LOOK)
def asked_fields() -> Response:
    """All that a condition can ask for."""
    with work() as unit:
        rows = [
            {**vars(field), "tests": [dict(zip(("op", "words", "takes"), test, strict=True)) for test in field.tests]}
            for field in collection_members.askable(unit)
        ]
        return reply(s.AskedFieldsOut, {"fields": rows})


@api.post("/conditions/matches", responses=answers(s.MatchesOut))
@allow(Right.LOOK)
def matches(body: s.MatchesIn) -> Response:
    """Which of the next products meet a condition as it is being made; nothing is written."""
    with work() as unit:
        found = collection_members.matches(unit, body.condition, body.collection, body.after)
        first = _rows(plans.draft(unit.session), found.first)
        return reply(s.MatchesOut, {**vars(found), "first": first, "tests": [vars(test) for test in found.tests]})


@api.put("/collections/<key>/place", responses=answers(s.CollectionOut))
@allow(Right.EDIT)
def place(path: KeyPath, body: s.MoveIn) -> Response:
    """Put a collection behind another."""
    with work() as unit:
        collections.move(unit, path.key, body.after)
        return _opened(unit, path.key)


@api.get("/collections/<key>/effect", responses=answers(s.EffectOut))
@allow(Right.LOOK)
def effect(path: KeyPath) -> Response:
    """What a collection brings its products, and where another decides."""
    with work() as unit:
        return reply(s.EffectOut, collection_effect.effect(unit, path.key))
