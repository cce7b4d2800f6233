"""Pretend orders: a basket as it is quoted at that moment, its stock taken, written as an open JSON document."""

from __future__ import annotations

import json
import re
import secrets
from collections import Counter
from collections.abc import Mapping
from typing import Any, NamedTuple, Protocol

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.surfaces import basket_surface
from young_fabric.core.interchange.order import order_document, order_line
from young_fabric.service import baskets, sent_files
from young_fabric.service.actors import Work
from young_fabric.service.baskets import Basket, counted, hashed
from young_fabric.service.selling import Chosen
from young_fabric.store.repos import baskets as rows
from young_fabric.store.repos.baskets import Needs

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


def place(work: Work, token: str, total: str, buyer: Buyer, store: Documents) -> Placed:
    """Place a pretend order of a basket whose total the shopper was shown.

    Raises Refusal `required`, `long`, `email`, `empty`, `not_ready`, `price_changed`, `sold_out`. Nothing is taken then.
    """
    check_buyer(buyer)
    session = work.session
    basket_id = rows.find(session, hashed(token), lock=True)
    basket = baskets.read(session, token, work.now.date())
    if basket_id is None or not basket.lines:
        raise Refusal("empty", "The basket is empty", (), "Put something in first")
    if any(line.problems for line in basket.lines):
        raise Refusal("not_ready", "Some lines can't be ordered as they are", (), "See to them first")
    if any(line.was for line in basket.lines) or basket.total != total:
        raise Refusal("price_changed", "A price changed meanwhile", (), "Look at it, then order again")
    if not rows.take_stock(session, _needs(basket)):
        raise Refusal(
            "sold_out", "Somebody was faster: not enough is left", (), "Look at the basket anew", {"case": "faster"}
        )
    number = rows.next_order(session)
    seen = secrets.token_urlsafe(24)
    tokens = _tokens(basket)
    document = _document(work, number, basket, buyer)
    rows.add_order(session, number=number, token=hashed(seen), placed_at=work.now, document=document)
    rows.hold_sent(session, tokens, number)
    rows.take_out(session, [line.id for line in basket.lines])
    store.write(f"{number}.json", json.dumps(document, ensure_ascii=False, indent=2).encode() + b"\n")
    return Placed(number, seen)


def _needs(basket: Basket) -> Needs:
    """How many pieces are taken of all that is counted."""
    found: dict[str, Counter[Any]] = {"product": Counter(), "variant": Counter(), "choice": Counter()}
    for line in basket.lines:
        for what, *key in counted(line.chosen) if line.chosen is not None else ():
            found[what][key[0] if len(key) == 1 else tuple(key)] += line.quantity
    return Needs(found["product"], found["variant"], found["choice"])


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
