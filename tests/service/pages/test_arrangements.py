"""What a scope arranges for itself: looked at without writing, made by its first edit, undone as one."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from tests.conftest import NOW, person
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.service import history
from young_fabric.service.acting.actors import Clash, Work
from young_fabric.service.pages import arrangements, layouts, proofs
from young_fabric.service.pages.arrangements import arrange_own, arrangement
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.store.repos import changes

PAGE = "product_page"
GOUACHE = Scope("type", "gouache")
NOTE: list[dict[str, Any]] = [
    {"op": "add", "block": {"kind": "words", "id": "note", "words": "Made by hand."}, "region": "main", "after": None}
]


def set_words(words: str) -> list[dict[str, Any]]:
    return [{"op": "set", "id": "note", "props": {"words": words}}]


def product_of(work: Work, words: str) -> int:
    return products.search(work, products.Filters(words=words), None).rows[0].product.id


def blocks_of(view: layouts.LayoutView) -> list[object]:
    """Regions with their blocks, whatever pages have them."""
    return [(region, [replace(block, pages=None) for block in blocks]) for region, blocks in view.regions]


@pytest.mark.parametrize("of", ["type", "product", "shop"])
def test_looking_writes_nothing_and_shows_what_is_in_force(work: Work, looking: Work, of: str) -> None:
    product = product_of(work, "Barley Ochre")
    scope = {"type": GOUACHE, "product": Scope("product", str(product)), "shop": Scope("shop")}[of]
    before, there = changes.unreleased_count(work.session), set(plans.draft(work.session).layouts)
    found = arrangement(looking, scope, PAGE)
    assert found.key is None
    assert found.view.base in there
    assert found.view.shown > 0
    assert blocks_of(found.view) == blocks_of(layouts.layout_view(work, found.view.base))
    assert (changes.unreleased_count(work.session), set(plans.draft(work.session).layouts)) == (before, there)
    with pytest.raises(Refusal, match="You may not"):
        arrange_own(looking, scope, PAGE, NOTE, None)


def test_it_begins_with_the_first_edit_and_is_undone_with_it(work: Work) -> None:
    product = product_of(work, "Barley Ochre")
    scope = Scope("product", str(product))
    key = arrange_own(work, scope, PAGE, NOTE, None)
    found = arrangement(work, scope, PAGE)
    assert (found.key, found.view.shown) == (key, 1)
    in_force = proofs.plan_for(work, proofs.need_product(work, product), PAGE).layout.key
    assert in_force == key
    assert arrange_own(work, scope, PAGE, set_words("By machine."), found.view.version) == key
    history.undo_last(work)
    history.undo_last(work)
    assert key not in plans.draft(work.session).layouts
    assert arrangement(work, scope, PAGE).key is None


def test_the_first_edits_of_two_come_together_and_overwrite_nothing(work: Work) -> None:
    other = Work(work.session, person(work.session, 1), NOW)
    key = arrange_own(work, GOUACHE, PAGE, NOTE, None)
    more = [{"op": "add", "block": {"kind": "divider", "id": "line"}, "region": "main", "after": None}]
    assert arrange_own(other, GOUACHE, PAGE, more, None) == key
    view = layouts.layout_view(work, key)
    assert {"note", "line"} <= {placed.block["id"] for _, region in view.regions for placed in region}
    first = arrangement(work, GOUACHE, PAGE).view.version
    arrange_own(work, GOUACHE, PAGE, set_words("By machine."), first)
    with pytest.raises(Clash):
        arrange_own(other, GOUACHE, PAGE, set_words("By nobody."), first)


def test_a_layout_that_others_chose_too_is_no_scopes_own(work: Work) -> None:
    key = arrange_own(work, GOUACHE, PAGE, NOTE, None)
    definitions = arrangements.definitions
    definitions.display(work, Scope("type", "canvas"), "*", PAGE, {"layout": key}, None)
    assert arrangement(work, GOUACHE, PAGE).key is None
