"""The places where fields render: a registry, so that one more is one entry here."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

PRODUCTS, RECORDS = "product", "record"
CHOSEN_FROM, SWATCHES, CHOSEN = "chosen from", "swatches", "chosen"
"""How options stand on a surface: to be chosen from, as swatches that lead to them, or as what was chosen."""


@dataclass(frozen=True)
class Surface:
    """A place where fields render.

    `subject` is what its documents are of, `options` how options stand there, "" for not at all. On a `factual` one the fields that
    its layout names show unless a setting says otherwise; a `basket` one is a line of the basket. `readers` are the audiences it may show, `layout` the key of the layout it has unless another is assigned. `addressed`
    ones are pages with an address of their own, `paged` ones have the room of a page, `listed` ones stand on listings; a `quick` one is a first look at a product, `compared` ones stand side by side; `stand_ins` may show a dash for what is
    not there; `data` ones are read by other systems and count for no shopper. `counted` is what one of its documents is
    called, and several.
    """

    code: str
    name: str
    layout: str
    counted: tuple[str, str]
    readers: frozenset[str] = frozenset({"shoppers"})
    shows_by_default: bool = True
    addressed: bool = False
    listed: bool = False
    quick: bool = False
    compared: bool = False
    stand_ins: bool = True
    data: bool = False
    paged: bool = False
    subject: str = PRODUCTS
    options: str = ""
    factual: bool = False
    basket: bool = False


SURFACES: dict[str, Surface] = {
    surface.code: surface
    for surface in (
        Surface(
            "product_page", "product page", "page", ("page", "pages"), addressed=True, paged=True, options=CHOSEN_FROM
        ),
        Surface(
            "listing_card",
            "listing card",
            "card",
            ("card", "cards"),
            shows_by_default=False,
            listed=True,
            options=SWATCHES,
        ),
        Surface(
            "quick_look",
            "quick look",
            "quick",
            ("quick look", "quick looks"),
            shows_by_default=False,
            quick=True,
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
            factual=True,
            basket=True,
        ),
        Surface(
            "compare",
            "compare table",
            "compared",
            ("compared product", "compared products"),
            shows_by_default=False,
            compared=True,
        ),
        Surface(
            "structured_data",
            "structured data",
            "data",
            ("data record", "data records"),
            readers=frozenset({"shoppers", "feeds"}),
            stand_ins=False,
            data=True,
        ),
        Surface(
            "feed",
            "feed",
            "feed_record",
            ("feed record", "feed records"),
            readers=frozenset({"shoppers", "feeds"}),
            stand_ins=False,
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


def quick_surface() -> Surface:
    """The surface that is a first look at a product."""
    return next(surface for surface in SURFACES.values() if surface.quick)


def basket_surface() -> Surface:
    """The surface that is a line of the basket."""
    return next(surface for surface in SURFACES.values() if surface.basket)


def compared_surface() -> Surface:
    """The surface whose documents stand side by side."""
    return next(surface for surface in SURFACES.values() if surface.compared)


def data_surface() -> Surface:
    """The surface that is written into a product's page for other systems."""
    return next(surface for surface in SURFACES.values() if surface.data)
