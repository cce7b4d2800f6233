"""Variants put in step with what is offered, and the SKUs they go by."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

from tests.core.saltmarsh import SALTMARSH
from young_fabric.core.nouns.options.option_sets import OptionSet
from young_fabric.core.options.matching import Matcher, settle_skus
from young_fabric.core.options.offers import offer_of
from young_fabric.core.options.sold import as_chosen
from young_fabric.core.subjects.products import Product
from young_fabric.core.subjects.variants import Variant

WOODS = SALTMARSH.option_sets["easel_woods"]


def matcher(options: OptionSet = WOODS) -> Matcher:
    return Matcher(offer_of([options], SALTMARSH))


def variant(number: int, wood: str, **more: object) -> Variant:
    return Variant(number, 7, 9, {"easel_wood": wood}, **more)  # type: ignore[arg-type]


def test_variants_are_made_kept_brought_back_and_retired() -> None:
    stored = [
        variant(1, "oak", values={"price": "90"}, version=3, stock=2, sku="old"),
        variant(2, "yew", sku="E-YEW", version=5),
        variant(3, "walnut", retired=True, unread={"price": "odd"}),
    ]
    found = matcher().match(7, "E", stored)
    kept = replace(stored[0], position=1, sku="E-OAK")
    back = replace(stored[2], position=2, sku="E-WAL", retired=False)
    assert found.kept == ((stored[0], kept),)
    assert found.back == ((stored[2], back),)
    assert found.retired == ((stored[1], replace(stored[1], retired=True, sku=None)),)
    assert found.added == (Variant(0, 7, 0, {"easel_wood": "beech"}, sku="E-BEE"),)
    assert [made.sku for made in found.offered] == ["E-BEE", "E-OAK", "E-WAL"]
    assert len(found.changed) == 3
    again = matcher().match(7, "E", [replace(made, id=number + 1) for number, made in enumerate(found.offered)])
    assert (again.changed, again.added) == ([], ())


def test_an_sku_of_its_own_stands_and_the_products_is_none_of_its_own() -> None:
    made = matcher()
    assert made.with_sku(variant(1, "oak"), "E").sku == "E-OAK"
    assert made.with_sku(variant(1, "oak", values={"sku": "MINE"}), "E").sku == "MINE"
    assert made.with_sku(variant(1, "oak", values={"sku": "E"}), "E").sku is None
    assert made.with_sku(variant(1, "yew", sku="KEPT"), "E").sku == "KEPT", "of no combination there is"
    keeping = matcher(replace(WOODS, sku="keep"))
    assert keeping.with_sku(variant(1, "oak"), "E").sku is None
    assert (made.makes_skus, keeping.makes_skus) == (True, False)
    alone = matcher(replace(WOODS, sku="replace"))
    assert alone.with_sku(variant(1, "oak"), "E").sku == "OAK"
    assert made.generated("x" * 400, ("oak",)) is None, "too long for an SKU"


def test_of_two_that_want_an_sku_whoever_has_it_keeps_it() -> None:
    first, second = variant(1, "oak", sku="A"), variant(2, "yew", sku="A")
    assert settle_skus([first, second], {}) == ([first, replace(second, sku=None)], [second])
    assert settle_skus([first, second], {"A": 2}) == ([replace(first, sku=None), second], [first])
    assert settle_skus([first], {"A": 5}) == ([replace(first, sku=None)], [first])
    assert settle_skus([first], {"A": 0}) == ([replace(first, sku=None)], [first])
    new = variant(0, "oak", sku="A")
    assert settle_skus([new], {"A": 0}) == ([replace(new, sku=None)], [new]), "what is not stored has none yet"
    none = variant(3, "ash")
    assert settle_skus([none, first], {}) == ([none, first], [])


def test_a_product_as_its_variant_has_the_variants_values_and_what_was_reckoned() -> None:
    easel = Product(7, "easels", {"title": "Easel", "price": "80", "sku": "E"})
    oak = variant(1, "oak", values={"price": "90"})
    shown = as_chosen(easel, oak, [("sku", "E-OAK"), ("former_price", None), ("title", None)])
    assert shown.values == {"price": "90", "sku": "E-OAK"}
    assert as_chosen(easel, None, []).values == easel.values
    assert Decimal(str(easel.values["price"])) == 80
