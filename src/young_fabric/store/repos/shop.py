"""The shop's row, its stamp, and locks."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import func, select, text, update
from sqlalchemy.dialects.postgresql import array
from sqlalchemy.orm import Session

from young_fabric.core.definitions import Shop
from young_fabric.store.tables import ReleaseRow, ShopRow


def shop_of(session: Session) -> tuple[Shop, int, int]:
    """(shop, stamp of the definitions, current release: the newest, 0 before the first)."""
    newest = select(func.coalesce(func.max(ReleaseRow.number), 0)).scalar_subquery()
    row = session.execute(
        select(ShopRow.name, ShopRow.prefix, ShopRow.currency, ShopRow.locale, ShopRow.stamp, newest)
    ).one()
    return Shop(*row[:4]), row[4], row[5]


def is_there(session: Session) -> bool:
    """Whether a shop was made in this database."""
    return session.scalar(select(ShopRow.id)) is not None


def lock_definitions(session: Session) -> None:
    """Let one writer of definitions through at a time, until the transaction ends."""
    session.execute(select(ShopRow.id).with_for_update())


def raise_stamp(session: Session) -> None:
    """Say that definitions changed. The stamp comes from a sequence, so no two states ever share one."""
    session.execute(update(ShopRow).values(stamp=text("nextval('definitions_stamp')")))


def lock_thing(session: Session, noun: str, key: str) -> None:
    """Let one writer of a thing through at a time, until the transaction ends."""
    lock_things(session, noun, [key])


def lock_things(session: Session, noun: str, keys: Sequence[str]) -> None:
    """The same for several things of a noun, always taken in one order so that two writers never wait in a ring."""
    names = func.unnest(array([f"{noun}:{key}" for key in sorted(keys)])).table_valued("name")
    session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(names.c.name, 0))))


def take_release_turn(session: Session) -> bool:
    """Whether no other transaction is releasing or going back; if so, none can until this one ends."""
    turn = func.pg_try_advisory_xact_lock(func.hashtextextended("release", 0))
    return bool(session.scalar(select(turn)))
