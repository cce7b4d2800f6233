"""The shop's row, its stamp, and locks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from sqlalchemy import func, select, text, update
from sqlalchemy.orm import Session

from young_fabric.core.base.shop import Shop
from young_fabric.store.base import STANDS_STILL
from young_fabric.store.glances import Glance
from young_fabric.store.tables import ReleaseRow, ShopRow

DEFINITIONS, RELEASE = 1, 2
"""Advisory locks by number."""
_SHOP = "shop"


def shop_of(session: Session) -> tuple[Shop, int, int]:
    """(shop, stamp of the definitions, current release: the newest, 0 before the first)."""
    if not session.info.get(STANDS_STILL):
        return _shop_of(session)
    found: tuple[Shop, int, int] | None = session.info.get(_SHOP)
    if found is None:
        found = session.info[_SHOP] = _shop_of(session)
    return found


def keep(session: Session, found: tuple[Shop, int, int]) -> None:
    """Keep the shop's row that another statement brought, in a session that stands still."""
    if session.info.get(STANDS_STILL):
        session.info[_SHOP] = found


def _shop_of(session: Session) -> tuple[Shop, int, int]:
    newest = select(func.coalesce(func.max(ReleaseRow.number), 0)).scalar_subquery()
    row = session.execute(
        select(
            ShopRow.name, ShopRow.prefix, ShopRow.currency, ShopRow.locale, ShopRow.title_order, ShopRow.stamp, newest
        )
    ).one()
    return Shop(*row[:5]), row[5], row[6]


class LiveState(NamedTuple):
    """What decides a live page: the newest release, the shop's own words, and the counted stock of some products, of their variants, and
    of values of their options that have any of their own."""

    release: int
    name: str
    currency: str
    locale: str
    stock: Mapping[str, int] | None
    variants: Mapping[str, int] | None = None
    choices: Sequence[Sequence[Any]] | None = None

    def variant(self, number: int) -> int | None:
        """The counted stock of a variant, None where it is not counted."""
        return (self.variants or {}).get(str(number))

    def choices_of(self, key: str) -> dict[tuple[str, str], int]:
        """(option, code) → what values of an option set have left of their own."""
        return {(option, code): amount for name, option, code, amount in self.choices or () if name == key}

    def amount(self, product: str, otherwise: Any) -> Any:
        """The counted stock of a product by its id as text, or what stands for it where it is not counted."""
        return (self.stock or {}).get(product, otherwise)


NO_SHOP = LiveState(0, "", "", "", None)


def state_columns(ids: str, sets: str) -> str:
    """The members of a LiveState as columns over the shop's row, for products and option sets that SQL names."""
    return f"""
(SELECT coalesce(max(number), 0) FROM release), shop.name, shop.currency, shop.locale,
(SELECT jsonb_object_agg(product_id, amount) FROM stock WHERE product_id = ANY({ids}) AND amount IS NOT NULL),
(SELECT jsonb_object_agg(v.id, s.amount) FROM variant AS v JOIN variant_stock AS s ON s.variant_id = v.id
 WHERE v.product_id = ANY({ids}) AND s.amount IS NOT NULL),
(SELECT jsonb_agg(jsonb_build_array(set_key, option, code, amount) ORDER BY set_key, option, code) FROM choice_stock
 WHERE set_key = ANY({sets}) AND amount IS NOT NULL)"""  # noqa: S608


_LIVE_STATE = f"SELECT {state_columns('%(ids)s', '%(sets)s')} FROM shop"  # noqa: S608


def glance_at(glance: Glance, ids: Sequence[int], sets: Sequence[str] = ()) -> LiveState:
    """What decides a live page that tells the stock of some products, and of values of some option sets."""
    row = glance.execute(_LIVE_STATE, _asked(ids, sets)).fetchone()
    return LiveState(*row) if row is not None else NO_SHOP


def live_state(session: Session, ids: Sequence[int], sets: Sequence[str] = ()) -> LiveState:
    """The same as a session sees it."""
    row = session.connection().exec_driver_sql(_LIVE_STATE, _asked(ids, sets)).one_or_none()
    return LiveState(*row) if row is not None else NO_SHOP


def _asked(ids: Sequence[int], sets: Sequence[str]) -> dict[str, list[int] | list[str]]:
    return {"ids": list(ids), "sets": list(sets)}


def is_there(session: Session) -> bool:
    """Whether a shop was made in this database."""
    return session.scalar(select(ShopRow.id)) is not None


def lock_definitions(session: Session) -> None:
    """Let one writer of definitions through at a time, when nobody writes values, until the transaction ends."""
    session.execute(select(func.pg_advisory_xact_lock(DEFINITIONS)))


def hold_definitions(session: Session) -> None:
    """Keep definitions as they are until the transaction ends; many can hold them at once. Fair to those who wait."""
    session.execute(select(func.pg_advisory_xact_lock_shared(DEFINITIONS)))


def next_stamp(session: Session) -> int:
    """Say that definitions change; from a sequence, so that no two states ever share a stamp."""
    raised = update(ShopRow).values(stamp=text("nextval('definitions_stamp')")).returning(ShopRow.stamp)
    return int(session.execute(raised.execution_options(synchronize_session=False)).scalar_one())


def take_release_turn(session: Session) -> bool:
    """Whether no other transaction is releasing or going back; if so, none can until this one ends."""
    return bool(session.scalar(select(func.pg_try_advisory_xact_lock(RELEASE))))


def lock_name(session: Session, name: str) -> None:
    """Let one transaction at a time make something of a name."""
    session.execute(select(func.pg_advisory_xact_lock(3, func.hashtext(name))))


def collation_for(session: Session, locale: str) -> str:
    """The ICU collation of a locale that the database has, the root one when it has none."""
    tag = locale.replace("_", "-")
    found = session.execute(
        text("SELECT collname FROM pg_collation WHERE collname = ANY (:names) ORDER BY length(collname) DESC LIMIT 1"),
        {"names": [f"{tag}-x-icu", f"{tag.split('-')[0]}-x-icu"]},
    ).scalar()
    return str(found or "und-x-icu")


def order_titles(session: Session) -> None:
    """Have an index in the order of the shop's locale, so that lists by title need no sorting."""
    name = session.scalar(select(ShopRow.title_order))
    if name is None:
        return
    quoted = '"' + name.replace('"', "") + '"'
    for table, columns, where in (
        ("product", "title COLLATE {}, id", ""),
        ("listed_card", "listing, rank, number, text COLLATE {}, product_id, position, card", " WHERE until IS NULL"),
    ):
        index = f"ix_{table}_title_{name.split('-x-')[0].lower().replace('-', '_')}"
        session.execute(text(f"CREATE INDEX IF NOT EXISTS {index} ON {table} ({columns.format(quoted)}){where}"))
