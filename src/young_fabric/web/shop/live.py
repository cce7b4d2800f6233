"""Live pages of the shop."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime

from flask import Blueprint, Response, make_response, redirect, request
from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.wording.words import say
from young_fabric.core.display.surfaces import addressed_surface, compared_surface, listed_surface, surface_at
from young_fabric.core.nouns.content import records
from young_fabric.core.pages.document import RenderDoc, from_json
from young_fabric.core.pages.listed import Listing, of_record, read_listing
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.pages import proofs, relating
from young_fabric.service.planning import plans
from young_fabric.service.sales import selling
from young_fabric.service.sales.selling import Selling
from young_fabric.service.sales.sold_cards import home_keys
from young_fabric.store.repos import listings, live_pages, releases, shop
from young_fabric.store.repos.live_pages import LiveDocument, LivePage
from young_fabric.store.repos.shop import LiveState
from young_fabric.store.tables import LiveDocumentRow
from young_fabric.web.auth import PUBLIC, allow, snapshots
from young_fabric.web.shop import contexts as c
from young_fabric.web.shop import pages
from young_fabric.web.shop.block_html import rendered
from young_fabric.web.shop.choosing import chooser_in
from young_fabric.web.shop.kept import At, Made, kept, kept_of
from young_fabric.web.shop.surface_pages import surface_page, surfaces_for

live = Blueprint("shop", __name__, url_prefix="/shop", template_folder="templates")
ON_HOME = 4
MOST_SAVED = 60
MOST_QUERY = 300


def ways_of(session: Session) -> c.Ways:
    """The ways around the shop as it is live, worked out once a release."""

    def make() -> c.Ways:
        counts = {read_listing(text): count for text, count in plans.live_counts(session).items()}
        return c.Ways(plans.live_plans(session).defs, counts, proof=False)

    found: c.Ways = plans.of_release(session, "ways", make)
    return found


def _cards(session: Session, ways: c.Ways, listing: Listing, offset: int, limit: int) -> list[LiveDocumentRow]:
    known, collation = plans.live_parts(session, str(listing)), ways.defs.shop.collation
    return listings.cards(session, listed_surface().code, str(listing), known, offset, limit, collation)


def _home_rows(session: Session, ways: c.Ways) -> dict[Listing, list[LiveDocumentRow]]:
    """The first live cards of each top listing, as the home page has them."""
    collation = ways.defs.shop.collation
    first = {listing: listings.first_products(session, str(listing), 2 * ON_HOME, collation) for listing in ways.tops()}
    keys = home_keys(session, sorted({number for ids in first.values() for number in ids}))
    wanted = {
        listing: [(str(number), card) for number in ids for card in keys.get(number, ())][:ON_HOME]
        for listing, ids in first.items()
    }
    found = releases.cards_on(session, listed_surface().code, [key for of in wanted.values() for key in of])
    return {listing: [found[key] for key in of if key in found] for listing, of in wanted.items()}


@dataclass(frozen=True)
class LiveCards:
    """Cards of live documents, and what decides besides them how they stand: the products, the option sets and the stock."""

    cards: list[c.CardContext]
    ids: Sequence[int]
    sets: Sequence[str]
    state: LiveState


def cards_of(session: Session, ways: c.Ways, rows: Sequence[LiveDocumentRow]) -> LiveCards:
    """Cards with what can be chosen of their products."""
    documents = [from_json(row.document, row.format) for row in rows]
    wanted = {doc.product for doc in documents if chooser_in(doc) is not None}
    wanted |= selling.with_more(session, [doc.product for doc in documents if doc.product not in wanted])
    ids = [int(row.subject_id) for row in rows]
    goods = selling.live_goods(session, sorted(wanted), ids)
    made = [
        _card(ways, row, doc, goods.state, goods.sold.get(doc.product))
        for doc, row in zip(documents, rows, strict=True)
    ]
    return LiveCards(made, ids, goods.sets, goods.state)


def _card(ways: c.Ways, row: LiveDocumentRow, doc: RenderDoc, state: LiveState, sold: Selling | None) -> c.CardContext:
    """A card; where nothing can be chosen of its product, its document, its stock and the shop's own words decide all of it."""
    item = _item(ways, row, state)
    card = pages.card_of(doc, item, sold, row.card)
    return card if sold is not None else replace(card, mark=(row.id, item.stock, ways.defs.shop))


def _item(ways: c.Ways, row: LiveDocumentRow | LiveDocument, state: LiveState) -> c.Item:
    return pages.item_of(ways, row.subject_id, row.title, row.address, state.amount(row.subject_id, None))


@dataclass(frozen=True)
class LiveProduct:
    """A product as it is live, made from its documents with those beside it on a surface; `ids` are all it shows the stock of."""

    shown: c.ProductShown
    ids: Sequence[int]
    state: LiveState
    sets: Sequence[str] = ()


def live_product(
    session: Session,
    ways: c.Ways,
    surface: str,
    rows: Sequence[LiveDocument | LiveDocumentRow],
    have: LivePage | None = None,
) -> LiveProduct:
    """A product by its live documents, of which one is on a surface; `have` is what was read of it with them."""
    by_surface = {row.surface: row for row in reversed(rows)}
    row = by_surface[surface]
    documents = {code: from_json(found.document, found.format) for code, found in by_surface.items()}
    found = relating.live_related(session, ways.defs, documents[surface])
    others = [other for rows_of in found.values() for other in rows_of]
    beside, sets = _beside(session, ways, found)
    number = int(row.subject_id)
    goods = selling.live_goods(session, [number], [int(other.subject_id) for other in others], have)
    sold = goods.sold.get(number)
    ids, among, state = [number, *(int(other.subject_id) for other in others)], goods.sets, goods.state
    if not sets.issubset(among):
        among = tuple(sorted({*sets, *among}))
        state = shop.live_state(session, ids, among)
    under = row.under[0] if row.under else ""
    shown = pages.shown_as(session, _item(ways, row, state), under, documents, beside, surface, sold)
    return LiveProduct(shown, ids, state, among)


def past_product(session: Session, ways: c.Ways, surface: str, rows: Sequence[LiveDocumentRow]) -> c.ProductShown:
    """A product by the documents of an earlier release, just as they stand: nothing can be chosen of it, and nothing is counted."""
    documents = {row.surface: from_json(row.document, row.format) for row in reversed(rows)}
    row = next(row for row in rows if row.surface == surface)
    beside, _ = _beside(session, ways, relating.live_related(session, ways.defs, documents[surface]))
    item = pages.item_of(ways, row.subject_id, row.title, row.address, None)
    # A type that was there then may have gone since.
    under = next((key for key in row.under if key in ways.defs.types), "")
    return c.ProductShown(item, under, documents, beside)


def _beside(
    session: Session, ways: c.Ways, found: Mapping[str, Sequence[LiveDocumentRow]]
) -> tuple[dict[str, list[c.CardContext]], set[str]]:
    """The cards of each block, and the option sets their products are offered."""
    made = {block: cards_of(session, ways, rows) for block, rows in found.items()}
    return {block: cards.cards for block, cards in made.items()}, {key for cards in made.values() for key in cards.sets}


@live.get("/")
@allow(PUBLIC)
def home() -> Response:
    """The listings of top types and collections, each with its first cards."""

    def make(session: Session) -> Made:
        ways = ways_of(session)
        shown = _home_rows(session, ways)
        every = [row for rows in shown.values() for row in rows]
        made = cards_of(session, ways, every)
        cards = dict(zip(map(id, every), made.cards, strict=True))
        shelves = [
            c.HomeListing(ways.link(listing), [cards[id(row)] for row in rows])
            for listing, rows in shown.items()
            if rows
        ]
        name = ways.defs.shop.name
        body = rendered("home.html", frame=pages.frame(ways), title=name, shelves=shelves)
        return Made(body, made.ids, made.state, made.sets)

    return kept(At("/"), make)


@live.get("/c/<slug>")
@allow(PUBLIC)
def listing(slug: str) -> Response:
    """A listing of the cards of a type and all below it, or of a collection."""
    number = pages.page_number()

    def make(session: Session) -> Made:
        ways = ways_of(session)
        found = ways.at(slug)
        if found is None:
            return Made(pages.lost(ways), [], None)
        rows = _cards(session, ways, found, (number - 1) * pages.CARDS, pages.CARDS)
        made = cards_of(session, ways, rows)
        body = listing_of(session, ways, found, made.cards, ways.counts.get(found, 0))
        return Made(body, made.ids, made.state, made.sets)

    return kept(At(f"/c/{slug}?{number}"), make)


def listing_of(
    session: Session, ways: c.Ways, found: Listing, cards: list[c.CardContext], total: int, watched: bool | None = None
) -> str:
    """A listing with some of its cards: of a record its page."""
    if found.noun == records.NOUN.code:
        doc = proofs.record_document(session, plans.live_plans(session), found.key, live=True)
        return pages.record_page(ways, found, cards, total, doc, watched)
    return pages.listing_page(ways, found, cards, total, proofs.heading(session, ways.defs, found, live=True))


def record_listing(session: Session, ways: c.Ways, key: str) -> str | None:
    """The page of a record as it is live, watched by the studio; None when it has none."""
    found = of_record(key)
    if key not in ways.defs.things[found.noun]:
        return None
    rows = _cards(session, ways, found, (pages.page_number() - 1) * pages.CARDS, pages.CARDS)
    cards = cards_of(session, ways, rows).cards
    return listing_of(session, ways, found, cards, ways.counts.get(found, 0), watched=True)


@live.get("/<path>/<slug>")
@allow(PUBLIC)
def product(path: str, slug: str) -> Response:
    """A product on a surface whose pages stand in the shop: its own page, a quick look."""
    surface = surface_at(path)
    if surface is None:
        return anything(f"{path}/{slug}")

    def make(session: Session, page: LivePage) -> Made:
        ways = _ways_with(session, page)
        if not page.documents and releases.documents_at_each(session, addressed_surface().code, [slug]):
            # The release was made before there was such a surface: the page itself is what there is.
            return Made(redirect(f"/shop/{addressed_surface().path}/{slug}", 303), [], None)  # type: ignore[arg-type]
        if not page.documents:
            return Made(pages.lost(ways), [], None)
        found = live_product(session, ways, surface.code, page.documents, page)
        return Made(surface_page(ways, surface, found.shown), found.ids, found.state, found.sets)

    wanted = surfaces_for(surface)
    return kept_of(_chosen_at(f"/{path}/{slug}"), lambda connection: live_pages.at(connection, wanted, slug), make)


def _ways_with(session: Session, page: LivePage) -> c.Ways:
    """The ways around the shop, its row as it came with a page."""
    if page.shop is not None:
        shop.keep(session, page.shop)
    return ways_of(session)


def _chosen_at(path: str) -> At | None:
    """What a page is kept by: its address, what is chosen there, and the day, as days can be chosen from today on; None for what is too
    long to be asked for again."""
    query = request.query_string.decode("ascii", "replace")
    return At(path, str(datetime.now(UTC).date()), query) if len(query) <= MOST_QUERY else None


@live.get("/compare")
@allow(PUBLIC)
def compare() -> str:
    """Up to four products side by side, by their addresses."""
    names = pages.compared_names()
    # Not kept: there are as many comparisons as anyone writes addresses.
    with snapshots() as session:
        ways = ways_of(session)
        found = releases.documents_at_each(session, compared_surface().code, names)
        rows = [found[name] for name in names if name in found]
        if names and not rows and releases.documents_at_each(session, addressed_surface().code, names):
            raise Refusal("not_made", "Nothing can be compared until the shop is released anew")
        ids = [int(row.subject_id) for row in rows]
        sold, state, _ = selling.live_goods(session, sorted(selling.with_more(session, ids)), ids)
        documents = [from_json(row.document, row.format) for row in rows]
        shown = [
            (_item(ways, row, state), pages.as_priced(doc, sold.get(doc.product)))
            for row, doc in zip(rows, documents, strict=True)
        ]
        return pages.compare_page(ways, shown)


@live.get("/saved")
@allow(PUBLIC)
def saved() -> str:
    """What a shopper saved: kept in the browser, so put in by its script."""
    with snapshots() as session:
        ways = ways_of(session)
        title = say(ways.defs.shop.locale, "saved_page")
        return rendered("saved.html", frame=pages.frame(ways), title=title)


@live.get("/cards")
@allow(PUBLIC)
def cards() -> str:
    """Cards of products by their numbers, for what is kept in the browser; those no longer live are left out."""
    asked = [text for text in request.args.get("ids", "").split(",") if text.isascii() and text.isdecimal()]
    ids = [text for text in dict.fromkeys(asked) if len(text) < 10][:MOST_SAVED]
    with snapshots() as session:
        ways = ways_of(session)
        found = releases.documents_on(session, listed_surface().code, PRODUCT.code, ids)
        rows = [found[text] for text in ids if text in found]
        shown = cards_of(session, ways, rows).cards
        return rendered("cards.html", frame=pages.frame(ways), cards=shown)


def refusal_page(refusal: Refusal, status: int) -> Response:
    """A page of the shop, or of the proof, that says what is wrong and leads on."""
    with snapshots() as session:
        ways = ways_of(session)
        title = say(ways.defs.shop.locale, "refused_title")
        body = rendered("refused.html", frame=pages.frame(ways), title=title, refusal=refusal)
    response = make_response(body, status)
    response.headers["Cache-Control"] = "no-store"
    return response


@live.get("/<path:rest>")
@allow(PUBLIC)
def anything(rest: str) -> Response:  # noqa: ARG001
    """The shop's own page for addresses where nothing is."""
    with snapshots() as session:
        return pages.lost(ways_of(session))
