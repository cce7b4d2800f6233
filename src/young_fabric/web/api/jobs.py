"""Long work: how far it is, and stopping it."""

from __future__ import annotations

from flask import Response

from young_fabric.service import jobs
from young_fabric.service.actors import Right
from young_fabric.web.api import answers, blueprint, reply
from young_fabric.web.auth import allow, work
from young_fabric.web.schemas.common import NumberPath
from young_fabric.web.schemas.release import JobOut

api = blueprint("jobs")


@api.get("/jobs/<int:number>", responses=answers(JobOut))
@allow(Right.LOOK)
def job_get(path: NumberPath) -> Response:
    """A job and how far it is."""
    with work() as unit:
        return reply(JobOut, jobs.get(unit, path.number))


@api.post("/jobs/<int:number>/stop", responses=answers(JobOut))
@allow(Right.RELEASE)
def job_stop(path: NumberPath) -> Response:
    """Ask a job to stop; what it did is taken back."""
    with work() as unit:
        return reply(JobOut, jobs.stop(unit, path.number))
