"""Live pages of the shop, and the same pages from the draft as the proof."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path

from flask import Blueprint, Response, abort, make_response, redirect, render_template, request, url_for

from young_fabric.core.definitions import Definitions, Shop
from young_fabric.core.document import RenderDoc, from_json
from young_fabric.service import plans, proofs
from young_fabric.service.actors import Right
from young_fabric.store.repos import products, releases, shop
from young_fabric.store.tables import LiveCardRow
from young_fabric.web.auth import PUBLIC, allow, sessions, work
from young_fabric.web.shop import contexts as c

live = Blueprint("shop", __name__, url_prefix="/shop", template_folder="templates")
proof = Blueprint("proof", __name__, url_prefix="/proof", template_folder="templates")
CARDS = 24
ON_HOME = 4
BUILT = Path(__file__).parents[1] / "static" / "built"


@lru_cache
def built(entry: str) -> dict[str, list[str]]:
    """Script and style addresses of a built entry, from the build's manifest."""
    manifest = json.loads((BUILT / "manifest.json").read_text())
    found = manifest[entry]
    return {"js": [f"/static/built/{found['file']}"], "css": [f"/static/built/{one}" for one in found.get("css", [])]}


def _frame(
    this: Shop, defs: Definitions, counts: Mapping[str, int], draft: bool, watched: bool | None = None
) -> c.Frame:
    base = "/proof/type" if draft else "/shop/c"
    return c.Frame(
        this,
        c.parts(None, defs.types, counts, base, not draft),
        "/proof/home" if draft else "/shop/",
        draft,
        draft if watched is None else watched,
    )


def _page_number() -> int:
    text = request.args.get("page", "1")
    return min(int(text), 10_000) if text.isdecimal() and int(text) > 0 else 1


def _listing(
    frame: c.Frame, defs: Definitions, key: str, cards: list[c.CardContext], total: int, counts: Mapping[str, int]
) -> c.ListingContext:
    base = "/proof/type" if frame.proof else "/shop/c"
    number = _page_number()
    path = request.path
    return c.ListingContext(
        frame,
        defs.types[key].name,
        c.trail(key, defs.types, base, not frame.proof)[:-1],
        c.parts(key, defs.types, counts, base, not frame.proof),
        cards,
        total,
        f"{path}?page={number - 1}" if number > 1 else None,
        f"{path}?page={number + 1}" if number * CARDS < total else None,
    )


@live.get("/")
@allow(PUBLIC)
def home() -> str:
    """The collections by type, each with its first cards."""
    with sessions() as session:
        defs = plans.live_plans(session).defs
        counts = plans.live_counts(session)
        frame = _frame(defs.shop, defs, counts, draft=False)
        tops = [one for one in defs.types.values() if one.parent is None and counts.get(one.key)]
        shown = releases.first_cards(session, [one.key for one in tops], ON_HOME)
        stock = products.stock_of(session, [row.product_id for rows in shown.values() for row in rows])
        found = [
            c.HomeCollection(
                c.Link(one.name, f"/shop/c/{one.slug}", counts[one.key]),
                [_live_card(row, stock) for row in shown[one.key]],
            )
            for one in sorted(tops, key=lambda one: one.name)
        ]
    return render_template("home.html", frame=frame, title=defs.shop.name, collections=found)


def _live_card(row: LiveCardRow, stock: dict[int, int]) -> c.CardContext:
    return c.CardContext(from_json(row.card), f"/shop/p/{row.slug}", stock.get(row.product_id, 1) <= 0)


@live.get("/c/<slug>")
@allow(PUBLIC)
def collection(slug: str) -> str | Response:
    """A listing of the cards of a type and all below it."""
    with sessions() as session:
        defs = plans.live_plans(session).defs
        key = next((one.key for one in defs.types.values() if one.slug == slug), None)
        if key is None:
            return _lost(session_frame(defs, plans.live_counts(session)))
        rows, total = releases.cards(session, key, (_page_number() - 1) * CARDS, CARDS)
        stock = products.stock_of(session, [row.product_id for row in rows])
        counts = plans.live_counts(session)
        frame = session_frame(defs, counts)
        context = _listing(frame, defs, key, [_live_card(row, stock) for row in rows], total, counts)
    return render_template("listing.html", frame=frame, title=context.title, page=context)


def session_frame(defs: Definitions, counts: Mapping[str, int]) -> c.Frame:
    """The frame of a live page."""
    return _frame(defs.shop, defs, counts, draft=False)


@live.get("/p/<slug>")
@allow(PUBLIC)
def product(slug: str) -> str | Response:
    """A product page."""
    with sessions() as session:
        defs = plans.live_plans(session).defs
        frame = session_frame(defs, plans.live_counts(session))
        row = releases.page_of(session, slug)
        if row is None:
            return _lost(frame)
        stock = products.stock_of(session, [row.product_id]).get(row.product_id)
        return _product_page(frame, defs, row.type_key, row.title, from_json(row.page), from_json(row.facts), stock)


def _product_page(
    frame: c.Frame, defs: Definitions, type_key: str, title: str, page: RenderDoc, facts: RenderDoc, stock: int | None
) -> str:
    base = "/proof/type" if frame.proof else "/shop/c"
    root = request.url_root.rstrip("/")
    context = c.PageContext(
        frame,
        title,
        page,
        c.trail(type_key, defs.types, base, not frame.proof),
        stock,
        c.json_ld(facts, defs.shop.currency, stock, request.base_url, f"{root}/files"),
    )
    return render_template("product.html", frame=frame, title=title, page=context)


def _lost(frame: c.Frame) -> Response:
    return make_response(render_template("missing.html", frame=frame, title="Not here"), 404)


@live.get("/<path:rest>")
@allow(PUBLIC)
def anything(rest: str) -> Response:  # noqa: ARG001
    """The shop's own page for addresses where nothing is."""
    with sessions() as session:
        defs = plans.live_plans(session).defs
        return _lost(session_frame(defs, plans.live_counts(session)))


@proof.get("/home")
@allow(Right.LOOK)
def proof_home() -> Response:
    """The first collection of the draft."""
    with work() as unit:
        defs = plans.draft(unit.session)
        tops = sorted((one for one in defs.types.values() if one.parent is None), key=lambda one: one.name)
    if not tops:
        abort(404)
    return redirect(url_for("proof.proof_type", key=tops[0].key))  # type: ignore[return-value]


@proof.get("/product/<int:number>")
@allow(Right.LOOK)
def proof_product(number: int) -> str:
    """A product page from the draft."""
    with work() as unit:
        found = proofs.page(unit, number)
        defs = plans.draft(unit.session)
        counts = c.below(products.counts_by_type(unit.session), defs.types)
        frame = _frame(defs.shop, defs, counts, draft=True)
        this = found.product
        return _product_page(frame, defs, this.type, this.title, found.page, found.facts, this.stock)


@proof.get("/type/<key>")
@allow(Right.LOOK)
def proof_type(key: str) -> str:
    """A listing from the draft."""
    with work() as unit:
        rows, total = proofs.cards(unit, key, (_page_number() - 1) * CARDS)
        defs = plans.draft(unit.session)
        counts = c.below(products.counts_by_type(unit.session), defs.types)
        frame = _frame(defs.shop, defs, counts, draft=True)
        cards = [
            c.CardContext(doc, f"/proof/product/{one.id}", one.stock is not None and one.stock <= 0)
            for one, doc in rows
        ]
        context = _listing(frame, defs, key, cards, total, counts)
    return render_template("listing.html", frame=frame, title=context.title, page=context)


@proof.get("/live/<int:number>")
@allow(Right.LOOK)
def proof_live(number: int) -> str | Response:
    """A product page as it is live, for comparing."""
    with work() as unit:
        unit.need(Right.LOOK)
        defs = plans.live_plans(unit.session).defs
        frame = _frame(shop.shop_of(unit.session)[0], defs, plans.live_counts(unit.session), draft=False, watched=True)
        row = releases.page_of_product(unit.session, number)
        if row is None:
            return make_response(render_template("unborn.html", frame=frame, title="Not live"), 200)
        stock = products.stock_of(unit.session, [number]).get(number)
        return _product_page(frame, defs, row.type_key, row.title, from_json(row.page), from_json(row.facts), stock)
