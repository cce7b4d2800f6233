"""Products as core values: by id, locked and written many at a time, in pages for lists, and streamed for releases."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import and_, bindparam, collate, delete, func, not_, or_, select, text, tuple_
from sqlalchemy.dialects.postgresql import JSONB, array
from sqlalchemy.orm import Session

from young_fabric.core.definitions.reach import Reach
from young_fabric.core.nouns.content.collections import COLLECTIONS
from young_fabric.core.nouns.fields.built_in import COLUMNS
from young_fabric.core.subjects.gatherers import GATHERERS, Gatherer
from young_fabric.core.subjects.memberships import Narrowing
from young_fabric.core.subjects.products import Product
from young_fabric.store.tables import ProductRow, StockRow

P = ProductRow
COLUMNS_READ = (
    P.id,
    P.type_key,
    P.title,
    P.slug,
    P.sku,
    P.fields,
    P.unread,
    P.offered,
    P.collections,
    P.option_sets,
    P.gathered,
)
KEPT = (*COLUMNS_READ, P.version, P.wrong, P.gaps)
"""The columns of a record."""
_WRITTEN = "type_key, title, slug, sku, fields, unread, wrong, gaps, offered, collections, option_sets, gathered, hash, version"
# An update locks no more than it changes, so that products may refer to one another while both are written; what inserts
# or else updates would lock their codes and addresses as well.
_WRITE = text(
    "WITH r AS (SELECT * FROM jsonb_to_recordset(:rows) AS r(id int, type_key text, title text, slug text, sku text, "  # noqa: S608
    "fields jsonb, unread jsonb, wrong text[], gaps boolean, offered boolean, collections text[], option_sets text[], gathered jsonb, hash text, version int)), "
    f"u AS (UPDATE product AS p SET ({_WRITTEN}) = ROW(r.{_WRITTEN.replace(', ', ', r.')}) FROM r WHERE p.id = r.id "
    f"RETURNING p.id) INSERT INTO product (id, {_WRITTEN}) SELECT r.id, r.{_WRITTEN.replace(', ', ', r.')} FROM r "
    "WHERE NOT EXISTS (SELECT FROM u WHERE u.id = r.id)"
).bindparams(bindparam("rows", type_=JSONB()))

_PLACE = text(
    "UPDATE product AS p SET collections = r.collections, option_sets = r.option_sets, gathered = r.gathered "
    "FROM jsonb_to_recordset(:rows) AS r(id int, collections text[], option_sets text[], gathered jsonb) WHERE p.id = r.id"
).bindparams(bindparam("rows", type_=JSONB()))


@dataclass(frozen=True)
class ProductRecord:
    """A product with what the store keeps beside it."""

    product: Product
    version: int
    wrong: tuple[str, ...]
    gaps: bool = False


@dataclass(frozen=True)
class Search:
    """What a list of products is narrowed by; `gaps` leaves those that lack something or hold something wrong, `reach` those
    of its types or in its collections, `ids` only those, `without` all but those, `also` is a condition on top."""

    words: str = ""
    types: tuple[str, ...] | None = None
    reach: Reach | None = None
    collection: str | None = None
    gaps: bool = False
    lacking: str | None = None
    wrong: str | None = None
    having: str | None = None
    offered: bool | None = None
    ids: tuple[int, ...] | None = None
    without: tuple[int, ...] = ()
    also: Any = None


def product_of(row: Sequence[Any], stock: int | None = None) -> Product:
    """A product from the columns (id, type, title, slug, sku, fields, unread, offered, collections, option_sets, gathered)."""
    values = row[5]
    values["title"] = row[2]
    if row[3] is not None:
        values["slug"] = row[3]
    if row[4] is not None:
        values["sku"] = row[4]
    gathered = {noun: tuple(keys) for noun, keys in row[10].items()}
    return Product(row[0], row[1], values, row[6], row[7], stock, tuple(row[8]), tuple(row[9]), gathered=gathered)


def record_of(row: Sequence[Any], stock: int | None = None) -> ProductRecord:
    """A record from the columns of KEPT."""
    return ProductRecord(product_of(row, stock), row[11], tuple(row[12]), row[13])


def get(session: Session, ids: Sequence[int]) -> dict[int, ProductRecord]:
    """Products by id, with their stock."""
    rows = session.execute(
        select(*KEPT, StockRow.amount)
        .outerjoin(StockRow, StockRow.product_id == P.id)
        .where(P.id == func.any(list(ids)))
    )
    return {row[0]: record_of(row, row[-1]) for row in rows}


def lock(session: Session, ids: Sequence[int], *, removing: bool = False) -> dict[int, ProductRecord]:
    """Products by id, held until the transaction ends, always taken in one order; without their stock.

    Those that refer to them wait for a lock taken for `removing` alone.
    """
    query = select(*KEPT).where(P.id == func.any(list(ids))).order_by(P.id).with_for_update(key_share=not removing)
    return {row[0]: record_of(row) for row in session.execute(query)}


def row_of(product: Product, version: int, wrong: Sequence[str], gaps: bool, digest: str) -> dict[str, Any]:
    """A product as `write_many` takes it."""
    fields = {key: value for key, value in product.values.items() if key not in COLUMNS}
    return {
        "id": product.id,
        "type_key": product.type,
        **{key: product.values.get(key) for key in COLUMNS},
        "fields": fields,
        "unread": dict(product.unread),
        "wrong": sorted(wrong),
        "gaps": gaps,
        "offered": product.offered,
        "collections": list(product.collections),
        "option_sets": list(product.option_sets),
        "gathered": {noun: list(keys) for noun, keys in product.gathered.items()},
        "hash": digest,
        "version": version,
    }


def write_many(session: Session, rows: Sequence[Mapping[str, Any]]) -> None:
    """Insert or replace products in one statement. Raises IntegrityError."""
    if rows:
        session.execute(_WRITE, {"rows": list(rows)})


def remove(session: Session, ids: Sequence[int]) -> None:
    """Delete products."""
    session.execute(delete(P).where(P.id == func.any(list(ids))).execution_options(synchronize_session=False))


def next_id(session: Session) -> int:
    """An id no product has had."""
    return int(session.execute(text("SELECT nextval(pg_get_serial_sequence('product', 'id'))")).scalar_one())


def holders(session: Session, column: str, values: Sequence[str]) -> dict[str, tuple[int, str]]:
    """Value of a unique column → (id, title) of the product that has it."""
    found = getattr(P, column)
    return {
        row[0]: (row[1], row[2])
        for row in session.execute(select(found, P.id, P.title).where(found == func.any(list(values))))
    }


def slugs_like(session: Session, base: str) -> set[str]:
    """Addresses in use that are `base`, or `base` with a number."""
    numbered = P.slug.regexp_match(f"^{base}-[0-9]+$")
    like = P.slug.startswith(base, autoescape=True)
    return set(session.scalars(select(P.slug).where(or_(P.slug == base, and_(like, numbered)))))


def _like(word: str) -> str:
    escaped = word.lower().replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
    return f"%{escaped}%"


def conditions_of(search: Search) -> list[Any]:
    """What holds of the products a search wants."""
    words = search.words.split()[:8]
    out: list[Any] = [P.search.like(_like(word)) for word in words]
    if search.types is not None:
        out.append(P.type_key == func.any(list(search.types)))
    if search.reach is not None:
        out.append(within(search.reach))
    if search.collection is not None:
        out.append(P.collections.contains([search.collection]))
    if search.gaps:
        out.append(P.gaps.is_(True))
    if search.lacking is not None:
        out.append(and_(lacks((search.lacking,)), not_(P.wrong.contains([search.lacking]))))
    if search.wrong is not None:
        out += [P.wrong != [], P.wrong.contains([search.wrong])]
    if search.offered is not None:
        out.append(P.offered.is_(search.offered))
    if search.ids is not None:
        out.append(P.id == func.any(list(search.ids)))
    if search.without:
        out.append(P.id != func.all(list(search.without)))
    if search.having is not None:
        out.append(has(search.having))
    if search.also is not None:
        out.append(search.also)
    return out


def within(reach: Reach) -> Any:
    """Products of any of some types, or in any of some collections."""
    parts = [P.type_key == func.any(sorted(reach.types))] if reach.types else []
    parts += [P.collections.overlap(sorted(reach.collections))] if reach.collections else []
    return or_(*parts) if parts else text("false")


def narrowed(narrowing: Narrowing) -> Any:
    """Products among which all are that meet a condition."""
    if narrowing.every:
        return text("true")
    if narrowing.field is not None:
        return has(narrowing.field)
    if narrowing.types is not None:
        return P.type_key == func.any(sorted(narrowing.types))
    if narrowing.any is not None:
        return or_(*map(narrowed, narrowing.any)) if narrowing.any else text("false")
    return and_(*map(narrowed, narrowing.all))


def concerned(keys: Sequence[str], narrowings: Sequence[Narrowing], ids: Sequence[int], noun: str = COLLECTIONS) -> Any:
    """Products that are in some collections (or other things that gather them), or may come to be: where to look, and single ones."""
    parts = [_in_any(GATHERERS[noun], keys)] if keys else []
    parts += [P.id == func.any(list(ids))] if ids else []
    return or_(*parts, *map(narrowed, narrowings), text("false"))


MOST_NAMED = 200
"""So many things that gather, without a column of their own, are looked for by the index one by one; of more all products are read."""


def _in_any(gatherer: Gatherer, keys: Sequence[str]) -> Any:
    """Products in any of some things; of a few without a column the index of all of them tells."""
    if gatherer.member:
        return getattr(P, gatherer.member).overlap(list(keys))
    if len(keys) > MOST_NAMED:
        return P.gathered[gatherer.noun].has_any(array(list(keys)))
    return or_(*[P.gathered.contains({gatherer.noun: [key]}) for key in keys])


def ids_where(session: Session, wanted: Any, after: int, limit: int) -> list[int]:
    """The next ids of products for which something holds."""
    return list(session.scalars(select(P.id).where(wanted, P.id > after).order_by(P.id).limit(limit)))


def count_where(session: Session, wanted: Any, most: int | None = None) -> int:
    """How many products something holds for, counting no further than `most`."""
    found = select(P.id).where(wanted).limit(most).subquery()
    return int(session.scalar(select(func.count()).select_from(found)) or 0)


def there(session: Session, ids: Sequence[int], offered: bool | None = None) -> frozenset[int]:
    """Those of some products that exist, and are offered or not where that is asked."""
    query = select(P.id).where(P.id == func.any(list(ids)))
    return frozenset(session.scalars(query if offered is None else query.where(P.offered.is_(offered))))


def stream_where(session: Session, wanted: Any, after: int, batch: int) -> list[Product]:
    """The next products for which something holds, by id."""
    rows = session.execute(select(*COLUMNS_READ).where(wanted, P.id > after).order_by(P.id).limit(batch))
    return [product_of(row) for row in rows]


def place_many(session: Session, found: Sequence[Product]) -> None:
    """Put what gathers products by condition or by hand."""
    if found:
        rows = [
            {
                "id": product.id,
                "collections": list(product.collections),
                "option_sets": list(product.option_sets),
                "gathered": {noun: list(keys) for noun, keys in product.gathered.items()},
            }
            for product in found
        ]
        session.execute(_PLACE, {"rows": rows})


def has(key: str) -> Any:
    """Products with a stored value for a field."""
    return getattr(P, key).is_not(None) if key in COLUMNS else P.fields.has_key(key)


def lacks(keys: Sequence[str]) -> Any:
    """Products without a stored value for some of the fields."""
    inside = [key for key in keys if key not in COLUMNS]
    columns = [getattr(P, key).is_(None) for key in keys if key in COLUMNS]
    return or_(*columns, not_(P.fields.has_all(array(inside)))) if inside else or_(*columns)


def page(
    session: Session,
    search: Search,
    after: tuple[str, int] | None,
    limit: int,
    offset: int = 0,
    collation: str = "und-x-icu",
) -> list[ProductRecord]:
    """One page in order of title, after a (title, id)."""
    ordered = collate(P.title, collation)
    query = (
        select(*KEPT, StockRow.amount)
        .outerjoin(StockRow, StockRow.product_id == P.id)
        .where(*conditions_of(search))
        .order_by(ordered, P.id)
        .limit(limit)
        .offset(offset)
    )
    if after is not None:
        query = query.where(tuple_(ordered, P.id) > after)
    return [record_of(row, row[-1]) for row in session.execute(query)]


def take_statistics(session: Session) -> None:
    """Have the planner know what products are like now."""
    session.execute(text("ANALYZE product, field_fill"))


def ids_with_code(session: Session, code: str) -> tuple[int, ...]:
    """Products whose SKU or GTIN is exactly this."""
    exact = or_(P.sku == code.upper(), P.sku == code, P.fields.contains({"gtin": code}))
    return tuple(session.scalars(select(P.id).where(exact).order_by(P.id).limit(50)))


def count(session: Session, search: Search) -> int:
    """How many products match."""
    return int(session.scalar(select(func.count()).select_from(P).where(*conditions_of(search))) or 0)


def holding(key: str, reach: Reach) -> Any:
    """Products of a reach with a value, or something not understood, for a field."""
    return and_(or_(has(key), P.unread.has_key(key)), within(reach))


def touched(needs: Reach, fields: Mapping[str, Reach]) -> Any:
    """Products of a reach, and those that hold something for a field, each of its own reach."""
    return or_(within(needs), *[holding(key, reach) for key, reach in fields.items()])


def both(*conditions: Any) -> Any:
    """Products for which all of some conditions hold."""
    return and_(text("true"), *conditions)


def any_of(parts: Sequence[Any]) -> Any:
    """Products for which any of some conditions holds."""
    return or_(*parts, text("false"))


def any_of_some(parts: Sequence[Any]) -> Any:
    """The same of those conditions that are there; None when none is."""
    found = [part for part in parts if part is not None]
    return any_of(found) if found else None


def every() -> Any:
    """All products."""
    return text("true")


def ids_after(session: Session, after: int, limit: int) -> list[int]:
    """The next ids of all products."""
    return ids_where(session, every(), after, limit)


def mark_many(session: Session, rows: Sequence[tuple[int, Sequence[str], bool]]) -> None:
    """Put what is wrong on products and whether they have gaps: (id, wrong, gaps)."""
    if rows:
        session.execute(
            text(
                "UPDATE product AS p SET wrong = r.wrong, gaps = r.gaps "
                "FROM jsonb_to_recordset(:rows) AS r(id int, wrong text[], gaps boolean) WHERE p.id = r.id"
            ).bindparams(bindparam("rows", type_=JSONB())),
            {"rows": [{"id": number, "wrong": sorted(wrong), "gaps": gaps} for number, wrong, gaps in rows]},
        )


def offered_counts(session: Session) -> dict[tuple[str, str], int]:
    """(option set, type) → products of the type that are offered it by condition or by hand."""
    key = func.unnest(P.option_sets).label("key")
    found = select(key, P.type_key).where(P.option_sets != []).subquery()
    query = select(found.c.key, found.c.type_key, func.count()).group_by(found.c.key, found.c.type_key)
    return {(row[0], row[1]): row[2] for row in session.execute(query)}


def kinds_of_offers(
    session: Session, sets: Sequence[str] | None = None, types: Sequence[str] | None = None
) -> list[tuple[str, tuple[str, ...]]]:
    """(type, option sets by condition or by hand) of products that have any so, each once; only of those that have one of some sets
    so, or are of some types, where these are given."""
    query = select(P.type_key, P.option_sets).where(P.option_sets != []).distinct().order_by(P.type_key, P.option_sets)
    if sets is not None and types is not None:
        query = query.where(or_(P.option_sets.overlap(list(sets)), P.type_key == func.any(list(types))))
    return [(row[0], tuple(row[1])) for row in session.execute(query)]


def hashes(session: Session, ids: Sequence[int]) -> dict[int, str]:
    """Product → hash of its state, of those that exist."""
    return {row[0]: row[1] for row in session.execute(select(P.id, P.hash).where(P.id == func.any(list(ids))))}


def groups_of(session: Session, ids: Sequence[int]) -> dict[int, tuple[str, tuple[str, ...]]]:
    """Product → (type, collections), of those that exist."""
    rows = session.execute(select(P.id, P.type_key, P.collections).where(P.id == func.any(list(ids))))
    return {row[0]: (row[1], tuple(row[2])) for row in rows}
