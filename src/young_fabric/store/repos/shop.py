"""The shop's row, its stamp, and locks."""

from __future__ import annotations

from sqlalchemy import func, select, text, update
from sqlalchemy.orm import Session

from young_fabric.core.definitions import Shop
from young_fabric.store.tables import ShopRow


def shop_of(session: Session) -> tuple[Shop, int, int]:
    """(shop, stamp of the definitions, current release)."""
    row = session.execute(
        select(ShopRow.name, ShopRow.prefix, ShopRow.currency, ShopRow.locale, ShopRow.stamp, ShopRow.release)
    ).one()
    return Shop(*row[:4]), row[4], row[5]


def lock_definitions(session: Session) -> None:
    """Let one writer of definitions through at a time, until the transaction ends."""
    session.execute(select(ShopRow.id).with_for_update())


def raise_stamp(session: Session) -> None:
    """Say that definitions changed. The stamp comes from a sequence, so no two states ever share one."""
    session.execute(update(ShopRow).values(stamp=text("nextval('definitions_stamp')")))


def lock_thing(session: Session, noun: str, key: str) -> None:
    """Let one writer of a thing through at a time, until the transaction ends."""
    session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(f"{noun}:{key}", 0))))


def set_release(session: Session, number: int) -> None:
    """Switch the shop to a release."""
    session.execute(update(ShopRow).values(release=number))
