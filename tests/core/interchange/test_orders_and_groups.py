"""Orders as documents, and products as groups of variants in structured data."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.interchange.order import order_document
from young_fabric.core.interchange.product_group import VariantData, product_group
from young_fabric.core.options.offers import offer_of
from young_fabric.core.subjects.variants import Variant

PICTURE = {"file": "a" * 64, "alt": "", "width": 1, "height": 1}
SHEETS = offer_of([SALTMARSH.option_sets["sheet_formats"]], SALTMARSH)
DATA = {"@type": "Product", "name": "Fen Etching", "sku": "FE", "offers": {"price": "3"}, "brand": "Fen Mill"}


def line(total: str, grams: str | None) -> dict[str, Any]:
    return {"price": {"total": total}, "weight_grams": grams}


def test_an_order_sums_up_what_its_lines_come_to() -> None:
    placed = datetime(2026, 3, 1, 12, tzinfo=UTC)
    made = order_document(7, placed, "EUR", {"name": "Ann"}, [line("3.10", "20"), line("1.90", None), line("1", "5.5")])
    assert (made["total"], made["weight_grams"], made["number"]) == ("6.00", "25.5", 7)
    assert (made["placed_at"], made["buyer"], len(made["lines"])) == ("2026-03-01T12:00:00+00:00", {"name": "Ann"}, 3)
    assert order_document(7, placed, "EUR", {}, [line("2", None)])["weight_grams"] is None
    assert order_document(7, placed, "EUR", {}, [])["total"] == "0"


def variant(**more: Any) -> Variant:
    return Variant(1, 7, 0, {"format": "full", "edge": "deckle"}, **more)


def test_a_product_with_variants_is_a_group_of_them() -> None:
    values = {"gtin": "4006381333931", "price": "4", "pictures": [PICTURE]}
    found = [
        VariantData(variant(values=values), "FE-FULL-D", "4.00", True, "/shop/p/fe?x"),
        VariantData(variant(), "", None, False, "/shop/p/fe"),
    ]
    made = product_group(DATA, 7, SHEETS, found, "EUR", "https://shop.example")
    assert (made["@type"], made["productGroupID"], made["brand"]) == ("ProductGroup", "FE", "Fen Mill")
    assert "offers" not in made
    assert made["variesBy"] == ["Format", "Edge"]
    first, second = made["hasVariant"]
    assert first["name"] == "Fen Etching, Full sheet, 56 × 76 cm, Deckle"
    assert (first["sku"], first["gtin"], first["image"]) == (
        "FE-FULL-D",
        "4006381333931",
        [f"https://shop.example/files/{'a' * 64}-1600.webp"],
    )
    assert first["offers"]["availability"] == "https://schema.org/OutOfStock"
    assert (first["offers"]["price"], first["offers"]["priceCurrency"]) == ("4.00", "EUR")
    assert [extra["name"] for extra in first["additionalProperty"]] == ["Format", "Edge"]
    assert second.keys() == {"@type", "name", "url", "additionalProperty"}


def test_without_variants_or_data_it_is_as_it_was() -> None:
    assert product_group(DATA, 7, SHEETS, [], "EUR", "") == DATA
    assert product_group({}, 7, SHEETS, [VariantData(variant(), "", None, False, "")], "EUR", "") == {}
    assert product_group({"name": "x"}, 7, SHEETS, [VariantData(variant(), "", "1", False, "")], "EUR", "")[
        "productGroupID"
    ] == "7"  # fmt: skip
