"""What putting products in by hand would touch: told beforehand, and what comes of it then."""

from __future__ import annotations

import pytest

from tests.service.values.test_variants import BLUE, RED, make_product, make_set, of, option
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, hands
from young_fabric.service.foreseeing import counted
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.writing import by_hand
from young_fabric.store.repos import products as rows

PAGE = "product_page"


def filled_easels(work: Work, key: str = "ss_maker") -> list[int]:
    found = products.search(work, products.Filters(type="easels"), None).rows
    return [
        row.product.id
        for row in found
        if rows.get(work.session, [row.product.id])[row.product.id].product.values.get(key)
    ]


def test_variants_that_come_are_told_and_come(work: Work) -> None:
    product, other = make_product(work, "SB-1"), make_product(work, "SB-2")
    key = make_set(work, "Covers", option("colour", RED, BLUE))
    found = hands.consequences(work, "option_set", key, [product, other], "picked")
    assert found.variants
    assert (found.products, found.variants.products, found.variants.added) == (2, 2, 4)
    assert found.exact
    assert not of(work, product), "nothing is written"
    by_hand.by_hand(work, "option_set", key, [product, other], "picked")
    assert len(of(work, product)) + len(of(work, other)) == 4
    again = hands.consequences(work, "option_set", key, [product], "picked")
    assert (again.products, again.surfaces[PAGE]) == (0, 0)
    gone = hands.consequences(work, "option_set", key, [product], "neither")
    assert gone.variants
    assert (gone.products, gone.variants.retired) == (1, 2)


def test_pages_that_differ_are_counted_one_by_one(work: Work) -> None:
    easels = filled_easels(work)
    key = definitions.create(work, "collection", "Without maker", {}).thing.key
    assert not any(hands.consequences(work, "collection", key, easels, "picked").surfaces.values())
    definitions.display(work, Scope("collection", key), "ss_maker", PAGE, {"shown": False}, None)
    easel = products.create(work, "easels", "Bare").product.id
    found = hands.consequences(work, "collection", key, [*easels, easel, easels[0]], "picked")
    assert (found.products, found.surfaces[PAGE], found.exact) == (len(easels) + 1, len(easels), True)
    by_hand.by_hand(work, "collection", key, easels, "picked")
    found = hands.consequences(work, "collection", key, [*easels, easel], "kept_out")
    assert (found.products, found.surfaces[PAGE]) == (len(easels), len(easels))


def test_beyond_what_is_rendered_it_is_so_many_at_most(work: Work, monkeypatch: pytest.MonkeyPatch) -> None:
    easels = filled_easels(work)
    key = definitions.create(work, "collection", "Without maker", {}).thing.key
    monkeypatch.setattr(hands, "MOST_RENDERED", len(easels))
    assert hands.consequences(work, "collection", key, easels, "picked").exact
    more = [*easels, products.create(work, "easels", "One more").product.id]
    found = hands.consequences(work, "collection", key, more, "picked")
    assert (found.exact, found.surfaces[PAGE]) == (False, len(more))
    assert counted.MOST_RENDERED == 120


def test_what_is_not_there_is_refused(work: Work) -> None:
    with pytest.raises(Refusal):
        hands.consequences(work, "collection", "none", [1], "picked")
    key = definitions.create(work, "collection", "Empty", {}).thing.key
    assert hands.consequences(work, "collection", key, [999_999], "picked").products == 0
    assert plans.draft(work.session).things["collection"][key].picked == ()
