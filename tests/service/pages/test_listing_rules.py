"""What is said of cards on listings, for whom, and what a listing of the draft comes to; why a product has the cards it has."""

from __future__ import annotations

from typing import Any

import pytest

from tests.service.values.test_variants import BLUE, LARGE, RED, SMALL, give, make_product, make_set, option
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope, read_scope
from young_fabric.core.pages.listed import of_collection, of_type
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.pages import explaining, listing_rules
from young_fabric.store.repos import definitions as stored

BOOKS = of_type("sketchbooks")


@pytest.fixture
def book(work: Work) -> int:
    give(work, "sketchbooks", make_set(work, "Woods", option("colour", RED, BLUE), option("size", SMALL, LARGE)))
    return make_product(work, "SB-1")


def say(work: Work, scope: str = "shop", **members: Any) -> None:
    key = f"{scope}/*/listing_card"
    version = stored.versions_of(work.session, "display_setting", [key]).get(key)
    definitions.display(work, read_scope(scope), "*", "listing_card", members, version)


def members(work: Work, scope: str) -> dict[str, tuple[Any, str, bool]]:
    found = listing_rules.open_rule(work, read_scope(scope))
    return {row.prop.code: (row.found.value, row.found.origin, row.own) for row in found.members}


def test_members_come_from_the_nearest_scope_and_only_those_that_mean_something(work: Work, book: int) -> None:
    assert members(work, "shop") == {"mode": ("product", "default", False), "title": ("{product}", "default", False)}
    key = definitions.create(work, "collection", "Winter", {"picked": [book]}).thing.key
    say(work, mode="by", options=["colour"])
    say(work, f"collection:{key}", options=["size"])
    say(work, f"product:{book}", title="{sku}")
    found = members(work, f"collection:{key}")
    assert found["mode"] == ("by", "shop", False)
    assert found["options"] == (["size"], f"collection:{key}", True)
    assert "no_variants" in found
    assert members(work, f"product:{book}")["title"] == ("{sku}", f"product:{book}", True)
    rules = [(rule.scope, rule.name) for rule in listing_rules.said_rules(work)]
    assert rules == [("shop", "the shop"), (f"collection:{key}", "Winter"), (f"product:{book}", "Marsh book")]
    open_here = listing_rules.open_rule(work, Scope("shop"))
    [options] = [row.choices for row in open_here.members if row.prop.code == "options"]
    assert ("size", "Size") in {(choice.value, choice.label) for choice in options}


@pytest.mark.parametrize(
    ("scope", "code"), [("type:paint", "no_meaning"), ("collection:none", "not_found"), ("product:9999", "not_found")]
)
def test_rules_of_what_is_not_there_are_refused(work: Work, scope: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        listing_rules.open_rule(work, read_scope(scope))
    assert caught.value.code == code


def test_a_listing_tells_its_cards_those_called_the_same_and_those_left_out(work: Work, book: int) -> None:
    before = listing_rules.cards_of_listing(work, BOOKS)
    assert (before.cards, before.most, before.alike, before.gone) == (before.products, (), (), ())
    say(work, mode="by", options=["colour", "size"])
    found = listing_rules.cards_of_listing(work, BOOKS)
    assert found.cards == 4 * found.products
    assert [row.cards for row in found.most] == [4] * listing_rules.MOST_NAMED
    assert (found.alike_in_all, len(found.alike)) == (found.products, listing_rules.MOST_NAMED)
    assert (found.mend, found.mended_at) == ("{product}[, {colour}][, {size}]", "shop")
    say(work, title=found.mend)
    assert listing_rules.cards_of_listing(work, BOOKS).alike_in_all == 0
    say(work, no_variants="drop")
    papers = listing_rules.cards_of_listing(work, of_type("drawing_paper"))
    assert (papers.cards, papers.gone_in_all) == (0, papers.products)
    assert papers.whole
    assert book


def test_why_tells_the_cards_and_who_says_so(work: Work, book: int) -> None:
    def steps() -> dict[str, str]:
        return {step.name: step.text for step in explaining.explain_listing(work, book, BOOKS).steps}

    assert "cards" not in steps()
    say(work, mode="variant")
    assert steps()["cards"] == "4 cards: one a variant, by the shop. All of them are called Marsh book"
    say(work, mode="by", options=["colour"], title="{product}[, {colour}]")
    assert steps()["cards"] == "2 cards: split by Colour, by the shop. Marsh book, Red; Marsh book, Blue"
    say(work, listings=["home"])
    assert steps()["cards"] == "One card: several stand on other listings only, by the shop. Marsh book"
    key = definitions.create(work, "collection", "Winter", {"picked": [book]}).thing.key
    say(work, f"collection:{key}", mode="all_but", options=["colour", "size"], listings=["collection"])
    found = explaining.explain_listing(work, book, of_collection(key))
    [step] = [step for step in found.steps if step.name == "cards"]
    assert step.text == "One card: split by all but Colour and Size, by Winter. Marsh book"
    assert step.mend is not None
    assert (step.mend.noun, step.mend.key) == ("listing_rule", f"collection:{key}")


def test_why_tells_that_it_is_left_out(work: Work, book: int) -> None:
    other = make_product(work, "P-1", "paper")
    say(work, mode="variant", no_variants="drop")
    found = explaining.explain_listing(work, other, of_type("paper"))
    [step] = [step for step in found.steps if step.name == "cards"]
    assert (step.ok, step.text) == (False, "No card: products without variants are left out, by the shop")
    assert all(step.name != "shows" for step in found.steps)
    assert book
