"""Reading and writing definitions: one table for every noun, and the references between them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

from sqlalchemy import TextClause, and_, bindparam, func, select, text
from sqlalchemy.dialects.postgresql import JSONB, array
from sqlalchemy.orm import Session

from young_fabric.core.base.shop import Shop
from young_fabric.core.definitions.definitions import Definitions
from young_fabric.core.nouns.base import Noun, state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.store.states import hash_of, thing_of
from young_fabric.store.tables import DefinitionRow, ReferenceRow, ReleaseRow, ShopRow

D = DefinitionRow
R = ReferenceRow


class StoredThing(NamedTuple):
    """A definition with its version."""

    thing: Any
    version: int


@dataclass(frozen=True)
class LoadedDefinitions:
    """All definitions at one moment, their versions, the shop's stamp then, and its newest release; `unread` are (noun, key) of those
    of nouns that only a later version knows."""

    defs: Definitions
    versions: Mapping[tuple[str, str], int]
    stamp: int
    release: int
    unread: frozenset[tuple[str, str]] = frozenset()


_NAMED = "jsonb_to_recordset(:rows) AS r(noun text, key text)"
_MEMBERS = "noun, key, name, version, format, state, hash, address, of_subject, stamp"


def _of_rows(statement: str) -> TextClause:
    return text(statement).bindparams(bindparam("rows", type_=JSONB()))


_ASKED = _of_rows(
    f"SELECT d.noun, d.key, d.version, d.format, d.state FROM definition AS d JOIN {_NAMED} ON (d.noun, d.key) = (r.noun, r.key)"  # noqa: S608
)
_UNLINK = _of_rows(f"DELETE FROM reference AS f USING {_NAMED} WHERE (f.noun, f.key) = (r.noun, r.key)")  # noqa: S608
_REMOVE = _of_rows(f"DELETE FROM definition AS d USING {_NAMED} WHERE (d.noun, d.key) = (r.noun, r.key)")  # noqa: S608
_UPSERT = _of_rows(
    f"INSERT INTO definition ({_MEMBERS}) SELECT {_MEMBERS} FROM jsonb_to_recordset(:rows) AS r(noun text, key text, "  # noqa: S608
    "name text, version int, format int, state jsonb, hash text, address text, of_subject text, stamp bigint) "
    "ON CONFLICT (noun, key) DO UPDATE SET (name, version, format, state, hash, address, of_subject, stamp) = "
    "ROW (excluded.name, excluded.version, excluded.format, excluded.state, excluded.hash, excluded.address, "
    "excluded.of_subject, excluded.stamp)"
)
_LINK = _of_rows(
    "INSERT INTO reference (noun, key, to_noun, to_key, place) SELECT noun, key, to_noun, to_key, place "
    "FROM jsonb_to_recordset(:rows) AS r(noun text, key text, to_noun text, to_key text, place text)"
)
_NEWEST = select(func.coalesce(func.max(ReleaseRow.number), 0)).scalar_subquery()
_SHOP = (ShopRow.name, ShopRow.prefix, ShopRow.currency, ShopRow.locale, ShopRow.title_order, ShopRow.stamp, _NEWEST)


def load_all(session: Session, known: LoadedDefinitions | None = None) -> LoadedDefinitions:
    """All definitions but those said of one subject, read in one statement so that no two states mix.

    Things that did not change since `known` are the same objects as there.
    """
    since = known.stamp if known is not None else -1
    there = (
        select(func.jsonb_agg(func.jsonb_build_array(D.noun, D.key))).where(D.of_subject.is_(None)).scalar_subquery()
    )
    changed = and_(D.of_subject.is_(None), D.stamp > since)
    rows = session.execute(
        select(*_SHOP, there if known is not None else text("NULL"), D.noun, D.key, D.version, D.format, D.state)
        .select_from(ShopRow)
        .outerjoin(D, changed)
    ).all()
    if not rows:
        return LoadedDefinitions(Definitions(Shop()), {}, 0, 0)
    head = rows[0]
    things: dict[str, dict[str, Any]] = defaultdict(dict)
    versions: dict[tuple[str, str], int] = {}
    unread = {(row[8], row[9]) for row in rows if row[8] is not None and row[8] not in NOUNS}
    if known is not None:
        for noun, key in head[7] or ():
            if noun not in NOUNS:
                unread.add((noun, key))
            if (noun, key) in known.versions:
                things[noun][key] = known.defs.things[noun][key]
                versions[noun, key] = known.versions[noun, key]
    for row in rows:
        if row[8] in NOUNS:
            things[row[8]][row[9]] = thing_of(row[8], row[12], row[11])
            versions[row[8], row[9]] = row[10]
    marks = known.defs.marks if known is not None else {}
    return LoadedDefinitions(
        Definitions(Shop(*head[:5]), things, dict(marks)), versions, head[5], head[6], frozenset(unread)
    )


def get(session: Session, noun: str, key: str) -> StoredThing | None:
    """One definition as it stands."""
    row = session.execute(select(D.version, D.format, D.state).where(D.noun == noun, D.key == key)).first()
    return StoredThing(thing_of(noun, row[2], row[1]), row[0]) if row else None


def get_many(session: Session, ids: Sequence[tuple[str, str]]) -> dict[tuple[str, str], StoredThing]:
    """(noun, key) → definition as it stands, of those there are."""
    rows = session.execute(_ASKED, {"rows": [{"noun": noun, "key": key} for noun, key in ids]})
    return {(row[0], row[1]): StoredThing(thing_of(row[0], row[4], row[3]), row[2]) for row in rows}


def states(session: Session, keys: Sequence[tuple[str, str]]) -> dict[tuple[str, str], tuple[int, dict[str, Any]]]:
    """(noun, key) → (format, state) of those there are."""
    rows = session.execute(_ASKED, {"rows": [{"noun": noun, "key": key} for noun, key in keys]})
    return {(row[0], row[1]): (row[3], row[4]) for row in rows}


def of_subjects(session: Session, noun: str, subject: str, ids: Sequence[Any]) -> dict[str, tuple[Any, ...]]:
    """Id → the things of a noun said of that subject alone, in order of key."""
    found: dict[str, list[Any]] = defaultdict(list)
    named = [f"{subject}:{number}" for number in ids]
    rows = session.execute(
        select(D.of_subject, D.format, D.state).where(D.noun == noun, D.of_subject == func.any(named)).order_by(D.key)
    )
    for of_subject, written, state in rows:
        found[of_subject.partition(":")[2]].append(thing_of(noun, state, written))
    return {number: tuple(things) for number, things in found.items()}


def keys_of_subjects(session: Session, subject: str, ids: Sequence[Any]) -> list[tuple[str, str]]:
    """(noun, key) of all that is said of some subjects alone."""
    named = [f"{subject}:{number}" for number in ids]
    rows = session.execute(select(D.noun, D.key).where(D.of_subject == func.any(named)).order_by(D.noun, D.key))
    return [(row[0], row[1]) for row in rows]


def any_of_subjects(session: Session, noun: str, end: str, members: Sequence[str]) -> bool:
    """Whether any thing of a noun that is said of one subject alone, and whose key ends so, sets any of some members."""
    return bool(said_of_subjects(session, noun, end, members, 1))


def said_of_subjects(session: Session, noun: str, end: str, members: Sequence[str], limit: int) -> list[Any]:
    """The first of them, in order of key."""
    sets = D.state["set"].has_any(array(members))
    found = select(D.format, D.state).where(
        D.noun == noun, D.of_subject.is_not(None), D.key.endswith(end, autoescape=True), sets
    )
    return [thing_of(noun, row[1], row[0]) for row in session.execute(found.order_by(D.key).limit(limit))]


def referring_of_subjects(session: Session, noun: str, key: str) -> list[tuple[str, str]]:
    """(noun, key) of what is said of single subjects and refers to a thing."""
    rows = session.execute(
        select(D.noun, D.key)
        .join(R, and_(R.noun == D.noun, R.key == D.key))
        .where(D.of_subject.is_not(None), R.to_noun == noun, R.to_key == key)
        .order_by(D.noun, D.key)
    )
    return [(row[0], row[1]) for row in rows]


def versions_of(session: Session, noun: str, keys: Sequence[str]) -> dict[str, int]:
    """Key → version of those there are."""
    return dict(session.execute(select(D.key, D.version).where(D.noun == noun, D.key == func.any(list(keys)))).all())


def row_of(noun: Noun, key: str, name: str, thing: Any, version: int, stamp: int) -> dict[str, Any]:
    """A definition as `write_many` takes it, with what it refers to."""
    subject = noun.bearing.subject_of_key(key)
    links = {(reference.noun, reference.key, reference.place) for reference in noun.referring.refers(thing)}
    return {
        "noun": noun.code,
        "key": key,
        "name": name,
        "version": version,
        "format": noun.stored.format,
        "state": state_of(thing),
        "hash": hash_of(thing),
        "address": noun.calling.address(thing),
        "of_subject": ":".join(subject) if subject else None,
        "stamp": stamp,
        "links": [{"to_noun": to, "to_key": at, "place": place} for to, at, place in sorted(links)],
    }


def write_many(session: Session, rows: Sequence[Mapping[str, Any]], gone: Sequence[tuple[str, str]]) -> None:
    """Put definitions with their references, and take others out, by a few statements. Raises IntegrityError where an address is
    taken, or something refers to what is not there."""
    written = [{"noun": row["noun"], "key": row["key"]} for row in rows]
    if written or gone:
        session.execute(_UNLINK, {"rows": [*written, *({"noun": noun, "key": key} for noun, key in gone)]})
    if gone:
        session.execute(_REMOVE, {"rows": [{"noun": noun, "key": key} for noun, key in gone]})
    if rows:
        session.execute(
            _UPSERT, {"rows": [{name: value for name, value in row.items() if name != "links"} for row in rows]}
        )
    links = [{"noun": row["noun"], "key": row["key"], **link} for row in rows for link in row["links"]]
    if links:
        session.execute(_LINK, {"rows": links})
