"""The basket, and the checkout that stands in for one: forms that work without scripts, and only what the shop itself reckons."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Mapping
from contextlib import AbstractContextManager
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from flask import Blueprint, Response, current_app, g, make_response, redirect, render_template, request
from sqlalchemy.orm import Session
from werkzeug.datastructures import FileStorage

from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.words import say
from young_fabric.core.display.surfaces import addressed_surface, basket_surface, data_surface
from young_fabric.core.options.choosing import read_asked
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.quote import Problem
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service import baskets, orders, selling, sent_files
from young_fabric.service.actors import SHOPPER as ANYBODY
from young_fabric.service.actors import Work
from young_fabric.service.baskets import MOST_QUANTITY
from young_fabric.service.unit import unit_of_work
from young_fabric.store.repos import releases
from young_fabric.web.auth import PUBLIC, SHOPPER, allow, sessions
from young_fabric.web.shop import contexts as c
from young_fabric.web.shop import live, pages
from young_fabric.web.shop.choosing import Choosing, choosing

basket = Blueprint("basket", __name__, url_prefix="/shop", template_folder="templates")
COOKIE, COUNT = "basket", "basket_lines"
KEPT_FOR = 90 * 24 * 3600
MOST_FORM = 30 * 1024 * 1024
"""How many bytes a form has with all its files."""


@dataclass(frozen=True)
class LineContext:
    """A line of the basket: what its surface shows, what was chosen, what it costs, and what was told before."""

    id: int
    quantity: int
    doc: RenderDoc | None
    item: c.Item | None
    choosing: Choosing | None
    problems: list[Refusal]
    was: str
    now: str
    href: str


@dataclass(frozen=True)
class BasketContext:
    """The basket: its lines, what they come to in words and as a number, and whether it can be ordered."""

    lines: list[LineContext]
    total: str
    amount: str
    ready: bool
    changed: bool


def _unit() -> AbstractContextManager[Work]:
    return unit_of_work(sessions, ANYBODY)


def _token() -> str | None:
    found = request.cookies.get(COOKIE, "")
    return found if 20 <= len(found) <= 100 and found.isascii() else None


def _with_cookie(response: Response, token: str, count: int | None = None) -> Response:
    secure = bool(current_app.config["SESSION_COOKIE_SECURE"])
    response.set_cookie(COOKIE, token, max_age=KEPT_FOR, httponly=True, samesite="Lax", secure=secure, path="/shop")
    if count is not None:
        response.set_cookie(COUNT, str(count), max_age=KEPT_FOR, samesite="Lax", secure=secure, path="/shop")
    return response


def _private(response: Response) -> Response:
    response.headers["Cache-Control"] = "no-store"
    return response


def _context(session: Session, ways: c.Ways) -> BasketContext:
    found = baskets.read(session, _token(), datetime.now(UTC).date())
    lines = [_line(ways, line) for line in found.lines]
    total = _money(ways, found.total) if found.total is not None else ""
    return BasketContext(lines, total, found.total or "", found.ready, any(line.was for line in found.lines))


def _money(ways: c.Ways, amount: str) -> str:
    return locales.show_money(amount, ways.defs.shop.currency, ways.defs.shop.locale)


def _line(ways: c.Ways, line: baskets.Line) -> LineContext:
    problems = [problem.refusal for problem in line.problems]
    if line.chosen is None:
        return LineContext(line.id, line.quantity, None, None, None, problems, "", "", "")
    chosen = line.chosen
    product = chosen.product
    slug = str(product.values.get("slug") or "")
    item = pages.item_of(ways, product.id, product.title, slug, chosen.quote.available)
    doc = chosen.document(basket_surface().code)
    shown = choosing(chosen, doc, item.href, line.asked, sent=True)
    was = now = ""
    if line.was is not None and chosen.quote.price is not None:
        was, now = _both(ways, *line.was), _both(ways, chosen.quote.price.each, chosen.quote.price.once)
    query = pages.query_of(chosen.address)
    return LineContext(line.id, line.quantity, doc, item, shown, problems, was, now, f"{item.href}{query}")


def _both(ways: c.Ways, each: str, once: str) -> str:
    parts = [
        _money(ways, each),
        *([f"{_money(ways, once)} {say(ways.defs.shop.locale, 'once')}"] if once.strip("0.") else []),
    ]
    return " + ".join(parts)


@basket.get("/basket")
@allow(PUBLIC)
def show() -> Response:
    """The basket."""
    return _show(None)


def _show(refusal: Refusal | None, status: int = 200) -> Response:
    with sessions() as session:
        ways = live.ways_of(session)
        page = _context(session, ways)
        title = say(ways.defs.shop.locale, "basket")
        body = render_template("basket.html", frame=pages.frame(ways), title=title, page=page, refusal=refusal)
    response = make_response(body, status)
    token = _token()
    return _private(_with_cookie(response, token, len(page.lines)) if token else response)


@basket.post("/basket")
@allow(SHOPPER)
def add() -> Response:
    """Put a product in as it was chosen; what hinders it is told on the product's page, with all that was typed."""
    request.max_content_length = MOST_FORM
    number = request.form.get(pages.PRODUCT_NUMBER, "")
    product = int(number) if number.isascii() and number.isdecimal() and len(number) < 10 else 0
    token = _token() or secrets.token_urlsafe(32)
    quantity = _quantity()
    try:
        with _unit() as unit:
            found = selling.live_selling(unit.session, [product]).get(product)
            if found is None:
                raise Refusal("not_found", "This is no longer sold", (), "Choose another", {"case": "product"})
            tokens, wrong = _sent(unit, found.goods.offer)
            asked = read_asked(found.goods.offer, {**request.form.to_dict(flat=False), **tokens})
            if quantity is None:
                wrong.append(
                    Problem(
                        "",
                        Refusal(
                            "quantity",
                            f"A line has 1 to {MOST_QUANTITY:,} pieces",
                            (),
                            "Write another quantity",
                            {"most": MOST_QUANTITY},
                        ),
                    )
                )
            if not wrong:
                done = baskets.add(unit, token, product, asked, quantity or 1)
                wrong = list(done.quote.problems)
            if wrong:
                return _again(unit.session, product, asked, wrong)
    except Refusal as refusal:
        return _show(refusal, 404 if refusal.code == "not_found" else 422)
    return _with_cookie(redirect("/shop/basket", 303), token)  # type: ignore[arg-type]


def _quantity() -> int | None:
    """How many a form asks for, None for what is no number of pieces."""
    text = request.form.get(pages.QUANTITY, "1").strip()
    count = int(text) if text.isascii() and text.isdecimal() and len(text) <= 6 else 0
    return count if 1 <= count <= MOST_QUANTITY else None


def _sent(unit: Work, offer: Offer) -> tuple[dict[str, list[str]], list[Problem]]:
    """The files of a form, kept: option → token; and what is wrong with those that can't be."""
    tokens, wrong = {}, []
    for key in sent_files.upload_keys(offer):
        file = request.files.get(key)
        if not isinstance(file, FileStorage) or not file.filename:
            continue
        try:
            tokens[key] = [sent_files.keep(unit, current_app.extensions["sent_files"], file.filename, file.read())]
        except Refusal as refusal:
            wrong.append(Problem(key, refusal))
    return tokens, wrong


def _again(session: Session, product: int, asked: Mapping[str, Any], wrong: list[Problem]) -> Response:
    """The product's page as it was sent, with what is wrong at its place."""
    ways = live.ways_of(session)
    rows = [
        row
        for row in releases.documents_of(session, PRODUCT.code, product)
        if row.surface in (addressed_surface().code, data_surface().code)
    ]
    if not rows:
        return _private(pages.lost(ways))
    g.asked, g.wrong = asked, wrong
    found = live.live_product(session, ways, addressed_surface().code, rows)
    return _private(make_response(pages.product_page(ways, found.shown), 422))


def _done(change: Callable[[Work, str], None]) -> Response:
    token = _token()
    if token is None:
        return redirect("/shop/basket", 303)  # type: ignore[return-value]
    try:
        with _unit() as unit:
            change(unit, token)
    except Refusal as refusal:
        return _show(refusal, 404 if refusal.code == "not_found" else 422)
    return redirect("/shop/basket", 303)  # type: ignore[return-value]


@basket.post("/basket/<id:line>")
@allow(SHOPPER)
def change(line: int) -> Response:
    """Change how many a line has, or take it out."""
    text = "0" if "out" in request.form else request.form.get(pages.QUANTITY, "").strip()
    count = int(text) if text.isascii() and text.isdecimal() and len(text) <= 6 else -1
    return _done(lambda unit, token: baskets.put_quantity(unit, token, line, count))


@basket.post("/basket/prices")
@allow(SHOPPER)
def take_note() -> Response:
    """Say that the new prices were seen."""
    return _done(baskets.take_note)


@basket.get("/checkout")
@allow(PUBLIC)
def checkout() -> Response:
    """What is ordered, and for whom."""
    return _checkout(None, {})


def _checkout(refusal: Refusal | None, typed: Mapping[str, str]) -> Response:
    with sessions() as session:
        ways = live.ways_of(session)
        page = _context(session, ways)
        if not page.ready and refusal is None:
            return redirect("/shop/basket", 303)  # type: ignore[return-value]
        title = say(ways.defs.shop.locale, "checkout")
        body = render_template(
            "checkout.html", frame=pages.frame(ways), title=title, page=page, refusal=refusal, typed=typed
        )
    return _private(make_response(body, 200 if refusal is None else 422))


@basket.post("/checkout")
@allow(SHOPPER)
def order() -> Response:
    """Place the pretend order."""
    typed = {name: request.form.get(name, "")[:400] for name in ("name", "email", "total")}
    token = _token()
    if token is None:
        return redirect("/shop/basket", 303)  # type: ignore[return-value]
    try:
        with _unit() as unit:
            buyer = orders.Buyer(typed["name"], typed["email"].strip())
            placed = orders.place(unit, token, typed["total"], buyer, current_app.extensions["orders"])
    except Refusal as refusal:
        return _checkout(refusal, typed)
    return _with_cookie(redirect(f"/shop/order/{placed.token}", 303), token, 0)  # type: ignore[arg-type]


@basket.get("/order/<token>")
@allow(PUBLIC)
def ordered(token: str) -> Response:
    """An order that was placed, for who has its address."""
    with sessions() as session:
        ways = live.ways_of(session)
        document = orders.read(session, token) if len(token) <= 100 and token.isascii() else None
        if document is None:
            return pages.lost(ways)
        title = say(ways.defs.shop.locale, "ordered", number=document["number"])
        money = {
            "total": _money(ways, document["total"]),
            "lines": [_money(ways, line["price"]["total"]) for line in document["lines"]],
        }
        body = render_template("ordered.html", frame=pages.frame(ways), title=title, order=document, money=money)
    return _private(make_response(body))
