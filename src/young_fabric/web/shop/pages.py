"""What live pages and the proof share: the frame, listings and product pages, made from render documents alone."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import UTC, datetime
from functools import lru_cache
from pathlib import Path
from typing import Any
from urllib.parse import urlencode

from flask import Response, current_app, g, make_response, request
from markupsafe import Markup
from sqlalchemy.orm import Session

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.locales import show_number
from young_fabric.core.base.wording.words import say, tell
from young_fabric.core.display.surfaces import SURFACES, data_surface
from young_fabric.core.interchange.product_group import VariantData, product_group
from young_fabric.core.listing.comparing import MOST_COMPARED, compare
from young_fabric.core.listing.fan_out import WHOLE
from young_fabric.core.nouns.types import product_types
from young_fabric.core.options.choosing import read_asked
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.pages.headings import Heading
from young_fabric.core.pages.json_ld import Offering, product_data
from young_fabric.core.pages.listed import Listing
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service.pages import proofs
from young_fabric.service.sales.selling import Chosen, Selling, choose, with_problem
from young_fabric.service.sales.sent_files import with_files
from young_fabric.service.sales.sold_cards import SoldCard
from young_fabric.web.shop import contexts as c
from young_fabric.web.shop.block_html import rendered
from young_fabric.web.shop.choosing import card_swatches, choosing

CARDS = proofs.CARDS
QUANTITY, PRODUCT_NUMBER, OPTIONS = ".quantity", ".product", ".options"
"""What forms call how many, and of which product; no option has such a key."""
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


def way(noun: str, item: str, address: str) -> str:
    """Where the page of a thing is that a page refers to: in the proof when that page is a proof."""
    if g.get("proof"):
        return f"/proof/{c.PROOFS[noun]}/{item}"
    return f"/shop/{'p' if noun == PRODUCT.code else 'c'}/{address}"


def frame(ways: c.Ways, watched: bool | None = None) -> c.Frame:
    """What every page has."""
    g.proof, g.locale = ways.proof, ways.defs.shop.locale
    home = "/proof/home" if ways.proof else "/shop/"
    looks_on = ways.proof if watched is None else watched
    around = ways.around.get(looks_on)
    if around is None:
        around = ways.around[looks_on] = _around(ways, home, looks_on)
    return c.Frame(ways.defs.shop, home, ways.proof, around)


def _around(ways: c.Ways, home: str, watched: bool) -> c.Around:
    nav = [ways.link(listing) for listing in ways.tops()]
    given = {"shop": ways.defs.shop, "nav": nav, "home": home, "proof": ways.proof, "watched": watched}
    return c.Around(*[Markup(rendered(f"_{part}.html", **given)) for part in c.Around._fields])  # noqa: S704


def shop_words(key: str, count: int | None = None, **values: object) -> str:
    """The shop's fixed words in its language, for templates that are given no frame."""
    return say(str(g.get("locale", "en")), key, count, **values)


def shop_number(number: int) -> str:
    """A whole number as the shop's language writes it."""
    return show_number(str(number), str(g.get("locale", "en")))


def shop_refusal(refusal: Refusal) -> str:
    """What shoppers read of what hinders them."""
    return tell(str(g.get("locale", "en")), refusal)


def item_of(ways: c.Ways, product_id: int | str, title: str, slug: str | None, stock: int | None) -> c.Item:
    """A product as pages lead to it."""
    return c.Item(int(product_id), title, slug or "", stock, current_app.extensions["shop_address"], ways.proof)


def as_priced(doc: RenderDoc, sold: Selling | None) -> RenderDoc:
    """A document as it is at the price of what is left."""
    return sold.document(doc.surface) if sold is not None and sold.repriced else doc


def card_of(doc: RenderDoc, item: c.Item, sold: Selling | None = None, key: str = WHOLE) -> c.CardContext:
    """A card of a product by its key and its document, with what it is sold as where something can be chosen of it."""
    if sold is None:
        return c.CardContext(doc, item, item.stock is not None and item.stock <= 0)
    card = SoldCard(sold, key, item.title)
    doc = card.document(doc)
    swatches = card_swatches(sold, doc, item.href, card.values, card.variants)
    led = replace(item, choice=query_of(card.choice))
    return c.CardContext(doc, led, card.sold_out, swatches, bool(sold.goods.offer.options))


def shown_as(
    session: Session,
    item: c.Item,
    type_key: str,
    documents: Mapping[str, RenderDoc],
    beside: c.Beside,
    surface: str,
    found: Selling | None,
) -> c.ProductShown:
    """A product as the address, or the form that was sent, has it chosen, on a surface."""
    if found is None:
        return c.ProductShown(item, type_key, documents, beside)
    chosen, tokens = asked_of(session, found)
    if found.repriced or chosen.product is not found.product:
        documents = {**documents, surface: chosen.document(surface)}
    href = item.on(SURFACES[surface])
    shown = choosing(chosen, documents[surface], href, tokens, sent="wrong" in g)
    left = chosen.quote.available if shown.whole else (0 if shown.sold_out else None)
    return c.ProductShown(replace(item, stock=left), type_key, documents, beside, shown)


def asked_of(session: Session, found: Selling) -> tuple[Chosen, Mapping[str, Any]]:
    """What a request asks of a product, and what was sent with it as it was; of a form that was refused what is wrong with it too."""
    sent = request.args.to_dict(flat=False)
    asked: Mapping[str, Any] = g.get("asked") or read_asked(found.goods.offer, sent)
    quantity = request.form.get(QUANTITY, (sent.get(QUANTITY) or ["1"])[0])
    count = int(quantity) if quantity.isascii() and quantity.isdecimal() and len(quantity) <= 4 else 1
    given = with_files(session, found.goods.offer, asked)
    chosen = choose(found, given, max(count, 1), datetime.now(UTC).date())
    known = {(problem.option, problem.refusal.code) for problem in chosen.quote.problems}
    for problem in g.get("wrong", ()):
        if (problem.option, problem.refusal.code) not in known:
            chosen = with_problem(chosen, problem)
    return chosen, asked


def query_of(chosen: Sequence[tuple[str, str]]) -> str:
    """What is chosen as the query of an address, "" for nothing."""
    return f"?{urlencode(chosen)}" if chosen else ""


def json_ld_of(
    ways: c.Ways, item: c.Item, documents: Mapping[str, RenderDoc], sold: Selling | None = None
) -> Mapping[str, Any]:
    """The structured data of a product's page, with its variants."""
    data = documents.get(data_surface().code)
    sold_out = item.stock is not None and item.stock <= 0
    offering = Offering(ways.defs.shop.currency, sold_out, item.url, item.root)
    made = product_data(data, offering, ways.defs) if data is not None else {}
    if sold is None:
        return made
    found = [
        VariantData(variant, sku, price, gone, f"{item.url}{query_of(address)}")
        for variant, sku, price, gone, address in sold.listed_variants()
    ]
    return product_group(made, item.id, sold.goods.offer, found, ways.defs.shop.currency, item.root)


def selling_of(shown: c.ProductShown) -> Selling | None:
    """What a product that something is chosen of is sold as."""
    return shown.choosing.chosen.selling if shown.choosing is not None else None


def compare_page(ways: c.Ways, found: Sequence[tuple[c.Item, RenderDoc]], watched: bool | None = None) -> str:
    """Products side by side."""
    only = request.args.get("only") == "differs"
    path = "/proof/compare" if ways.proof else "/shop/compare"
    framed = frame(ways, watched)
    page = c.CompareContext(framed, [item for item, _ in found], compare([doc for _, doc in found]), only, path)
    title = say(ways.defs.shop.locale, "compare")
    return rendered("compare.html", frame=framed, title=title, page=page, most=MOST_COMPARED)


def compared_names() -> list[str]:
    """Whom a comparison is asked for, each once, at most so many as fit."""
    return list(dict.fromkeys(name[:120] for name in request.args.getlist("p") if name))[:MOST_COMPARED]


def page_number() -> int:
    """The page of a listing that is asked for."""
    text = request.args.get("page", "1")
    return int(text) if text.isascii() and text.isdecimal() and len(text) <= 5 and int(text) > 0 else 1


def listing_page(ways: c.Ways, listing: Listing, cards: list[c.CardContext], total: int, top: Heading | None) -> str:
    """A listing: of a type with its parts, of a collection with what stands above it."""
    context = _listing(ways, listing, cards, total, top)
    return rendered("listing.html", frame=context.frame, title=context.title, page=context)


def record_page(
    ways: c.Ways, listing: Listing, cards: list[c.CardContext], total: int, doc: RenderDoc, watched: bool | None = None
) -> str:
    """The page of a record, with a page of the products that refer to it where its layout has them."""
    context = _listing(ways, listing, cards, total, None, watched)
    blocks = c.BlockContext("blocks", context.frame, shelf=context)
    return rendered("record.html", frame=context.frame, title=context.title, doc=doc, blocks=blocks)


def _listing(
    ways: c.Ways,
    listing: Listing,
    cards: list[c.CardContext],
    total: int,
    top: Heading | None,
    watched: bool | None = None,
) -> c.ListingContext:
    number, path = page_number(), request.path
    is_type = listing.noun == product_types.NOUN.code
    return c.ListingContext(
        frame(ways, watched),
        ways.defs.things[listing.noun][listing.key].name,
        ways.trail(listing.key)[:-1] if is_type else [],
        ways.parts(listing.key) if is_type else [],
        cards,
        total,
        f"{path}?page={number - 1}" if number > 1 else None,
        f"{path}?page={number + 1}" if number * CARDS < total else None,
        top,
    )


def lost(ways: c.Ways) -> Response:
    """The shop's own page for addresses where nothing is."""
    title = say(ways.defs.shop.locale, "lost_title")
    return make_response(rendered("missing.html", frame=frame(ways), title=title), 404)
