"""A shopper of the tests: what is offered, put into a basket and ordered."""

from __future__ import annotations

from typing import Any

from tests.service.values.test_variants import BLUE, LARGE, RED, SMALL, give, make_product, make_set, of, option
from young_fabric.service.acting.actors import SHOPPER, Work
from young_fabric.service.releasing import release
from young_fabric.service.sales import baskets, orders, selling, variant_values
from young_fabric.service.sales.variant_values import VariantStock

TOKEN = "a-token-of-a-browser-that-is-long"
NAME = {"key": "inside", "name": "Name inside", "kind": "text", "required": False, "limits": {"max_length": 12}}
DEAR = {"price": {"mode": "typed", "value": "8 %"}, "sku": "blu"}


def offered(work: Work, **more: Any) -> int:
    """A product at 40 euros with two colours, two sizes and a name, live."""
    product = make_product(work, "SB-1")
    engraved = {**NAME, "effect": {"price": {"mode": "typed", "value": "3 once"}}}
    colours = option("colour", RED, {**BLUE, "effect": DEAR})
    give(work, "sketchbooks", make_set(work, "Covers", colours, option("size", SMALL, LARGE), engraved, **more))
    release.release(work, "")
    return product


def shopper(work: Work) -> Work:
    return Work(work.session, SHOPPER, work.now)


def put(work: Work, product: int, quantity: int = 1, **asked: Any) -> selling.Chosen:
    return add(work, TOKEN, product, asked, quantity)


def add(work: Work, token: str, product: int, asked: dict[str, Any], quantity: int) -> selling.Chosen:
    wanted = baskets.want(work.session, product, asked, quantity, work.now.date())
    if not wanted.problems:
        baskets.put_in(shopper(work), token, wanted, quantity)
    return wanted.chosen


def place(work: Work, total: str | None, token: str = TOKEN, seen: str | None = None) -> orders.Placed:
    viewed = orders.view(work.session, token, work.now.date())
    return orders.place(shopper(work), token, total or "", buyer(), viewed, seen or orders.new_token())


def basket(work: Work) -> baskets.Basket:
    return baskets.read(work.session, TOKEN, work.now.date())


def price_of(chosen: selling.Chosen) -> tuple[str, str, str]:
    assert chosen.quote.price is not None
    return chosen.quote.price.each, chosen.quote.price.once, chosen.quote.price.total


def count(work: Work, product: int, *amounts: int | None) -> None:
    edits = [
        VariantStock(variant.id, variant.stock, amount)
        for variant, amount in zip(of(work, product), amounts, strict=False)
    ]
    variant_values.put_stocks(work, edits)


def buyer() -> orders.Buyer:
    return orders.Buyer("Wren Aldous", "wren@example.org")
