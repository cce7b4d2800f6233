"""What a release made now would change, what is wrong, and what the top bar counts."""

from __future__ import annotations

from flask import Response

from young_fabric.service.acting.actors import Right
from young_fabric.service.checking import checks
from young_fabric.service.long_work import jobs
from young_fabric.service.products import products
from young_fabric.service.releasing import differing, pending
from young_fabric.service.values import judging
from young_fabric.store.repos import shop
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas import release as s

api = blueprint("pending")


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
