"""Releases as jobs: progress, stopping, and people editing while one is made."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy.orm import Session

from tests.conftest import NOW
from young_fabric.core.base.errors import Refusal
from young_fabric.core.pages.document import from_json
from young_fabric.service.acting.actors import Actor, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.long_work import job_runs, jobs
from young_fabric.service.products import products
from young_fabric.service.releasing import pending, release, release_batches
from young_fabric.store.repos import jobs as job_rows
from young_fabric.store.repos import releases

Sessions = Callable[[], Session]


def ask(shop: Sessions, rosa: Actor, note: str = "Spring") -> int:
    with unit_of_work(shop, rosa) as work:
        return jobs.ask_for(work, "release", {"note": note}).id


def state(shop: Sessions, rosa: Actor, number: int) -> jobs.Job:
    with unit_of_work(shop, rosa) as work:
        return jobs.get(work, number)


def put_price(shop: Sessions, rosa: Actor, price: str) -> int:
    with unit_of_work(shop, rosa) as work:
        groyne = products.search(work, products.Filters(words="Groyne Studio"), None).rows[0]
        products.fill(work, groyne.product.id, groyne.version, {"price": price})
        return groyne.product.id


def live_price(shop: Sessions, product_id: int) -> str:
    with shop() as session:
        rows = {row.surface: row for row in releases.documents_of(session, "product", product_id)}
        entries = from_json(rows["product_page"].document).entries()
        return next(entry.text for entry in entries if entry.field == "price")


def waiting(shop: Sessions, rosa: Actor) -> set[str]:
    """The keys of what is unreleased."""
    with unit_of_work(shop, rosa) as work:
        return {thing.key for thing in pending.pending(work).things}


def test_a_release_is_asked_for_and_done(shop: Sessions, rosa: Actor) -> None:
    number = ask(shop, rosa)
    assert state(shop, rosa, number).state == "waiting"
    job_runs.run(shop, number)
    done = state(shop, rosa, number)
    assert (done.state, done.person, done.result["number"], done.result["things"]) == ("done", "Rosa Marsh", 2, 3)
    assert waiting(shop, rosa) == set()
    job_runs.run(shop, number)
    assert state(shop, rosa, number) == done, "a job is done once"


def test_one_release_at_a_time(shop: Sessions, rosa: Actor) -> None:
    ask(shop, rosa)
    with pytest.raises(Refusal) as caught:
        ask(shop, rosa)
    assert caught.value.code == "busy"


def test_two_transactions_never_release_side_by_side(shop: Sessions, rosa: Actor) -> None:
    with unit_of_work(shop, rosa) as first, unit_of_work(shop, rosa) as other:
        release.make(first, "first")
        for at_once in (lambda: release.make(other, "second"), lambda: release.go_back(other, 1)):
            with pytest.raises(Refusal) as caught:
                at_once()
            assert caught.value.code == "busy"


def test_a_job_that_waits_stops_at_once(shop: Sessions, rosa: Actor) -> None:
    number = ask(shop, rosa)
    with unit_of_work(shop, rosa) as work:
        assert jobs.stop(work, number).state == "stopped"
    job_runs.run(shop, number)
    assert state(shop, rosa, number).state == "stopped"
    assert len(waiting(shop, rosa)) == 3


def test_a_job_that_runs_stops_at_its_next_step_and_leaves_nothing(
    shop: Sessions, rosa: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(job_runs, "TELL_EVERY", 0)
    monkeypatch.setattr(release_batches, "BATCH", 10)
    seen: list[tuple[int, int]] = []
    original = job_rows.tell

    def tell(session: Session, number: int, at: datetime, done: int, total: int) -> bool:
        seen.append((done, total))
        if done >= 10:
            job_rows.ask_to_stop(session, number)
        return original(session, number, at, done, total)

    monkeypatch.setattr(job_rows, "tell", tell)
    number = ask(shop, rosa)
    job_runs.run(shop, number)
    assert seen == [(0, 213), (60, 213)], (
        "14 watercolours, 20 papers, and the one easel that changed, and three things to freeze"
    )
    ended = state(shop, rosa, number)
    assert (ended.state, ended.done, ended.total) == ("stopped", 60, 213)
    assert len(waiting(shop, rosa)) == 3
    with unit_of_work(shop, rosa) as work:
        assert [row.number for row, _ in release.history(work)] == [1]


def test_who_edits_while_a_release_is_made_loses_nothing(
    shop: Sessions, rosa: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    easel = put_price(shop, rosa, "399")
    wrote = []
    freeze = release._freeze_definitions

    def edited_meanwhile(*given: object) -> None:
        wrote.append(put_price(shop, rosa, "401"))
        freeze(*given)  # type: ignore[arg-type]

    monkeypatch.setattr(release, "_freeze_definitions", edited_meanwhile)
    job_runs.run(shop, ask(shop, rosa))
    assert wrote == [easel]
    assert live_price(shop, easel) == "€399.00", "the release has what stood when it began"
    assert waiting(shop, rosa) == {str(easel)}, "what came later waits for the next"


def test_taking_a_change_back_while_it_is_released_leaves_it_to_be_released_again(
    shop: Sessions, rosa: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    easel = put_price(shop, rosa, "399")
    freeze = release._freeze_definitions

    def taken_back(*given: object) -> None:
        put_price(shop, rosa, "389")
        freeze(*given)  # type: ignore[arg-type]

    monkeypatch.setattr(release, "_freeze_definitions", taken_back)
    job_runs.run(shop, ask(shop, rosa))
    assert live_price(shop, easel) == "€399.00"
    assert waiting(shop, rosa) == {str(easel)}, "the draft is as it was live before, and live is not"


def test_what_goes_wrong_is_told_and_a_new_release_can_be_asked_for(
    shop: Sessions, rosa: Actor, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: object) -> None:
        raise RuntimeError("no room")

    with monkeypatch.context() as patched:
        patched.setattr(release, "_freeze_definitions", broken)
        number = ask(shop, rosa)
        with pytest.raises(RuntimeError, match="no room"):
            job_runs.run(shop, number)
    failed = state(shop, rosa, number)
    assert (failed.state, failed.result["code"]) == ("failed", "fault")
    second = ask(shop, rosa)
    job_runs.run(shop, second)
    assert state(shop, rosa, second).state == "done"


def test_a_job_with_nothing_left_to_release_says_so(shop: Sessions, rosa: Actor) -> None:
    number = ask(shop, rosa)
    with unit_of_work(shop, rosa) as work:
        release.release(work, "meanwhile")
    job_runs.run(shop, number)
    assert state(shop, rosa, number).result["code"] == "nothing"


def test_a_lost_worker_does_not_block_the_next_release(shop: Sessions, rosa: Actor) -> None:
    number = ask(shop, rosa)
    long_ago = datetime.now(UTC) - timedelta(minutes=5)
    with unit_of_work(shop, rosa) as work:
        job_rows.move(work.session, number, ("waiting",), "running", beat=long_ago)
    with unit_of_work(shop, rosa) as work:
        last = jobs.last_release(work)
        assert last is not None
        assert (last.state, last.result["code"]) == ("failed", "lost")
    again = ask(shop, rosa)
    assert again != number
    assert state(shop, rosa, number).state == "failed"


def test_who_may_what(work: Work, looking: Work) -> None:
    with pytest.raises(Refusal):
        jobs.ask_for(looking, "release", {"note": "no"})
    asked = jobs.ask_for(work, "release", {"note": "yes"})
    assert jobs.get(looking, asked.id).state == "waiting"
    with pytest.raises(Refusal) as caught:
        jobs.stop(looking, asked.id)
    assert caught.value.code == "forbidden"
    with pytest.raises(Refusal) as caught:
        jobs.get(work, asked.id + 1)
    assert caught.value.code == "not_found"
    with pytest.raises(Refusal) as caught:
        jobs.ask_for(replace(work, now=NOW), "release", {"note": "x" * 201})
    assert caught.value.code == "long"
