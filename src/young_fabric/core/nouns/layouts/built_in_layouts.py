"""The layouts the core brings, one a surface: what shows before a shop has any of its own, and what those build on."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from young_fabric.core.nouns.layouts.layout_parts import LayoutRegion


def _slot(block: str, kind: str, *fields: str, **more: Any) -> dict[str, Any]:
    return {"id": block, "kind": kind, "takes": {"fields": list(fields)}, **more}


def _rest(block: str, **more: Any) -> dict[str, Any]:
    return {"id": block, "kind": "fields", "takes": {"rest": True}, **more}


_PAGE = (
    LayoutRegion(
        "main",
        (
            {"id": "top", "kind": "columns", "regions": ["gallery", "summary"]},
            _rest("details", heading="Details"),
            _slot("numbers", "fields", "sku", "gtin"),
        ),
    ),
    LayoutRegion("gallery", (_slot("pictures", "pictures", "pictures"),)),
    LayoutRegion(
        "summary",
        (
            _slot("title", "title", "title"),
            _slot("price", "price", "price", "unit_price"),
            {"id": "stock", "kind": "stock"},
            {"id": "options", "kind": "options"},
            {"id": "to_basket", "kind": "to_basket"},
            _slot("description", "text", "description"),
        ),
    ),
)
_CARD = (
    LayoutRegion(
        "main",
        (
            _slot("pictures", "pictures", "pictures"),
            _slot("title", "title", "title"),
            {"id": "options", "kind": "options"},
            _slot("price", "price", "price", "unit_price"),
            _rest("facts"),
            {"id": "closer", "kind": "closer"},
        ),
    ),
)
_QUICK = (
    LayoutRegion("main", ({"id": "top", "kind": "columns", "regions": ["gallery", "summary"]},)),
    LayoutRegion("gallery", (_slot("pictures", "pictures", "pictures", **{"as": "slider"}),)),
    LayoutRegion(
        "summary",
        (
            _slot("title", "title", "title"),
            _slot("price", "price", "price", "unit_price"),
            {"id": "stock", "kind": "stock"},
            {"id": "options", "kind": "options"},
            {"id": "to_basket", "kind": "to_basket"},
            _slot("description", "text", "description"),
            _rest("facts"),
        ),
    ),
)
_BASKET = (
    LayoutRegion(
        "main",
        (
            _slot("pictures", "pictures", "pictures", **{"as": "one"}),
            _slot("title", "title", "title"),
            {"id": "options", "kind": "options"},
            _slot("facts", "fields", "sku", "unit_price"),
            _rest("more"),
        ),
    ),
)
_COMPARED = (
    LayoutRegion(
        "main",
        (
            _slot("pictures", "pictures", "pictures", **{"as": "one"}),
            _slot("title", "title", "title"),
            _slot("price", "price", "price", "unit_price"),
            _rest("facts"),
        ),
    ),
)
_DATA = (LayoutRegion("main", (_rest("facts"),)),)
_OF_RECORD = (
    LayoutRegion("main", (_slot("title", "title", "title"), _rest("about"), {"id": "products", "kind": "referrers"})),
)

BUILT_IN_LAYOUTS: Mapping[str, tuple[str, str, tuple[LayoutRegion, ...]]] = {
    "page": ("Product page", "product_page", _PAGE),
    "card": ("Listing card", "listing_card", _CARD),
    "quick": ("Quick look", "quick_look", _QUICK),
    "basket": ("Basket line", "basket_line", _BASKET),
    "compared": ("Compare", "compare", _COMPARED),
    "data": ("Structured data", "structured_data", _DATA),
    "feed_record": ("Feed record", "feed", _DATA),
    "of_record": ("Record page", "record_page", _OF_RECORD),
}
"""Key → name, surface and regions."""
