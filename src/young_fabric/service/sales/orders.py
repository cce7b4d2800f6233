"""Pretend orders: a basket as it is quoted at that moment, its stock taken, written as an open JSON document."""

from __future__ import annotations

import json
import re
import secrets
from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date, datetime
from typing import Any, NamedTuple, Protocol

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.surfaces import basket_surface
from young_fabric.core.interchange.order import order_document, order_line
from young_fabric.core.subjects.stock import StockKey
from young_fabric.service.acting.actors import Work
from young_fabric.service.sales import baskets, sent_files
from young_fabric.service.sales.baskets import Basket, counted_of, hashed
from young_fabric.service.sales.selling import Chosen
from young_fabric.store.repos import baskets as rows
from young_fabric.store.repos import shop, stocks

LONGEST_NAME, LONGEST_EMAIL = 120, 254
_EMAIL = re.compile(r"[^@\s]+@[^@\s.]+(\.[^@\s.]+)+")


class Documents(Protocol):
    """Where documents of orders are written: text by name."""

    def write(self, name: str, content: bytes) -> None:
        """Keep bytes under a name."""


class Buyer(NamedTuple):
    """For whom a pretend order is."""

    name: str
    email: str = ""


def check_buyer(buyer: Buyer) -> None:
    """Raises Refusal `required`, `long`, `text`, `email` with its place."""
    if not buyer.name.strip():
        raise Refusal("required", "Write a name", ("name",), "Any name will do", {"case": "buyer"})
    for member, most in (("name", LONGEST_NAME), ("email", LONGEST_EMAIL)):
        value = getattr(buyer, member)
        if len(value) > most:
            raise Refusal(
                "long", f"At most {most} characters fit", (member,), "Shorten it", {"case": "buyer", "most": most}
            )
        if not value.isprintable():
            raise Refusal("text", "This has signs that can't be read", (member,), "Type it anew")
    if buyer.email and not _EMAIL.fullmatch(buyer.email):
        raise Refusal("email", "This is no e-mail address", ("email",), "Write it as name@example.org, or leave it out")


class Placed(NamedTuple):
    """An order that was placed: its number, and the token its shopper looks at it with."""

    number: int
    token: str


class Viewed(NamedTuple):
    """A basket as it is quoted in one state of the shop: its lines as they are stored, and the release they are quoted by."""

    basket: Basket
    stored: Sequence[tuple[Any, ...]]
    release: int


def view(session: Session, token: str, today: date) -> Viewed:
    """A basket as it would be ordered; `session` sees one state throughout."""
    found = rows.find(session, hashed(token))
    stored = _stored(session, found)
    return Viewed(baskets.read(session, token, today), stored, shop.shop_of(session)[2])


def _stored(session: Session, basket: int | None) -> list[tuple[Any, ...]]:
    found = rows.lines(session, basket) if basket is not None else ()
    return [(row.id, row.product_id, row.choices, row.quantity, row.seen_each, row.seen_once) for row in found]


def new_token() -> str:
    """What an order will be known by: sent with the form, so that a form sent twice is one order."""
    return secrets.token_urlsafe(24)


def place(work: Work, token: str, total: str, buyer: Buyer, viewed: Viewed, seen: str) -> Placed:
    """Place a pretend order of a basket as it was viewed, whose total the shopper was shown; `seen` is what it will be known by.

    The form of an order that was placed already gives that order. What was viewed must still stand: `work` sees what others have
    committed. Raises Refusal `required`, `long`, `email`, `empty`, `not_ready`, `price_changed`, `sold_out`. Nothing is taken then.
    """
    check_buyer(buyer)
    session, basket = work.session, viewed.basket
    basket_id = rows.find(session, hashed(token), lock=True)
    stored = _stored(session, basket_id)
    placed = rows.order_number(session, hashed(seen))
    if placed is not None and not stored:
        return Placed(placed, seen)
    if basket_id is None or not stored:
        raise Refusal("empty", "The basket is empty", (), "Put something in first")
    if any(line.problems for line in basket.lines):
        raise Refusal("not_ready", "Some lines can't be ordered as they are", (), "See to them first")
    still = stored == viewed.stored and shop.shop_of(session)[2] == viewed.release
    if not still or any(line.was for line in basket.lines) or basket.total != total:
        raise Refusal("price_changed", "A price changed meanwhile", (), "Look at it, then order again")
    if not stocks.take(session, _needs(basket)):
        raise Refusal(
            "sold_out", "Somebody was faster: not enough is left", (), "Look at the basket anew", {"case": "faster"}
        )
    number = rows.next_order(session)
    known_by = seen if placed is None else new_token()
    document = _document(work, number, basket, buyer)
    rows.add_order(session, number=number, token=hashed(known_by), placed_at=work.now, document=document)
    rows.hold_sent(session, _tokens(basket), number)
    rows.take_out(session, [line.id for line in basket.lines])
    return Placed(number, known_by)


MOST_WRITTEN = 100


def write_documents(work: Work, store: Documents, before: datetime) -> int:
    """Write the documents of orders, placed before a time, that are not files yet; gives how many. An order stands once it is
    committed: its document is written afterwards, by whoever comes first."""
    found = rows.unwritten(work.session, before, MOST_WRITTEN)
    for number, document in found:
        store.write(f"{number}.json", json.dumps(document, ensure_ascii=False, indent=2).encode() + b"\n")
    rows.note_written(work.session, [number for number, _ in found])
    return len(found)


def _needs(basket: Basket) -> Mapping[StockKey, int]:
    """How many pieces are taken of all that is counted."""
    found: Counter[StockKey] = Counter()
    for line in basket.lines:
        for key in counted_of(line.chosen) if line.chosen is not None else ():
            found[key] += line.quantity
    return found


def _tokens(basket: Basket) -> list[str]:
    return [
        str(line.asked[key])
        for line in basket.lines
        if line.chosen is not None
        for key in sent_files.upload_keys(line.chosen.selling.goods.offer)
        if line.asked.get(key)
    ]


def _document(work: Work, number: int, basket: Basket, buyer: Buyer) -> dict[str, Any]:
    chosen = [line.chosen for line in basket.lines if line.chosen is not None]
    lines = [line for found in chosen if (line := _line(found)) is not None]
    currency = chosen[0].selling.goods.currency
    return order_document(number, work.now, currency, {"name": buyer.name.strip(), "email": buyer.email}, lines)


def _line(chosen: Chosen) -> Mapping[str, Any] | None:
    if chosen.quote.price is None:
        return None
    stored = {
        key: sent_files.stored_name(given.value["file"], given.value["type"])
        for key, given in chosen.quote.given.items()
        if key in sent_files.upload_keys(chosen.selling.goods.offer)
    }
    facts = chosen.document(basket_surface().code)
    return order_line(chosen.product, chosen.quote, chosen.quote.price, chosen.selling.goods.offer, facts, stored)


def read(session: Session, token: str) -> Mapping[str, Any] | None:
    """The document of an order, by the token its shopper has."""
    return rows.order(session, hashed(token))
