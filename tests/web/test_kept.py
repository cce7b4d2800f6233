"""What is made once for many pages: cards, what stands around pages, data in pages."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest
from flask import Flask
from sqlalchemy import text

from tests.web.conftest import Api
from young_fabric.service.acting.actors import Work
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.web.shop.kept import KeptCards
from young_fabric.web.shop.marks import data_html

LISTING = "/shop/c/paint"


def cards_on(stranger: Api, path: str) -> dict[int, str]:
    """Product → its card's HTML on a page."""
    page = stranger.client.get(path).get_data(as_text=True)
    found = re.findall(r'<article class="card.*?</article>', page, re.DOTALL)
    return {int(re.findall(r'data-product="(\d+)"', card)[0]): card for card in found}


def test_a_card_is_made_once_for_all_listings_it_stands_on(stranger: Api, app: Flask, work: Work) -> None:
    kept: KeptCards = app.extensions["kept_cards"]
    first = cards_on(stranger, LISTING)
    made = dict(kept.items())
    assert made
    app.extensions["kept_pages"].clear()
    work.session.execute(text("DELETE FROM kept_page"))
    assert cards_on(stranger, LISTING) == first
    assert kept.items().keys() == made.keys(), "nothing was made anew"
    assert all(kept.items()[mark] is made[mark] for mark in made)


def test_a_kept_card_tells_what_stands(stranger: Api, work: Work) -> None:
    before = cards_on(stranger, LISTING)
    found = products.search(work, products.Filters(words="Barley Ochre"), None).rows[0].product
    number = found.id
    assert "Sold out" not in before[number]
    products.set_stock(work, number, found.stock, 0)
    gone = cards_on(stranger, LISTING)
    assert "Sold out" in gone[number]
    assert {key: card for key, card in gone.items() if key != number} == {
        key: card for key, card in before.items() if key != number
    }
    products.set_stock(work, number, 0, 9)
    assert "Sold out" not in cards_on(stranger, LISTING)[number]
    products.fill(work, number, None, {"title": "Renamed & moved"})
    release.release(work, "")
    assert "Renamed &amp; moved" in cards_on(stranger, LISTING)[number]


def test_the_way_around_is_that_of_the_release_and_of_the_shop(stranger: Api, work: Work) -> None:
    def masthead() -> str:
        page = stranger.client.get("/shop/nowhere").get_data(as_text=True)
        return page[page.index("<body") : page.index("<main")]

    first = masthead()
    assert masthead() == first
    work.session.execute(text("UPDATE shop SET name = 'Marsh <& Sons'"))
    assert "Marsh &lt;&amp; Sons" in masthead()


@pytest.mark.parametrize("value", ["</script><script>x()", "a & b", "it's", "\u2028", {"b": 1, "a": ["ä", None, True]}])
def test_data_in_a_page_is_read_as_it_was_and_ends_no_script(value: Any) -> None:
    written = str(data_html(value))
    assert json.loads(written) == value
    assert not set(written) & set("<>&'")
