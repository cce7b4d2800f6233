"""Several cards of a product in the shop: where they lead, what is left of each at the moment, on listings, at home and in the proof."""

from __future__ import annotations

import re
from html import unescape
from typing import Any, NamedTuple

import pytest

from tests.service.values.test_variants import BLUE, LARGE, RED, SMALL, give, make_product, make_set, of, option
from tests.web.conftest import Api
from young_fabric.core.display.cascade import read_scope
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.service.sales import variant_values
from young_fabric.service.sales.variant_values import VariantStock
from young_fabric.service.values import variant_writer
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.store.repos import definitions as stored

CARD = "listing_card"


class Shown(NamedTuple):
    """A card in the shop: what it is called, where it leads, its price, and whether it is told sold out."""

    title: str
    href: str
    price: str
    gone: bool


@pytest.fixture
def book(work: Work) -> int:
    give(work, "sketchbooks", make_set(work, "Woods", option("colour", RED, BLUE), option("size", SMALL, LARGE)))
    number = make_product(work, "SB-1")
    dear = [ValueEdit(row.id, None, {"price": "44"}) for row in of(work, number) if row.choices["size"] == "large"]
    variant_writer.put_many(work, dear)
    return number


def say(work: Work, scope: str = "shop", **members: Any) -> None:
    key = f"{scope}/*/{CARD}"
    version = stored.versions_of(work.session, "display_setting", [key]).get(key)
    definitions.display(work, read_scope(scope), "*", CARD, members, version)


def cards(client: Api, path: str, number: int) -> list[Shown]:
    page = client.client.get(path).get_data(as_text=True)
    out = []
    for html in re.findall(r'<article class="card.*?</article>', page, re.DOTALL):
        if f'data-product="{number}"' in html:
            [(href, title)] = re.findall(r'<h3[^>]*><a href="([^"]*)">(.*?)</a>', html, re.DOTALL)
            words = " ".join(re.sub("<[^>]*>", " ", html).split())
            [price] = re.findall(r"(?:from )?€[\d.]+", words)[:1]
            out.append(Shown(unescape(title), unescape(href), price, 'class="soldout"' in html))
    return out


def stock(work: Work, number: int, **amounts: int) -> None:
    for row in of(work, number):
        name = f"{row.choices['colour']}_{row.choices['size']}"
        if name in amounts:
            variant_values.put_stocks(work, [VariantStock(row.id, row.stock, amounts[name])])


def test_each_card_leads_to_the_page_with_its_choice_made(stranger: Api, work: Work, book: int) -> None:
    say(work, mode="by", options=["colour"], title="{product}[, {colour}]")
    release.release(work, "By colour")
    [red, blue] = cards(stranger, "/shop/c/sketchbooks", book)
    assert (red.title, blue.title) == ("Marsh book, Red", "Marsh book, Blue")
    assert red.href.endswith("?colour=red")
    assert (red.price, red.gone) == ("from €40.00", False)
    page = stranger.client.get(red.href).get_data(as_text=True)
    assert re.search(r'<input[^>]*name="colour"[^>]*value="red"[^>]*checked|<option value="red" selected', page)


def test_what_is_left_of_a_card_is_live(stranger: Api, work: Work, book: int) -> None:
    say(work, mode="by", options=["colour"], title="{product}[, {colour}][, {size}]")
    release.release(work, "By colour")
    stock(work, book, red_small=0, red_large=3, blue_small=1)
    [red, blue] = cards(stranger, "/shop/c/sketchbooks", book)
    assert (red.price, red.gone) == ("€44.00", False), "only the dear one is left"
    assert (blue.price, blue.gone) == ("from €40.00", False)
    stock(work, book, red_large=0)
    [red, blue] = cards(stranger, "/shop/c/sketchbooks", book)
    assert (red.price, red.gone) == ("from €40.00", True)
    assert not blue.gone
    stock(work, book, red_small=2)
    [red, _] = cards(stranger, "/shop/c/sketchbooks", book)
    assert (red.price, red.gone) == ("€40.00", False)


def test_home_has_cards_of_its_own(stranger: Api, work: Work, book: int) -> None:
    products.fill(work, book, None, {"title": "A book first of all"})
    say(work, mode="variant", title="{product}[, {colour}][, {size}]", listings=["collection"])
    release.release(work, "Not at home")
    assert [card.title for card in cards(stranger, "/shop/", book)] == ["A book first of all"]
    assert len(cards(stranger, "/shop/c/sketchbooks", book)) == 4
    say(work, listings=["home"])
    release.release(work, "At home alone")
    assert len(cards(stranger, "/shop/", book)) >= 2
    assert [card.title for card in cards(stranger, "/shop/c/sketchbooks", book)] == ["A book first of all"]


def test_the_proof_shows_what_will_be(rosa: Api, work: Work, book: int) -> None:
    say(work, mode="variant", title="{sku}")
    titles = [card.title for card in cards(rosa, "/proof/type/sketchbooks", book)]
    assert titles == ["SB-1-RED", "Marsh book", "SB-1-BLU", "Marsh book"] or len(titles) == 4
    assert [card.title for card in cards(rosa, f"/proof/surface/{CARD}/{book}", book)] == titles
    assert cards(rosa, f"/proof/live/{CARD}/{book}", book) == []
    release.release(work, "Now")
    assert [card.title for card in cards(rosa, f"/proof/live/{CARD}/{book}", book)] == titles


def test_pages_of_a_listing_hold_cards_not_products(stranger: Api, work: Work, book: int) -> None:
    numbers = [make_product(work, f"X-{number}") for number in range(8)]
    say(work, mode="variant", title="{product}[, {colour}][, {size}]")
    release.release(work, "Many")
    first = stranger.client.get("/shop/c/sketchbooks").get_data(as_text=True)
    second = stranger.client.get("/shop/c/sketchbooks?page=2").get_data(as_text=True)
    shown = [len(re.findall(r'<article class="card', page)) for page in (first, second)]
    assert shown[0] == 24
    assert shown[1] > 0
    among = [
        number
        for number in [book, *numbers]
        for path in ("", "?page=2", "?page=3")
        for _ in cards(stranger, f"/shop/c/sketchbooks{path}", number)
    ]
    assert len(among) == 4 * 9
