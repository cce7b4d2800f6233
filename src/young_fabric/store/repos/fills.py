"""How many products of each group have a good value for each field: counted up and down, or anew."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from sqlalchemy import bindparam, delete, select, text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from young_fabric.store.tables import FieldFillRow

F = FieldFillRow
FillKey = tuple[str, str, tuple[str, ...]]
"""(field, type, collections)."""
_ADD = text(
    "INSERT INTO field_fill (field_key, type_key, collections, filled) "
    "SELECT r.field_key, r.type_key, r.collections, r.filled FROM jsonb_to_recordset(:rows) "
    "AS r(field_key text, type_key text, collections text[], filled int) ORDER BY 1, 2, 3 "
    "ON CONFLICT (field_key, type_key, collections) DO UPDATE SET filled = field_fill.filled + excluded.filled"
).bindparams(bindparam("rows", type_=JSONB()))
_COUNTED = """
    SELECT key AS field_key, type_key, collections, count(*)::int AS filled FROM (
        SELECT type_key, collections, key, wrong FROM product, jsonb_object_keys(fields) AS key
        UNION ALL SELECT type_key, collections, 'title', wrong FROM product
        UNION ALL SELECT type_key, collections, 'slug', wrong FROM product WHERE slug IS NOT NULL
        UNION ALL SELECT type_key, collections, 'sku', wrong FROM product WHERE sku IS NOT NULL
    ) AS held WHERE NOT key = ANY (wrong) GROUP BY key, type_key, collections
"""


def add(session: Session, deltas: Mapping[FillKey, int]) -> None:
    """Count up and down, in one statement and always in one order, so that two writers never wait in a ring."""
    rows = [
        {"field_key": key[0], "type_key": key[1], "collections": list(key[2]), "filled": by}
        for key, by in sorted(deltas.items())
        if by
    ]
    if rows:
        session.execute(_ADD, {"rows": rows})


def recount(session: Session) -> list[tuple[FillKey, int, int]]:
    """Count all anew, in one pass; gives what differed: (key, kept, counted)."""
    kept = {
        (row[0], row[1], tuple(row[2])): row[3]
        for row in session.execute(select(F.field_key, F.type_key, F.collections, F.filled))
    }
    counted = {(row[0], row[1], tuple(row[2])): row[3] for row in session.execute(text(_COUNTED))}
    differ = [
        (key, kept.get(key, 0), counted.get(key, 0))
        for key in sorted({*kept, *counted})
        if kept.get(key, 0) != counted.get(key, 0)
    ]
    if differ:
        session.execute(delete(F))
        session.execute(text(f"INSERT INTO field_fill (field_key, type_key, collections, filled) {_COUNTED}"))
    return differ


def by_type(session: Session, keys: Sequence[str] | None = None) -> dict[str, dict[str, int]]:
    """Field → type → products with a good value."""
    query = select(F.field_key, F.type_key, F.filled)
    if keys is not None:
        query = query.where(F.field_key.in_(keys))
    out: dict[str, dict[str, int]] = {}
    for field_key, type_key, filled in session.execute(query):
        types = out.setdefault(field_key, {})
        types[type_key] = types.get(type_key, 0) + filled
    return out
