"""How many products of each group there are, and have a good or a wrong value for each field: counted up and down, or anew."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from typing import NamedTuple

from sqlalchemy import bindparam, delete, func, select, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from young_fabric.core.subjects.products import Product
from young_fabric.store.tables import FieldFillRow

F = FieldFillRow
FillKey = tuple[str, str, tuple[str, ...]]
"""(field, type, collections)."""
GroupKey = tuple[str, tuple[str, ...]]
"""(type, collections)."""
EVERY_PRODUCT = ""
"""Stands for no field: the row that counts all products of a group, and those with gaps as wrong."""
_ADD = text(
    "INSERT INTO field_fill (field_key, type_key, collections, filled, wrong) "
    "SELECT r.field_key, r.type_key, r.collections, r.filled, r.wrong FROM jsonb_to_recordset(:rows) "
    "AS r(field_key text, type_key text, collections text[], filled int, wrong int) ORDER BY 1, 2, 3 "
    "ON CONFLICT (field_key, type_key, collections) DO UPDATE "
    "SET filled = field_fill.filled + excluded.filled, wrong = field_fill.wrong + excluded.wrong"
).bindparams(bindparam("rows", type_=JSONB()))
_COUNTED = """
    SELECT field_key, type_key, collections, sum(filled)::int AS filled, sum(wrong)::int AS wrong FROM (
        SELECT key AS field_key, type_key, collections, 1 AS filled, 0 AS wrong
            FROM product, jsonb_object_keys(fields) AS key WHERE NOT key = ANY (product.wrong)
        UNION ALL SELECT key, type_key, collections, 1, 0 FROM product,
            unnest(ARRAY['title', 'slug', 'sku'], ARRAY[title, slug, sku]) AS held(key, value)
            WHERE value IS NOT NULL AND NOT key = ANY (product.wrong)
        UNION ALL SELECT key, type_key, collections, 0, 1 FROM product, unnest(product.wrong) AS key
        UNION ALL SELECT '', type_key, collections, 1, gaps::int FROM product
    ) AS counted GROUP BY field_key, type_key, collections
"""


class FillCount(NamedTuple):
    """How many products have a good value, and how many a wrong one."""

    filled: int = 0
    wrong: int = 0


class FillSteps:
    """What writes do to the counts, summed up until they are settled."""

    def __init__(self, steps: Mapping[FillKey, FillCount] | None = None) -> None:
        self._steps: dict[FillKey, FillCount] = dict(steps or {})

    def count(self, product: Product, wrong: Collection[str], gaps: bool, by: int) -> None:
        """Count a product in (`by` 1) or out (-1), with the fields that are wrong and whether it has gaps."""
        self._step(EVERY_PRODUCT, product, by, by if gaps else 0)
        for key in product.values.keys() - set(wrong):
            self._step(key, product, by, 0)
        for key in wrong:
            self._step(key, product, 0, by)

    def _step(self, field: str, product: Product, filled: int, wrong: int) -> None:
        key = (field, product.type, product.collections)
        kept = self._steps.get(key, NONE)
        self._steps[key] = FillCount(kept.filled + filled, kept.wrong + wrong)

    def rows(self) -> list[dict[str, object]]:
        """What differs in the end, in order of key."""
        return [
            {"field_key": key[0], "type_key": key[1], "collections": list(key[2]), **step._asdict()}
            for key, step in sorted(self._steps.items())
            if step != NONE
        ]


NONE = FillCount()


def add(session: Session, steps: FillSteps) -> None:
    """Count up and down, in one statement and always in one order, so that two writers never wait in a ring."""
    rows = steps.rows()
    if rows:
        session.execute(_ADD, {"rows": rows})


def recount(session: Session) -> list[tuple[FillKey, FillCount, FillCount]]:
    """Count all anew, in one pass; gives what differed: (key, kept, counted)."""
    kept = {
        (row[0], row[1], tuple(row[2])): FillCount(row[3], row[4])
        for row in session.execute(select(F.field_key, F.type_key, F.collections, F.filled, F.wrong))
    }
    counted = {(row[0], row[1], tuple(row[2])): FillCount(row[3], row[4]) for row in session.execute(text(_COUNTED))}
    differ = [
        (key, kept.get(key, NONE), counted.get(key, NONE))
        for key in sorted({*kept, *counted})
        if kept.get(key, NONE) != counted.get(key, NONE)
    ]
    if differ:
        session.execute(delete(F))
        session.execute(text(f"INSERT INTO field_fill (field_key, type_key, collections, filled, wrong) {_COUNTED}"))
    return differ


def by_type(session: Session, keys: Sequence[str] | None = None) -> dict[str, dict[str, FillCount]]:
    """Field → type → products with a good value, and with a wrong one."""
    query = select(F.field_key, F.type_key, func.sum(F.filled), func.sum(F.wrong)).group_by(F.field_key, F.type_key)
    if keys is not None:
        query = query.where(F.field_key == func.any(list(keys)))
    out: dict[str, dict[str, FillCount]] = {}
    for field_key, type_key, filled, wrong in session.execute(query):
        out.setdefault(field_key, {})[type_key] = FillCount(int(filled), int(wrong))
    return out


def products_by_type(session: Session) -> dict[str, FillCount]:
    """Type → products there are, and those with gaps."""
    found = by_type(session, [EVERY_PRODUCT]).get(EVERY_PRODUCT, {})
    return {type_key: count for type_key, count in found.items() if count.filled}


def counts_by_type(session: Session) -> dict[str, int]:
    """Type → products there are."""
    return {type_key: count.filled for type_key, count in products_by_type(session).items()}


def counts_by_collection(session: Session) -> dict[str, int]:
    """Collection → products in it."""
    out: dict[str, int] = {}
    for (_, collections), count in counts_by_group(session).items():
        for key in collections:
            out[key] = out.get(key, 0) + count
    return out


def counts_by_group(session: Session) -> dict[tuple[str, tuple[str, ...]], int]:
    """(type, collections) → products there are."""
    query = select(F.type_key, F.collections, F.filled).where(F.field_key == EVERY_PRODUCT, F.filled > 0)
    return {(row[0], tuple(row[1])): row[2] for row in session.execute(query)}


def wrong_counts(session: Session) -> dict[str, int]:
    """Field → products whose value is wrong, most first."""
    query = select(F.field_key, func.sum(F.wrong)).where(F.field_key != EVERY_PRODUCT, F.wrong > 0)
    found = {row[0]: int(row[1]) for row in session.execute(query.group_by(F.field_key))}
    return dict(sorted(found.items(), key=lambda pair: (-pair[1], pair[0])))


def by_group(session: Session, keys: Sequence[str] | None = None) -> dict[str, dict[GroupKey, FillCount]]:
    """Field → (type, collections) → products with a good value, and with a wrong one."""
    query = select(F.field_key, F.type_key, F.collections, F.filled, F.wrong)
    if keys is not None:
        query = query.where(F.field_key == func.any(list(keys)))
    out: dict[str, dict[GroupKey, FillCount]] = {}
    for field_key, type_key, collections, filled, wrong in session.execute(query):
        out.setdefault(field_key, {})[type_key, tuple(collections)] = FillCount(filled, wrong)
    return out


def lacking_counts(session: Session, groups_by_key: Mapping[str, Iterable[GroupKey]]) -> dict[str, int]:
    """Field → products of the given (type, collections) with no value for it, good or wrong."""
    if not groups_by_key:
        return {}
    found = by_group(session, [EVERY_PRODUCT, *groups_by_key])
    there = found.get(EVERY_PRODUCT, {})
    return {
        key: sum(there.get(group, NONE).filled - sum(found.get(key, {}).get(group, NONE)) for group in set(groups))
        for key, groups in groups_by_key.items()
    }


def held_by(session: Session, keys: Collection[str]) -> dict[str, int]:
    """Field → products that have a value of it, good or wrong; those that none has left out."""
    query = (
        select(F.field_key, func.sum(F.filled + F.wrong))
        .where(F.field_key == func.any(sorted(keys)))
        .group_by(F.field_key)
    )
    return {key: int(count) for key, count in session.execute(query) if count} if keys else {}
