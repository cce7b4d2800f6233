"""What is sold live: choices are quoted by one service, and studio, shop and basket say the same."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.service.sales.shopping import DEAR, basket, count, offered, price_of, put
from tests.service.values.test_variants import (
    BLUE,
    LARGE,
    PEAT,
    RED,
    SMALL,
    give,
    make_product,
    make_set,
    of,
    option,
    put_set,
)
from young_fabric.core.display.cascade import Scope
from young_fabric.core.display.surfaces import addressed_surface, basket_surface
from young_fabric.core.options.quote import Quote
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import pending, release
from young_fabric.service.sales import quotes, selling
from young_fabric.service.sales.baskets import MOST_QUANTITY
from young_fabric.service.values import variant_writer
from young_fabric.service.values.value_states import ValueEdit


def test_what_is_offered_goes_live_with_a_release_and_not_before(work: Work) -> None:
    product = make_product(work, "SB-1")
    release.release(work, "")
    assert selling.live_selling(work.session, [product])[product].product.sold is None
    give(work, "sketchbooks", make_set(work, "Covers", option("colour", RED, BLUE)))
    assert selling.live_selling(work.session, [product])[product].goods.offer.axes == ()
    named = {(thing.noun, thing.key): thing for thing in pending.pending(work).things}
    assert named["offered", str(product)].lines == ["2 variants new"]
    assert named["offered", str(product)].surfaces[addressed_surface().code] == 1
    release.release(work, "")
    found = selling.live_selling(work.session, [product])[product]
    assert [variant.choices for variant in found.variants.values()] == [{"colour": "red"}, {"colour": "blue"}]
    assert pending.pending(work).count == 0


def test_what_is_set_for_one_product_alone_is_told_of_each_of_two(work: Work) -> None:
    give(work, "sketchbooks", make_set(work, "Covers", option("colour", RED, BLUE)))
    numbers = [make_product(work, "SB-1"), make_product(work, "SB-2")]
    for number in numbers:
        definitions.display(
            work, Scope("product", str(number)), "title", "basket_line", {"label_text": f"N{number}"}, None
        )
    found = [products.need_record(work, number).product for number in numbers]
    both = selling.draft_selling(work, plans.draft_plans(work.session), found)
    for number, product in zip(numbers, found, strict=True):
        assert both[number] == selling.draft_selling(work, plans.draft_plans(work.session), [product])[number]


def test_the_price_of_a_product_is_that_of_what_is_left(work: Work) -> None:
    product = offered(work)

    def shown() -> tuple[str, bool, bool]:
        found = selling.live_selling(work.session, [product])[product]
        assert found.product.sold is not None
        return str(found.product.values["price"]), found.product.sold.differ, found.repriced

    red, dear = "40", "43.2"
    assert shown() == (red, True, False)
    count(work, product, 0, 4)
    assert shown() == (red, True, False), "the other red size is left"
    count(work, product, 0, 0)
    assert shown() == (dear, False, True)
    count(work, product, 0, 0, 0, 0)
    assert shown() == (red, True, False), "where nothing is left, over all"
    count(work, product, 1, 0, 0, 0)
    assert shown() == (red, False, True)


def test_a_change_of_a_variant_alone_is_released_and_taken_back(work: Work) -> None:
    product = offered(work)
    first = of(work, product)[0]
    variant_writer.put_many(work, [ValueEdit(first.id, first.version, {"price": "31"})])
    [thing] = pending.pending(work).things
    assert thing.lines == ["SB-1-RED: Price nothing → 31"]
    assert (
        price_of(
            selling.choose(
                selling.live_selling(work.session, [product])[product], dict(first.choices), 1, work.now.date()
            )
        )[0]
        == "40.00"
    )
    first_release = release.history(work)[0][0].number
    release.release(work, "")
    live = selling.live_selling(work.session, [product])[product]
    assert price_of(selling.choose(live, dict(first.choices), 1, work.now.date()))[0] == "31.00"
    assert live.product.values["price"] == "31", "pages tell the lowest"
    release.go_back(work, first_release)
    live = selling.live_selling(work.session, [product])[product]
    assert price_of(selling.choose(live, dict(first.choices), 1, work.now.date()))[0] == "40.00"
    assert [thing.lines for thing in pending.pending(work).things] == [["SB-1-RED: Price nothing → 31"]]


def test_words_of_an_option_change_the_pages_of_products_that_offer_it_and_no_other(work: Work) -> None:
    product = offered(work)
    other = make_product(work, "PA-1", "paint")
    release.release(work, "")
    put_set(
        work,
        "covers",
        options=[option("colour", {**RED, "label": "Brick"}, {**BLUE, "effect": DEAR}), option("size", SMALL, LARGE)],
    )
    count_of = definitions.consequences(work, "option_set", "covers", plans.draft(work.session).option_sets["covers"])
    assert count_of.surfaces[addressed_surface().code] == 0, "nothing differs from itself"
    ahead = pending.pending(work)
    sketchbooks = len(products.search(work, products.Filters(type="sketchbooks"), None, 200).rows)
    assert ahead.surfaces[addressed_surface().code] == sketchbooks
    done = release.release(work, "")
    assert done.counts[addressed_surface().code] == sketchbooks
    live = selling.live_selling(work.session, [product, other])
    assert live[product].goods.offer.by_key["colour"].label("red") == "Brick"
    assert live[other].goods.offer.options == ()


def comparable(quote: Quote) -> Any:
    """A quote with its problems by what they are, as refusals are told apart by identity."""
    return quote._replace(problems=tuple((problem.option, problem.refusal.code) for problem in quote.problems))  # type: ignore[arg-type]


CHOICES = st.fixed_dictionaries(
    {},
    optional={
        "colour": st.sampled_from(["red", "blue", ""]),
        "size": st.sampled_from(["small", "large"]),
        "inside": st.sampled_from(["", "For Anna", "x"]),
    },
)


@pytest.fixture
def sold(work: Work) -> tuple[Work, int]:
    return work, offered(work)


def test_studio_shop_and_basket_say_the_same_to_the_cent(sold: tuple[Work, int]) -> None:
    work, product = sold

    @given(CHOICES, st.integers(1, MOST_QUANTITY))
    def same(asked: dict[str, Any], quantity: int) -> None:
        studio = quotes.quote_product(work, product, asked, quantity)
        live = selling.live_selling(work.session, [product])[product]
        shop = selling.choose(live, asked, quantity, work.now.date()).quote
        made = plans.draft_plans(work.session)
        proof = selling.draft_selling(work, made, [products.need_record(work, product).product])[product]
        proven = selling.choose(proof, asked, quantity, work.now.date()).quote
        assert comparable(studio) == comparable(shop) == comparable(proven)
        with work.session.begin_nested() as savepoint:
            put(work, product, quantity, **asked)
            lines = basket(work).lines
            assert len(lines) == (0 if studio.problems else 1)
            if lines and lines[0].chosen is not None and studio.price is not None:
                assert comparable(lines[0].chosen.quote) == comparable(studio)
                assert basket(work).total == studio.price.total
            savepoint.rollback()

    same()


def test_facts_of_a_line_are_those_its_layout_names_and_settings_show(work: Work) -> None:
    product = offered(work)
    live = selling.live_selling(work.session, [product])[product]
    chosen = selling.choose(live, {"colour": "blue", "size": "small"}, 1, work.now.date())
    facts = {entry.field: entry.text for entry in chosen.document(basket_surface().code).entries()}
    assert (facts["sku"], "description" in facts, "price" in facts) == ("SB-1-BLU", False, False)


def test_a_day_is_counted_from_today_and_what_is_chosen_beforehand_is_chosen(work: Work) -> None:
    product = make_product(work, "SB-1")
    day = {"key": "day", "name": "Day", "kind": "date", "required": False, "limits": {"from_days": 2}}
    give(work, "sketchbooks", make_set(work, "Covers", {**option("colour", RED, PEAT), "default": "peat"}, day))
    release.release(work, "")
    live = selling.live_selling(work.session, [product])[product]
    today = datetime(2026, 5, 4, tzinfo=UTC).date()
    chosen = selling.choose(live, {}, 1, today)
    assert (chosen.asked, chosen.address, chosen.day(2)) == ({"colour": "peat"}, [("colour", "peat")], "2026-05-06")
    assert selling.choose(live, {"day": "2026-05-05"}, 1, today).quote.problems[0].refusal.code == "below"
    assert selling.choose(live, {"day": "2026-05-06"}, 1, today).quote.problems == ()
