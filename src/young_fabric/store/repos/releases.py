"""Releases and what was live from which one on."""

from __future__ import annotations

import hashlib
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from sqlalchemy import ARRAY, ColumnElement, Text, and_, bindparam, false, func, insert, or_, select, text, update
from sqlalchemy.dialects.postgresql import JSONB, array, distinct_on
from sqlalchemy.orm import Session

from young_fabric.core.base.hashes import spelled
from young_fabric.core.display.cascade import DisplaySetting
from young_fabric.core.nouns.layouts import display_settings
from young_fabric.core.subjects.product_labels import ProductLabel
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED
from young_fabric.store.copying import copy_rows
from young_fabric.store.states import thing_of
from young_fabric.store.tables import LiveDocumentRow, LiveThingRow, PersonRow, ReleaseRow

T = LiveThingRow
D = LiveDocumentRow
CHUNK = 5_000
SETTINGS = display_settings.NOUN.code
HELD = "held"
"""Under which name a release notes that a product stays by the definitions of an earlier one: {"by": its number}."""


_THING = {"noun": "text", "key": "text", "format": "int4", "hash": "text", "state": "jsonb", "since": "int4"}
_DOCUMENT = {
    "surface": "text",
    "subject": "text",
    "subject_id": "text",
    "card": "text",
    "address": "text",
    "title": "text",
    "listed": "bool",
    "under": "text[]",
    "document": "json",
    "format": "int4",
    "hash": "text",
    "since": "int4",
}


def get(session: Session, number: int) -> ReleaseRow | None:
    """One release."""
    return session.get(ReleaseRow, number)


def expect_growth(session: Session) -> None:
    """Have statements of this transaction planned anew each time: the tables grow much while it runs."""
    session.execute(text("SET LOCAL plan_cache_mode = force_custom_plan"))


def take_statistics(session: Session) -> None:
    """Have the planner know how large the tables of what is live have become; what nobody looks for is left out."""
    session.execute(text("SET LOCAL default_statistics_target = 20"))
    columns = "surface, subject, subject_id, card, address, since, until"
    session.execute(text(f"ANALYZE live_document ({columns}), live_thing (noun, key, hash, since, until)"))
    session.execute(text("ANALYZE listed_card, listing_part, unreleased"))


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
        by_noun: dict[str, list[str]] = defaultdict(list)
        for noun, key in keys:
            by_noun[noun].append(key)
        query = query.where(
            or_(false(), *(and_(T.noun == noun, T.key == func.any(found)) for noun, found in by_noun.items()))
        )
    return {(row[0], row[1]): (row[2], row[3]) for row in session.execute(query)}


def things_at(
    session: Session, nouns: Sequence[str], release: int
) -> dict[tuple[str, str], tuple[int, dict[str, Any]]]:
    """(noun, key) → (format, state) of what was live with a release."""
    query = select(T.noun, T.key, T.format, T.state).where(T.noun.in_(nouns), _stood(release))
    return {(row[0], row[1]): (row[2], row[3]) for row in session.execute(query)}


def _stood(release: int) -> ColumnElement[bool]:
    """What was live with a release."""
    return and_(T.since <= release, or_(T.until.is_(None), T.until > release))


def open_keys(session: Session, noun: str, keys: Iterable[str] | None = None) -> list[str]:
    """The keys of a noun that are live now, or those of some of them."""
    query = select(T.key).where(T.until.is_(None), T.noun == noun)
    return list(session.scalars(query if keys is None else query.where(T.key == func.any(list(keys)))))


def any_open(session: Session, noun: str, end: str, members: Sequence[str]) -> bool:
    """Whether any live thing of a noun whose key ends so sets any of some members."""
    sets = T.state["set"].has_any(array(members))
    found = select(T.key).where(T.until.is_(None), T.noun == noun, T.key.endswith(end, autoescape=True), sets)
    return session.scalar(found.limit(1)) is not None


START = "left(key, strpos(key, '/'))"
OWN_SETTINGS = f"until IS NULL AND noun = '{SETTINGS}'"
"""What is live of settings, by START of what they are said for: there is an index of them."""
_FROZEN_PRODUCTS = text(
    "SELECT noun, key, format, state FROM live_thing WHERE until IS NULL AND noun = ANY(:nouns) AND key = ANY(:keys) "  # noqa: S608
    f"UNION ALL SELECT noun, key, format, state FROM live_thing WHERE {OWN_SETTINGS} AND {START} = ANY(:starts)"
).columns(T.noun, T.key, T.format, T.state)


def frozen_products(
    session: Session, ids: Sequence[int]
) -> tuple[dict[tuple[str, str], tuple[int, dict[str, Any]]], dict[int, tuple[DisplaySetting, ...]]]:
    """((noun, id as text) → (format, state) of what is live of some products, product → the settings said for it alone)."""
    asked = {"nouns": [PRODUCT.code, OFFERED, HELD], "keys": list(map(str, ids)), "starts": _starts(ids)}
    return parted(tuple(row) for row in session.execute(_FROZEN_PRODUCTS, asked))


def parted(
    found: Iterable[Sequence[Any]],
) -> tuple[dict[tuple[str, str], tuple[int, dict[str, Any]]], dict[int, tuple[DisplaySetting, ...]]]:
    """The same of rows of (noun, key, format, state)."""
    rows = list(found)
    frozen = {(noun, key): (written, state) for noun, key, written, state in rows if noun != SETTINGS}
    return frozen, _by_product((key, written, state) for noun, key, written, state in rows if noun == SETTINGS)


def own_settings(session: Session, ids: Sequence[int], release: int) -> dict[int, tuple[DisplaySetting, ...]]:
    """Product → the settings said for it alone, as they were live with a release."""
    start = func.left(T.key, func.strpos(T.key, "/")).op("=")(func.any(_starts(ids)))
    query = select(T.key, T.format, T.state).where(_stood(release), T.noun == SETTINGS, start)
    return _by_product((row[0], row[1], row[2]) for row in session.execute(query)) if ids else {}


def _starts(ids: Sequence[int]) -> list[str]:
    return [f"{PRODUCT.code}:{number}/" for number in ids]


def _by_product(rows: Iterable[tuple[str, int, Any]]) -> dict[int, tuple[DisplaySetting, ...]]:
    out: dict[int, tuple[DisplaySetting, ...]] = {}
    for key, written, state in rows:
        number = int(key.partition("/")[0].partition(":")[2])
        out[number] = (*out.get(number, ()), thing_of(SETTINGS, state, written))
    return out


def switched_things(session: Session, number: int) -> list[tuple[str, str]]:
    """(noun, key) of things whose live state began or ended with a release."""
    query = select(T.noun, T.key).where(or_(T.since == number, T.until == number)).distinct().order_by(T.noun, T.key)
    return [(row[0], row[1]) for row in session.execute(query)]


def close_things(session: Session, keys: Sequence[tuple[str, str]], release: int) -> None:
    """End things' live states with a release."""
    by_noun: dict[str, list[str]] = defaultdict(list)
    for noun, key in keys:
        by_noun[noun].append(key)
    for noun, inside in by_noun.items():
        session.execute(
            update(T)
            .where(T.until.is_(None), T.noun == noun, T.key == func.any(inside))
            .values(until=release)
            .execution_options(synchronize_session=False)
        )


def frozen(noun: str, key: str, written: int, state: dict[str, Any], release: int) -> dict[str, Any]:
    """The row of a state in a format, live from a release on."""
    text = spelled(state)
    digest = hashlib.sha256(text).hexdigest()
    return {"noun": noun, "key": key, "format": written, "hash": digest, "state": text, "since": release}


def add_things(session: Session, rows: Sequence[Mapping[str, Any]]) -> None:
    """Freeze states of things."""
    copy_rows(session, T.__tablename__, _THING, rows)


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


def labels(session: Session, ids: Iterable[int]) -> dict[int, ProductLabel]:
    """What stands for live products that others refer to."""
    values = T.state["values"]
    rows = session.execute(
        select(T.key, values["title"].astext, values["slug"].astext, T.state["offered"].as_boolean()).where(
            T.until.is_(None), T.noun == PRODUCT.code, T.key == func.any([str(number) for number in ids])
        )
    )
    return {int(row[0]): ProductLabel(row[1] or "", (row[2] or "") if row[3] else "") for row in rows}


def open_hashes(session: Session, subject: str, ids: Sequence[Any]) -> dict[DocumentKey, str]:
    """Hashes of the live documents of subjects."""
    wanted = D.subject_id == func.any([str(number) for number in ids])
    query = select(D.surface, D.subject_id, D.card, D.hash).where(D.until.is_(None), D.subject == subject, wanted)
    return {(row[0], row[1], row[2]): row[3] for row in session.execute(query)}


def add_documents(session: Session, subject: str, rows: Iterable[Mapping[str, Any]], release: int) -> None:
    """Add documents from a release on. Nothing else may be asked of the session while the rows are made."""
    copy_rows(session, D.__tablename__, _DOCUMENT, rows, {"subject": subject, "since": release})


def end_documents(session: Session, subject: str, ended: Sequence[DocumentKey], release: int) -> None:
    """End some live documents with a release."""
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


def go_back(session: Session, to: int, release: int) -> tuple[int, dict[str, int]]:
    """Make what was live at `to` live again from `release` on; gives how many things, and documents by surface, changed."""
    things = _switch_back(session, "live_thing", ("noun", "key"), to, release)
    _switch_back(session, "live_document", ("surface", "subject", "subject_id", "card"), to, release)
    _switch_back(session, "listed_card", ("listing", "product_id", "card"), to, release)
    counted = session.execute(
        text(
            "SELECT surface, count(DISTINCT (subject, subject_id, card)) FROM live_document "
            "WHERE since = :release OR until = :release GROUP BY surface"
        ),
        {"release": release},
    )
    return things, {row[0]: row[1] for row in counted}


def _switch_back(session: Session, table: str, keys: tuple[str, ...], to: int, release: int) -> int:
    columns = [
        column.name for column in T.metadata.tables[table].columns if column.name not in ("id", "since", "until")
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


def made_surface(session: Session, surface: str, release: int) -> bool:
    """Whether a release has documents of a surface, or none of any: one made before there was the surface has others only."""
    there = and_(D.since <= release, or_(D.until.is_(None), D.until > release))
    has = select(D.id).where(there, D.surface == surface).limit(1)
    return session.scalar(has) is not None or session.scalar(select(D.id).where(there).limit(1)) is None


def documents_at_each(session: Session, surface: str, addresses: Sequence[str]) -> dict[str, LiveDocumentRow]:
    """Address → the live document on a surface of the subject whose page is there; of several cards the first."""
    query = select(D).where(D.until.is_(None), D.address.in_(addresses), D.surface == surface)
    rows = session.scalars(query.order_by(D.card.desc())) if addresses else ()
    return {str(row.address): row for row in rows}


def documents_on(session: Session, surface: str, subject: str, ids: Sequence[str]) -> dict[str, LiveDocumentRow]:
    """Id → its live document on a surface; of several cards the first."""
    there = D.until.is_(None), D.surface == surface, D.subject == subject
    rows = (
        session.scalars(select(D).where(*there, D.subject_id == func.any(list(ids))).order_by(D.card.desc()))
        if ids
        else ()
    )
    return {row.subject_id: row for row in rows}


def cards_on(session: Session, surface: str, keys: Sequence[tuple[str, str]]) -> dict[tuple[str, str], LiveDocumentRow]:
    """(id, card) → the live document on a surface, of those there are."""
    rows = session.scalars(
        select(D).where(
            D.until.is_(None),
            D.surface == surface,
            D.subject == PRODUCT.code,
            D.subject_id == func.any([id_ for id_, _ in keys]),
        )
    )
    wanted = set(keys)
    return {(row.subject_id, row.card): row for row in rows if (row.subject_id, row.card) in wanted}


def documents_of(session: Session, subject: str, number: Any) -> list[LiveDocumentRow]:
    """All live documents of a subject."""
    query = select(D).where(D.until.is_(None), D.subject == subject, D.subject_id == str(number))
    return list(session.scalars(query.order_by(D.surface, D.card)))


def documents_with(
    session: Session, surface: str, subject: str, release: int, newest: int, after: str, limit: int
) -> list[LiveDocumentRow]:
    """Documents of a surface as they were with a release, in order of the subject's id as text, after one of them."""
    there = D.until.is_(None) if release == newest else or_(D.until.is_(None), D.until > release)
    query = select(D).where(there, D.since <= release, D.subject == subject, D.surface == surface)
    return list(session.scalars(query.where(D.subject_id > after).order_by(D.subject_id, D.card).limit(limit)))


def changed_documents(
    session: Session, surface: str, subject: str, since: int, release: int, after: str, limit: int
) -> list[LiveDocumentRow]:
    """The last document of each subject that was otherwise with a release than with an earlier one; ended ones are gone."""
    found = (
        select(D.id)
        .where(D.subject == subject, D.surface == surface, D.subject_id > after)
        .where(or_(and_(D.since > since, D.since <= release), and_(D.until > since, D.until <= release)))
        .ext(distinct_on(D.subject_id))
        .order_by(D.subject_id, D.since.desc())
        .limit(limit)
        .subquery()
    )
    return list(session.scalars(select(D).join(found, found.c.id == D.id).order_by(D.subject_id)))
