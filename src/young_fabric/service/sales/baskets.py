"""Baskets: lines of the live shop, quoted anew each time they are looked at, never by what a browser says."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.options.left import counted
from young_fabric.core.options.quote import QuoteProblem
from young_fabric.core.subjects.stock import StockKey
from young_fabric.service.acting.actors import Work
from young_fabric.service.sales import selling, sent_files
from young_fabric.service.sales.selling import Chosen
from young_fabric.store.repos import baskets
from young_fabric.store.tables import BasketLineRow

MOST_LINES, MOST_QUANTITY = 100, 9_999


@dataclass(frozen=True)
class Line:
    """A line of a basket: what is chosen and costs now, None of a product that is no longer sold; `was` is what it was told to cost
    where that is otherwise, each and once a line."""

    id: int
    product: int
    quantity: int
    chosen: Chosen | None
    asked: Mapping[str, Any]
    was: tuple[str, str] | None = None

    @property
    def problems(self) -> Sequence[QuoteProblem]:
        """Why it can't be ordered so."""
        if self.chosen is None:
            return (QuoteProblem("", Refusal("gone", "This is no longer sold", (), "Take it out")),)
        return self.chosen.quote.problems


@dataclass(frozen=True)
class Basket:
    """The lines of a basket, and what they come to together (None while a line has no price)."""

    lines: Sequence[Line]
    total: str | None

    @property
    def ready(self) -> bool:
        """Whether it can be ordered: nothing is wrong, and no price is otherwise than it was told."""
        return bool(self.lines) and not any(line.problems or line.was for line in self.lines)


NOTHING = Basket((), None)


def hashed(token: str) -> str:
    """What is stored of a token."""
    return hashlib.sha256(token.encode()).hexdigest()


def read(session: Session, token: str | None, today: date) -> Basket:
    """A basket as it is, by the token a browser has."""
    found = baskets.find(session, hashed(token)) if token else None
    if found is None:
        return NOTHING
    return _quoted(session, baskets.lines(session, found), today)


def _quoted(session: Session, rows: Sequence[BasketLineRow], today: date) -> Basket:
    live = selling.live_selling(session, sorted({row.product_id for row in rows}))
    lines = [_line(session, row, live.get(row.product_id), today) for row in rows]
    totals = [line.chosen.quote.price.total for line in lines if line.chosen and line.chosen.quote.price]
    whole = len(totals) == len(lines) and lines
    return Basket(_shared_stock(lines), str(sum(map(Decimal, totals))) if whole else None)


def _line(session: Session, row: BasketLineRow, found: selling.Selling | None, today: date) -> Line:
    if found is None:
        return Line(row.id, row.product_id, row.quantity, None, row.choices)
    asked = sent_files.with_files(session, found.goods.offer, row.choices)
    chosen = selling.choose(found, asked, row.quantity, today)
    price = chosen.quote.price
    seen = (row.seen_each, row.seen_once) if row.seen_each is not None and row.seen_once is not None else None
    now = (price.each, price.once) if price is not None else None
    was = (seen[0], seen[1]) if seen is not None and now is not None and seen != now else None
    return Line(row.id, row.product_id, row.quantity, chosen, row.choices, was)


def _shared_stock(lines: Sequence[Line]) -> list[Line]:
    """Lines of one variant, or with one value, share what there is: the first are served first."""
    taken: dict[Any, int] = {}
    out = []
    for line in lines:
        if line.chosen is None:
            out.append(line)
            continue
        short = None
        for key, there in counted_of(line.chosen).items():
            left = there - taken.get(key, 0)
            if left < line.quantity and (short is None or left < short):
                short = max(left, 0)
            taken[key] = taken.get(key, 0) + line.quantity
        quote = line.chosen.quote
        if short is not None and not any(problem.refusal.code == "sold_out" for problem in quote.problems):
            words = f"Only {short} left for this line" if short else "Nothing is left for this line"
            facts = {"case": "line", "left": short} if short else {"case": "line_all"}
            wrong = QuoteProblem("", Refusal("sold_out", words, ("quantity",), "Take fewer, or take it out", facts))
            chosen = selling.with_problem(line.chosen, wrong)
            line = Line(line.id, line.product, line.quantity, chosen, line.asked, line.was)
        out.append(line)
    return out


def counted_of(chosen: Chosen) -> dict[StockKey, int]:
    """All that is counted of what is chosen, and how many pieces there are."""
    return counted(chosen.selling.goods, chosen.quote.combination, chosen.quote.given)


@dataclass(frozen=True)
class WantedLine:
    """What somebody wants of a product: what was asked for of its options, and what that comes to."""

    asked: Mapping[str, Any]
    chosen: Chosen

    @property
    def problems(self) -> Sequence[QuoteProblem]:
        """Why it can't be put into a basket."""
        return self.chosen.quote.problems


def want(
    session: Session,
    product: int,
    asked: Mapping[str, Any],
    quantity: int,
    today: date,
    sent: Mapping[str, Mapping[str, Any]] | None = None,
) -> WantedLine:
    """What a choice of a live product comes to; `sent` are files by option, as options are told of them, that came with it.

    Raises Refusal `not_found`, `quantity`.
    """
    found = selling.live_selling(session, [product]).get(product)
    if found is None:
        raise Refusal("not_found", "This is no longer sold", ("product",), "Choose another", {"case": "product"})
    known = {key: value for key, value in asked.items() if key in found.goods.offer.by_key}
    given = sent_files.with_files(session, found.goods.offer, known) | dict(sent or {})
    return WantedLine(known, selling.choose(found, given, check_quantity(quantity), today))


def put_in(work: Work, token: str, wanted: WantedLine, quantity: int) -> None:
    """Put in what has no problem; what is there with the same choices is more. Raises Refusal `too_many`."""
    session = work.session
    price = wanted.chosen.quote.price
    if price is None:
        raise Refusal("no_price", "There is no price yet", (), "Choose another")
    product = wanted.chosen.product.id
    basket = baskets.hold(session, hashed(token), work.now)
    rows = baskets.lines(session, basket)
    same = next((row for row in rows if row.product_id == product and row.choices == wanted.asked), None)
    if same is not None:
        baskets.put_line(session, same.id, quantity=min(same.quantity + quantity, MOST_QUANTITY))
        return
    if len(rows) >= MOST_LINES:
        raise Refusal(
            "too_many",
            f"A basket has at most {MOST_LINES} lines",
            (),
            "Order these first",
            {"case": "lines", "most": MOST_LINES},
        )
    baskets.add_line(
        session,
        basket_id=basket,
        product_id=product,
        choices=dict(wanted.asked),
        quantity=quantity,
        seen_each=price.each,
        seen_once=price.once,
    )


def check_quantity(quantity: int) -> int:
    """A quantity of a line. Raises Refusal `quantity`."""
    if not 1 <= quantity <= MOST_QUANTITY:
        words = f"A line has 1 to {MOST_QUANTITY:,} pieces"
        raise Refusal("quantity", words, ("quantity",), "Write another quantity", {"most": MOST_QUANTITY})
    return quantity


def put_quantity(work: Work, token: str, line: int, quantity: int) -> None:
    """Change how many a line has; none takes it out. Raises Refusal `not_found`, `quantity`."""
    _own_line(work, token, line)
    if quantity == 0:
        baskets.take_out(work.session, [line])
        return
    baskets.put_line(work.session, line, quantity=check_quantity(quantity))


def take_note(work: Work, token: str, seen: Basket) -> None:
    """Say that the shopper has seen what all lines of a basket cost."""
    basket = baskets.find(work.session, hashed(token), lock=True)
    there = {row.id for row in baskets.lines(work.session, basket)} if basket is not None else set()
    for line in seen.lines:
        price = line.chosen.quote.price if line.chosen is not None else None
        if line.was is not None and price is not None and line.id in there:
            baskets.put_line(work.session, line.id, seen_each=price.each, seen_once=price.once)


def _own_line(work: Work, token: str, line: int) -> None:
    basket = baskets.find(work.session, hashed(token), lock=True)
    if basket is None or all(row.id != line for row in baskets.lines(work.session, basket)):
        raise Refusal(
            "not_found", "This line is no longer in the basket", (), "Look at the basket anew", {"case": "line"}
        )
    baskets.touch(work.session, basket, work.now)
