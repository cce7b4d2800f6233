"""Values of single fields as products hold them: read in slices, and looked for by what is in them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from sqlalchemy import and_, cast, func, or_, select, text, union_all
from sqlalchemy.dialects.postgresql import JSONPATH
from sqlalchemy.orm import Session

from young_fabric.core.nouns.fields.built_in import COLUMNS
from young_fabric.core.subjects.products import Product
from young_fabric.store.repos.products import Search, conditions_of, has, stream_where
from young_fabric.store.tables import ProductRow

P = ProductRow
MOST_MEASURED = 2_000


def values_after(
    session: Session, key: str, after: int, limit: int, types: Iterable[str] | None = None
) -> list[tuple[int, str, Any]]:
    """(id, title, value) of the next products with a value for a field, by id; of some types alone, or of all."""
    value = getattr(P, key) if key in COLUMNS else P.fields[key]
    # Not `has`: slice after slice goes along the ids, and a plan for any field would gather all of its holders for each.
    query = select(P.id, P.title, value).where(value.is_not(None), P.id > after).order_by(P.id).limit(limit)
    rows = session.execute(query if types is None else query.where(P.type_key == func.any(sorted(types))))
    return [(row[0], row[1], row[2]) for row in rows]


def containing(patterns: Mapping[str, Sequence[Any]]) -> Any:
    """Products whose value of any field contains one of some JSON patterns: field → patterns."""
    parts = [P.fields.contains({key: pattern}) for key, given in patterns.items() for pattern in given]
    return or_(*parts, text("false"))


MOST_HELD = 100
"""So many values of a field are held one by one; of more, the field as a whole is."""


def hold_values(session: Session, key: str, values: Sequence[str]) -> None:
    """Have others who write the same values for a field wait until the transaction ends, always in one order."""
    few = len(values) <= MOST_HELD
    lock = "pg_advisory_xact_lock_shared" if few else "pg_advisory_xact_lock"
    session.execute(text(f"SELECT {lock}(hashtextextended(:name, 0))"), {"name": f"values of {key}"})
    names = sorted(f"{key}:{value}" for value in values) if few else []
    session.execute(
        text(
            "SELECT pg_advisory_xact_lock(hashtextextended(n, 0)) FROM unnest(CAST(:names AS text[])) WITH ORDINALITY AS u(n, at)"
        ),
        {"names": names},
    )


_HOLDERS = text(
    "SELECT p.fields ->> CAST(:key AS text), p.id, p.title FROM unnest(CAST(:values AS text[])) AS v(value) "
    "JOIN product AS p ON p.fields @> jsonb_build_object(CAST(:key AS text), v.value) ORDER BY p.id"
)


def holders(session: Session, key: str, values: Sequence[str]) -> list[tuple[str, int, str]]:
    """(value, id, title) of the products that have one of some values for a field."""
    rows = session.execute(_HOLDERS, {"key": key, "values": list(values)}) if values else ()
    return [(row[0], row[1], row[2]) for row in rows]


def shared(session: Session, key: str, most: int) -> tuple[int, list[tuple[str, str]]]:
    """How many products share their value for a field with another, and the first of them: (value, title)."""
    value = P.fields[key].astext.label("value")
    times = func.count().over(partition_by=P.fields[key].astext).label("times")
    found = select(value, P.title.label("title"), times).where(P.fields.has_key(key)).subquery()
    rows = session.execute(
        select(found.c.value, found.c.title, func.count().over())
        .where(found.c.times > 1)
        .order_by(found.c.value, found.c.title)
        .limit(most)
    ).all()
    return (rows[0][2] if rows else 0), [(row[0], row[1]) for row in rows]


def item_counts(session: Session, paths: Sequence[str]) -> dict[str, int]:
    """Item → products that hold it at any of some SQL/JSON paths from their values."""
    if not paths:
        return {}
    found = [
        select(P.id, func.jsonb_path_query(P.fields, cast(path, JSONPATH)).op("#>>")(text("'{}'")).label("item"))
        for path in paths
    ]
    rows = union_all(*found).subquery()
    query = select(rows.c.item, func.count(rows.c.id.distinct())).where(rows.c.item.is_not(None)).group_by(rows.c.item)
    return dict(session.execute(query).all())


def holding_any(key: str) -> Any:
    """Products with a value, or something not understood, for a field, whether their type has it or not."""
    return or_(has(key), P.unread.has_key(key))


def differing(key: str, other: str) -> Any:
    """Products that hold something for both of two fields, and not the same."""
    same = and_(P.fields[key] == P.fields[other], ~P.unread.has_key(key), ~P.unread.has_key(other))
    return and_(holding_any(key), holding_any(other), func.coalesce(same, False).is_(False))


def wrong_after(session: Session, key: str, after: int, limit: int) -> list[Product]:
    """The next products whose value of a field is wrong or not understood, by id."""
    return stream_where(session, and_(*conditions_of(Search(wrong=key))), after, limit)


def longest(session: Session, key: str) -> int | None:
    """The product with the longest value for a field, of the first ones that have any; None where none has."""
    if key in COLUMNS:
        value = getattr(P, key)
        first = select(P.id, func.length(value).label("size")).where(value.is_not(None))
    else:
        first = select(P.id, func.length(P.fields[key].astext).label("size")).where(P.fields.has_key(key))
    some = first.limit(MOST_MEASURED).subquery()
    return session.scalar(select(some.c.id).order_by(some.c.size.desc(), some.c.id).limit(1))
