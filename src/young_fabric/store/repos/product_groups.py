"""Products by what tells them apart, (type, collections): which there are, and all of some in batches."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from sqlalchemy import and_, func, or_, select, text
from sqlalchemy.orm import Session

from young_fabric.core.subjects.products import Product
from young_fabric.store.repos.products import COLUMNS_READ, product_of
from young_fabric.store.tables import ProductRow, VariantRow

P = ProductRow
MOST_NAMED = 200
"""So many (type, collections) a statement asks for; of more, all products are read, and those of others passed over."""
_GROUPS = text(
    "WITH RECURSIVE found AS ("
    "(SELECT type_key, collections FROM product ORDER BY type_key, collections LIMIT 1) "
    "UNION ALL SELECT next.type_key, next.collections FROM found, LATERAL ("
    "SELECT type_key, collections FROM product WHERE (type_key, collections) > (found.type_key, found.collections) "
    "ORDER BY type_key, collections LIMIT 1) AS next) SELECT type_key, collections FROM found"
)


def groups(session: Session) -> list[tuple[str, tuple[str, ...]]]:
    """Every (type, collections) that products have: one look into the index for each, however many products there are."""
    return [(row[0], tuple(row[1])) for row in session.execute(_GROUPS)]


def stream(
    session: Session, groups: Sequence[tuple[str, tuple[str, ...]]] | None, batch: int = 500
) -> Iterator[list[Product]]:
    """All products of some (type, collections) in batches, by id, holding one batch at a time."""
    last = 0
    wanted = in_groups(groups) if groups is not None and len(groups) <= MOST_NAMED else None
    among = frozenset(groups) if groups is not None and wanted is None else None
    while True:
        query = select(*COLUMNS_READ).where(P.id > last).order_by(P.id).limit(batch)
        if wanted is not None:
            query = query.where(wanted)
        rows = session.execute(query).all()
        if not rows:
            return
        last = rows[-1][0]
        found = [row for row in rows if among is None or (row[1], tuple(row[8])) in among]
        if found:
            yield list(map(product_of, found))


def in_groups(groups: Sequence[tuple[str, tuple[str, ...]]]) -> Any:
    """Products of some (type, collections). Those in no collections go by type alone, which an index answers at once."""
    plain = [type_key for type_key, collections in groups if not collections]
    parts = [and_(P.type_key == func.any(plain), P.collections == [])] if plain else []
    parts += [
        and_(P.type_key == type_key, P.collections == list(collections))
        for type_key, collections in groups
        if collections
    ]
    return or_(*parts) if parts else text("false")


def variant_counts(session: Session) -> dict[tuple[str, tuple[str, ...]], int]:
    """(type, collections) → variants that products of it have, those not offered now too."""
    query = select(P.type_key, P.collections, func.count()).join(VariantRow, VariantRow.product_id == P.id)
    return {(row[0], tuple(row[1])): row[2] for row in session.execute(query.group_by(P.type_key, P.collections))}


def most_variants(session: Session) -> int:
    """How many variants the product has that has most."""
    each = select(func.count(VariantRow.id).label("number")).group_by(VariantRow.product_id).subquery()
    return session.scalar(select(func.coalesce(func.max(each.c.number), 0))) or 0
