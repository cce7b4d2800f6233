"""The basket, and the checkout that stands in for one: forms that work without scripts, and only what the shop itself reckons."""

from __future__ import annotations

import hashlib
import re
import secrets
from collections.abc import Callable, Mapping
from contextlib import AbstractContextManager
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime
from typing import Any

import structlog
from flask import Blueprint, Response, current_app, g, make_response, redirect, request
from sqlalchemy.orm import Session
from werkzeug.datastructures import FileStorage

from young_fabric.core.base import locales
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.words import say
from young_fabric.core.display.surfaces import addressed_surface, basket_surface
from young_fabric.core.options.choosing import read_asked
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.quote import QuoteProblem
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import SHOPPER as ANYBODY
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.sales import baskets, orders, selling, sent_files
from young_fabric.service.sales.baskets import MOST_QUANTITY
from young_fabric.service.sales.sent_files import SentFile
from young_fabric.store.repos import releases
from young_fabric.web.auth import PUBLIC, SHOPPER, allow, caller, sessions, snapshots
from young_fabric.web.schemas.common import unstorable
from young_fabric.web.shop import contexts as c
from young_fabric.web.shop import live, pages
from young_fabric.web.shop.block_html import rendered
from young_fabric.web.shop.choosing import Choosing, choosing
from young_fabric.web.shop.surface_pages import surface_page, surfaces_for

basket = Blueprint("basket", __name__, url_prefix="/shop", template_folder="templates")
COOKIE, COUNT = "basket", "basket_lines"
KEPT_FOR = 90 * 24 * 3600
ORDER_TOKEN = re.compile(r"[A-Za-z0-9_-]{32}")
log = structlog.get_logger()
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

    @property
    def blocks(self) -> c.BlockContext:
        """What its blocks are told."""
        return c.BlockContext("basket", None, self.item, choosing=self.choosing, line_href=self.href)


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
    found = baskets.read(session, _token(), today())
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
    with snapshots() as session:
        ways = live.ways_of(session)
        page = _context(session, ways)
        title = say(ways.defs.shop.locale, "basket")
        body = rendered("basket.html", frame=pages.frame(ways), title=title, page=page, refusal=refusal)
    response = make_response(body, status)
    token = _token()
    return _private(_with_cookie(response, token, len(page.lines)) if token else response)


@basket.before_request
def check_form() -> None:
    """Raises Refusal `text` when a form holds what can't be stored."""
    if request.method == "POST":
        request.max_content_length = MOST_FORM
        if unstorable(list(request.form.items(multi=True))):
            raise Refusal("text", "This has signs that can't be read", (), "Type it anew")


@basket.post("/basket")
@basket.post("/<path>/<slug>")
@allow(SHOPPER)
def add(path: str = "", slug: str = "") -> Response:  # noqa: ARG001
    """Put a product in as it was chosen; what hinders it is told on the product's page, with all that was typed."""
    product = product_number()
    token = _token() or secrets.token_urlsafe(32)
    quantity = _quantity()
    try:
        with snapshots() as session:
            asked, found, wrong = _asked_for(session, product)
            wanted = baskets.want(
                session, product, asked, quantity or 1, today(), {at: f.facts for at, f in found.items()}
            )
        refused = {problem.option for problem in (*wrong, *wanted.problems)}
        tokens = keep_files({key: file for key, file in found.items() if key not in refused}, wrong)
        asked |= tokens
        if quantity is None:
            wrong.append(QuoteProblem("", _no_quantity()))
        known = {problem.option for problem in wrong}
        wrong += [problem for problem in wanted.problems if not problem.option or problem.option not in known]
        if wrong:
            return _again(product, asked, wrong)
        with _unit() as unit:
            baskets.put_in(unit, token, replace(wanted, asked={**wanted.asked, **tokens}), quantity or 1)
    except Refusal as refusal:
        return _show(refusal, 404 if refusal.code == "not_found" else 422)
    # What a refusal would be shown at is no place in the basket.
    return _with_cookie(redirect("/shop/basket#main", 303), token)  # type: ignore[arg-type]


def product_number() -> int:
    """The product that a form is of, 0 where it says none."""
    number = request.form.get(pages.PRODUCT_NUMBER, "")
    return int(number) if number.isascii() and number.isdecimal() and len(number) < 10 else 0


def today() -> date:
    """The day it is."""
    return datetime.now(UTC).date()


def _asked_for(session: Session, product: int) -> tuple[dict[str, Any], dict[str, SentFile], list[QuoteProblem]]:
    """What a form asks for of a product: by option, the files that came with it, and what is wrong with it before any rule of an
    option is asked. Raises Refusal `not_found`."""
    found = selling.live_selling(session, [product]).get(product)
    if found is None:
        raise Refusal("not_found", "This is no longer sold", (), "Choose another", {"case": "product"})
    offer = found.goods.offer
    sent = request.form.to_dict(flat=False)
    files, wrong = received(offer)
    shown = request.form.get(pages.OPTIONS, "").split()
    if any(key not in offer.by_key and any(sent.get(key, ())) for key in shown):
        words = "Something that was chosen is no longer offered"
        wrong.append(QuoteProblem("", Refusal("choice", words, (), "See what can be chosen now", {"case": "gone"})))
    return read_asked(offer, sent, typed=True), files, wrong


def received(offer: Offer) -> tuple[dict[str, SentFile], list[QuoteProblem]]:
    """The files of a form by option, checked, and what is wrong with those that can't be kept."""
    found, wrong = {}, []
    for key in sent_files.upload_keys(offer):
        file = request.files.get(key)
        if not isinstance(file, FileStorage) or not file.filename:
            continue
        try:
            found[key] = sent_files.check(file.filename, file.read())
        except Refusal as refusal:
            wrong.append(QuoteProblem(key, refusal))
    return found, wrong


def keep_files(found: Mapping[str, SentFile], wrong: list[QuoteProblem]) -> dict[str, str]:
    """Files kept, whatever else hinders what they came with: option → token. What can't be kept is told in `wrong`."""
    sender = hashlib.sha256(f"{current_app.config['SECRET_KEY']} {caller()}".encode()).hexdigest()[:32]
    sending = sent_files.Sending(sender, current_app.config["MOST_SENT"])
    tokens = {}
    for key, file in found.items():
        try:
            with _unit() as unit:
                tokens[key] = sent_files.note(unit, file, sending)
            sent_files.write(current_app.extensions["sent_files"], file)
        except Refusal as refusal:
            wrong.append(QuoteProblem(key, refusal))
    return tokens


def _no_quantity() -> Refusal:
    words = f"A line has 1 to {MOST_QUANTITY:,} pieces"
    return Refusal("quantity", words, (), "Write another quantity", {"most": MOST_QUANTITY})


def _quantity() -> int | None:
    """How many a form asks for, None for what is no number of pieces."""
    text = request.form.get(pages.QUANTITY, "1").strip()
    count = int(text) if text.isascii() and text.isdecimal() and len(text) <= 6 else 0
    return count if 1 <= count <= MOST_QUANTITY else None


def _again(product: int, asked: Mapping[str, Any], wrong: list[QuoteProblem]) -> Response:
    """The product's page as it was sent, with what is wrong at its place."""
    with snapshots() as session:
        ways, surface = live.ways_of(session), addressed_surface()
        wanted = surfaces_for(surface)
        rows = [row for row in releases.documents_of(session, PRODUCT.code, product) if row.surface in wanted]
        if not any(row.surface == surface.code for row in rows):
            return _private(pages.lost(ways))
        g.asked, g.wrong = asked, wrong
        found = live.live_product(session, ways, surface.code, rows)
        return _private(make_response(surface_page(ways, surface, found.shown), 422))


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
    token = _token()
    if token is None:
        return redirect("/shop/basket", 303)  # type: ignore[return-value]
    with snapshots() as session:
        seen = baskets.read(session, token, today())
    return _done(lambda unit, of: baskets.take_note(unit, of, seen))


@basket.get("/checkout")
@allow(PUBLIC)
def checkout() -> Response:
    """What is ordered, and for whom."""
    return _checkout(None, {})


def _checkout(refusal: Refusal | None, typed: Mapping[str, str]) -> Response:
    with snapshots() as session:
        ways = live.ways_of(session)
        page = _context(session, ways)
        if not page.ready and refusal is None:
            return redirect("/shop/basket", 303)  # type: ignore[return-value]
        title = say(ways.defs.shop.locale, "checkout")
        seen = typed.get("order") or orders.new_token()
        body = rendered(
            "checkout.html", frame=pages.frame(ways), title=title, page=page, refusal=refusal, typed=typed, seen=seen
        )
    return _private(make_response(body, 200 if refusal is None else 422))


@basket.post("/checkout")
@allow(SHOPPER)
def order() -> Response:
    """Place the pretend order."""
    typed = {name: request.form.get(name, "")[:400] for name in ("name", "email", "total", "order")}
    token = _token()
    if token is None:
        return redirect("/shop/basket", 303)  # type: ignore[return-value]
    try:
        with snapshots() as session:
            viewed = orders.view(session, token, today())
        buyer = orders.Buyer(typed["name"], typed["email"].strip())
        seen = typed["order"] if ORDER_TOKEN.fullmatch(typed["order"]) else orders.new_token()
        with _unit() as unit:
            placed = orders.place(unit, token, typed["total"], buyer, viewed, seen)
    except Refusal as refusal:
        return _checkout(refusal, typed)
    _write_documents()
    return _with_cookie(redirect(f"/shop/order/{placed.token}", 303), token, 0)  # type: ignore[arg-type]


def _write_documents() -> None:
    """Write the documents of orders that were placed; where that fails, the worker does it."""
    try:
        with _unit() as unit:
            orders.write_documents(unit, current_app.extensions["orders"], unit.now)
    except OSError as error:
        log.error("orders", exc_info=error)


@basket.get("/order/<token>")
@allow(PUBLIC)
def ordered(token: str) -> Response:
    """An order that was placed, for who has its address."""
    with snapshots() as session:
        ways = live.ways_of(session)
        document = orders.read(session, token) if len(token) <= 100 and token.isascii() else None
        if document is None:
            return pages.lost(ways)
        title = say(ways.defs.shop.locale, "ordered", number=document["number"])
        money = {
            "total": _money(ways, document["total"]),
            "lines": [_money(ways, line["price"]["total"]) for line in document["lines"]],
        }
        body = rendered("ordered.html", frame=pages.frame(ways), title=title, order=document, money=money)
    return _private(make_response(body))
