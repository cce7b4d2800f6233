"""Products of a collection in the order of its listing, and the ways to put them in order."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from sqlalchemy import ARRAY, Numeric, Text, case, cast, collate, func, select
from sqlalchemy.orm import Session

from young_fabric.core.base import units
from young_fabric.core.base.conditions import BY_AMOUNT, BY_MEASURE, BY_RATING, BY_TEXT
from young_fabric.core.nouns.fields.built_in import COLUMNS
from young_fabric.store.repos.products import KEPT, ProductRecord, Search, conditions_of, record_of
from young_fabric.store.tables import ProductRow, StockRow

P = ProductRow


def members(session: Session, search: Search, order: Sequence[Any], limit: int, offset: int) -> list[ProductRecord]:
    """Products in some order, ties by id, from a position on."""
    if limit <= 0:
        return []
    query = (
        select(*KEPT, StockRow.amount)
        .outerjoin(StockRow, StockRow.product_id == P.id)
        .where(*conditions_of(search))
        .order_by(*order, P.id)
        .limit(limit)
        .offset(offset)
    )
    return [record_of(row, row[-1]) for row in session.execute(query)]


def order_by_title(collation: str) -> tuple[Any, ...]:
    """In order of title."""
    return (collate(P.title, collation),)


def order_newest() -> tuple[Any, ...]:
    """The newest first."""
    return (P.id.desc(),)


def order_by_text(key: str, collation: str) -> tuple[Any, ...]:
    """By the text of a field, several values by their first; those without last."""
    value = getattr(P, key) if key in COLUMNS else _first_text(key)
    return (value.is_(None), collate(func.left(value, 200), collation))


def order_by_amount(key: str, collation: str) -> tuple[Any, ...]:
    """By the number of a field; those without last."""
    number = _number(_first_text(key))
    return (number.is_(None), number, collate(P.title, collation))


def order_by_measure(key: str, collation: str) -> tuple[Any, ...]:
    """By the measure of a field, whatever its unit, by factor and offset of that; those without last."""
    first = _first(key)
    lines = {unit.symbol: units.lines(unit.dimension)[unit.symbol] for unit in units.UNITS}
    number = case(
        *[(first["unit"].astext == unit, _number(first["amount"].astext) * f + o) for unit, (f, o) in lines.items()]
    )
    return (number.is_(None), number, collate(P.title, collation))


def order_by_rating(key: str, collation: str) -> tuple[Any, ...]:
    """By the part of the best that a field's rating is; those without last."""
    first = _first(key)
    rated, best = (_number(first[name].astext) for name in ("value", "out_of"))
    share = case((best > 0, rated / best))
    return (share.is_(None), share, collate(P.title, collation))


ORDERS: dict[str, Callable[[str, str], tuple[Any, ...]]] = {
    BY_TEXT: order_by_text,
    BY_AMOUNT: order_by_amount,
    BY_MEASURE: order_by_measure,
    BY_RATING: order_by_rating,
}
"""How products stand in order of a field: the order its comparison names → (field, collation) to what they are ordered by."""


def _first(key: str) -> Any:
    value = P.fields[key]
    return case((func.jsonb_typeof(value) == "array", value[0]), else_=value)


def _first_text(key: str) -> Any:
    first = _first(key)
    return case((func.jsonb_typeof(first) == "string", first.op("#>>", return_type=Text())(cast([], ARRAY(Text)))))


def _number(value: Any) -> Any:
    return case((value.regexp_match("^-?[0-9]{1,100}([.][0-9]{1,100})?$"), cast(value, Numeric)))
