"""How a document of a surface becomes a page: a registry, so that one more is a function and a line here."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass

from young_fabric.core.display import surfaces
from young_fabric.core.display.surfaces import Surface, data_surface
from young_fabric.core.interchange.feed import FeedItem, record
from young_fabric.web.shop import contexts as c
from young_fabric.web.shop.block_html import rendered
from young_fabric.web.shop.pages import card_of, compare_page, frame, json_ld_of, selling_of

Make = Callable[[c.Ways, Surface, c.ProductShown, bool | None], str]


@dataclass(frozen=True)
class SurfacePage:
    """What makes a page of a product on a surface; `needs` are other surfaces whose documents go into it."""

    make: Make
    needs: tuple[str, ...] = ()


def surface_page(ways: c.Ways, surface: Surface, shown: c.ProductShown, watched: bool | None = None) -> str:
    """A product on any surface, as a page of its own; `watched` by the studio, or (None) as it is in the proof or the shop."""
    return PAGES[surface.page].make(ways, surface, shown, watched)


def surfaces_for(surface: Surface) -> tuple[str, ...]:
    """The surfaces whose documents go into a page of a product on one of them, that one first."""
    return (surface.code, *PAGES[surface.page].needs)


def _plain(ways: c.Ways, surface: Surface, shown: c.ProductShown, watched: bool | None) -> str:
    """The blocks of its layout, and nothing else."""
    framed, item = frame(ways, watched), shown.item
    page = c.SurfaceContext(framed, item, shown.doc(surface.code), shown.beside, item.on(surface), shown.choosing)
    return rendered("surface.html", frame=framed, title=item.title, page=page)


def _product(ways: c.Ways, surface: Surface, shown: c.ProductShown, watched: bool | None) -> str:
    context = c.PageContext(
        frame(ways, watched),
        shown.item.title,
        shown.doc(surface.code),
        ways.trail(shown.type),
        shown.item,
        json_ld_of(ways, shown.item, shown.documents, selling_of(shown)),
        shown.beside,
        shown.choosing,
    )
    return rendered("product.html", frame=context.frame, title=context.title, page=context)


def _quick(ways: c.Ways, surface: Surface, shown: c.ProductShown, watched: bool | None) -> str:
    """A page of its own, whose middle a script puts over another page."""
    framed = frame(ways, watched)
    page = c.QuickContext(framed, shown.item, shown.doc(surface.code), shown.beside, shown.choosing)
    return rendered("quick.html", frame=framed, title=shown.item.title, page=page)


def _compared(ways: c.Ways, surface: Surface, shown: c.ProductShown, watched: bool | None) -> str:
    return compare_page(ways, [(shown.item, shown.documents[surface.code])], watched)


def _card(ways: c.Ways, surface: Surface, shown: c.ProductShown, watched: bool | None) -> str:
    """All the cards it can have on listings."""
    cards = shown.cards or [card_of(shown.documents[surface.code], shown.item, selling_of(shown))]
    return rendered("card.html", frame=frame(ways, watched), title=shown.item.title, cards=cards)


def _line(ways: c.Ways, surface: Surface, shown: c.ProductShown, watched: bool | None) -> str:
    framed, item = frame(ways, watched), shown.item
    blocks = c.BlockContext("basket", framed, item, choosing=shown.choosing, line_href=item.href)
    return rendered("line.html", frame=framed, title=item.title, doc=shown.documents[surface.code], blocks=blocks)


def _data(ways: c.Ways, surface: Surface, shown: c.ProductShown, watched: bool | None) -> str:
    """What other systems read of a product: structured data, or the record of the feed, with what each part is of."""
    doc, item = shown.documents[surface.code], shown.item
    in_page = surface.code == data_surface().code
    made = (
        json_ld_of(ways, item, shown.documents, selling_of(shown))
        if in_page
        else record(FeedItem(item.id, shown.type, item.slug, doc))
    )
    text = json.dumps(made, ensure_ascii=False, indent=2, sort_keys=True)
    framed = frame(ways, watched)
    return rendered("data.html", frame=framed, title=item.title, doc=doc, text=text, name=surface.name)


PAGES: dict[str, SurfacePage] = {
    surfaces.PLAIN: SurfacePage(_plain),
    surfaces.PAGE: SurfacePage(_product, (data_surface().code,)),
    surfaces.QUICK: SurfacePage(_quick),
    surfaces.CARD: SurfacePage(_card),
    surfaces.LINE: SurfacePage(_line),
    surfaces.COMPARED: SurfacePage(_compared),
    surfaces.DATA: SurfacePage(_data),
}
"""Every way in which a document becomes a page, by what surfaces call it."""
