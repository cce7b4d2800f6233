"""News: what others wrote is heard once it is committed, in whatever order, by whatever process; and who is beside whom."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import nullcontext

import pytest
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from tests.conftest import NOW
from young_fabric.service.acting.news import FORGOTTEN, FRESH, KEPT, MOST_TOLD, Bulletin, Heard
from young_fabric.store.glances import Glances
from young_fabric.store.repos import changes as record
from young_fabric.store.repos import news
from young_fabric.store.repos.news import MOST_NAMED, NewsItem, Presence

MINE, OTHERS = "mine-window", "other-window"
LATER = FRESH + 0.1
OF_TESTS = ("early", "late")
"""What tests write of: other transactions of the cluster may have the mark lag behind, and what was written before them told again."""


class Clock:
    """Seconds, as a test says."""

    def __init__(self) -> None:
        self.at = 1_000.0

    def __call__(self) -> float:
        return self.at


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def made(own_engine: Engine, clock: Clock) -> Iterator[Callable[[], Bulletin]]:
    """Processes of a shop, each with what it knows."""
    glances = Glances(own_engine, 3)
    yield lambda: Bulletin(glances, clock)
    own_engine.dispose()


def here(person_id: int = 1, window: str = MINE, noun: str = "field", key: str = "ss_hair") -> Presence:
    return Presence(window, person_id, f"Person {person_id}", noun, key)


def ids(shop: Callable[[], Session]) -> list[int]:
    with shop() as session:
        return list(session.scalars(text("SELECT id FROM person ORDER BY id")))


def wrote(session: Session, person_id: int, noun: str = "early", window: str = OTHERS) -> None:
    session.info["window"] = window
    news.tell(session, person_id, [noun])


def nouns(heard: Heard) -> list[str]:
    return [item.nouns[0] for item in heard.items if item.nouns[0] in OF_TESTS]


def test_what_others_wrote_is_heard_and_ones_own_window_is_not(
    shop: Callable[[], Session], made: Callable[[], Bulletin], clock: Clock
) -> None:
    bulletin, (person, *_) = made(), ids(shop)
    begun = bulletin.hear(here(), None)
    assert (begun.items, begun.missed) == ((), False)
    with shop() as session:
        wrote(session, person)
        wrote(session, person, "late", MINE)
        session.commit()
    assert nouns(bulletin.hear(here(), begun.mark)) == [], "it was looked at a moment ago"
    clock.at += LATER
    heard = bulletin.hear(here(), begun.mark)
    assert (nouns(heard), heard.items[-1].person_id, heard.missed) == (["early"], person, False)


def test_what_began_earlier_and_ended_later_is_not_missed(
    shop: Callable[[], Session], made: Callable[[], Bulletin], clock: Clock
) -> None:
    one, two, (person, *_) = made(), made(), ids(shop)
    begun = one.hear(here(), None)
    two.hear(here(), None)
    with shop() as slow, shop() as quick:
        wrote(slow, person, "early")
        wrote(quick, person, "late")
        quick.commit()
        clock.at += LATER
        heard = one.hear(here(), begun.mark)
        assert nouns(heard) == ["late"]
        slow.commit()
    assert "early" in nouns(two.hear(here(), heard.mark))


def test_a_mark_from_a_process_that_is_ahead_is_kept(
    shop: Callable[[], Session], made: Callable[[], Bulletin], clock: Clock
) -> None:
    ahead, behind, (person, *_) = made(), made(), ids(shop)
    behind.hear(here(), None)
    with shop() as session:
        wrote(session, person)
        session.commit()
    mark = ahead.hear(here(), None).mark
    assert behind.hear(here(), mark).mark >= mark


def test_who_was_away_too_long_is_told_that_all_may_be_another(monkeypatch: pytest.MonkeyPatch, clock: Clock) -> None:
    """One write a minute, each of its own transaction, by a database that tells them at once."""

    def written(since: int) -> tuple[int, list[NewsItem], list[Presence]]:
        mark = int(clock.at)
        items = [NewsItem(at, at, 1, "Rosa", OTHERS, ["early"], None) for at in range(60, mark, 60) if at >= since]
        return mark, items, []

    monkeypatch.setattr(news, "mark", lambda _glance: int(clock.at))
    monkeypatch.setattr(news, "since", lambda _glance, since: written(since))
    monkeypatch.setattr(news, "put_presence", lambda _glance, _found: None)
    bulletin = Bulletin(nullcontext, clock)  # type: ignore[arg-type]
    begun = bulletin.hear(here(), None).mark
    for passed in range(30, int(3 * KEPT), 30):
        clock.at += 30
        heard = bulletin.hear(here(), begun)
        assert heard.missed is (passed > KEPT + 30), passed
        assert len(heard.items) <= KEPT / 60 + 2, "what is old is let go of"
        assert heard.missed or [item.id for item in heard.items] == list(range(1020, int(clock.at), 60))
    now = bulletin.hear(here(), None).mark
    assert not bulletin.hear(here(), now).missed
    clock.at += FORGOTTEN + 1
    assert bulletin.hear(here(), now).missed, "a process that was not asked begins anew"


@pytest.mark.parametrize(("writes", "missed"), [(MOST_TOLD, False), (MOST_TOLD + 1, True)])
def test_more_than_can_be_told_is_told_so(
    shop: Callable[[], Session], made: Callable[[], Bulletin], clock: Clock, writes: int, missed: bool
) -> None:
    bulletin, (person, *_) = made(), ids(shop)
    begun = bulletin.hear(here(), None)
    with shop() as session:
        for _ in range(writes):
            wrote(session, person)
        session.commit()
    clock.at += LATER
    heard = bulletin.hear(here(), begun.mark)
    assert (len(heard.items), heard.missed) == (MOST_TOLD, missed)


def test_others_with_the_same_thing_open_are_named_once_and_only_they(
    shop: Callable[[], Session], made: Callable[[], Bulletin], clock: Clock
) -> None:
    one, two, (first, second, *_) = made(), made(), ids(shop)
    two.hear(here(second, OTHERS), None)
    two.hear(here(second, "another-window"), None)
    two.hear(here(first, "own-elsewhere"), None)
    clock.at += LATER
    two.hear(here(second, OTHERS), None)
    with shop() as session:
        name = session.scalar(text("SELECT name FROM person WHERE id = :id"), {"id": second})
    assert one.hear(here(first), None).people == (name,)
    assert one.hear(here(first, noun="", key=""), None).people == ()
    clock.at += LATER
    assert one.hear(here(first, key="ss_wood"), None).people == ()


@pytest.mark.parametrize(("changes", "named"), [(MOST_NAMED, MOST_NAMED), (MOST_NAMED + 1, None)])
def test_a_write_names_its_things_unless_they_are_many(session: Session, changes: int, named: int | None) -> None:
    person = session.scalar(text("SELECT min(id) FROM person"))
    shared = {"noun": "field", "name": "k", "lines": [], "patch": {"in": {}}, "format": 1, "version": 1, "undoes": None}
    rows = [{**shared, "key": f"k{number}"} for number in range(changes)]
    made = record.add_many(session, rows, at=NOW, person_id=person, group_id="g")
    assert made == sorted(made)
    things, nouns_told = session.execute(text("SELECT things, nouns FROM news ORDER BY id DESC LIMIT 1")).one()
    assert (None if things is None else len(things), nouns_told) == (named, ["field"])
    if things is not None:
        assert things[0] == ["field", "k0", 1]
