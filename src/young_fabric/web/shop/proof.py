"""The same pages from the draft, and the live ones to compare them with."""

from __future__ import annotations

import json

from flask import Blueprint, Response, abort, make_response, redirect, render_template, request
from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.words import say
from young_fabric.core.display.surfaces import addressed_surface, quick_surface
from young_fabric.core.listing.listings import Listing, of_collection
from young_fabric.core.nouns import collections, product_types, records
from young_fabric.core.nouns.built_in import ADDRESS
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service import plans, proofs
from young_fabric.service.actors import Right
from young_fabric.store.repos import fills, releases
from young_fabric.web.auth import allow, work
from young_fabric.web.shop import contexts as c
from young_fabric.web.shop import live, pages

proof = Blueprint("proof", __name__, url_prefix="/proof", template_folder="templates")


def _ways(session: Session) -> c.Ways:
    defs = plans.draft(session)
    counts = c.below(fills.counts_by_type(session), defs.types)
    counts |= {of_collection(key): count for key, count in fills.counts_by_collection(session).items()}
    return c.Ways(defs, counts, proof=True)


@proof.get("/home")
@allow(Right.LOOK)
def proof_home() -> Response:
    """The first listing of the draft."""
    with work() as unit:
        ways = _ways(unit.session)
        tops = ways.tops()
    if not tops:
        abort(404)
    return redirect(ways.link(tops[0]).href)  # type: ignore[return-value]


@proof.get("/product/<id:number>")
@allow(Right.LOOK)
def proof_product(number: int) -> str:
    """A product page from the draft."""
    with work() as unit:
        found, documents = proofs.documents(unit, number)
        ways = _ways(unit.session)
        return pages.product_page(ways, found.type, _item(ways, found), documents)


def _item(ways: c.Ways, product: Product) -> c.Item:
    return pages.item_of(ways, product.id, product.title, str(product.values.get(ADDRESS.key, "")), product.stock)


@proof.get("/quick/<id:number>")
@allow(Right.LOOK)
def proof_quick(number: int) -> str:
    """A quick look from the draft."""
    with work() as unit:
        found, documents = proofs.documents(unit, number)
        ways = _ways(unit.session)
        return pages.quick_page(ways, _item(ways, found), documents[quick_surface().code])


@proof.get("/compare")
@allow(Right.LOOK)
def proof_compare() -> str:
    """Products side by side from the draft, by their numbers."""
    with work() as unit:
        ways = _ways(unit.session)
        ids = [int(name) for name in pages.compared_names() if name.isascii() and name.isdecimal() and len(name) < 10]
        found = proofs.compared(unit, ids)
        return pages.compare_page(ways, [(_item(ways, product), doc) for product, doc in found])


@proof.get("/type/<key>")
@allow(Right.LOOK)
def proof_type(key: str) -> str:
    """The listing of a type from the draft."""
    return _listing(Listing(product_types.NOUN.code, key))


@proof.get("/collection/<key>")
@allow(Right.LOOK)
def proof_collection(key: str) -> str:
    """The listing of a collection from the draft."""
    return _listing(Listing(collections.NOUN.code, key))


@proof.get("/record/<key>")
@allow(Right.LOOK)
def proof_record(key: str) -> str:
    """The page of a record from the draft."""
    return _listing(Listing(records.NOUN.code, key))


def _listing(listing: Listing) -> str:
    with work() as unit:
        rows, total = proofs.cards(unit, listing, (pages.page_number() - 1) * pages.CARDS)
        ways = _ways(unit.session)
        cards = [c.CardContext(doc, _item(ways, found), found.sold_out) for found, doc in rows]
        heading = proofs.heading(unit.session, ways.defs, listing)
        return pages.listing_page(ways, listing, cards, total, heading)


@proof.get("/surface/<code>/<id:number>")
@allow(Right.LOOK)
def proof_surface(code: str, number: int) -> str:
    """A product on any surface from the draft, or with what is tried: `layout`, or `edits` (JSON) of the layout `edited`."""
    surface = proofs.need_surface(code)
    with work() as unit:
        found, documents = proofs.documents(unit, number, _trying())
        ways = _ways(unit.session)
        return pages.surface_page(ways, surface, found.type, _item(ways, found), documents)


def _trying() -> proofs.Trying:
    """What the proof is asked to try."""
    try:
        edits = json.loads(request.args.get("edits", "[]"))
    except ValueError:
        edits = None
    if not isinstance(edits, list) or not all(isinstance(edit, dict) for edit in edits):
        raise Refusal("edit", "The edits are no list of objects", ("edits",), "Send them in the shape of the API")
    return proofs.Trying(request.args.get("layout"), request.args.get("edited"), edits)


@proof.get("/live/<id:number>")
@allow(Right.LOOK)
def proof_live(number: int) -> str | Response:
    """A product page as it is live, for comparing."""
    return _live_on(addressed_surface().code, number)


@proof.get("/live/<code>/<id:number>")
@allow(Right.LOOK)
def proof_live_surface(code: str, number: int) -> str | Response:
    """A product on any surface as it is live, for comparing."""
    return _live_on(proofs.need_surface(code).code, number)


def _live_on(code: str, number: int) -> str | Response:
    with work() as unit:
        unit.need(Right.LOOK)
        ways = live.ways_of(unit.session)
        rows = releases.documents_of(unit.session, PRODUCT.code, number)
        if not any(row.surface == code for row in rows):
            title = say(ways.defs.shop.locale, "unborn_title")
            return make_response(render_template("unborn.html", frame=pages.frame(ways, True), title=title), 200)
        return live.surface_of(ways, code, rows, live.stock_of(unit.session, rows[:1]))
