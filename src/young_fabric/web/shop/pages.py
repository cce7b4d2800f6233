"""What live pages and the proof share: the frame, listings and product pages, made from render documents alone."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path

from flask import Response, current_app, g, make_response, render_template, request

from young_fabric.core.base.words import say
from young_fabric.core.display.surfaces import addressed_surface, data_surface
from young_fabric.core.listing.listings import Listing
from young_fabric.core.nouns import product_types
from young_fabric.core.pages.document import RenderDoc
from young_fabric.core.pages.headings import Heading
from young_fabric.core.pages.json_ld import Offering, product_data
from young_fabric.core.subjects.registry import PRODUCT
from young_fabric.service import proofs
from young_fabric.web.shop import contexts as c

CARDS = proofs.CARDS
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
    g.proof = ways.proof
    home = "/proof/home" if ways.proof else "/shop/"
    nav = [ways.link(listing) for listing in ways.tops()]
    return c.Frame(ways.defs.shop, nav, home, ways.proof, ways.proof if watched is None else watched)


def page_number() -> int:
    """The page of a listing that is asked for."""
    text = request.args.get("page", "1")
    return int(text) if text.isascii() and text.isdecimal() and len(text) <= 5 and int(text) > 0 else 1


def listing_page(
    ways: c.Ways, listing: Listing, cards: list[c.CardContext], total: int, heading: Heading | None
) -> str:
    """A listing: of a type with its parts, of what holds values of its own with its heading."""
    number, path = page_number(), request.path
    is_type = listing.noun == product_types.NOUN.code
    context = c.ListingContext(
        frame(ways),
        ways.defs.things[listing.noun][listing.key].name,
        ways.trail(listing.key)[:-1] if is_type else [],
        ways.parts(listing.key) if is_type else [],
        cards,
        total,
        f"{path}?page={number - 1}" if number > 1 else None,
        f"{path}?page={number + 1}" if number * CARDS < total else None,
        heading,
    )
    return render_template("listing.html", frame=context.frame, title=context.title, page=context)


def product_page(
    ways: c.Ways,
    type_key: str,
    title: str,
    address: str,
    documents: Mapping[str, RenderDoc],
    stock: int | None,
    watched: bool | None = None,
) -> str:
    """A product page."""
    root = current_app.extensions["shop_address"]
    sold_out = stock is not None and stock <= 0
    offering = Offering(ways.defs.shop.currency, sold_out, f"{root}/shop/p/{address}", root)
    data = documents.get(data_surface().code)
    context = c.PageContext(
        frame(ways, watched),
        title,
        documents[addressed_surface().code],
        ways.trail(type_key),
        stock,
        product_data(data, offering, ways.defs) if data is not None else {},
    )
    return render_template("product.html", frame=context.frame, title=title, page=context)


def lost(ways: c.Ways) -> Response:
    """The shop's own page for addresses where nothing is."""
    title = say(ways.defs.shop.locale, "lost_title")
    return make_response(render_template("missing.html", frame=frame(ways), title=title), 404)
