"""Whole chains of why, word by word, on the pages and cards of a whole shop."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.pages.plans import Plans
from young_fabric.core.pages.why import of_product, why
from young_fabric.core.subjects.products import Product

EASEL = Product(5, "easels", {"title": "Heron easel", "ss_wood": "ash", "price": "90", "unit_cost": "60"})
PEAT = Product(6, "watercolour", {"title": "Peat", "ss_batch": "B12"})
IN_SHOP = ("visible", True, "The product is in the shop", None)
EVER = ("condition", True, "It shows under any condition", None)
WIDE = ("device", True, "On every width", None)
FOR_ALL = ("audience", True, "It is for shoppers", None)
BASICS = ("applies", True, "Easels takes it from the set Easel basics", None)
OF_EASELS = "The layout Page of easels, which Easels has, has a place for it, in Details"
DETAILS = (("slot", True, OF_EASELS, None), ("block", True, "Details shows", None))
CARD = "The layout Listing card, which the surface has by default, has a place for it, in facts"
FACTS = (("slot", True, CARD, None), ("block", True, "facts shows", None))


@pytest.mark.parametrize(
    ("product", "surface", "key", "wanted"),
    [
        (
            EASEL,
            "product_page",
            "ss_wood",
            (
                IN_SHOP,
                BASICS,
                FOR_ALL,
                ("shown", True, "Shown on the product page by default", None),
                *DETAILS,
                EVER,
                ("value", True, "Value is filled: “Ash”", None),
                WIDE,
                ("shows", True, "It shows on the product page in Details, label beside the value", None),
            ),
        ),
        (
            EASEL,
            "product_page",
            "unit_cost",
            (
                IN_SHOP,
                ("applies", True, "Every product has it", None),
                ("audience", False, "It is for staff, and never leaves the studio", None),
                ("shown", False, "Not shown on the product page by default", "default/unit_cost/product_page"),
                *DETAILS,
                EVER,
                ("value", True, "Value is filled: “€60.00”", None),
                WIDE,
            ),
        ),
        (
            PEAT,
            "listing_card",
            "ss_granul",
            (
                IN_SHOP,
                ("applies", True, "Paint takes it from the set Paint basics", None),
                FOR_ALL,
                ("shown", True, "Shown on the listing card by the setting on Watercolour", None),
                *FACTS,
                EVER,
                ("value", False, "There is no value", "6/ss_granul"),
                WIDE,
            ),
        ),
        (
            PEAT,
            "listing_card",
            "ss_batch",
            (
                IN_SHOP,
                ("applies", True, "Paint takes it as a single field", None),
                ("audience", False, "It is for staff, and never leaves the studio", "ss_batch"),
                ("shown", False, "Not shown on the listing card by default", "default/ss_batch/listing_card"),
                *FACTS,
                EVER,
                ("value", False, "The value is wrong: not a value of kind date", "6/ss_batch"),
                WIDE,
            ),
        ),
    ],
)
def test_a_chain_tells_every_step_and_where_to_go(
    product: Product, surface: str, key: str, wanted: tuple[tuple[str, bool, str, Any], ...]
) -> None:
    plan = Plans(SALTMARSH).of_product(product, surface)
    found = why(SALTMARSH, plan, of_product(product), key)
    assert [(step.name, step.ok, step.text, step.mend and step.mend.key) for step in found] == list(wanted)
