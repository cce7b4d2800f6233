"""The same pages from the draft, and the live ones to compare them with."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace

from flask import Blueprint, Response, abort, make_response, redirect, request
from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.words import say
from young_fabric.core.display.surfaces import addressed_surface
from young_fabric.core.listing.fan_out import WHOLE
from young_fabric.core.nouns.content import collections, records
from young_fabric.core.nouns.fields.built_in import ADDRESS
from young_fabric.core.nouns.types import product_types
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.pages.listed import Listing, of_collection
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.acting.actors import Right, Work
from young_fabric.service.pages import proofs, relating
from young_fabric.service.pages.proofs import DraftCard
from young_fabric.service.planning import plans
from young_fabric.service.sales import selling
from young_fabric.service.sales.selling import Selling
from young_fabric.service.sales.sold_cards import own_keys
from young_fabric.store.repos import fills, past, releases
from young_fabric.web.auth import allow, work
from young_fabric.web.shop import contexts as c
from young_fabric.web.shop import live, pages
from young_fabric.web.shop.block_html import rendered
from young_fabric.web.shop.surface_pages import surface_page

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
        ways = _ways(unit.session)
        surface = addressed_surface()
        return surface_page(ways, surface, _shown(unit, ways, surface.code, number))


def _shown(
    unit: Work, ways: c.Ways, surface: str, number: int, trying: proofs.Trying = proofs.AS_IT_IS
) -> c.ProductShown:
    """A product of the draft with those beside it on a surface."""
    product, documents = proofs.documents(unit, number, trying)
    found = relating.draft_related(unit, product, documents[surface])
    beside = {block: _cards(unit, ways, cards) for block, cards in found.items()}
    made = proofs.tried_plans(unit, trying)
    sold = selling.draft_selling(unit, made, [product], trying).get(product.id)
    return pages.shown_as(unit.session, _item(ways, product), product.type, documents, beside, surface, sold)


def _cards(unit: Work, ways: c.Ways, found: Sequence[tuple[Product, RenderDoc]]) -> list[c.CardContext]:
    """Cards of the draft, with what can be chosen of their products."""
    return _draft_cards(unit, ways, [DraftCard(product, WHOLE, product.title, doc) for product, doc in found])


def _draft_cards(
    unit: Work, ways: c.Ways, found: Sequence[DraftCard], trying: proofs.Trying = proofs.AS_IT_IS
) -> list[c.CardContext]:
    """The same of products that have several."""
    sold = _sold(unit, list({card.product.id: card.product for card in found}.values()), trying)
    return [
        pages.card_of(
            card.doc, replace(_item(ways, card.product), title=card.title), sold.get(card.product.id), card.key
        )
        for card in found
    ]


def _sold(unit: Work, found: Sequence[Product], trying: proofs.Trying = proofs.AS_IT_IS) -> dict[int, Selling]:
    """Products of the draft that are offered any options, as they are sold."""
    wanted = selling.optioned(unit, found)
    return selling.draft_selling(unit, proofs.tried_plans(unit, trying), wanted, trying) if wanted else {}


def _item(ways: c.Ways, product: Product) -> c.Item:
    return pages.item_of(ways, product.id, product.title, str(product.values.get(ADDRESS.key, "")), product.stock)


@proof.get("/compare")
@allow(Right.LOOK)
def proof_compare() -> str:
    """Products side by side from the draft, by their numbers."""
    with work() as unit:
        ways = _ways(unit.session)
        ids = [int(name) for name in pages.compared_names() if name.isascii() and name.isdecimal() and len(name) < 10]
        found = proofs.compared(unit, ids)
        sold = _sold(unit, [product for product, _ in found])
        shown = [(_item(ways, product), pages.as_priced(doc, sold.get(product.id))) for product, doc in found]
        return pages.compare_page(ways, shown)


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
    """The page of a record from the draft, or with what is tried, as on any surface."""
    listing = Listing(records.NOUN.code, key)
    with work() as unit:
        doc = proofs.tried_record(unit, key, _trying())
        rows, total = proofs.cards(unit, listing, (pages.page_number() - 1) * pages.CARDS)
        ways = _ways(unit.session)
        cards = _draft_cards(unit, ways, rows)
        return pages.record_page(ways, listing, cards, total, doc)


@proof.get("/live/record/<key>")
@allow(Right.LOOK)
def proof_live_record(key: str) -> str | Response:
    """The page of a record as it is live, for comparing."""
    with work() as unit:
        unit.need(Right.LOOK)
        ways = live.ways_of(unit.session)
        return live.record_listing(unit.session, ways, key) or _unborn(ways)


def _listing(listing: Listing) -> str:
    with work() as unit:
        rows, total = proofs.cards(unit, listing, (pages.page_number() - 1) * pages.CARDS)
        ways = _ways(unit.session)
        cards = _draft_cards(unit, ways, rows)
        heading = proofs.heading(unit.session, ways.defs, listing)
        return pages.listing_page(ways, listing, cards, total, heading)


@proof.get("/surface/<code>/<id:number>")
@allow(Right.LOOK)
def proof_surface(code: str, number: int) -> str:
    """A product on any surface from the draft, or with what is tried: `layout`, or `edits` (JSON) of the layout `edited`."""
    surface = proofs.need_product_surface(code)
    with work() as unit:
        ways, trying = _ways(unit.session), _trying()
        shown = _shown(unit, ways, surface.code, number, trying)
        if surface.listed:
            found = proofs.cards_of_product(unit, proofs.need_product(unit, number), trying)
            shown = replace(shown, cards=_draft_cards(unit, ways, found, trying))
        return surface_page(ways, surface, shown)


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
    return _live_on(proofs.need_product_surface(code).code, number)


@proof.get("/at/<id:release>/<code>/<id:number>")
@allow(Right.LOOK)
def proof_at(release: int, code: str, number: int) -> str | Response:
    """A product on any surface as it was with a release, but for what can be chosen of it, and what stands beside it."""
    surface = proofs.need_product_surface(code)
    with work() as unit:
        unit.need(Right.LOOK)
        ways = live.ways_of(unit.session)
        rows = past.documents_at(unit.session, PRODUCT.code, number, release)
        if not any(row.surface == surface.code for row in rows):
            return _unborn(ways)
        shown = live.past_product(unit.session, ways, surface.code, rows)
        return surface_page(ways, surface, shown, watched=True)


def _live_on(code: str, number: int) -> str | Response:
    with work() as unit:
        unit.need(Right.LOOK)
        ways = live.ways_of(unit.session)
        rows = releases.documents_of(unit.session, PRODUCT.code, number)
        if not any(row.surface == code for row in rows):
            return _unborn(ways)
        shown = live.live_product(unit.session, ways, code, rows).shown
        surface = proofs.need_product_surface(code)
        if surface.listed:
            own = {row.card: row for row in rows if row.surface == code}
            order = [key for key in own_keys(unit.session, number) if key in own] or list(own)
            shown = replace(shown, cards=live.cards_of(unit.session, ways, [own[key] for key in order]).cards)
        return surface_page(ways, surface, shown, watched=True)


def _unborn(ways: c.Ways) -> Response:
    """What stands for a page that is not live yet."""
    title = say(ways.defs.shop.locale, "unborn_title")
    return make_response(rendered("unborn.html", frame=pages.frame(ways, True), title=title), 200)
