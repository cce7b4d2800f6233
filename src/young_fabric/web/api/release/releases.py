"""Releases: made, listed, gone back to."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.service.acting.actors import Right
from young_fabric.service.long_work import jobs
from young_fabric.service.long_work.job_kinds import RELEASE
from young_fabric.service.releasing import comparing, release
from young_fabric.store.repos import shop
from young_fabric.store.tables import ReleaseRow
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import release as s
from young_fabric.web.schemas.common import NumberPath

api = blueprint("releases")


def _release_out(row: ReleaseRow, person: str) -> dict[str, Any]:
    names = ("number", "at", "note", "things", "counts", "held_back", "back_to")
    return {**{name: getattr(row, name) for name in names}, "person": person}


@api.get("/releases", responses=answers(s.ReleasesOut))
@allow(Right.LOOK)
def releases_list(query: s.ReleasesQuery) -> Response:
    """Releases, last first, 30 at a time."""
    with work() as unit:
        rows = release.history(unit, query.before)
        current = shop.shop_of(unit.session)[2]
        return reply(s.ReleasesOut, {"releases": [_release_out(*row) for row in rows], "current": current})


@api.get("/releases/between", responses=answers(s.BetweenOut))
@allow(Right.LOOK)
def releases_between(query: s.BetweenQuery) -> Response:
    """What two releases differ in."""
    with work() as unit:
        return reply(s.BetweenOut, comparing.between(unit, query.before, query.after))


@api.post("/releases", responses=answers(s.JobOut))
@allow(Right.RELEASE)
def releases_new(body: s.ReleaseIn) -> Response:
    """Ask for all drafts to be put live at once; the worker does it."""
    with work() as unit:
        return reply(s.JobOut, jobs.ask_for(unit, RELEASE.code, {"note": body.note}))


@api.post("/releases/<id:number>/back", responses=answers(s.ReleaseOut))
@allow(Right.RELEASE)
def releases_back(path: NumberPath, body: s.ReleaseIn) -> Response:
    """Make what was live at a release live again."""
    with work() as unit:
        return reply(s.ReleaseOut, _release_out(release.go_back(unit, path.number, body.note), unit.actor.name))
