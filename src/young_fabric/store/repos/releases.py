"""Releases and what was live from which one on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from sqlalchemy import (
    ARRAY,
    Text,
    TextClause,
    and_,
    bindparam,
    collate,
    func,
    insert,
    literal,
    or_,
    select,
    text,
    tuple_,
    union_all,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from young_fabric.store.tables import LiveDocumentRow, LiveThingRow, PersonRow, ReleaseRow

T = LiveThingRow
D = LiveDocumentRow
CHUNK = 5_000


def _insert_many(table: str, types: Mapping[str, str]) -> TextClause:
    """One statement that inserts any number of rows, given as JSON; `types` are those of the columns."""
    columns, typed = ", ".join(types), ", ".join(f"{name} {kind}" for name, kind in types.items())
    rows = f"SELECT {columns} FROM jsonb_to_recordset(:rows) AS r({typed})"  # noqa: S608
    return text(f"INSERT INTO {table} ({columns}) {rows}").bindparams(bindparam("rows", type_=JSONB()))


_ADD_THINGS = _insert_many(
    T.__tablename__, {"noun": "text", "key": "text", "format": "int", "hash": "text", "state": "jsonb", "since": "int"}
)
_ADD_DOCUMENTS = _insert_many(
    D.__tablename__,
    {
        "surface": "text",
        "subject": "text",
        "subject_id": "text",
        "card": "text",
        "address": "text",
        "title": "text",
        "listed": "boolean",
        "under": "text[]",
        "document": "jsonb",
        "format": "int",
        "hash": "text",
        "since": "int",
    },
)


def get(session: Session, number: int) -> ReleaseRow | None:
    """One release."""
    return session.get(ReleaseRow, number)


def expect_growth(session: Session) -> None:
    """Have statements of this transaction planned anew each time: the tables grow much while it runs."""
    session.execute(text("SET LOCAL plan_cache_mode = force_custom_plan"))


def of_job(session: Session, job_id: int) -> ReleaseRow | None:
    """The release that a job made."""
    return session.scalar(select(ReleaseRow).where(ReleaseRow.job_id == job_id))


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
) -> dict[tuple[str, str], tuple[int, dict[str, Any]]]:
    """(noun, key) → (format, state) of what is live now."""
    query = select(T.noun, T.key, T.format, T.state).where(T.until.is_(None))
    if nouns is not None:
        query = query.where(T.noun.in_(nouns))
    if keys is not None:
        query = query.where(tuple_(T.noun, T.key).in_(keys))
    return {(row[0], row[1]): (row[2], row[3]) for row in session.execute(query)}


def switched_things(session: Session, number: int) -> list[tuple[str, str]]:
    """(noun, key) of things whose live state began or ended with a release."""
    query = select(T.noun, T.key).where(or_(T.since == number, T.until == number)).distinct().order_by(T.noun, T.key)
    return [(row[0], row[1]) for row in session.execute(query)]


def close_things(session: Session, keys: Sequence[tuple[str, str]], release: int) -> None:
    """End things' live states with a release."""
    for start in range(0, len(keys), 1000):
        session.execute(
            update(T)
            .where(T.until.is_(None), tuple_(T.noun, T.key).in_(keys[start : start + 1000]))
            .values(until=release)
            .execution_options(synchronize_session=False)
        )


def add_things(session: Session, rows: Sequence[Mapping[str, Any]]) -> None:
    """Freeze states of things."""
    if rows:
        session.execute(_ADD_THINGS, {"rows": list(rows)})


def close_documents(session: Session, subject: str, ids: Sequence[Any], release: int) -> None:
    """End all documents of subjects with a release."""
    for start in range(0, len(ids), CHUNK):
        part = [str(number) for number in ids[start : start + CHUNK]]
        session.execute(
            update(D)
            .where(D.until.is_(None), D.subject == subject, D.subject_id == func.any(part))
            .values(until=release)
            .execution_options(synchronize_session=False)
        )


DocumentKey = tuple[str, str, str]
"""(surface, id of the subject, card)."""


def open_hashes(session: Session, subject: str, ids: Sequence[Any]) -> dict[DocumentKey, str]:
    """Hashes of the live documents of subjects."""
    wanted = D.subject_id == func.any([str(number) for number in ids])
    query = select(D.surface, D.subject_id, D.card, D.hash).where(D.until.is_(None), D.subject == subject, wanted)
    return {(row[0], row[1], row[2]): row[3] for row in session.execute(query)}


def replace_documents(
    session: Session, subject: str, ended: Sequence[DocumentKey], rows: Sequence[Mapping[str, Any]], release: int
) -> None:
    """End live documents and add others, from a release on."""
    if ended:
        session.execute(
            text(
                "UPDATE live_document SET until = :release WHERE until IS NULL AND subject = :subject "
                "AND subject_id = ANY(:ids) AND (surface, subject_id, card) IN (SELECT k.surface, k.subject_id, k.card "
                "FROM jsonb_to_recordset(:keys) AS k(surface text, subject_id text, card text))"
            ).bindparams(bindparam("keys", type_=JSONB()), bindparam("ids", type_=ARRAY(Text))),
            {
                "release": release,
                "subject": subject,
                "ids": list({key[1] for key in ended}),
                "keys": [dict(zip(("surface", "subject_id", "card"), key, strict=True)) for key in ended],
            },
        )
    if rows:
        session.execute(_ADD_DOCUMENTS, {"rows": [{**row, "subject": subject, "since": release} for row in rows]})


def go_back(session: Session, to: int, release: int) -> tuple[int, dict[str, int]]:
    """Make what was live at `to` live again from `release` on; gives how many things, and documents by surface, changed."""
    things = _switch_back(session, "live_thing", ("noun", "key"), to, release)
    _switch_back(session, "live_document", ("surface", "subject", "subject_id", "card"), to, release)
    counted = session.execute(
        text(
            "SELECT surface, count(DISTINCT (subject, subject_id)) FROM live_document "
            "WHERE since = :release OR until = :release GROUP BY surface"
        ),
        {"release": release},
    )
    return things, {row[0]: row[1] for row in counted}


def _switch_back(session: Session, table: str, keys: tuple[str, ...], to: int, release: int) -> int:
    columns = [
        column.name
        for column in (T if table == T.__tablename__ else D).__table__.columns
        if column.name not in ("id", "since", "until")
    ]
    listed = ", ".join(columns)
    values = {"to": to, "release": release}
    old = f"SELECT * FROM {table} WHERE since <= :to AND (until IS NULL OR until > :to)"  # noqa: S608
    same = " AND ".join(f"old.{key} = now.{key}" for key in keys)
    ended = session.execute(
        text(
            f"UPDATE {table} AS now SET until = :release WHERE now.until IS NULL AND NOT EXISTS "  # noqa: S608
            f"(SELECT 1 FROM ({old}) AS old WHERE {same} AND old.hash = now.hash)"
        ),
        values,
    )
    begun = session.execute(
        text(
            f"INSERT INTO {table} ({listed}, since) SELECT {listed}, :release FROM ({old}) AS old "  # noqa: S608
            f"WHERE NOT EXISTS (SELECT 1 FROM {table} AS now WHERE now.until IS NULL AND {same})"
        ),
        values,
    )
    return max(int(ended.rowcount), int(begun.rowcount))  # type: ignore[attr-defined]


def documents_at(session: Session, surface: str, address: str) -> list[LiveDocumentRow]:
    """All live documents of the subject whose page is at an address."""
    found = (
        select(D.subject, D.subject_id)
        .where(D.until.is_(None), D.address == address, D.surface == surface)
        .limit(1)
        .subquery()
    )
    query = select(D).join(found, and_(D.subject == found.c.subject, D.subject_id == found.c.subject_id))
    return list(session.scalars(query.where(D.until.is_(None)).order_by(D.surface, D.card)))


def documents_of(session: Session, subject: str, number: Any) -> list[LiveDocumentRow]:
    """All live documents of a subject."""
    query = select(D).where(D.until.is_(None), D.subject == subject, D.subject_id == str(number))
    return list(session.scalars(query.order_by(D.surface, D.card)))


def _listed(surface: str, type_key: str) -> tuple[Any, ...]:
    return D.until.is_(None), D.listed.is_(True), D.surface == surface, D.under.contains([type_key])


def cards(
    session: Session, surface: str, type_key: str, offset: int, limit: int, collation: str
) -> tuple[list[LiveDocumentRow], int]:
    """A page of the live cards of a type and all below it, and how many there are."""
    wanted = _listed(surface, type_key)
    total = session.scalar(select(func.count()).select_from(D).where(*wanted)) or 0
    query = select(D).where(*wanted).order_by(collate(D.title, collation), D.subject_id, D.card)
    return list(session.scalars(query.offset(offset).limit(limit))), int(total)


def first_cards(
    session: Session, surface: str, types: Sequence[str], limit: int, collation: str
) -> dict[str, list[LiveDocumentRow]]:
    """The first live cards of each type and all below it, in one query."""
    if not types:
        return {}
    found: dict[str, list[LiveDocumentRow]] = {key: [] for key in types}
    order = (collate(D.title, collation), D.subject_id, D.card)
    parts = [
        select(literal(key).label("shelf"), D.id).where(*_listed(surface, key)).order_by(*order).limit(limit).subquery()
        for key in types
    ]
    shelves = union_all(*[select(part) for part in parts]).subquery()
    rows = session.execute(select(shelves.c.shelf, D).join(shelves, shelves.c.id == D.id).order_by(*order))
    for shelf, row in rows:
        found[shelf].append(row)
    return found


def card_counts(session: Session, surface: str) -> dict[str, int]:
    """Type → live cards listed under it."""
    found = session.execute(
        text(
            "SELECT type, count(*) FROM live_document, unnest(under) AS type "
            "WHERE until IS NULL AND listed AND surface = :surface GROUP BY type"
        ),
        {"surface": surface},
    )
    return {row[0]: row[1] for row in found}
