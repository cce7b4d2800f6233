"""Values of single fields as products hold them: read in slices, and looked for by what is in them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from sqlalchemy import and_, func, or_, select
from sqlalchemy.dialects.postgresql import array
from sqlalchemy.orm import Session

from young_fabric.core.nouns.built_in import COLUMNS
from young_fabric.core.subjects.products import Product
from young_fabric.store.repos.products import Search, conditions_of, has, stream_where
from young_fabric.store.tables import ProductRow

P = ProductRow


def values_after(session: Session, key: str, after: int, limit: int) -> list[tuple[int, str, Any]]:
    """(id, title, value) of the next products with a value for a field, by id."""
    value = getattr(P, key) if key in COLUMNS else P.fields[key]
    rows = session.execute(select(P.id, P.title, value).where(has(key), P.id > after).order_by(P.id).limit(limit))
    return [(row[0], row[1], row[2]) for row in rows]


def users_of_codes(session: Session, keys: Sequence[str], codes: Sequence[str]) -> int:
    """How many products hold one of the codes in one of the fields."""
    if not keys or not codes:
        return 0
    wanted = or_(*[P.fields[key].has_any(array(list(codes))) for key in keys])
    return int(session.scalar(select(func.count()).select_from(P).where(wanted)) or 0)


def holding_any(key: str) -> Any:
    """Products with a value, or something not understood, for a field, whether their type has it or not."""
    return or_(has(key), P.unread.has_key(key))


def wrong_after(session: Session, key: str, after: int, limit: int) -> list[Product]:
    """The next products whose value of a field is wrong or not understood, by id."""
    return stream_where(session, and_(*conditions_of(Search(wrong=key))), after, limit)
