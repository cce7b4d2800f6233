"""Keys of other systems: made, shown once, and ended."""

from __future__ import annotations

from flask import Response, current_app

from young_fabric.service.acting import keys
from young_fabric.service.acting.actors import Right
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import keys as s
from young_fabric.web.schemas.common import Done, NumberPath

api = blueprint("keys")


@api.get("/keys", responses=answers(s.KeysOut))
@allow(Right.LOOK)
def keys_list() -> Response:
    """Every key, the newest first."""
    with work() as unit:
        address = f"{current_app.extensions['shop_address']}/delivery/v1/feed"
        return reply(s.KeysOut, {"keys": keys.listed(unit), "address": address})


@api.post("/keys", responses=answers(s.KeyMade))
@allow(Right.RELEASE)
def keys_make(body: s.KeyNew) -> Response:
    """Make a key; nobody can read it again."""
    with work() as unit:
        number, key = keys.make(unit, body.name)
        return reply(s.KeyMade, {"id": number, "key": key})


@api.delete("/keys/<id:number>", responses=answers(Done))
@allow(Right.RELEASE)
def keys_end(path: NumberPath) -> Response:
    """End a key: whoever reads with it is refused from now on."""
    with work() as unit:
        keys.end(unit, path.number)
        return reply(Done, Done())
