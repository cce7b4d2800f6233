"""Long work: asked for by a person, done by the worker, told in numbers, stopped on a word.

A job that runs is heard of by its heartbeat, whatever it does. One that nobody works on is handed over again where it can go on,
or failed; one that waits is only ever handed over again.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import Actor, Right, Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.long_work.job_kinds import JOB_KINDS, RELEASE, JobKind
from young_fabric.store.repos import jobs
from young_fabric.store.tables import JobRow

SILENCE = timedelta(seconds=45)
MOST_TRIES = 20
"""How often a job that goes on where it ended is begun, when it ends by no fault of its own or for reasons nobody knows."""
MOST_LISTED = 50
Sessions = Callable[[], Session]
Clock = Callable[[], datetime]
HandOver = Callable[[int], None]


def now() -> datetime:
    """The time."""
    return datetime.now(UTC)


@dataclass(frozen=True)
class Job:
    """A job as people see it: how far it is, in numbers of what, what it gave or why it failed, and whether it can be
    stopped by whom asks."""

    id: int
    kind: str
    name: str
    state: str
    person: str
    asked: datetime
    done: int
    total: int
    result: dict[str, Any]
    counted: tuple[str, str]
    outcome: str
    may_stop: bool


def to_job(work: Work, row: JobRow, person: str) -> Job:
    """A job's row as the actor sees it."""
    kind = JOB_KINDS.get(row.kind)
    right = kind.right if kind else Right.EDIT
    may_stop = row.state in jobs.OPEN and not row.stop and right in work.actor.rights
    may_stop = may_stop and (row.state == "waiting" or kind is None or kind.stops)
    outcome = _outcome(row, kind)
    name, counted = (kind.name, kind.counted) if kind else (row.kind, ("step", "steps"))
    state = (row.done, row.total, row.result, counted, outcome, may_stop)
    return Job(row.id, row.kind, name, row.state, person, row.asked, *state)


def _outcome(row: JobRow, kind: JobKind | None) -> str:
    """What became of a job, in words; "" while it is open."""
    if row.state == "done":
        return kind.outcome(row.result) if kind else "Done"
    if row.state == "stopped":
        return kind.stopped if kind else "Stopped"
    if row.state == "failed":
        return f"{row.result.get('message', 'It failed')}. {row.result.get('help', '')}".strip()
    return ""


def ask(work: Work, kind: JobKind, args: Mapping[str, Any]) -> Job:
    """Ask for a job; it is handed over when the work is committed. Raises Refusal `forbidden`, `busy`."""
    work.need(kind.right)
    rescue(work)
    return get(work, hand_in(work, kind.code, args, kind.exclusive, kind.busy))


def ask_for(work: Work, code: str, given: Mapping[str, Any]) -> Job:
    """Ask for a job of a kind that people ask for by itself. Raises Refusal `not_found`, `forbidden`, `busy`, or of what is given."""
    kind = JOB_KINDS.get(code)
    if kind is None or kind.asked is None:
        words = f"There is no job {code[:60]} to ask for"
        raise Refusal("not_found", words, ("kind",), f"Ask for {' or '.join(askable())}")
    work.need(kind.right)
    return ask(work, kind, kind.asked(work, given))


def askable() -> list[str]:
    """The kinds that people ask for by themselves."""
    return [code for code, kind in JOB_KINDS.items() if kind.asked is not None]


def get(work: Work, job_id: int) -> Job:
    """A job. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    found = jobs.get(work.session, job_id)
    if found is None:
        raise Refusal("not_found", "There is no such job")
    return to_job(work, *found)


def listed(work: Work) -> list[Job]:
    """The jobs asked for last."""
    work.need(Right.LOOK)
    rescue(work)
    return [to_job(work, *row) for row in jobs.newest(work.session, MOST_LISTED)]


def last_release(work: Work) -> Job | None:
    """The release asked for last; one whose worker was lost is seen to."""
    work.need(Right.LOOK)
    rescue(work)
    found = jobs.last(work.session, RELEASE.code)
    return to_job(work, *found) if found is not None else None


def stop(work: Work, job_id: int) -> Job:
    """Ask a job to stop; one that waits stops at once. Raises Refusal `not_found`, `forbidden`, `no_stop`."""
    job = get(work, job_id)
    kind = JOB_KINDS.get(job.kind)
    work.need(kind.right if kind is not None else Right.EDIT)
    if kind is not None and kind.resumes and not kind.stops:
        raise _no_stop(job)
    if not jobs.move(work.session, job_id, ("waiting",), "stopped"):
        if kind is not None and not kind.stops and job.state == "running":
            raise _no_stop(job)
        jobs.ask_to_stop(work.session, job_id)
    return get(work, job_id)


def _no_stop(job: Job) -> Refusal:
    return Refusal("no_stop", f"{job.name} can't be stopped", (), "It is done in a while; it can be undone then")


def rescue(work: Work) -> None:
    """See to open jobs nobody was heard of from: done if their work is there, handed over once more, or failed.

    A job in the middle of a transaction holds its row, so it is passed over: it runs, however long nothing was heard of it.
    """
    for row in jobs.silent(work.session, work.now - SILENCE):
        kind = JOB_KINDS.get(row.kind)
        result = kind.found(work, row.id) if kind else None
        if result is not None:
            jobs.move(work.session, row.id, jobs.OPEN, "done", result=result)
        elif kind is None:
            failure = {"code": "lost", "message": "There is no such kind of job", "help": "Ask for it again"}
            jobs.move(work.session, row.id, jobs.OPEN, "failed", result=failure)
        elif row.state == "waiting" or (kind.resumes and row.tries < MOST_TRIES):
            jobs.move(work.session, row.id, jobs.OPEN, "waiting", beat=work.now)
            work.asked.append(row.id)
        else:
            failure = {"code": "lost", "message": kind.lost, "help": "Ask for it again"}
            jobs.move(work.session, row.id, ("running",), "failed", result=failure)


def keep_watch(sessions: Sessions, hand_over: HandOver, clock: Clock = now) -> None:
    """One look for jobs nobody works on, for the worker to take now and then."""
    with unit_of_work(sessions, Actor(0, "worker", frozenset()), clock, hand_over=hand_over) as work:
        rescue(work)
