"""What checks find in what shoppers can choose, and that it is gone when mended."""

from __future__ import annotations

from tests.service.pages.test_layouts import choose, found_by, made
from tests.service.values.test_variants import BLUE, PEAT, RED, give, make_product, make_set, option, put_set
from young_fabric.core.display.cascade import Scope
from young_fabric.service.acting.actors import Work
from young_fabric.service.pages import layouts
from young_fabric.service.products import products
from young_fabric.service.writing import by_hand


def test_a_page_without_a_place_for_options_is_told_with_its_layout(work: Work) -> None:
    make_product(work, "SB-1")
    made(work, "plain")
    layouts.edit(work, "plain", [{"op": "remove", "id": "options"}])
    choose(work, Scope("type", "sketchbooks"), "plain")
    assert found_by(work, "options_unplaced") == []
    key = make_set(work, "Covers", option("colour", RED, BLUE))
    by_hand.paste(work, "option_set", key, "SB-1", "picked")
    [found] = found_by(work, "options_unplaced")
    assert found.text.endswith("products has no place on the product page, laid out as Plain")
    assert found.count == products.search(work, products.Filters(type="sketchbooks"), None).total
    assert found.link == ("layout", "plain")
    layouts.edit(work, "plain", [{"op": "add", "block": {"kind": "options"}, "region": "main", "after": None}])
    assert found_by(work, "options_unplaced") == []


def test_sets_that_do_not_go_together_are_told_once(work: Work) -> None:
    first = make_set(work, "Covers", option("colour", RED, BLUE))
    give(work, "sketchbooks", first)
    assert found_by(work, "clashing_sets") == []
    make_product(work, "SB-1"), make_product(work, "SB-2")
    more = make_set(work, "More", option("colour", PEAT))
    by_hand.paste(work, "option_set", more, "SB-1, SB-2", "picked")
    [found] = found_by(work, "clashing_sets")
    assert (found.text, found.link) == ("Colour is in More and in Covers: the first stands", ("option_set", more))
    put_set(work, more, options=[option("tone", PEAT)])
    assert found_by(work, "clashing_sets") == []


def test_a_sku_that_another_has_is_told_and_a_kept_one_is_not(work: Work) -> None:
    key = make_set(work, "Woods", option("colour", RED, BLUE))
    give(work, "sketchbooks", key)
    other, product = make_product(work, "SB-2-RED"), make_product(work, "SB-2")
    [found] = found_by(work, "lost_skus")
    assert found.text == "Marsh book: 1 variant goes by the product's own SKU, as another has the one made: SB-2-RED"
    assert found.link == ("variant", f"{product}/")
    put_set(work, key, sku="keep")
    assert found_by(work, "lost_skus") == []
    put_set(work, key, sku="extend")
    assert len(found_by(work, "lost_skus")) == 1
    products.fill(work, other, None, {"sku": "SB-9"})
    products.fill(work, product, None, {"sku": "SB-3"})
    assert found_by(work, "lost_skus") == []
