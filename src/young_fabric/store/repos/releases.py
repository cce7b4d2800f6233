"""Releases and what was live from which one on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy import and_, func, insert, literal, or_, select, text, tuple_, union_all, update
from sqlalchemy.orm import Session

from young_fabric.store.tables import LiveCardRow, LiveDocRow, LiveThingRow, PersonRow, ReleaseRow


def at(table: Any, release: int) -> Any:
    """Rows that were live at a release."""
    return and_(table.since <= release, or_(table.until.is_(None), table.until > release))


def get(session: Session, number: int) -> ReleaseRow | None:
    """One release."""
    return session.get(ReleaseRow, number)


def newest(session: Session, limit: int, before: int | None = None) -> list[tuple[ReleaseRow, str]]:
    """Releases with the name of who made them, last first."""
    query = select(ReleaseRow, PersonRow.name).join(PersonRow, PersonRow.id == ReleaseRow.person_id)
    if before is not None:
        query = query.where(ReleaseRow.number < before)
    return [(row[0], row[1]) for row in session.execute(query.order_by(ReleaseRow.number.desc()).limit(limit))]


def add(session: Session, **row: Any) -> None:
    """Record a release."""
    session.execute(insert(ReleaseRow).values(**row))


def open_things(
    session: Session, nouns: Sequence[str] | None = None, keys: Sequence[tuple[str, str]] | None = None
) -> dict[tuple[str, str], tuple[str, dict[str, Any]]]:
    """(noun, key) → (hash, state) of what is live now."""
    T = LiveThingRow
    query = select(T.noun, T.key, T.hash, T.state).where(T.until.is_(None))
    if nouns is not None:
        query = query.where(T.noun.in_(nouns))
    if keys is not None:
        query = query.where(tuple_(T.noun, T.key).in_(keys))
    return {(row[0], row[1]): (row[2], row[3]) for row in session.execute(query)}


def switched_things(session: Session, number: int) -> list[tuple[str, str]]:
    """(noun, key) of things whose live state began or ended with a release."""
    T = LiveThingRow
    query = select(T.noun, T.key).where(or_(T.since == number, T.until == number)).distinct().order_by(T.noun, T.key)
    return [(row[0], row[1]) for row in session.execute(query)]


def close_things(session: Session, keys: Sequence[tuple[str, str]], release: int) -> None:
    """End things' live states with a release."""
    T = LiveThingRow
    for start in range(0, len(keys), 1000):
        session.execute(
            update(T)
            .where(T.until.is_(None), tuple_(T.noun, T.key).in_(keys[start : start + 1000]))
            .values(until=release)
            .execution_options(synchronize_session=False)
        )


def close_rows(session: Session, table: Any, ids: Sequence[int], release: int) -> None:
    """End documents or cards of products with a release."""
    if ids:
        session.execute(
            update(table)
            .where(table.until.is_(None), table.product_id.in_(ids))
            .values(until=release)
            .execution_options(synchronize_session=False)
        )


def add_rows(session: Session, table: Any, rows: Sequence[Mapping[str, Any]]) -> None:
    """Add live rows."""
    if rows:
        session.execute(insert(table), list(rows))


def open_hashes(session: Session, table: Any, ids: Sequence[int]) -> dict[int, str]:
    """Product → hash of its live document or card."""
    query = select(table.product_id, table.hash).where(table.until.is_(None), table.product_id.in_(ids))
    return {row[0]: row[1] for row in session.execute(query)}


def go_back(session: Session, to: int, release: int) -> tuple[int, int, int]:
    """Make what was live at `to` live again from `release` on; gives (things, pages, cards) that changed."""
    counts = []
    for table, key in ((LiveThingRow, "noun, key"), (LiveDocRow, "product_id"), (LiveCardRow, "product_id")):
        name = table.__tablename__
        columns = ", ".join(c.name for c in table.__table__.columns if c.name not in ("id", "since", "until"))
        values = {"to": to, "release": release}
        old = f"SELECT * FROM {name} WHERE since <= :to AND (until IS NULL OR until > :to)"  # noqa: S608
        same = " AND ".join(f"old.{k} = now.{k}" for k in key.split(", "))
        ended = session.execute(
            text(
                f"UPDATE {name} AS now SET until = :release WHERE now.until IS NULL AND NOT EXISTS "  # noqa: S608
                f"(SELECT 1 FROM ({old}) AS old WHERE {same} AND old.hash = now.hash)"
            ),
            values,
        ).rowcount  # type: ignore[attr-defined]
        begun = session.execute(
            text(
                f"INSERT INTO {name} ({columns}, since) SELECT {columns}, :release FROM ({old}) AS old "  # noqa: S608
                f"WHERE NOT EXISTS (SELECT 1 FROM {name} AS now WHERE now.until IS NULL AND {same})"
            ),
            values,
        ).rowcount  # type: ignore[attr-defined]
        counts.append(max(int(ended), int(begun)))
    return counts[0], counts[1], counts[2]


def page_of(session: Session, slug: str) -> LiveDocRow | None:
    """The live page at an address."""
    return session.scalar(select(LiveDocRow).where(LiveDocRow.slug == slug, LiveDocRow.until.is_(None)))


def page_of_product(session: Session, product_id: int) -> LiveDocRow | None:
    """The live page of a product."""
    return session.scalar(select(LiveDocRow).where(LiveDocRow.product_id == product_id, LiveDocRow.until.is_(None)))


def cards(session: Session, type_key: str, offset: int, limit: int) -> tuple[list[LiveCardRow], int]:
    """A page of the live cards of a type and all below it, and how many there are."""
    wanted = (LiveCardRow.until.is_(None), LiveCardRow.types.contains([type_key]))
    total = session.scalar(select(func.count()).select_from(LiveCardRow).where(*wanted)) or 0
    query = select(LiveCardRow).where(*wanted).order_by(LiveCardRow.title, LiveCardRow.product_id)
    return list(session.scalars(query.offset(offset).limit(limit))), int(total)


def first_cards(session: Session, types: Sequence[str], limit: int) -> dict[str, list[LiveCardRow]]:
    """The first live cards of each type and all below it, in one query."""
    if not types:
        return {}
    found: dict[str, list[LiveCardRow]] = {key: [] for key in types}
    parts = [
        select(literal(key).label("shelf"), LiveCardRow.id)
        .where(LiveCardRow.until.is_(None), LiveCardRow.types.contains([key]))
        .order_by(LiveCardRow.title, LiveCardRow.product_id)
        .limit(limit)
        .subquery()
        for key in types
    ]
    shelves = union_all(*[select(part) for part in parts]).subquery()
    rows = session.execute(
        select(shelves.c.shelf, LiveCardRow)
        .join(shelves, shelves.c.id == LiveCardRow.id)
        .order_by(LiveCardRow.title, LiveCardRow.product_id)
    )
    for shelf, row in rows:
        found[shelf].append(row)
    return found


def card_counts(session: Session) -> dict[str, int]:
    """Type → live cards listed under it."""
    found = session.execute(
        text("SELECT type, count(*) FROM live_card, unnest(types) AS type WHERE until IS NULL GROUP BY type")
    )
    return {row[0]: row[1] for row in found}
