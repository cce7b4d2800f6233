"""The places where fields render: a registry, so that one more is one entry here."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

PRODUCTS, RECORDS = "product", "record"
PLAIN, PAGE, QUICK, CARD, LINE, COMPARED, DATA = "plain", "page", "quick look", "card", "line", "compared", "data"
"""How a document of a surface becomes a page: see `PAGES` in `web/shop/surface_pages.py`."""
CHOSEN_FROM, SWATCHES, CHOSEN = "chosen from", "swatches", "chosen"
"""How options stand on a surface: to be chosen from, as swatches that lead to them, or as what was chosen."""


@dataclass(frozen=True)
class Surface:
    """A place where fields render.

    `subject` is what its documents are of, `page` how one becomes a page, and `path` under what such a page stands in the shop
    (`/shop/<path>/<address of the product>`), "" for nowhere by itself. `readers` are the audiences it may show, `layout` the key of the layout it has unless another is
    assigned. `addressed` ones are what a product's address leads to, `listed` ones stand on listings, `paged` ones have the room of a page; `stand_ins` may show a dash for what
    is not there; `data` ones are read by other systems and count for no shopper. `options` says how options stand there, "" for not at all. On a `factual` one the
    fields that its layout names show unless a setting says otherwise; on a `reckoned` one the price is told by a reckoning of its own. `counted` is what one of its documents is
    called, and several.
    """

    code: str
    name: str
    layout: str
    counted: tuple[str, str]
    readers: frozenset[str] = frozenset({"shoppers"})
    shows_by_default: bool = True
    page: str = PLAIN
    path: str = ""
    addressed: bool = False
    listed: bool = False
    stand_ins: bool = True
    data: bool = False
    paged: bool = False
    subject: str = PRODUCTS
    options: str = ""
    factual: bool = False
    reckoned: bool = False


SURFACES: dict[str, Surface] = {
    surface.code: surface
    for surface in (
        Surface(
            "product_page",
            "product page",
            "page",
            ("page", "pages"),
            page=PAGE,
            path="p",
            addressed=True,
            paged=True,
            options=CHOSEN_FROM,
        ),
        Surface(
            "listing_card",
            "listing card",
            "card",
            ("card", "cards"),
            shows_by_default=False,
            page=CARD,
            listed=True,
            options=SWATCHES,
        ),
        Surface(
            "quick_look",
            "quick look",
            "quick",
            ("quick look", "quick looks"),
            shows_by_default=False,
            page=QUICK,
            path="q",
            paged=True,
            options=CHOSEN_FROM,
        ),
        Surface(
            "basket_line",
            "basket line",
            "basket",
            ("basket line", "basket lines"),
            shows_by_default=False,
            options=CHOSEN,
            page=LINE,
            factual=True,
            reckoned=True,
        ),
        Surface(
            "compare",
            "compare table",
            "compared",
            ("compared product", "compared products"),
            shows_by_default=False,
            page=COMPARED,
        ),
        Surface(
            "structured_data",
            "structured data",
            "data",
            ("data record", "data records"),
            readers=frozenset({"shoppers", "feeds"}),
            stand_ins=False,
            page=DATA,
            data=True,
        ),
        Surface(
            "feed",
            "feed",
            "feed_record",
            ("feed record", "feed records"),
            readers=frozenset({"shoppers", "feeds"}),
            stand_ins=False,
            page=DATA,
            data=True,
        ),
        Surface(
            "record_page", "record page", "of_record", ("record page", "record pages"), paged=True, subject=RECORDS
        ),
    )
}
"""Every surface by its code, in the order they are told."""


def surfaces_of(subject: str) -> Mapping[str, Surface]:
    """The surfaces whose documents are of products, or of records, by code."""
    return {code: surface for code, surface in SURFACES.items() if surface.subject == subject}


def product_surfaces() -> Mapping[str, Surface]:
    """The surfaces whose documents are of products, by code."""
    return surfaces_of(PRODUCTS)


def record_surface() -> Surface:
    """The surface that is a record's own page."""
    return next(surface for surface in SURFACES.values() if surface.subject == RECORDS)


def addressed_surface() -> Surface:
    """The surface that is a product's own page."""
    return next(surface for surface in SURFACES.values() if surface.addressed)


def listed_surface() -> Surface:
    """The surface that stands on listings."""
    return next(surface for surface in SURFACES.values() if surface.listed)


def surface_at(path: str) -> Surface | None:
    """The surface whose pages stand under a part of the shop's addresses, None for none."""
    return next((surface for surface in SURFACES.values() if path and surface.path == path), None)


def quick_surface() -> Surface:
    """The surface that is a first look at a product."""
    return next(surface for surface in SURFACES.values() if surface.page == QUICK)


def basket_surface() -> Surface:
    """The surface that is a line of the basket."""
    return next(surface for surface in SURFACES.values() if surface.page == LINE)


def compared_surface() -> Surface:
    """The surface whose documents stand side by side."""
    return next(surface for surface in SURFACES.values() if surface.page == COMPARED)


def data_surface() -> Surface:
    """The surface that is written into a product's page for other systems."""
    return next(surface for surface in SURFACES.values() if surface.data)
