"""Releases, checks, history, undo, and find."""

from __future__ import annotations

from typing import Any

from flask import Response

from young_fabric.service import history
from young_fabric.service.acting.actors import Right
from young_fabric.service.checking import checks
from young_fabric.service.long_work import jobs
from young_fabric.service.products import find, products
from young_fabric.service.releasing import differing, pending, release
from young_fabric.service.values import judging
from young_fabric.store.repos import shop
from young_fabric.store.tables import ReleaseRow
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import release as s
from young_fabric.web.schemas.common import NumberPath

api = blueprint("release")


@api.get("/counts", responses=answers(s.CountOut))
@allow(Right.LOOK)
def counts() -> Response:
    """What the top bar counts."""
    with work() as unit:
        unit.need(Right.LOOK)
        return reply(
            s.CountOut,
            {
                "unreleased": pending.pending_count(unit),
                "gaps": products.count_gaps(unit),
                "judging": judging.being_judged(unit),
                "release": shop.shop_of(unit.session)[2],
                "job": jobs.last_release(unit),
            },
        )


@api.get("/pending", responses=answers(s.PendingOut))
@allow(Right.LOOK)
def pending_get() -> Response:
    """What a release made now would change."""
    with work() as unit:
        return reply(s.PendingOut, pending.pending(unit))


@api.get("/differing", responses=answers(s.DifferingOut))
@allow(Right.LOOK)
def differing_get(query: s.DifferingQuery) -> Response:
    """Pages and cards that a changed thing would make different."""
    with work() as unit:
        return reply(s.DifferingOut, differing.differing(unit, query.noun, query.key))


@api.get("/checks", responses=answers(s.ChecksOut))
@allow(Right.LOOK)
def checks_get() -> Response:
    """What is wrong or worth a look."""
    with work() as unit:
        found = checks.checks(unit)
        return reply(
            s.ChecksOut,
            {"checks": [{**vars(check), "link": list(check.link) if check.link else None} for check in found]},
        )


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


@api.post("/releases", responses=answers(s.JobOut))
@allow(Right.RELEASE)
def releases_new(body: s.ReleaseIn) -> Response:
    """Ask for all drafts to be put live at once; the worker does it."""
    with work() as unit:
        return reply(s.JobOut, jobs.ask_release(unit, body.note))


@api.post("/releases/<id:number>/back", responses=answers(s.ReleaseOut))
@allow(Right.RELEASE)
def releases_back(path: NumberPath, body: s.ReleaseIn) -> Response:
    """Make what was live at a release live again."""
    with work() as unit:
        return reply(s.ReleaseOut, _release_out(release.go_back(unit, path.number, body.note), unit.actor.name))


@api.get("/changes", responses=answers(s.ChangesOut))
@allow(Right.LOOK)
def changes_list(query: s.ChangesQuery) -> Response:
    """Changes of a thing, or of all, last first."""
    with work() as unit:
        return reply(s.ChangesOut, {"changes": history.history(unit, query.noun, query.key, query.before)})


@api.post("/changes/<id:number>/undo", responses=answers(s.UndoneOut))
@allow(Right.EDIT)
def changes_undo(path: NumberPath) -> Response:
    """Take back a change."""
    with work() as unit:
        return reply(s.UndoneOut, history.undo(unit, path.number))


@api.post("/undo", responses=answers(s.UndoneOut))
@allow(Right.EDIT)
def undo() -> Response:
    """Take back one's own last change."""
    with work() as unit:
        return reply(s.UndoneOut, history.undo_last(unit))


@api.post("/redo", responses=answers(s.UndoneOut))
@allow(Right.EDIT)
def redo() -> Response:
    """Do again what one last took back."""
    with work() as unit:
        return reply(s.UndoneOut, history.redo_last(unit))


@api.get("/find", responses=answers(s.FoundOut))
@allow(Right.LOOK)
def find_get(query: s.FindQuery) -> Response:
    """Find things by a few letters."""
    with work() as unit:
        return reply(s.FoundOut, {"hits": find.find(unit, query.q)})
