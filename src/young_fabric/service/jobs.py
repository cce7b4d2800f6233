"""Long work: asked for by a person, done by the worker, told in numbers, stopped on a word.

A release is the one kind there is. It is made in one transaction that sees the drafts as they stood when it began, so that
people go on editing meanwhile; how far it is, is told through transactions of their own.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from young_fabric.core.errors import Refusal
from young_fabric.service import people, release
from young_fabric.service.actors import Actor, Right, Work
from young_fabric.service.unit import unit_of_work
from young_fabric.store.repos import jobs
from young_fabric.store.repos import people as people_rows
from young_fabric.store.tables import JobRow

RELEASE = "release"
SILENCE = timedelta(seconds=60)
TOLD_EVERY = 0.25
LOST = {
    "code": "lost",
    "message": "The worker was lost before the release was done; nothing changed in the shop",
    "help": "Release again",
}
UNREACHED = {
    "code": "unreached",
    "message": "The release could not be handed to the worker; nothing changed in the shop",
    "help": "Try again in a moment",
}
Sessions = Callable[[], Session]


class Stopped(Exception):
    """Someone asked the job to stop."""


@dataclass(frozen=True)
class Job:
    """A job as people see it: how far it is, and what it gave or why it failed."""

    id: int
    kind: str
    state: str
    person: str
    done: int
    total: int
    result: dict[str, Any]


def _told(found: tuple[JobRow, str]) -> Job:
    row, person = found
    return Job(row.id, row.kind, row.state, person, row.done, row.total, row.result)


def ask_release(work: Work, note: str) -> Job:
    """Ask for a release. Raises Refusal `forbidden`, `long`, `nothing`, `busy`."""
    release.check(work, note)
    jobs.bury(work.session, RELEASE, work.now - SILENCE, LOST)
    try:
        with work.session.begin_nested():
            number = jobs.add(work.session, RELEASE, work.actor.id, note.strip(), work.now)
    except IntegrityError as error:
        raise Refusal("busy", "A release is being made already", (), "Wait until it is live, or stop it") from error
    return get(work, number)


def get(work: Work, job_id: int) -> Job:
    """A job. Raises Refusal `not_found`."""
    work.need(Right.LOOK)
    found = jobs.get(work.session, job_id)
    if found is None:
        raise Refusal("not_found", "There is no such job")
    return _told(found)


def last_release(work: Work) -> Job | None:
    """The release asked for last, a lost one told as failed."""
    work.need(Right.LOOK)
    found = jobs.last(work.session, RELEASE)
    if found is None:
        return None
    row = found[0]
    if row.state == "running" and row.beat < work.now - SILENCE:
        return Job(row.id, row.kind, "failed", found[1], row.done, row.total, LOST)
    return _told(found)


def stop(work: Work, job_id: int) -> Job:
    """Ask a job to stop; one that waits stops at once. Raises Refusal `not_found`, `forbidden`."""
    work.need(Right.RELEASE)
    get(work, job_id)
    if not jobs.move(work.session, job_id, ("waiting",), "stopped"):
        jobs.ask_to_stop(work.session, job_id)
    return get(work, job_id)


def give_up(work: Work, job_id: int) -> None:
    """Fail a job that could not be handed to the worker."""
    jobs.move(work.session, job_id, ("waiting",), "failed", result=UNREACHED)


def run(sessions: Sessions, job_id: int, now: Callable[[], datetime] = lambda: datetime.now(UTC)) -> str:
    """Do a job that waits; one that was stopped or begun already is left alone. Gives the state it ended in."""
    actor, note = _begin(sessions, job_id, now)
    if actor is None:
        return "left alone"
    try:
        with unit_of_work(sessions, actor, now, as_of_begin=True) as work:
            number = release.make(work, note, _teller(sessions, actor, job_id, now))
        with unit_of_work(sessions, actor, now) as work:
            made = release.need_release(work, number)
            result = {"number": number, "things": made.things, "pages": made.pages, "cards": made.cards}
        _end(sessions, actor, job_id, "done", result)
        with unit_of_work(sessions, actor, now) as work:
            release.settle(work)
        return "done"
    except Stopped:
        return _end(sessions, actor, job_id, "stopped", {})
    except Refusal as refusal:
        told = {"code": refusal.code, "message": refusal.message, "help": refusal.help}
        return _end(sessions, actor, job_id, "failed", told)
    except Exception:
        told = {"code": "fault", "message": "Something broke on our side", "help": "Try again; nothing changed"}
        _end(sessions, actor, job_id, "failed", told)
        raise


def _begin(sessions: Sessions, job_id: int, now: Callable[[], datetime]) -> tuple[Actor | None, str]:
    """Who asked for the job, and the note; nobody when there is nothing to do."""
    with unit_of_work(sessions, Actor(0, "worker", frozenset()), now) as work:
        found = jobs.get(work.session, job_id)
        if found is None or not jobs.move(work.session, job_id, ("waiting",), "running", beat=work.now):
            return None, ""
        person = people_rows.get(work.session, found[0].person_id)
        return (people.actor_of(person) if person else None), found[0].note


def _teller(sessions: Sessions, actor: Actor, job_id: int, now: Callable[[], datetime]) -> release.Progress:
    """Tells how far the job is, a few times a second, and raises Stopped when someone asked for it."""
    last = 0.0

    def tell(done: int, total: int) -> None:
        nonlocal last
        if time.monotonic() - last < TOLD_EVERY:
            return
        with unit_of_work(sessions, actor, now) as work:
            asked_to_stop = jobs.beat(work.session, job_id, work.now, done, total)
        if asked_to_stop:
            raise Stopped
        last = time.monotonic()

    return tell


def _end(sessions: Sessions, actor: Actor, job_id: int, state: str, result: dict[str, Any]) -> str:
    with unit_of_work(sessions, actor) as work:
        jobs.move(work.session, job_id, ("running",), state, result=result)
    return state
