"""Baskets, their lines, the files shoppers sent, and pretend orders."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any, NamedTuple

from sqlalchemy import bindparam, delete, func, insert, select, text, update
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from young_fabric.store.tables import BasketLineRow, BasketRow, SentFileRow, ShopOrderRow

B, L, S, O = BasketRow, BasketLineRow, SentFileRow, ShopOrderRow  # noqa: E741


def find(session: Session, token: str, *, lock: bool = False) -> int | None:
    """The basket a token (hashed) is of; with `lock` nobody else changes it until the transaction ends."""
    query = select(B.id).where(B.token == token)
    return session.scalar(query.with_for_update() if lock else query)


def make(session: Session, token: str, now: datetime) -> int:
    """A new basket for a token (hashed)."""
    return int(session.execute(insert(B).values(token=token, used_at=now).returning(B.id)).scalar_one())


def touch(session: Session, basket: int, now: datetime) -> None:
    """Say that a basket was used."""
    session.execute(update(B).where(B.id == basket).values(used_at=now))


def lines(session: Session, basket: int) -> list[BasketLineRow]:
    """The lines of a basket, as they were put in."""
    return list(session.scalars(select(L).where(L.basket_id == basket).order_by(L.id)))


def add_line(session: Session, **row: Any) -> int:
    """Put a line in; gives its id."""
    return int(session.execute(insert(L).values(**row).returning(L.id)).scalar_one())


def put_line(session: Session, line: int, **values: Any) -> None:
    """Change a line."""
    session.execute(update(L).where(L.id == line).values(**values).execution_options(synchronize_session=False))


def take_out(session: Session, ids: Sequence[int]) -> None:
    """Take lines out."""
    session.execute(delete(L).where(L.id.in_(ids)).execution_options(synchronize_session=False))


def keep_sent(session: Session, **row: Any) -> None:
    """Note a file that was sent."""
    session.execute(insert(S).values(**row))


def sent(session: Session, tokens: Sequence[str]) -> dict[str, SentFileRow]:
    """The files of some tokens."""
    rows = session.scalars(select(S).where(S.token.in_(tokens))) if tokens else ()
    return {row.token: row for row in rows}


def hold_sent(session: Session, tokens: Sequence[str], order: int) -> None:
    """Have an order hold files."""
    if tokens:
        session.execute(update(S).where(S.token.in_(tokens)).values(order_number=order))


def forget_sent(session: Session, before: datetime, most: int) -> list[str]:
    """Forget files that no order holds and that were sent before a time; gives those of which no other note is left."""
    old = select(S.token).where(S.order_number.is_(None), S.sent_at < before).order_by(S.sent_at).limit(most)
    gone = list(session.scalars(delete(S).where(S.token.in_(old)).returning(S.file)))
    kept = set(session.scalars(select(S.file).where(S.file.in_(gone)))) if gone else set()
    return sorted(set(gone) - kept)


def forget_baskets(session: Session, before: datetime, most: int) -> int:
    """Forget baskets that were last used before a time."""
    old = select(B.id).where(B.used_at < before).order_by(B.used_at).limit(most)
    return len(list(session.scalars(delete(B).where(B.id.in_(old)).returning(B.id))))


def next_order(session: Session) -> int:
    """The number of the next order."""
    return int(session.scalar(text("SELECT nextval(pg_get_serial_sequence('shop_order', 'number'))")) or 0)


def add_order(session: Session, **row: Any) -> None:
    """Record an order under a number that was taken."""
    session.execute(
        text(
            "INSERT INTO shop_order (number, token, placed_at, document) OVERRIDING SYSTEM VALUE VALUES (:number, :token, :placed_at, :document)"
        ).bindparams(bindparam("document", type_=JSONB())),
        row,
    )


def order(session: Session, token: str) -> Mapping[str, Any] | None:
    """The document of the order a token (hashed) is of."""
    return session.scalar(select(O.document).where(O.token == token))


class Needs(NamedTuple):
    """How many pieces are taken of what is counted: products by id, variants by id, values by (set, option, code)."""

    products: Mapping[int, int]
    variants: Mapping[int, int]
    choices: Mapping[tuple[str, str, str], int]


_LOCKED = {
    "products": "SELECT product_id, amount FROM stock WHERE product_id = ANY(:ids) ORDER BY product_id FOR UPDATE",
    "variants": "SELECT variant_id, amount FROM variant_stock WHERE variant_id = ANY(:ids) ORDER BY variant_id FOR UPDATE",
}
_CHOICES = text(
    "SELECT set_key, option, code, amount FROM choice_stock WHERE set_key = ANY(:sets) "
    "ORDER BY set_key, option, code FOR UPDATE"
)
_TAKE = {
    "products": "UPDATE stock AS s SET amount = s.amount - r.taken FROM jsonb_to_recordset(:rows) AS r(id int, taken int) WHERE s.product_id = r.id",
    "variants": "UPDATE variant_stock AS s SET amount = s.amount - r.taken FROM jsonb_to_recordset(:rows) AS r(id int, taken int) WHERE s.variant_id = r.id",
}
_TAKE_CHOICES = text(
    "UPDATE choice_stock AS s SET amount = s.amount - r.taken FROM jsonb_to_recordset(:rows) AS "
    "r(set_key text, option text, code text, taken int) WHERE (s.set_key, s.option, s.code) = (r.set_key, r.option, r.code)"
).bindparams(bindparam("rows", type_=JSONB()))


def take_stock(session: Session, needs: Needs) -> bool:
    """Take pieces out of what is counted, all or nothing; whether there were enough. Rows are locked in one order, so that of
    orders at one time each waits for the other, and none ever takes what is not there."""
    for name, wanted in (("products", needs.products), ("variants", needs.variants)):
        rows = session.execute(text(_LOCKED[name]), {"ids": sorted(wanted)}) if wanted else ()
        there = {row[0]: row[1] for row in rows}
        if any(there[key] < wanted[key] for key in there):
            return False
    rows = session.execute(_CHOICES, {"sets": sorted({key[0] for key in needs.choices})}) if needs.choices else ()
    left = {(row[0], row[1], row[2]): row[3] for row in rows}
    if any(key in left and left[key] < amount for key, amount in needs.choices.items()):
        return False
    for name, wanted in (("products", needs.products), ("variants", needs.variants)):
        if wanted:
            taken = [{"id": key, "taken": amount} for key, amount in wanted.items()]
            session.execute(text(_TAKE[name]).bindparams(bindparam("rows", type_=JSONB())), {"rows": taken})
    if needs.choices:
        rows_ = [
            {"set_key": key[0], "option": key[1], "code": key[2], "taken": amount}
            for key, amount in needs.choices.items()
        ]
        session.execute(_TAKE_CHOICES, {"rows": rows_})
    return True


def line_count(session: Session, basket: int) -> int:
    """How many lines a basket has."""
    return int(session.scalar(select(func.count()).select_from(L).where(L.basket_id == basket)) or 0)
