"""Jobs live by their own heartbeat: one that runs is never told failed, one that was given up writes nothing more, one that goes on
ends where it should, and what waits is only ever handed over again."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import UTC, datetime, timedelta
from threading import Event, Thread
from typing import Any

import pytest
from sqlalchemy import text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from tests.service.defining.test_merging import SUITS
from young_fabric.core.base.errors import Refusal
from young_fabric.service import history
from young_fabric.service.acting.actors import Actor, Right, Work
from young_fabric.service.acting.asking import hand_in
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import value_merging
from young_fabric.service.long_work import job_runs, jobs
from young_fabric.service.long_work.job_kinds import JOB_KINDS, JobKind, JobRun
from young_fabric.service.values import judging
from young_fabric.store.repos import jobs as rows

Sessions = Callable[[], Session]
Do = Callable[[JobRun, Mapping[str, Any]], dict[str, Any]]
LONGEST = 60


@pytest.fixture
def kind(monkeypatch: pytest.MonkeyPatch) -> Callable[..., JobKind]:
    """Registers a kind of job done by a function."""

    def register(run: Do, **more: Any) -> JobKind:
        made = JobKind("trial", "Trying", Right.EDIT, run, **more)
        monkeypatch.setitem(JOB_KINDS, made.code, made)
        return made

    return register


def ask(shop: Sessions, rosa: Actor, name: str = "trial", **args: Any) -> int:
    with unit_of_work(shop, rosa) as work:
        return hand_in(work, name, args)


def state(shop: Sessions, rosa: Actor, number: int) -> str:
    with unit_of_work(shop, rosa) as work:
        return jobs.get(work, number).state


def watch(shop: Sessions, after: timedelta = timedelta(hours=1)) -> list[int]:
    handed: list[int] = []
    jobs.keep_watch(shop, handed.append, lambda: datetime.now(UTC) + after)
    return handed


def beat_of(shop: Sessions, number: int) -> datetime:
    with shop() as session:
        return session.execute(text("SELECT beat FROM job WHERE id = :id"), {"id": number}).scalar_one()


def test_a_job_beats_by_itself_whatever_it_does(
    shop: Sessions, rosa: Actor, kind: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(job_runs, "BEAT_EVERY", 0.01)
    begun, go_on = Event(), Event()

    def wait(_run: JobRun, _args: Mapping[str, Any]) -> dict[str, Any]:
        begun.set()
        assert go_on.wait(LONGEST)
        return {}

    kind(wait)
    number = ask(shop, rosa)
    running = Thread(target=job_runs.run, args=(shop, number))
    running.start()
    assert begun.wait(LONGEST)
    first = beat_of(shop, number)
    for _ in range(2_000):
        if beat_of(shop, number) > first:
            break
    else:
        raise AssertionError("it told nothing, so nothing was heard of it")
    go_on.set()
    running.join(LONGEST)
    assert state(shop, rosa, number) == "done"


def test_a_job_in_the_middle_of_something_is_never_told_failed(shop: Sessions, rosa: Actor, kind: Any) -> None:
    begun, go_on = Event(), Event()

    def wait(run: JobRun, _args: Mapping[str, Any]) -> dict[str, Any]:
        with run.unit():
            begun.set()
            assert go_on.wait(LONGEST)
        return {}

    kind(wait)
    number = ask(shop, rosa)
    running = Thread(target=job_runs.run, args=(shop, number))
    running.start()
    assert begun.wait(LONGEST)
    assert watch(shop) == []
    assert state(shop, rosa, number) == "running"
    go_on.set()
    running.join(LONGEST)
    assert state(shop, rosa, number) == "done"


def test_a_job_that_was_given_up_writes_nothing_more(shop: Sessions, rosa: Actor, kind: Any) -> None:
    written: list[str] = []

    def lose(run: JobRun, _args: Mapping[str, Any]) -> dict[str, Any]:
        with run.unit():
            written.append("first")
        watch(shop)
        with run.unit():
            written.append("second")
        return {}

    kind(lose)
    number = ask(shop, rosa)
    assert job_runs.run(shop, number) == "lost"
    assert written == ["first"]
    assert state(shop, rosa, number) == "failed"


@pytest.mark.parametrize("code", ["40P01", None])
def test_a_job_that_broke_goes_on_where_it_ended(shop: Sessions, rosa: Actor, kind: Any, code: str | None) -> None:
    seen: list[int] = []
    broken = [3]

    def step(_work: Work, last: int) -> tuple[int, int]:
        seen.append(last)
        if last == 2 and broken.pop():
            broken.append(0)
            if code is None:
                raise RuntimeError("no room")
            fault = type("Deadlock", (Exception,), {"sqlstate": code})()
            raise OperationalError("UPDATE", {}, fault)
        return (last + 1, 1) if last < 4 else (last, 0)

    kind(lambda run, _args: {"done": run.in_batches(4, step)}, resumes=True)
    number = ask(shop, rosa)
    if code is None:
        assert job_runs.run(shop, number) == "waiting"
        assert watch(shop) == [number]
    assert job_runs.run(shop, number) == "done"
    assert seen == [0, 1, 2, 2, 3, 4], "what is committed is done once"
    with unit_of_work(shop, rosa) as work:
        assert jobs.get(work, number).result == {"done": 4}


def test_a_job_that_always_breaks_is_failed_in_the_end_and_says_what_to_do(
    shop: Sessions, rosa: Actor, kind: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    def fail(_run: JobRun, _args: Mapping[str, Any]) -> dict[str, Any]:
        raise RuntimeError("always")

    monkeypatch.setattr(jobs, "MOST_TRIES", 3)
    kind(fail, resumes=True, broken="Begin it again")
    number = ask(shop, rosa)
    assert [job_runs.run(shop, number) for _ in range(2)] == ["waiting", "waiting"]
    with pytest.raises(RuntimeError):
        job_runs.run(shop, number)
    with unit_of_work(shop, rosa) as work:
        assert jobs.get(work, number).outcome == "Something broke on our side. Begin it again"


def test_a_lost_worker_s_job_that_goes_on_is_handed_over_again(shop: Sessions, rosa: Actor, kind: Any) -> None:
    kind(lambda run, _args: {"done": run.in_batches(1, lambda _work, last: (last, 0))}, resumes=True)
    number = ask(shop, rosa)
    with shop() as session:
        assert rows.begin(session, number, datetime.now(UTC))
        session.commit()
    assert watch(shop) == [number]
    assert state(shop, rosa, number) == "waiting"
    assert job_runs.run(shop, number) == "done"


def test_jobs_that_go_on_come_one_after_the_other(shop: Sessions, rosa: Actor, kind: Any) -> None:
    kind(lambda _run, _args: {}, resumes=True)
    first, second = ask(shop, rosa), ask(shop, rosa)
    assert job_runs.run(shop, second) == "left alone"
    handed: list[int] = []
    assert job_runs.run(shop, first, hand_over=handed.append) == "done"
    assert handed == [second]
    assert job_runs.run(shop, second) == "done"


def test_what_can_not_be_stopped_does_not_offer_it(shop: Sessions, rosa: Actor, kind: Any) -> None:
    kind(lambda _run, _args: {}, stops=False)
    number = ask(shop, rosa)
    with shop() as session:
        rows.begin(session, number, datetime.now(UTC))
        session.commit()
    with unit_of_work(shop, rosa) as work:
        assert not jobs.get(work, number).may_stop
        with pytest.raises(Refusal) as refused:
            jobs.stop(work, number)
    assert refused.value.code == "no_stop"


def test_every_kind_that_stops_tells_how_far_it_is_and_others_say_so() -> None:
    stopping = {code for code, made in JOB_KINDS.items() if made.stops}
    assert stopping == {"release", "merge_values", "memberships", "match_variants"}
    assert {code for code, made in JOB_KINDS.items() if made.resumes} == {
        "judge", "convert", "merge_values", "memberships", "match_variants",
    }  # fmt: skip


def test_nothing_is_undone_while_a_job_goes_on_writing_it(
    shop: Sessions, rosa: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(judging, "MOST_AT_ONCE", 1)
    monkeypatch.setattr(value_merging, "BATCH", 2)
    asked: list[int] = []
    refused: list[str] = []
    original = value_merging.merge_batch

    batches = []

    def undo_on_the_way(work: Work, merge: value_merging.ValueMerge, group: str) -> int:
        batches.append(group)
        if len(batches) > 1 and not refused:
            with unit_of_work(shop, rosa) as other:
                try:
                    history.undo_last(other)
                except Refusal as refusal:
                    refused.append(refusal.code)
        return original(work, merge, group)

    monkeypatch.setattr(value_merging, "merge_batch", undo_on_the_way)
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        value_merging.merge_values(work, SUITS)
    assert job_runs.run(shop, asked[0]) == "done"
    assert refused == ["busy"]
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        assert history.undo_last(work).job is not None
    assert job_runs.run(shop, asked[1]) == "done"
