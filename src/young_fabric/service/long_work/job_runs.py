"""Doing a job: its heartbeat, its units of work, how far it is, and what became of it."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import replace
from threading import Event, Thread
from types import TracebackType
from typing import Any

import structlog
from sqlalchemy import Engine
from sqlalchemy.exc import DBAPIError

from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting import people
from young_fabric.service.acting.actors import Actor, Right, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.long_work import jobs as service
from young_fabric.service.long_work.job_kinds import JOB_KINDS, JobKind
from young_fabric.service.long_work.jobs import Clock, HandOver, Sessions, now
from young_fabric.store import again
from young_fabric.store.repos import jobs
from young_fabric.store.repos import people as people_rows

TELL_EVERY = 0.25
BEAT_EVERY = 5.0
WORKER = Actor(0, "worker", frozenset())
log = structlog.get_logger()


class Stopped(Exception):
    """Someone asked the job to stop."""


class Lost(Exception):
    """The job was given up for lost, or taken by another worker: nothing more is written."""


class Heart:
    """Says every few seconds that a job is worked on, from a thread of its own, whatever the job does.

    In a transaction of somebody else's, which threads can't share, it keeps still.
    """

    def __init__(self, sessions: Sessions, job_id: int, clock: Clock) -> None:
        self._sessions, self._job, self._clock = sessions, job_id, clock
        self._stop = Event()
        self._thread = Thread(target=self._beat, name=f"heart of job {job_id}", daemon=True)

    def __enter__(self) -> Heart:
        with self._sessions() as session:
            shared = not isinstance(session.get_bind(), Engine)
        if not shared:
            self._thread.start()
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._stop.set()
        if self._thread.ident is not None:
            self._thread.join()

    def _beat(self) -> None:
        while not self._stop.wait(BEAT_EVERY):
            try:
                with unit_of_work(self._sessions, WORKER, self._clock) as work:
                    jobs.beat(work.session, self._job, work.now)
            except Exception as error:
                log.error("heartbeat", job=self._job, exc_info=error)


class Run:
    """A job that runs: its units of work, and its telling how far it is. `mark` is where an earlier run of it ended, `done` how much
    that one did."""

    def __init__(
        self,
        sessions: Sessions,
        actor: Actor,
        job_id: int,
        clock: Clock,
        hand_over: HandOver | None,
        kind: JobKind,
        begun: tuple[int, int] = (0, 0),
    ) -> None:
        self._sessions, self._actor, self._clock, self._hand_over = sessions, actor, clock, hand_over
        self.kind = kind
        self.id = job_id
        self.mark, self.done = begun
        self._last = 0.0

    @contextmanager
    def unit(self, *, as_of_begin: bool = False) -> Iterator[Work]:
        """A unit of work for whom asked. Raises Lost where the job was given up for lost; it is not while the unit lasts."""
        begun = unit_of_work(
            self._sessions, self._actor, self._clock, as_of_begin=as_of_begin, hand_over=self._hand_over
        )
        with begun as work:
            if not jobs.hold(work.session, self.id):
                raise Lost
            yield work

    def progress(self, done: int, total: int) -> None:
        """Tell how far the job is, a few times a second. Raises Stopped when someone asked for it."""
        if time.monotonic() - self._last < TELL_EVERY:
            return
        with unit_of_work(self._sessions, self._actor, self._clock) as work:
            asked_to_stop = jobs.tell(work.session, self.id, work.now, done, total)
        if asked_to_stop and self.kind.stops:
            raise Stopped
        self._last = time.monotonic()

    def in_batches(self, total: int, step: Callable[[Work, int], tuple[int, int]]) -> int:
        """Do a job batch by batch, each in a transaction of its own, so that people go on writing meanwhile; gives how many were done.

        `step` is given where the last batch ended, and gives where its own did and how many it did, 0 at the end. A job that ended on
        the way goes on there.
        """
        while True:
            self.progress(self.done, max(total, self.done))
            with self.unit() as work:
                last, count = step(work, self.mark)
                jobs.put_mark(work.session, self.id, last, self.done + count)
            self.mark, self.done = last, self.done + count
            if not count:
                return self.done

    def conclude(self, work: Work, result: Mapping[str, Any]) -> None:
        """Say that the job is done with the transaction that does it, so that it is told neither sooner nor later."""
        jobs.move(work.session, self.id, ("running",), "done", result=dict(result))


def run(sessions: Sessions, job_id: int, clock: Clock = now, hand_over: HandOver | None = None) -> str:
    """Do a job that waits; one that was stopped or begun already is left alone. Gives the state it ended in."""
    begun = _begin(sessions, job_id, clock, hand_over)
    if begun is None:
        return "left alone"
    running, kind, args = begun
    try:
        with Heart(sessions, job_id, clock):
            result = _done(running, kind, args)
        _end(sessions, running, "done", result)
        with unit_of_work(sessions, WORKER, clock) as work:
            kind.settle(work)
        return "done"
    except Lost:
        return "lost"
    except Stopped:
        return _end(sessions, running, "stopped", {})
    except Refusal as refusal:
        failure = {"code": refusal.code, "message": refusal.message, "help": refusal.help}
        return _end(sessions, running, "failed", failure)
    except Exception as error:
        away = isinstance(error, DBAPIError) and again.is_away(error)
        failure = {"code": "fault", "message": "Something broke on our side", "help": kind.broken}
        if away:
            failure = {"code": "unavailable", "message": "The database went while it was asked", "help": kind.broken}
        ended = _end(sessions, running, "failed", failure, again=kind.resumes)
        if away:
            log.warning("job", id=job_id, exc_info=error)
            return ended
        if ended == "waiting":
            log.error("job", id=job_id, exc_info=error)
            return ended
        raise
    finally:
        _next(sessions, kind, clock, hand_over)


def _done(running: Run, kind: JobKind, args: Mapping[str, Any]) -> dict[str, Any]:
    """Do it; what only met others' transactions is done again, from where it ended."""
    for attempt in range(1, again.MOST_TRIES + 1):
        try:
            return kind.run(running, args)
        except DBAPIError as error:
            if attempt == again.MOST_TRIES or not again.worth_another_try(error):
                raise
    raise AssertionError("a job is done or fails")


def _begin(
    sessions: Sessions, job_id: int, clock: Clock, hand_over: HandOver | None
) -> tuple[Run, JobKind, Mapping[str, Any]] | None:
    """What to do for whom; None when there is nothing to do, or others of its kind that go on come first."""
    with unit_of_work(sessions, WORKER, clock) as work:
        found = jobs.get(work.session, job_id)
        if found is None or found[0].kind not in JOB_KINDS:
            return None
        row, kind = found[0], JOB_KINDS[found[0].kind]
        if kind.resumes and jobs.first_open(work.session, kind.code) != job_id:
            return None
        if not jobs.begin(work.session, job_id, work.now):
            return None
        person = people_rows.get(work.session, row.person_id)
        actor = people.actor_of(person) if person is not None else WORKER
        # What follows from a change that was made comes to be done, whatever its maker may do by now.
        actor = replace(actor, rights=actor.rights | {Right.LOOK, Right.EDIT}) if kind.resumes else actor
        running = Run(sessions, actor, job_id, clock, hand_over, kind, (row.mark, row.done if row.mark else 0))
        return running, kind, row.args


def _end(sessions: Sessions, running: Run, state: str, result: dict[str, Any], *, again: bool = False) -> str:
    """Put a job that ran in the state it ended in; with `again` it waits to go on where it ended, while that was not tried too often."""
    with unit_of_work(sessions, WORKER, running._clock) as work:
        found = jobs.get(work.session, running.id)
        there = running.kind.found(work, running.id) if state == "failed" else None
        if there is not None:
            # What was committed stands, whatever broke after it.
            state, result = "done", there
        elif again and found is not None and found[0].tries < service.MOST_TRIES:
            state, result = "waiting", {}
        jobs.move(work.session, running.id, ("running",), state, result=result, beat=work.now)
    return state


def _next(sessions: Sessions, kind: JobKind, clock: Clock, hand_over: HandOver | None) -> None:
    """Hand over the next of a kind whose jobs go one after the other."""
    if not kind.resumes or hand_over is None:
        return
    with unit_of_work(sessions, WORKER, clock) as work:
        first = jobs.first_open(work.session, kind.code)
    if first is not None:
        hand_over(first)
