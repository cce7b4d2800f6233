"""What was live with earlier releases, and in what two of them differ."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from sqlalchemy import and_, or_, select, text
from sqlalchemy.orm import Session

from young_fabric.store.tables import LiveDocumentRow, LiveThingRow

D, T = LiveDocumentRow, LiveThingRow
_STOOD = "({name}.since <= :{at} AND ({name}.until IS NULL OR {name}.until > :{at}))"
_SWITCHED = "((since > :low AND since <= :high) OR (until > :low AND until <= :high))"
_THINGS = text(
    "WITH switched AS (SELECT DISTINCT noun, key FROM live_thing WHERE noun = ANY(:nouns) AND "  # noqa: S608
    f"{_SWITCHED}) SELECT switched.noun, switched.key, count(*) OVER () FROM switched "
    f"LEFT JOIN live_thing a ON a.noun = switched.noun AND a.key = switched.key AND {_STOOD.format(name='a', at='before')} "
    f"LEFT JOIN live_thing b ON b.noun = switched.noun AND b.key = switched.key AND {_STOOD.format(name='b', at='after')} "
    "WHERE a.hash IS DISTINCT FROM b.hash ORDER BY switched.noun, switched.key LIMIT :most"
)
_DIFFERING = (
    "WITH switched AS (SELECT DISTINCT surface, subject, subject_id, card FROM live_document WHERE "  # noqa: S608
    f"{_SWITCHED}), differ AS (SELECT s.surface, s.subject, s.subject_id FROM switched s "
    "LEFT JOIN live_document a ON (a.surface, a.subject, a.subject_id, a.card) = (s.surface, s.subject, s.subject_id, s.card) "
    f"AND {_STOOD.format(name='a', at='before')} "
    "LEFT JOIN live_document b ON (b.surface, b.subject, b.subject_id, b.card) = (s.surface, s.subject, s.subject_id, s.card) "
    f"AND {_STOOD.format(name='b', at='after')} WHERE a.hash IS DISTINCT FROM b.hash) "
)
_BY_SURFACE = text(f"{_DIFFERING} SELECT surface, count(*) FROM differ GROUP BY surface")  # noqa: S608
_BY_SUBJECT = text(
    f"{_DIFFERING} SELECT subject_id, array_agg(DISTINCT surface ORDER BY surface), count(*) OVER () FROM differ "  # noqa: S608
    "WHERE subject = :subject GROUP BY subject_id ORDER BY subject_id::bigint LIMIT :most"
)


class Some(NamedTuple):
    """The first of what was found, and how many there are in all."""

    rows: list[Any]
    total: int


def _between(before: int, after: int) -> dict[str, int]:
    return {"before": before, "after": after, "low": min(before, after), "high": max(before, after)}


def things_between(session: Session, nouns: Sequence[str], before: int, after: int, most: int) -> Some:
    """(noun, key) of things that were otherwise with one release than with another."""
    rows = session.execute(_THINGS, {**_between(before, after), "nouns": list(nouns), "most": most}).all()
    return Some([(row[0], row[1]) for row in rows], rows[0][2] if rows else 0)


def states_at(
    session: Session, keys: Sequence[tuple[str, str]], release: int
) -> dict[tuple[str, str], tuple[int, dict[str, Any]]]:
    """(noun, key) → (format, state) of some things as they were with a release."""
    by_noun: dict[str, list[str]] = {}
    for noun, key in keys:
        by_noun.setdefault(noun, []).append(key)
    if not by_noun:
        return {}
    wanted = or_(*(and_(T.noun == noun, T.key.in_(found)) for noun, found in by_noun.items()))
    query = select(T.noun, T.key, T.format, T.state).where(
        wanted, T.since <= release, or_(T.until.is_(None), T.until > release)
    )
    return {(row[0], row[1]): (row[2], row[3]) for row in session.execute(query)}


def documents_between(session: Session, before: int, after: int) -> Mapping[str, int]:
    """Surface → documents that were otherwise with one release than with another."""
    return {row[0]: row[1] for row in session.execute(_BY_SURFACE, _between(before, after))}


def subjects_between(session: Session, subject: str, before: int, after: int, most: int) -> Some:
    """(id as text, surfaces) of subjects whose documents were otherwise with one release than with another."""
    asked = {**_between(before, after), "subject": subject, "most": most}
    rows = session.execute(_BY_SUBJECT, asked).all()
    return Some([(row[0], tuple(row[1])) for row in rows], rows[0][2] if rows else 0)


def documents_at(session: Session, subject: str, number: Any, release: int) -> list[LiveDocumentRow]:
    """All documents of a subject as they were with a release."""
    stood = and_(D.since <= release, or_(D.until.is_(None), D.until > release))
    query = select(D).where(D.subject == subject, D.subject_id == str(number), stood)
    return list(session.scalars(query.order_by(D.surface, D.card)))
