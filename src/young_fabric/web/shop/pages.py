"""Live pages of the shop, and the same pages from the draft as the proof."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from functools import lru_cache
from pathlib import Path
from typing import Any

from flask import Blueprint, Response, abort, current_app, make_response, redirect, render_template, request, url_for

from young_fabric.core.base.words import say
from young_fabric.core.display.surfaces import addressed_surface, data_surface, listed_surface
from young_fabric.core.nouns.built_in import ADDRESS
from young_fabric.core.nouns.definitions import Definitions, Shop
from young_fabric.core.pages.document import RenderDoc, from_json
from young_fabric.core.pages.json_ld import Offering, product_data
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service import plans, proofs
from young_fabric.service.actors import Right
from young_fabric.store.repos import fills, products, releases
from young_fabric.store.tables import LiveDocumentRow
from young_fabric.web.auth import PUBLIC, allow, sessions, work
from young_fabric.web.shop import contexts as c

live = Blueprint("shop", __name__, url_prefix="/shop", template_folder="templates")
proof = Blueprint("proof", __name__, url_prefix="/proof", template_folder="templates")
CARDS = proofs.CARDS
ON_HOME = 4
BUILT = Path(__file__).parents[1] / "static" / "built"


@lru_cache
def built(entry: str) -> dict[str, list[str]]:
    """Script and style addresses of a built entry, from the build's manifest."""
    manifest = json.loads((BUILT / "manifest.json").read_text())
    found = manifest[entry]
    return {
        "js": [f"/static/built/{found['file']}"],
        "css": [f"/static/built/{style}" for style in found.get("css", [])],
    }


def _frame(
    shop: Shop, defs: Definitions, counts: Mapping[str, int], draft: bool, watched: bool | None = None
) -> c.Frame:
    base = "/proof/type" if draft else "/shop/c"
    return c.Frame(
        shop,
        c.parts(None, defs.types, counts, base, not draft),
        "/proof/home" if draft else "/shop/",
        draft,
        draft if watched is None else watched,
    )


def _page_number() -> int:
    text = request.args.get("page", "1")
    return int(text) if text.isascii() and text.isdecimal() and len(text) <= 4 and int(text) > 0 else 1


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
        tops = [top for top in defs.types.values() if top.parent is None and counts.get(top.key)]
        keys = [top.key for top in tops]
        shown = releases.first_cards(session, listed_surface().code, keys, ON_HOME, defs.shop.collation)
        stock = _stock_of(session, [row for rows in shown.values() for row in rows])
        found = [
            c.HomeCollection(
                c.Link(top.name, f"/shop/c/{top.slug}", counts[top.key]),
                [_live_card(row, stock) for row in shown[top.key]],
            )
            for top in sorted(tops, key=lambda top: top.name)
        ]
    return render_template("home.html", frame=frame, title=defs.shop.name, collections=found)


def _stock_of(session: Any, rows: Sequence[LiveDocumentRow]) -> dict[int, int]:
    return products.stock_of(session, [int(row.subject_id) for row in rows])


def _live_card(row: LiveDocumentRow, stock: dict[int, int]) -> c.CardContext:
    sold_out = stock.get(int(row.subject_id), 1) <= 0
    return c.CardContext(from_json(row.document), f"/shop/p/{row.address}", sold_out)


@live.get("/c/<slug>")
@allow(PUBLIC)
def collection(slug: str) -> str | Response:
    """A listing of the cards of a type and all below it."""
    with sessions() as session:
        defs = plans.live_plans(session).defs
        counts = plans.live_counts(session)
        frame = _frame(defs.shop, defs, counts, draft=False)
        key = next((found.key for found in defs.types.values() if found.slug == slug), None)
        if key is None:
            return _lost(frame)
        offset = (_page_number() - 1) * CARDS
        rows, total = releases.cards(session, listed_surface().code, key, offset, CARDS, defs.shop.collation)
        stock = _stock_of(session, rows)
        context = _listing(frame, defs, key, [_live_card(row, stock) for row in rows], total, counts)
    return render_template("listing.html", frame=frame, title=context.title, page=context)


@live.get("/p/<slug>")
@allow(PUBLIC)
def product(slug: str) -> str | Response:
    """A product page."""
    with sessions() as session:
        defs = plans.live_plans(session).defs
        frame = _frame(defs.shop, defs, plans.live_counts(session), draft=False)
        rows = releases.documents_at(session, addressed_surface().code, slug)
        if not rows:
            return _lost(frame)
        return _live_page(frame, defs, rows, _stock_of(session, rows[:1]))


def _live_page(frame: c.Frame, defs: Definitions, rows: Sequence[LiveDocumentRow], stock: Mapping[int, int]) -> str:
    by_surface = {row.surface: row for row in rows}
    row = by_surface[addressed_surface().code]
    documents = {code: from_json(found.document) for code, found in by_surface.items()}
    under = row.under[0] if row.under else ""
    return _product_page(frame, defs, under, row.title, str(row.address), documents, stock.get(int(row.subject_id)))


def _product_page(
    frame: c.Frame,
    defs: Definitions,
    type_key: str,
    title: str,
    address: str,
    documents: Mapping[str, RenderDoc],
    stock: int | None,
) -> str:
    base = "/proof/type" if frame.proof else "/shop/c"
    root = current_app.extensions["shop_address"]
    sold_out = stock is not None and stock <= 0
    offering = Offering(defs.shop.currency, sold_out, f"{root}/shop/p/{address}", f"{root}/files")
    data = documents.get(data_surface().code)
    context = c.PageContext(
        frame,
        title,
        documents[addressed_surface().code],
        c.trail(type_key, defs.types, base, not frame.proof),
        stock,
        product_data(data, offering, defs.all_fields) if data is not None else {},
    )
    return render_template("product.html", frame=frame, title=title, page=context)


def _lost(frame: c.Frame) -> Response:
    title = say(frame.shop.locale, "lost_title")
    return make_response(render_template("missing.html", frame=frame, title=title), 404)


@live.get("/<path:rest>")
@allow(PUBLIC)
def anything(rest: str) -> Response:  # noqa: ARG001
    """The shop's own page for addresses where nothing is."""
    with sessions() as session:
        defs = plans.live_plans(session).defs
        return _lost(_frame(defs.shop, defs, plans.live_counts(session), draft=False))


@proof.get("/home")
@allow(Right.LOOK)
def proof_home() -> Response:
    """The first collection of the draft."""
    with work() as unit:
        defs = plans.draft(unit.session)
        tops = sorted((top for top in defs.types.values() if top.parent is None), key=lambda top: top.name)
    if not tops:
        abort(404)
    return redirect(url_for("proof.proof_type", key=tops[0].key))  # type: ignore[return-value]


@proof.get("/product/<id:number>")
@allow(Right.LOOK)
def proof_product(number: int) -> str:
    """A product page from the draft."""
    with work() as unit:
        found, documents = proofs.documents(unit, number)
        defs = plans.draft(unit.session)
        counts = c.below(fills.counts_by_type(unit.session), defs.types)
        frame = _frame(defs.shop, defs, counts, draft=True)
        address = str(found.values.get(ADDRESS.key, ""))
        return _product_page(frame, defs, found.type, found.title, address, documents, found.stock)


@proof.get("/type/<key>")
@allow(Right.LOOK)
def proof_type(key: str) -> str:
    """A listing from the draft."""
    with work() as unit:
        rows, total = proofs.cards(unit, key, (_page_number() - 1) * CARDS)
        defs = plans.draft(unit.session)
        counts = c.below(fills.counts_by_type(unit.session), defs.types)
        frame = _frame(defs.shop, defs, counts, draft=True)
        cards = [c.CardContext(doc, f"/proof/product/{found.id}", found.sold_out) for found, doc in rows]
        context = _listing(frame, defs, key, cards, total, counts)
    return render_template("listing.html", frame=frame, title=context.title, page=context)


@proof.get("/live/<id:number>")
@allow(Right.LOOK)
def proof_live(number: int) -> str | Response:
    """A product page as it is live, for comparing."""
    with work() as unit:
        unit.need(Right.LOOK)
        defs = plans.live_plans(unit.session).defs
        frame = _frame(defs.shop, defs, plans.live_counts(unit.session), draft=False, watched=True)
        rows = releases.documents_of(unit.session, PRODUCT.code, number)
        if not any(row.surface == addressed_surface().code for row in rows):
            title = say(frame.shop.locale, "unborn_title")
            return make_response(render_template("unborn.html", frame=frame, title=title), 200)
        return _live_page(frame, defs, rows, _stock_of(unit.session, rows[:1]))
