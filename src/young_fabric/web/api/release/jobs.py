"""Long work: all of it, how far each is, and stopping it."""

from __future__ import annotations

from flask import Response

from young_fabric.service.acting.actors import Right
from young_fabric.service.long_work import jobs
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas.common import NumberPath
from young_fabric.web.schemas.release import JobIn, JobOut, JobsOut

api = blueprint("jobs")


@api.get("/jobs", responses=answers(JobsOut))
@allow(Right.LOOK)
def jobs_list() -> Response:
    """The jobs asked for last."""
    with work() as unit:
        return reply(JobsOut, {"jobs": jobs.listed(unit)})


@api.post("/jobs", responses=answers(JobOut))
@allow(Right.LOOK)
def jobs_ask(body: JobIn) -> Response:
    """Ask for long work of a kind that is asked for by itself, by whoever may; the worker does it."""
    with work() as unit:
        return reply(JobOut, jobs.ask_for(unit, body.kind, body.args))


@api.get("/jobs/<id:number>", responses=answers(JobOut))
@allow(Right.LOOK)
def job_get(path: NumberPath) -> Response:
    """A job and how far it is."""
    with work() as unit:
        return reply(JobOut, jobs.get(unit, path.number))


@api.post("/jobs/<id:number>/stop", responses=answers(JobOut))
@allow(Right.LOOK)
def job_stop(path: NumberPath) -> Response:
    """Ask a job to stop, if one may ask for its kind and it can be stopped; one that waits stops at once."""
    with work() as unit:
        return reply(JobOut, jobs.stop(unit, path.number))
