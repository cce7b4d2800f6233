"""What stands for products that others refer to, and holding those."""

from __future__ import annotations

from collections.abc import Iterable

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from young_fabric.core.subjects.product_labels import ProductLabel
from young_fabric.store.tables import ProductRow

P = ProductRow


def labels(session: Session, ids: Iterable[int]) -> dict[int, ProductLabel]:
    """What stands for products that others refer to."""
    rows = session.execute(select(P.id, P.title, P.slug, P.offered).where(P.id == func.any(list(ids))))
    return {row[0]: ProductLabel(row[1], (row[2] or "") if row[3] else "") for row in rows}


def hold(session: Session, ids: Iterable[int]) -> frozenset[int]:
    """Those of some products that exist: none of them is removed before the transaction ends."""
    query = select(P.id).where(P.id == func.any(sorted(ids))).order_by(P.id).with_for_update(read=True, key_share=True)
    return frozenset(session.scalars(query))
