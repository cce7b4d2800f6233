"""Baskets, their lines, the files shoppers sent, and pretend orders."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import bindparam, delete, func, insert, select, text, update
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.orm import Session

from young_fabric.store.tables import BasketLineRow, BasketRow, SentFileRow, ShopOrderRow

B, L, S, O = BasketRow, BasketLineRow, SentFileRow, ShopOrderRow  # noqa: E741


def find(session: Session, token: str, *, lock: bool = False) -> int | None:
    """The basket a token (hashed) is of; with `lock` nobody else changes it until the transaction ends."""
    query = select(B.id).where(B.token == token)
    return session.scalar(query.with_for_update() if lock else query)


def hold(session: Session, token: str, now: datetime) -> int:
    """The basket of a token (hashed), made where there is none: nobody else changes it until the transaction ends."""
    made = upsert(B).values(token=token, used_at=now)
    used = made.on_conflict_do_update(index_elements=["token"], set_={"used_at": made.excluded.used_at})
    return int(session.execute(used.returning(B.id)).scalar_one())


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


def sent_since(session: Session, sender: str, since: datetime) -> int:
    """How many files somebody sent since a time."""
    return int(session.scalar(select(func.count()).where(S.sender == sender, S.sent_at >= since)) or 0)


def bytes_waiting(session: Session) -> int:
    """How many bytes the files have that no order holds."""
    return int(session.scalar(select(func.coalesce(func.sum(S.bytes), 0)).where(S.order_number.is_(None))) or 0)


def forget_sent(session: Session, before: datetime, most: int) -> list[str]:
    """Forget files that no order holds and that were sent before a time; gives what they are kept under."""
    old = select(S.token).where(S.order_number.is_(None), S.sent_at < before).order_by(S.sent_at).limit(most)
    return sorted(set(session.scalars(delete(S).where(S.token.in_(old)).returning(S.file))))


def files_named(session: Session, files: Sequence[str]) -> set[str]:
    """Those of some files that are noted."""
    return set(session.scalars(select(S.file).where(S.file == func.any(list(files)))))


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


def order_number(session: Session, token: str) -> int | None:
    """The number of the order a token (hashed) is of."""
    return session.scalar(select(O.number).where(O.token == token))


def unwritten(session: Session, before: datetime, most: int) -> list[tuple[int, Mapping[str, Any]]]:
    """(number, document) of orders placed before a time whose document was not written yet."""
    query = select(O.number, O.document).where(~O.written, O.placed_at <= before).order_by(O.number).limit(most)
    return [(row[0], row[1]) for row in session.execute(query)]


def note_written(session: Session, numbers: Sequence[int]) -> None:
    """Say that the documents of orders are written."""
    done = update(O).where(O.number == func.any(list(numbers))).values(written=True)
    session.execute(done.execution_options(synchronize_session=False))


def order(session: Session, token: str) -> Mapping[str, Any] | None:
    """The document of the order a token (hashed) is of."""
    return session.scalar(select(O.document).where(O.token == token))
