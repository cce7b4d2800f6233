"""What was written a moment ago, and who is where in the studio."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import NamedTuple

import orjson
from sqlalchemy import text
from sqlalchemy.orm import Session

from young_fabric.store.glances import Glance

MOST_NAMED = 50
"""So many things of one write are told by name; of more it is told that they are many."""
MOST_ROWS = 1_000
SEEN_WITHIN = 20
"""Seconds after which a window that was not heard of is gone."""
_MARK = "SELECT pg_snapshot_xmin(pg_current_snapshot())::text::bigint"
_ROWS = f"""
SELECT ({_MARK}),
 (SELECT coalesce(jsonb_agg(jsonb_build_array(
    n.id, n.xact, n.person_id, n.person, n.window_id, n.nouns, n.things) ORDER BY n.id), '[]'::jsonb)
  FROM (SELECT news.*, person.name AS person FROM news JOIN person ON person.id = news.person_id
        WHERE xact >= %(since)s ORDER BY news.id DESC LIMIT {MOST_ROWS}) AS n),
 (SELECT coalesce(jsonb_agg(jsonb_build_array(p.window_id, p.person_id, person.name, p.noun, p.key)), '[]'::jsonb)
  FROM presence AS p JOIN person ON person.id = p.person_id WHERE p.seen > now() - make_interval(secs => {SEEN_WITHIN}))
"""  # noqa: S608
_PUT = """
INSERT INTO presence (window_id, person_id, noun, key, seen)
SELECT r.w, r.person_id, r.noun, r.key, now()
FROM jsonb_to_recordset(%(rows)s::jsonb) AS r(w text, person_id int, noun text, key text) ORDER BY r.w
ON CONFLICT (window_id) DO UPDATE SET person_id = excluded.person_id, noun = excluded.noun, key = excluded.key, seen = excluded.seen
"""


class NewsItem(NamedTuple):
    """A write: the transaction, who made it from which window, and the things: noun, key, version; None where they are many."""

    id: int
    xact: int
    person_id: int
    person: str
    window: str
    nouns: Sequence[str]
    things: Sequence[tuple[str, str, int]] | None


class Presence(NamedTuple):
    """A window of the studio, whose it is, and what is open in it: noun and key, "" for nothing."""

    window: str
    person_id: int
    person: str
    noun: str
    key: str


def tell(session: Session, person_id: int, nouns: Sequence[str]) -> None:
    """Tell those who listen that something of some nouns is another, which is no change of a thing."""
    window = str(session.info.get("window", ""))
    row = {"person_id": person_id, "window": window, "nouns": list(nouns)}
    query = "INSERT INTO news (person_id, window_id, nouns, things) VALUES (:person_id, :window, :nouns, NULL)"
    session.execute(text(query), row)


def mark(glance: Glance) -> int:
    """The transaction before which all have ended, and what they wrote can be seen."""
    row = glance.execute(_MARK).fetchone()
    return int(row[0]) if row else 0


def since(glance: Glance, xact: int) -> tuple[int, list[NewsItem], list[Presence]]:
    """The mark as it is now, what was written by transactions from one on, the newest MOST_ROWS, and who is where."""
    row = glance.execute(_ROWS, {"since": xact}).fetchone()
    if row is None:
        return xact, [], []
    return int(row[0]), [NewsItem(*item) for item in row[1]], [Presence(*found) for found in row[2]]


def put_presence(glance: Glance, found: Sequence[Presence]) -> None:
    """Note windows as heard of now."""
    rows = [{"w": one.window, "person_id": one.person_id, "noun": one.noun, "key": one.key} for one in found]
    glance.execute(_PUT, {"rows": orjson.dumps(rows).decode()})


def sweep(session: Session, before: datetime) -> None:
    """Let go of what nobody asks for any more."""
    session.execute(text("DELETE FROM news WHERE at < :before"), {"before": before})
    session.execute(text("DELETE FROM presence WHERE seen < :before"), {"before": before})
