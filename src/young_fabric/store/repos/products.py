"""Products as core values: one by one, in pages for lists, and streamed for releases."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import and_, delete, func, insert, not_, or_, select, text, tuple_, update
from sqlalchemy.dialects.postgresql import array
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.orm import Session

from young_fabric.core.definitions import Product
from young_fabric.store.tables import FieldFillRow, ProductRow, StockRow

P = ProductRow
COLUMN_FIELDS = ("title", "slug", "sku")
_COLUMNS = (P.id, P.type_key, P.title, P.slug, P.sku, P.fields, P.unread, P.offered)


@dataclass(frozen=True)
class Stored:
    """A product with what the store keeps beside it."""

    product: Product
    version: int
    wrong: tuple[str, ...]


@dataclass(frozen=True)
class Search:
    """What a list of products is narrowed by; `gaps` leaves those that lack something or hold something wrong."""

    words: str = ""
    types: tuple[str, ...] | None = None
    gaps: bool = False
    lacking: str | None = None
    wrong: str | None = None
    having: str | None = None
    offered: bool | None = None


def product_of(row: Sequence[Any], stock: int | None = None) -> Product:
    """A product from the columns (id, type, title, slug, sku, fields, unread, offered)."""
    values = row[5]
    values["title"] = row[2]
    if row[3] is not None:
        values["slug"] = row[3]
    if row[4] is not None:
        values["sku"] = row[4]
    return Product(row[0], row[1], values, row[6], row[7], stock)


def get(session: Session, ids: Sequence[int]) -> dict[int, Stored]:
    """Products by id, with their stock."""
    rows = session.execute(
        select(*_COLUMNS, P.version, P.wrong, StockRow.amount)
        .outerjoin(StockRow, StockRow.product_id == P.id)
        .where(P.id.in_(ids))
    )
    return {row[0]: Stored(product_of(row, row[10]), row[8], tuple(row[9])) for row in rows}


def write(session: Session, this: Product, version: int, wrong: Iterable[str], gaps: bool, digest: str) -> None:
    """Insert or replace a product's row."""
    fields = {key: value for key, value in this.values.items() if key not in COLUMN_FIELDS}
    row = {
        "id": this.id,
        "type_key": this.type,
        "title": this.values["title"],
        "slug": this.values.get("slug"),
        "sku": this.values.get("sku"),
        "fields": fields,
        "unread": dict(this.unread),
        "wrong": sorted(wrong),
        "gaps": gaps,
        "offered": this.offered,
        "hash": digest,
        "version": version,
    }
    session.execute(upsert(P).values(row).on_conflict_do_update(index_elements=["id"], set_=row))


def remove(session: Session, product_id: int) -> None:
    """Delete a product's row."""
    session.execute(delete(P).where(P.id == product_id))


def next_id(session: Session) -> int:
    """An id no product has had."""
    return int(session.execute(text("SELECT nextval(pg_get_serial_sequence('product', 'id'))")).scalar_one())


def taken(session: Session, column: str, value: str, but: int) -> int | None:
    """The id of another product with this title, slug or SKU."""
    found: int | None = session.scalar(select(P.id).where(getattr(P, column) == value, P.id != but).limit(1))
    return found


def slugs_like(session: Session, base: str) -> set[str]:
    """Slugs in use that begin with `base`."""
    return set(session.scalars(select(P.slug).where(P.slug.startswith(base, autoescape=True)).limit(1000)))


def _tsquery(words: str) -> str:
    return " & ".join(f"{word}:*" for word in re.findall(r"\w+", words)[:8])


def _conditions(search: Search) -> list[Any]:
    out: list[Any] = []
    query = _tsquery(search.words)
    if query:
        document = func.to_tsvector(text("'simple'"), P.title + " " + func.coalesce(P.sku, ""))
        out.append(document.bool_op("@@")(func.to_tsquery(text("'simple'"), query)))
    elif search.words.strip():
        out.append(text("false"))
    if search.types is not None:
        out.append(P.type_key.in_(search.types))
    if search.gaps:
        out.append(P.gaps.is_(True))
    if search.lacking is not None:
        out.append(and_(lacks((search.lacking,)), not_(P.wrong.contains([search.lacking]))))
    if search.wrong is not None:
        out.append(P.wrong.contains([search.wrong]))
    if search.offered is not None:
        out.append(P.offered.is_(search.offered))
    if search.having is not None:
        out.append(has(search.having))
    return out


def has(key: str) -> Any:
    """Products with a stored value for a field."""
    return getattr(P, key).is_not(None) if key in COLUMN_FIELDS else P.fields.has_key(key)


def lacks(keys: tuple[str, ...]) -> Any:
    """Products without a stored value for some of the fields."""
    inside = [key for key in keys if key not in COLUMN_FIELDS]
    columns = [getattr(P, key).is_(None) for key in keys if key in COLUMN_FIELDS]
    return or_(*columns, not_(P.fields.has_all(array(inside)))) if inside else or_(*columns)


def page(session: Session, search: Search, after: tuple[str, int] | None, limit: int, offset: int = 0) -> list[Stored]:
    """One page in order of title, after a (title, id)."""
    query = (
        select(*_COLUMNS, P.version, P.wrong, StockRow.amount)
        .outerjoin(StockRow, StockRow.product_id == P.id)
        .where(*_conditions(search))
        .order_by(P.title, P.id)
        .limit(limit)
        .offset(offset)
    )
    if after is not None:
        query = query.where(tuple_(P.title, P.id) > after)
    return [Stored(product_of(row, row[10]), row[8], tuple(row[9])) for row in session.execute(query)]


def count(session: Session, search: Search) -> int:
    """How many products match."""
    return int(session.scalar(select(func.count()).select_from(P).where(*_conditions(search))) or 0)


def lacking_counts(session: Session, types_by_key: Mapping[str, Sequence[str]]) -> dict[str, int]:
    """Field → products of the given types without a value; all fields in one pass over the products."""
    keys = list(types_by_key)
    if not keys:
        return {}
    columns = [func.count().filter(and_(P.type_key.in_(types_by_key[key]), lacks((key,)))) for key in keys]
    row = session.execute(select(*columns).select_from(P)).one()
    return dict(zip(keys, row, strict=True))


def wrong_counts(session: Session) -> dict[str, int]:
    """Field → products whose value is wrong."""
    found = session.execute(
        text(
            "SELECT key, count(*) FROM product, unnest(wrong) AS key WHERE wrong <> '{}' GROUP BY key ORDER BY 2 DESC, 1"
        )
    )
    return {row[0]: row[1] for row in found}


def counts_by_type(session: Session, having: str | None = None) -> dict[str, int]:
    """Products per type, all or those with a stored value for a field."""
    query = select(P.type_key, func.count()).group_by(P.type_key)
    if having is not None:
        query = query.where(has(having))
    return {row[0]: row[1] for row in session.execute(query)}


def stream(session: Session, types: Sequence[str] | None, batch: int = 500) -> Iterator[list[Product]]:
    """All products of some types in batches, by id, holding one batch at a time."""
    last = 0
    while True:
        query = select(*_COLUMNS).where(P.id > last).order_by(P.id).limit(batch)
        if types is not None:
            query = query.where(P.type_key.in_(types))
        rows = session.execute(query).all()
        if not rows:
            return
        yield [product_of(row) for row in rows]
        last = rows[-1][0]


def stream_values(
    session: Session, key: str, types: Sequence[str] | None = None, batch: int = 2000
) -> Iterator[list[tuple[int, str, str, Any, list[str], bool]]]:
    """(id, type, title, value, wrong, unread?) of products with a value or text not understood for a field, in batches."""
    held = or_(P.fields.has_key(key), P.unread.has_key(key))
    query = select(P.id, P.type_key, P.title, P.fields[key], P.wrong, P.unread.has_key(key)).where(held)
    if types is not None:
        query = query.where(P.type_key.in_(types))
    last = 0
    while True:
        rows = session.execute(query.where(P.id > last).order_by(P.id).limit(batch)).all()
        if not rows:
            return
        yield [tuple(row) for row in rows]
        last = rows[-1][0]


def flag_wrong(session: Session, key: str, ids: Sequence[int], wrong: bool) -> None:
    """Mark or unmark a field as wrong on products."""
    if ids:
        cleared = func.array_remove(P.wrong, key)
        value = func.array_append(cleared, key) if wrong else cleared
        session.execute(update(P).where(P.id.in_(ids)).values(wrong=value).execution_options(synchronize_session=False))


def mark_gaps(session: Session, type_key: str, required: tuple[str, ...]) -> None:
    """Say of every product of a type whether it lacks one of the fields or holds something wrong."""
    wrong = P.wrong != array([], type_=P.wrong.type.item_type)
    found = or_(wrong, lacks(required)) if required else wrong
    session.execute(
        update(P)
        .where(P.type_key == type_key, P.gaps.is_distinct_from(found))
        .values(gaps=not_(P.gaps))
        .execution_options(synchronize_session=False)
    )


def add_fill(session: Session, type_key: str, gained: Iterable[str], lost: Iterable[str], by: int = 1) -> None:
    """Count good values of fields up and down for a type."""
    steps = [*[(key, by) for key in gained], *[(key, -by) for key in lost]]
    for key, step in sorted(steps):
        row = {"field_key": key, "type_key": type_key, "filled": step}
        session.execute(
            upsert(FieldFillRow)
            .values(row)
            .on_conflict_do_update(
                index_elements=["field_key", "type_key"], set_={"filled": FieldFillRow.filled + step}
            )
        )


def recount_fill(session: Session) -> None:
    """Count all good values anew, in one pass; for catalogues loaded in bulk."""
    session.execute(delete(FieldFillRow))
    session.execute(
        text("""
        INSERT INTO field_fill (field_key, type_key, filled)
        SELECT key, type_key, count(*) FROM (
            SELECT type_key, key, wrong FROM product, jsonb_object_keys(fields) AS key
            UNION ALL SELECT type_key, 'title', wrong FROM product
            UNION ALL SELECT type_key, 'slug', wrong FROM product WHERE slug IS NOT NULL
            UNION ALL SELECT type_key, 'sku', wrong FROM product WHERE sku IS NOT NULL
        ) AS held WHERE NOT key = ANY (wrong) GROUP BY key, type_key
    """)
    )


def fill_counts(session: Session, keys: Sequence[str] | None = None) -> dict[str, dict[str, int]]:
    """Field → type → products with a good value."""
    query = select(FieldFillRow.field_key, FieldFillRow.type_key, FieldFillRow.filled)
    if keys is not None:
        query = query.where(FieldFillRow.field_key.in_(keys))
    out: dict[str, dict[str, int]] = {}
    for field_key, type_key, filled in session.execute(query):
        out.setdefault(field_key, {})[type_key] = filled
    return out


def users_of_codes(session: Session, keys: Sequence[str], codes: Sequence[str]) -> int:
    """How many products hold one of the codes in one of the fields."""
    if not keys or not codes:
        return 0
    wanted = or_(*[P.fields[key].has_any(array(list(codes))) for key in keys])
    return int(session.scalar(select(func.count()).select_from(P).where(wanted)) or 0)


def hashes(session: Session, ids: Sequence[int]) -> dict[int, str]:
    """Product → hash of its state, of those that exist."""
    return {row[0]: row[1] for row in session.execute(select(P.id, P.hash).where(P.id.in_(ids)))}


def types_of(session: Session, ids: Sequence[int]) -> dict[int, str]:
    """Product → type, of those that exist."""
    found: dict[int, str] = {}
    for start in range(0, len(ids), 5000):
        rows = session.execute(select(P.id, P.type_key).where(P.id.in_(ids[start : start + 5000])))
        found.update((row[0], row[1]) for row in rows)
    return found


def stock_of(session: Session, ids: Sequence[int]) -> dict[int, int]:
    """Counted stock by product; products not counted are missing."""
    return {
        row[0]: row[1]
        for row in session.execute(select(StockRow.product_id, StockRow.amount).where(StockRow.product_id.in_(ids)))
    }


def set_stock(session: Session, product_id: int, amount: int | None) -> None:
    """Put the counted stock, or stop counting."""
    session.execute(delete(StockRow).where(StockRow.product_id == product_id))
    if amount is not None:
        session.execute(insert(StockRow).values(product_id=product_id, amount=amount))
