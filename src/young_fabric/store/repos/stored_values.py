"""Values of single fields as rows hold them: counted, read in slices, and looked for by what is in them, whichever table has them."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy import ARRAY, Text, and_, cast, func, or_, select, text, true, union_all
from sqlalchemy.dialects.postgresql import JSONPATH
from sqlalchemy.orm import Session

from young_fabric.core.nouns.fields.built_in import COLUMNS
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT, VARIANT
from young_fabric.store.repos.products import Search, conditions_of, stream_where
from young_fabric.store.tables import ProductRow, VariantRow

P = ProductRow
MOST_MEASURED = 2_000


@dataclass(frozen=True)
class HolderTable:
    """A table whose rows hold values: what is stored in `fields`, what was not understood in `unread`, both by field key, but for
    built-in fields with `columns` of their own. `there` holds of those rows that count; `product` is the product a row is of, None
    where rows are of none."""

    row: Any
    columns: Collection[str] = ()
    there: Any = field(default_factory=true)
    product: Any = None

    def value(self, key: str) -> Any:
        """The value of a field."""
        return getattr(self.row, key) if key in self.columns else self.row.fields[key]

    def has(self, key: str) -> Any:
        """Rows with a stored value for a field."""
        return getattr(self.row, key).is_not(None) if key in self.columns else self.row.fields.has_key(key)


@dataclass(frozen=True)
class Holding:
    """Those with a value, or something not understood, for a field."""

    field: str

    def where(self, table: HolderTable) -> Any:
        """The same of the rows of a table."""
        return and_(table.there, or_(table.has(self.field), table.row.unread.has_key(self.field)))

    def of(self, state: Mapping[str, Any]) -> bool:
        """Whether a state is of such a holder."""
        return self.field in state["values"] or self.field in state["unread"]


@dataclass(frozen=True)
class Containing:
    """Those whose value of any field contains one of some JSON patterns (PostgreSQL's `@>`): field → patterns."""

    patterns: Mapping[str, Sequence[Any]]

    def where(self, table: HolderTable) -> Any:
        """The same of the rows of a table."""
        row = table.row
        parts = [row.fields.contains({key: pattern}) for key, given in self.patterns.items() for pattern in given]
        return and_(table.there, or_(*parts, text("false")))


@dataclass(frozen=True)
class Differing:
    """Those that hold something for both of two fields, and not the same."""

    field: str
    other: str

    def where(self, table: HolderTable) -> Any:
        """The same of the rows of a table."""
        row, key, other = table.row, self.field, self.other
        same = and_(row.fields[key] == row.fields[other], ~row.unread.has_key(key), ~row.unread.has_key(other))
        both = (Holding(key).where(table), Holding(other).where(table))
        return and_(*both, func.coalesce(same, False).is_(False))

    def of(self, state: Mapping[str, Any]) -> bool:
        """Whether a state is of such a holder."""
        both = Holding(self.field).of(state) and Holding(self.other).of(state)
        values = state["values"]
        known = self.field in values and self.other in values
        return both and not (known and values[self.field] == values[self.other])


Wanted = Holding | Containing | Differing
"""Which holders of values are meant, whatever they are."""
OF_PRODUCTS = HolderTable(ProductRow, COLUMNS, product=ProductRow.id)
TABLES: dict[str, HolderTable] = {
    PRODUCT.code: OF_PRODUCTS,
    VARIANT.code: HolderTable(VariantRow, (), VariantRow.product_id.is_not(None), VariantRow.product_id),
}
"""The tables of subjects that have one, by the subject's code."""


def count(session: Session, table: HolderTable, wanted: Wanted, most: int | None = None) -> int:
    """How many rows hold what is meant, counting no further than `most`."""
    found = select(table.row.id).where(wanted.where(table)).limit(most).subquery()
    return int(session.scalar(select(func.count()).select_from(found)) or 0)


def filled(session: Session, table: HolderTable, keys: Sequence[str]) -> dict[str, tuple[int, int, int]]:
    """Own field → (rows there are, those with a value for it, those with something not understood)."""

    asked = select(func.unnest(cast(list(keys), ARRAY(Text))).label("key")).subquery()
    key = asked.c.key

    def rows(*having: Any) -> Any:
        counted = select(func.count()).select_from(table.row).where(table.there, *having)
        return counted.correlate(asked).scalar_subquery()

    held, unread = rows(table.row.fields.has_key(key)), rows(table.row.unread.has_key(key))
    return {row[0]: (row[1], row[2], row[3]) for row in session.execute(select(key, rows(), held, unread))}


def ids(session: Session, table: HolderTable, wanted: Wanted, after: int, limit: int) -> list[int]:
    """The next ids of rows that hold what is meant."""
    row = table.row
    query = select(row.id).where(wanted.where(table), row.id > after).order_by(row.id).limit(limit)
    return list(session.scalars(query))


def of_products(table: HolderTable, wanted: Wanted) -> Any:
    """Products that are meant, or that rows are of that are meant."""
    if table is OF_PRODUCTS:
        return wanted.where(table)
    return P.id.in_(select(table.product).where(wanted.where(table)))


def values_after(
    session: Session, table: HolderTable, key: str, after: int, limit: int, types: Iterable[str] | None = None
) -> list[tuple[int, Any]]:
    """(id, value) of the next rows with a value for a field, by id; of products of some types alone, or of all."""
    row, value = table.row, table.value(key)
    # Not `has`: slice after slice goes along the ids, and a plan for any field would gather all of its holders for each.
    query = select(row.id, value).where(table.there, value.is_not(None), row.id > after).order_by(row.id).limit(limit)
    rows = session.execute(query if types is None else query.where(row.type_key == func.any(sorted(types))))
    return [(found[0], found[1]) for found in rows]


def containing(patterns: Mapping[str, Sequence[Any]]) -> Any:
    """Products whose value of any field contains one of some JSON patterns: field → patterns."""
    return Containing(patterns).where(OF_PRODUCTS)


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


def item_counts(session: Session, table: HolderTable, paths: Sequence[str]) -> dict[str, int]:
    """Item → rows that hold it at any of some SQL/JSON paths from their values."""
    if not paths:
        return {}
    row = table.row
    found = [
        select(
            row.id, func.jsonb_path_query(row.fields, cast(path, JSONPATH)).op("#>>")(text("'{}'")).label("item")
        ).where(table.there)
        for path in paths
    ]
    rows = union_all(*found).subquery()
    query = select(rows.c.item, func.count(rows.c.id.distinct())).where(rows.c.item.is_not(None)).group_by(rows.c.item)
    return dict(session.execute(query).all())


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
