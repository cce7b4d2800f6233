"""The record of changes and the list of what is not released."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import Integer, Select, and_, bindparam, case, cast, delete, func, or_, select, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session, aliased

from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.core.subjects.variants import OFFERED
from young_fabric.store.repos.news import MOST_NAMED
from young_fabric.store.tables import ChangeRow, LiveThingRow, PersonRow, ProductRow, UnreleasedRow

C = ChangeRow
L = LiveThingRow
P = ProductRow
U = UnreleasedRow
OF_PRODUCTS = (PRODUCT.code, OFFERED)
"""What is noted of products: their own state, and what is offered of them."""
UNKNOWN = "unknown"
"""The hash of drafts noted before hashes were kept: they count as changed until the next release has put them live."""
_NOTE_MISSING = text(
    "INSERT INTO unreleased (noun, key, hash) SELECT :noun, r.key, r.hash "
    "FROM jsonb_to_recordset(:rows) AS r(key text, hash text) ORDER BY r.key ON CONFLICT (noun, key) DO NOTHING"
).bindparams(bindparam("rows", type_=JSONB()))
_ADD_MANY = text(
    "WITH made AS (INSERT INTO change (at, person_id, noun, key, name, lines, patch, format, version, group_id, undoes, undo_depth) "
    "SELECT :at, :person_id, r.noun, r.key, r.name, r.lines, r.patch, r.format, r.version, :group_id, r.undoes, "
    "coalesce((SELECT undo_depth + 1 FROM change AS c WHERE c.id = r.undoes), 0) "
    "FROM jsonb_to_recordset(:rows) AS r(noun text, key text, name text, lines text[], patch jsonb, format int, "
    "version int, undoes bigint) RETURNING id, noun, key, version), "
    "told AS (INSERT INTO news (person_id, window_id, nouns, things) SELECT :person_id, :window, array_agg(DISTINCT noun), "
    "CASE WHEN count(*) <= :most_named THEN jsonb_agg(jsonb_build_array(noun, key, version)) END FROM made) "
    "SELECT id FROM made"
).bindparams(bindparam("rows", type_=JSONB()))
_NOTE = text(
    "INSERT INTO unreleased (noun, key, hash) SELECT r.noun, r.key, r.hash "
    "FROM jsonb_to_recordset(:rows) AS r(noun text, key text, hash text) ORDER BY r.noun, r.key "
    "ON CONFLICT (noun, key) DO UPDATE SET hash = excluded.hash"
).bindparams(bindparam("rows", type_=JSONB()))
_ALL_OF = ", ".join(f"c.{column.name}" for column in C.__table__.columns)
_SINCE = text(
    f"SELECT {_ALL_OF} FROM jsonb_to_recordset(:rows) AS r(noun text, key text, version int) JOIN change AS c "  # noqa: S608
    "ON c.noun = r.noun AND c.key = r.key AND c.version > r.version ORDER BY c.id DESC"
).bindparams(bindparam("rows", type_=JSONB()))
_LAST = text(
    "SELECT r.noun, r.key, max(c.version) FROM jsonb_to_recordset(:rows) AS r(noun text, key text) "
    "JOIN change AS c ON c.noun = r.noun AND c.key = r.key GROUP BY r.noun, r.key"
).bindparams(bindparam("rows", type_=JSONB()))


def add_many(session: Session, rows: Sequence[Mapping[str, Any]], **shared: Any) -> list[int]:
    """Record changes of any nouns, in order: each row its noun, key, name, lines, patch, format, version and what it undoes; gives
    their ids. Those who listen hear of them once they are committed."""
    told = {"window": str(session.info.get("window", "")), "most_named": MOST_NAMED, **shared}
    return [row[0] for row in session.execute(_ADD_MANY, {"rows": list(rows), **told})] if rows else []


def get(session: Session, change_id: int) -> ChangeRow | None:
    """One change."""
    return session.get(C, change_id)


def of_group(session: Session, group_id: str, nouns: Sequence[str]) -> Sequence[ChangeRow]:
    """The changes of some nouns in a group, last first."""
    query = select(C).where(C.group_id == group_id, C.noun == func.any(list(nouns))).order_by(C.id.desc())
    return session.scalars(query).all()


def others_of_group(session: Session, group_id: str, nouns: Sequence[str], batch: int) -> Iterator[Sequence[ChangeRow]]:
    """The changes of other nouns in a group, last first, a batch at a time."""
    query = select(C).where(C.group_id == group_id, C.noun != func.all(list(nouns))).order_by(C.id.desc()).limit(batch)
    rows = session.scalars(query).all()
    while rows:
        yield rows
        last = rows[-1].id
        for row in rows:
            session.expunge(row)
        rows = session.scalars(query.where(C.id < last)).all()


def makes_or_defines(session: Session, group_id: str, nouns: Sequence[str]) -> bool:
    """Whether a group has changes of some nouns, or some that made their thing."""
    made = and_(C.patch.has_key("is"), ~C.patch.has_key("was"))
    query = select(C.id).where(C.group_id == group_id, or_(C.noun == func.any(list(nouns)), made)).limit(1)
    return session.scalar(query) is not None


def last_changed(session: Session, keys: Sequence[tuple[str, str]]) -> dict[tuple[str, str], datetime]:
    """When some things were last changed."""
    if not keys:
        return {}
    by_noun: dict[str, list[str]] = defaultdict(list)
    for noun, key in keys:
        by_noun[noun].append(key)
    wanted = or_(*(and_(C.noun == noun, C.key == func.any(found)) for noun, found in by_noun.items()))
    query = select(C.noun, C.key, func.max(C.at)).where(wanted).group_by(C.noun, C.key)
    return {(row[0], row[1]): row[2] for row in session.execute(query)}


def size_of_group(session: Session, group_id: str) -> int:
    """How many changes a group has."""
    return int(session.scalar(select(func.count()).select_from(C).where(C.group_id == group_id)) or 0)


def hold_group(session: Session, group_id: str) -> None:
    """Hold a group of changes by its first one, so that it is taken back by one at a time."""
    session.execute(select(C.id).where(C.group_id == group_id).order_by(C.id).limit(1).with_for_update())


def undone_in_group(session: Session, group_id: str) -> bool:
    """Whether some change of a group was taken back before."""
    later = aliased(C)
    query = select(later.id).join(C, C.id == later.undoes).where(C.group_id == group_id).limit(1)
    return session.scalar(query) is not None


def undone(session: Session, ids: Sequence[int]) -> set[int]:
    """Those of the changes that were undone, the undoing not undone itself."""
    later = aliased(C)
    return set(
        session.scalars(
            select(C.undoes).where(
                C.undoes == func.any(list(ids)), ~select(later.id).where(later.undoes == C.id).exists()
            )
        )
    )


def undoable(session: Session, ids: Sequence[int]) -> bool:
    """Whether none of the changes was taken back before."""
    return session.scalar(select(C.id).where(C.undoes == func.any(list(ids))).limit(1)) is None


def last_undoable(session: Session, person_id: int) -> ChangeRow | None:
    """The person's last change, or redoing of one, that was not undone."""
    return session.scalar(_standing(person_id, 0))


def last_redoable(session: Session, person_id: int) -> ChangeRow | None:
    """The person's last undoing that was not taken back, unless something new was changed since."""
    newest = (
        select(func.coalesce(func.max(C.id), 0)).where(C.person_id == person_id, C.undo_depth == 0).scalar_subquery()
    )
    return session.scalar(_standing(person_id, 1).where(C.id > newest))


def _standing(person_id: int, parity: int) -> Select[ChangeRow]:
    """The person's last change of even or odd depth that nothing takes back."""
    later = aliased(C)
    taken_back = select(later.id).where(later.undoes == C.id).exists()
    return (
        select(C)
        .where(C.person_id == person_id, C.undo_depth % 2 == parity, ~taken_back)
        .order_by(C.id.desc())
        .limit(1)
    )


def since_version(session: Session, noun: str, key: str, version: int) -> Sequence[ChangeRow]:
    """The changes of a thing after it had a version, last first."""
    return session.scalars(
        select(C).where(C.noun == noun, C.key == key, C.version > version).order_by(C.id.desc())
    ).all()


def since_versions(session: Session, versions: Mapping[tuple[str, str], int]) -> dict[tuple[str, str], list[ChangeRow]]:
    """The same for things of any nouns: (noun, key) → changes after the version given, last first."""
    found: dict[tuple[str, str], list[ChangeRow]] = {thing: [] for thing in versions}
    rows = [{"noun": noun, "key": key, "version": version} for (noun, key), version in versions.items()]
    query = select(C).from_statement(_SINCE.columns(*C.__table__.columns))
    for change in session.scalars(query, {"rows": rows}) if rows else ():
        found[change.noun, change.key].append(change)
    return found


def last_version(session: Session, noun: str, key: str) -> int:
    """The highest version a thing ever had by its record, 0 when there is none."""
    return int(session.scalar(select(func.max(C.version)).where(C.noun == noun, C.key == key)) or 0)


def last_versions(session: Session, noun: str, keys: Sequence[str]) -> dict[str, int]:
    """The same for several things."""
    return {key: version for (_, key), version in last_versions_of(session, [(noun, key) for key in keys]).items()}


def last_versions_of(session: Session, ids: Sequence[tuple[str, str]]) -> dict[tuple[str, str], int]:
    """The same for several things of any nouns: (noun, key) → version."""
    rows = [{"noun": noun, "key": key} for noun, key in ids]
    return {(row[0], row[1]): row[2] for row in session.execute(_LAST, {"rows": rows})} if rows else {}


def last_writer(session: Session, noun: str, key: str) -> tuple[int, str] | None:
    """Who changed a thing last: id and name; None where nobody did."""
    query = select(PersonRow.id, PersonRow.name).join(C, PersonRow.id == C.person_id)
    row = session.execute(query.where(C.noun == noun, C.key == key).order_by(C.id.desc()).limit(1)).first()
    return None if row is None else (row[0], row[1])


def history(
    session: Session, noun: str | None, key: str | None, before: int | None, limit: int
) -> list[tuple[ChangeRow, str]]:
    """Changes of a thing (or of all) with the person's name, last first."""
    query = select(C, PersonRow.name).join(PersonRow, PersonRow.id == C.person_id).order_by(C.id.desc()).limit(limit)
    if noun is not None:
        query = query.where(C.noun == noun)
    if key is not None:
        query = query.where(C.key == key)
    if before is not None:
        query = query.where(C.id < before)
    return [(row[0], row[1]) for row in session.execute(query)]


def note(session: Session, drafts: Mapping[tuple[str, str], str | None]) -> None:
    """Note the hashes of things' drafts by (noun, key), None for those removed."""
    if drafts:
        rows = [{"noun": noun, "key": key, "hash": digest} for (noun, key), digest in drafts.items()]
        session.execute(_NOTE, {"rows": rows})


def note_missing(session: Session, noun: str, drafts: Mapping[str, str | None]) -> None:
    """The same, those noted already left as they are: a writer knows better."""
    if drafts:
        rows = [{"key": key, "hash": digest} for key, digest in drafts.items()]
        session.execute(_NOTE_MISSING, {"noun": noun, "rows": rows})


def _differing(query: Any) -> Any:
    """Live hashes are asked for one by one: a join is planned by statistics, which large releases outrun. What only a later version
    knows waits for that version."""
    live = select(L.hash).where(L.noun == U.noun, L.key == U.key, L.until.is_(None)).scalar_subquery()
    return query.select_from(U).where(U.hash.is_distinct_from(live), U.noun.in_([*OF_PRODUCTS, *NOUNS]))


def unreleased(session: Session, nouns: Iterable[str] | None = None, limit: int | None = None) -> list[tuple[str, str]]:
    """(noun, key) of things whose draft differs from what is live, definitions before products."""
    query = _differing(select(U.noun, U.key)).order_by(U.noun.in_(OF_PRODUCTS), U.noun, U.key)
    if nouns is not None:
        query = query.where(U.noun.in_(list(nouns)))
    return [(row[0], row[1]) for row in session.execute(query.limit(limit) if limit else query)]


def unreleased_count(session: Session, noun: str | None = None) -> int:
    """How many things, of a noun or of any, differ from what is live."""
    query = _differing(select(func.count()))
    return int(session.scalar(query.where(U.noun == noun) if noun is not None else query) or 0)


def changed_products(session: Session) -> int:
    """How many products differ from what is live, in their values or in what is offered of them."""
    query = _differing(select(func.count(U.key.distinct())))
    return int(session.scalar(query.where(U.noun.in_(OF_PRODUCTS))) or 0)


def unreleased_products(session: Session, batch: int) -> Iterator[list[int]]:
    """The ids of products whose draft differs from what is live, those that are gone included, a batch at a time."""
    query = _differing(select(U.key)).where(U.noun.in_(OF_PRODUCTS)).group_by(U.key).order_by(U.key).limit(batch)
    keys = session.scalars(query).all()
    while keys:
        yield [int(key) for key in keys]
        keys = session.scalars(query.where(U.key > keys[-1])).all()


def unreleased_among(session: Session, ids: Sequence[int]) -> set[int]:
    """Those of some products whose draft differs from what is live."""
    among = func.any([str(product_id) for product_id in ids])
    query = _differing(select(U.key)).where(U.noun.in_(OF_PRODUCTS), U.key == among)
    return {int(key) for key in session.scalars(query)}


def unreleased_by_group(session: Session) -> dict[tuple[str, tuple[str, ...]], int]:
    """(type, collections) → products there are whose draft differs from what is live."""
    query = _differing(select(P.type_key, P.collections, func.count(P.id.distinct()))).join(
        P, P.id == case((U.noun.in_(OF_PRODUCTS), cast(U.key, Integer)))
    )
    rows = session.execute(query.where(U.noun.in_(OF_PRODUCTS)).group_by(P.type_key, P.collections))
    return {(row[0], tuple(row[1])): row[2] for row in rows}


def forget_released(session: Session) -> None:
    """Drop the notes of things that do not differ from what is live."""
    same = and_(L.noun == U.noun, L.key == U.key, L.until.is_(None), L.hash == U.hash)
    gone = and_(U.hash.is_(None), ~select(L.id).where(L.noun == U.noun, L.key == U.key, L.until.is_(None)).exists())
    for released in (select(L.id).where(same).exists(), gone, U.hash == UNKNOWN):
        session.execute(delete(U).where(released).execution_options(synchronize_session=False))
