"""Long work: asked for by a person, done by the worker, told in numbers, stopped on a word.

How far a job is, is told through transactions of their own. A job that nobody works on is taken up again, or failed.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping
from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.service import people, release
from young_fabric.service.actors import Actor, Right, Work
from young_fabric.service.asking import hand_in
from young_fabric.service.job_kinds import JOB_KINDS, RELEASE, JobKind
from young_fabric.service.unit import unit_of_work
from young_fabric.store.repos import jobs
from young_fabric.store.repos import people as people_rows
from young_fabric.store.tables import JobRow

SILENCE = timedelta(seconds=45)
TELL_EVERY = 0.25
MOST_LISTED = 50
Sessions = Callable[[], Session]
Clock = Callable[[], datetime]
HandOver = Callable[[int], None]


def now() -> datetime:
    """The time."""
    return datetime.now(UTC)


class Stopped(Exception):
    """Someone asked the job to stop."""


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
    may_stop = row.state in jobs.OPEN and not row.stop and (kind.right if kind else Right.EDIT) in work.actor.rights
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


def ask_release(work: Work, note: str) -> Job:
    """Ask for a release. Raises Refusal `forbidden`, `long`, `nothing`, `busy`."""
    release.check(work, note)
    return ask(work, RELEASE, {"note": note.strip()})


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
    """Ask a job to stop; one that waits stops at once. Raises Refusal `not_found`, `forbidden`."""
    job = get(work, job_id)
    work.need(JOB_KINDS[job.kind].right if job.kind in JOB_KINDS else Right.EDIT)
    if not jobs.move(work.session, job_id, ("waiting",), "stopped"):
        jobs.ask_to_stop(work.session, job_id)
    return get(work, job_id)


def give_up(work: Work, job_id: int) -> None:
    """Fail a job that could not be handed to the worker."""
    found = jobs.get(work.session, job_id)
    kind = JOB_KINDS.get(found[0].kind) if found else None
    words = kind.unreached if kind else "It could not be handed to the worker"
    failure = {"code": "unreached", "message": words, "help": "Try again in a moment"}
    jobs.move(work.session, job_id, ("waiting",), "failed", result=failure)


def rescue(work: Work) -> None:
    """See to open jobs nobody was heard of from: done if their work is there, handed over once more, or failed."""
    for row in jobs.silent(work.session, work.now - SILENCE):
        kind = JOB_KINDS.get(row.kind)
        result = kind.found(work, row.id) if kind else None
        if result is not None:
            jobs.move(work.session, row.id, jobs.OPEN, "done", result=result)
        elif row.state == "waiting" and kind is not None and not row.result.get("again"):
            jobs.move(work.session, row.id, ("waiting",), "waiting", beat=work.now, result={"again": True})
            work.asked.append(row.id)
        else:
            words = (
                "There is no such kind of job"
                if kind is None
                else kind.unreached
                if row.state == "waiting"
                else kind.lost
            )
            failure = {"code": "lost", "message": words, "help": "Ask for it again"}
            jobs.move(work.session, row.id, jobs.OPEN, "failed", result=failure)


class _Run:
    """A job that runs: its units of work, and its telling how far it is."""

    def __init__(self, sessions: Sessions, actor: Actor, job_id: int, clock: Clock, hand_over: HandOver | None) -> None:
        self._sessions, self._actor, self._clock, self._hand_over = sessions, actor, clock, hand_over
        self.id = job_id
        self._last = 0.0

    def unit(self, *, as_of_begin: bool = False) -> AbstractContextManager[Work]:
        """A unit of work for whom asked."""
        return unit_of_work(
            self._sessions, self._actor, self._clock, as_of_begin=as_of_begin, hand_over=self._hand_over
        )

    def progress(self, done: int, total: int) -> None:
        """Tell how far the job is, a few times a second. Raises Stopped when someone asked for it."""
        if time.monotonic() - self._last < TELL_EVERY:
            return
        with self.unit() as work:
            asked_to_stop = jobs.beat(work.session, self.id, work.now, done, total)
            jobs.beat_waiting(work.session, work.now)
        if asked_to_stop:
            raise Stopped
        self._last = time.monotonic()


def run(sessions: Sessions, job_id: int, clock: Clock = now, hand_over: HandOver | None = None) -> str:
    """Do a job that waits; one that was stopped or begun already is left alone. Gives the state it ended in."""
    begun = _begin(sessions, job_id, clock)
    if begun is None:
        return "left alone"
    kind, args, actor = begun
    running = _Run(sessions, actor, job_id, clock, hand_over)
    try:
        result = kind.run(running, args)
        _end(running, "done", result)
        with running.unit() as work:
            kind.settle(work)
        return "done"
    except Stopped:
        return _end(running, "stopped", {})
    except Refusal as refusal:
        failure = {"code": refusal.code, "message": refusal.message, "help": refusal.help}
        return _end(running, "failed", failure)
    except Exception:
        failure = {"code": "fault", "message": "Something broke on our side", "help": "Try again; nothing changed"}
        _end(running, "failed", failure)
        raise


def _begin(sessions: Sessions, job_id: int, clock: Clock) -> tuple[JobKind, Mapping[str, Any], Actor] | None:
    """What to do for whom; None when there is nothing to do."""
    with unit_of_work(sessions, Actor(0, "worker", frozenset()), clock) as work:
        found = jobs.get(work.session, job_id)
        if found is None or found[0].kind not in JOB_KINDS:
            return None
        args, kind = found[0].args, JOB_KINDS[found[0].kind]
        if not jobs.move(work.session, job_id, ("waiting",), "running", beat=work.now):
            return None
        person = people_rows.get(work.session, found[0].person_id)
        return (kind, args, people.actor_of(person)) if person else None


def _end(running: _Run, state: str, result: dict[str, Any]) -> str:
    with running.unit() as work:
        jobs.move(work.session, running.id, ("running",), state, result=result)
    return state


def keep_watch(sessions: Sessions, hand_over: HandOver, clock: Clock = now) -> None:
    """One look for jobs nobody works on, for the worker to take now and then."""
    with unit_of_work(sessions, Actor(0, "worker", frozenset()), clock, hand_over=hand_over) as work:
        rescue(work)
