"""What a process tells the studios that are open: what others wrote since they last heard, and who is where.

However many ask, the database is asked but once in FRESH seconds: what was found is kept for a while. A studio names the mark that
it last got. All writes of transactions before it were told by then, whatever process told it; those from it on are told again, so
that none is missed whose transaction took longer than another's begun after it. Who hears knows them by their ids.
"""

from __future__ import annotations

import time
from collections import deque
from collections.abc import Callable, Mapping, Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass
from threading import Lock

from young_fabric.store.glances import Glance
from young_fabric.store.repos import news
from young_fabric.store.repos.news import NewsItem, Presence

FRESH = 0.4
KEPT = 120.0
FORGOTTEN = 300.0
"""Seconds after which a process that was not asked begins anew: what was written meanwhile may have been swept away."""
HERE_AGAIN = 7.0
"""Seconds after which a window that stays where it is is noted again."""
MOST_TOLD = 200
MOST_PEOPLE = 12


@dataclass(frozen=True)
class Heard:
    """What is new for a studio: the mark to name the next time, what was written, and who else has the same thing open. `missed` says
    that more was written than can be told: all it shows may be another."""

    mark: int
    items: tuple[NewsItem, ...]
    missed: bool
    people: tuple[str, ...]


@dataclass(frozen=True)
class _Known:
    """What a process knows: all writes of transactions from `floor` on that were committed when it looked, and the mark of then."""

    at: float
    mark: int
    floor: int
    items: Mapping[int, NewsItem]
    people: tuple[Presence, ...]


class Bulletin:
    """What one process knows of writes and windows. `glance` gives a connection; `clock` counts seconds."""

    def __init__(
        self, glance: Callable[[], AbstractContextManager[Glance]], clock: Callable[[], float] = time.monotonic
    ) -> None:
        self._glance, self._clock = glance, clock
        self._lock, self._notes = Lock(), Lock()
        self._known: _Known | None = None
        self._marks: deque[tuple[float, int]] = deque()
        self._arrived: dict[str, Presence] = {}
        self._noted: dict[str, tuple[float, Presence]] = {}

    def hear(self, here: Presence, since: int | None) -> Heard:
        """What is new since a mark (None: for one who begins to listen) for a window, and that it is there. Raises NoGlance."""
        self._note(here)
        known = self._fresh()
        people = _beside(known.people, here)
        if since is None:
            return Heard(known.mark, (), False, people)
        new = [item for item in known.items.values() if item.xact >= since and item.window != here.window]
        missed = since < known.floor or len(new) > MOST_TOLD
        return Heard(max(known.mark, since), tuple(new[-MOST_TOLD:]), missed, people)

    def _note(self, here: Presence) -> None:
        """Note that a window is somewhere, to be put down at the next look."""
        at = self._clock()
        with self._notes:
            noted = self._noted.get(here.window)
            if noted is None or noted[1] != here or at - noted[0] >= HERE_AGAIN:
                self._noted[here.window] = (at, here)
                self._arrived[here.window] = here

    def _fresh(self) -> _Known:
        """What is known, looked at again where that was too long ago; others who ask meanwhile take what is known."""
        known = self._known
        if known is not None and self._clock() - known.at < FRESH:
            return known
        if not self._lock.acquire(blocking=known is None) and known is not None:
            return known
        try:
            if self._known is None or self._known is known:
                self._known = self._look(self._known)
            return self._known
        finally:
            self._lock.release()

    def _look(self, before: _Known | None) -> _Known:
        at = self._clock()
        with self._notes:
            arrived, self._arrived = list(self._arrived.values()), {}
            self._noted = {window: found for window, found in self._noted.items() if at - found[0] < KEPT}
        with self._glance() as glance:
            if arrived:
                news.put_presence(glance, sorted(arrived))
            if before is None or at - before.at > FORGOTTEN:
                mark = news.mark(glance)
                before, self._marks = _Known(at, mark, mark, {}, ()), deque()
            mark, found, people = news.since(glance, before.mark)
        floor = mark if len(found) >= news.MOST_ROWS else before.floor
        self._marks.append((at, mark))
        while at - self._marks[0][0] > KEPT:
            floor = max(floor, self._marks.popleft()[1])
        items = {item.id: item for item in (*before.items.values(), *found) if item.xact >= floor}
        return _Known(at, mark, floor, items, tuple(people))


def _beside(people: Sequence[Presence], here: Presence) -> tuple[str, ...]:
    """The names of other people who have the same thing open."""
    beside = {
        found.person: None
        for found in people
        if here.noun and (found.noun, found.key) == (here.noun, here.key) and found.person_id != here.person_id
    }
    return tuple(beside)[:MOST_PEOPLE]
