"""Stock is one thing: whoever writes it holds the row that orders lock, so nothing sold comes back and nothing is sold twice."""

from __future__ import annotations

from collections.abc import Callable
from threading import Thread
from typing import Any

import pytest
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from tests.conftest import NOW
from tests.service.values.test_variants import BLUE, RED, give, make_product, make_set, of, option
from young_fabric.core.base.errors import Refusal
from young_fabric.core.options.left import is_sold_out, nothing_left
from young_fabric.core.subjects.stock import CHOICE_STOCK, MOST_STOCK, PRODUCT_STOCK, VARIANT_STOCK, StockKey
from young_fabric.service import history
from young_fabric.service.acting.actors import Actor, Clash, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import option_sets
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.service.sales import selling, variant_values
from young_fabric.service.sales.variant_values import VariantStock
from young_fabric.service.values import stocks
from young_fabric.service.values.stocks import StockEdit
from young_fabric.store.repos import stocks as rows

SORTS = (PRODUCT_STOCK, VARIANT_STOCK, CHOICE_STOCK)
SHOPPERS, RESTOCKERS, ROUNDS = 5, 2, 6


def counted(work: Work, sort: str) -> StockKey:
    """Something whose stock of a sort is counted: 40 pieces."""
    product = make_product(work, "SB-1")
    if sort == PRODUCT_STOCK:
        products.set_stock(work, product, None, 40)
        return StockKey(sort, (product,))
    key = make_set(work, "Covers", option("colour", RED, BLUE))
    give(work, "sketchbooks", key)
    if sort == VARIANT_STOCK:
        variant = of(work, product)[0].id
        variant_values.put_stocks(work, [VariantStock(variant, None, 40)])
        return StockKey(sort, (variant,))
    option_sets.put_stock(work, key, "colour", "red", None, 40)
    return StockKey(sort, (key, "colour", "red"))


def put(work: Work, key: StockKey, expected: int | None, amount: int | None) -> None:
    """By the use case of its sort."""
    if key.sort == PRODUCT_STOCK:
        products.set_stock(work, int(key.of[0]), expected, amount)
    elif key.sort == VARIANT_STOCK:
        variant_values.put_stocks(work, [VariantStock(int(key.of[0]), expected, amount)])
    else:
        option_sets.put_stock(work, *map(str, key.of), expected, amount)  # type: ignore[call-arg]


def amount(session: Session, key: StockKey) -> int | None:
    return rows.read(session, key.sort, [key.of]).get(key.of)


@pytest.mark.parametrize("sort", SORTS)
def test_who_waits_for_a_sale_meets_what_is_left(shop: Callable[[], Session], rosa: Actor, sort: str) -> None:
    with unit_of_work(shop, rosa) as work:
        key = counted(work, sort)
    outcome: list[Any] = []

    def restock() -> None:
        try:
            with unit_of_work(shop, rosa) as work:
                put(work, key, 40, 90)
            outcome.append("put")
        except Clash as clash:
            outcome.append(clash.theirs)

    with shop() as sale:
        assert rows.take(sale, {key: 3})
        waiting = Thread(target=restock)
        waiting.start()
        wait_for_a_lock(sale)
        sale.commit()
    waiting.join(60)
    assert outcome == [{"amount": 37}]
    with shop() as session:
        assert amount(session, key) == 37


@pytest.mark.parametrize("sort", SORTS)
def test_an_order_that_waits_never_takes_what_is_no_longer_there(
    shop: Callable[[], Session], rosa: Actor, sort: str
) -> None:
    with unit_of_work(shop, rosa) as work:
        key = counted(work, sort)
    taken: list[bool] = []

    def buy() -> None:
        with shop() as session:
            taken.append(rows.take(session, {key: 30}))
            session.commit()

    for left in (2, None):
        with unit_of_work(shop, rosa) as work:
            now = amount(work.session, key)
            put(work, key, now, left)
            waiting = Thread(target=buy)
            waiting.start()
            wait_for_a_lock(work.session)
        waiting.join(60)
        with shop() as session:
            assert amount(session, key) == left
    assert taken == [False, False], "too few, then no longer counted"


def wait_for_a_lock(session: Session) -> None:
    """Until somebody waits for what this transaction holds."""
    waits = text("SELECT count(*) FROM pg_locks WHERE NOT granted AND database IS NOT NULL OR NOT granted")
    for _ in range(600):
        with Session(session.get_bind()) as other:
            if other.scalar(waits):
                return
            other.execute(text("SELECT pg_sleep(0.05)"))
    raise AssertionError("nobody waits")


@pytest.mark.parametrize("sort", SORTS)
def test_shoppers_and_restockers_at_once_end_at_the_sum(shop: Callable[[], Session], rosa: Actor, sort: str) -> None:
    with unit_of_work(shop, rosa) as work:
        key = counted(work, sort)
    sold: list[int] = []
    came: list[int] = []

    def buy() -> None:
        for _ in range(ROUNDS):
            with shop() as session:
                if rows.take(session, {key: 3}):
                    session.commit()
                    sold.append(3)

    def restock() -> None:
        for _ in range(ROUNDS):
            try:
                with unit_of_work(shop, rosa) as work:
                    now = amount(work.session, key)
                    assert now is not None
                    put(work, key, now, now + 5)
                came.append(5)
            except Clash:
                pass

    threads = [Thread(target=buy) for _ in range(SHOPPERS)] + [Thread(target=restock) for _ in range(RESTOCKERS)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(120)
    with shop() as session:
        assert amount(session, key) == 40 + sum(came) - sum(sold)
        table = rows.TABLES[sort].name
        with pytest.raises(IntegrityError, match="amount"):
            session.execute(text(f"UPDATE {table} SET amount = -1"))


@pytest.mark.parametrize("sort", SORTS)
def test_amounts_are_bounded_alike_for_all(work: Work, sort: str) -> None:
    key = counted(work, sort)
    for wrong, code in ((-1, "below"), (MOST_STOCK + 1, "above")):
        with pytest.raises(Refusal) as refused:
            put(work, key, 40, wrong)
        assert refused.value.code == code
    for now, then in ((40, MOST_STOCK), (MOST_STOCK, 0), (0, None), (None, 3)):
        put(work, key, now, then)
        assert amount(work.session, key) == then
    last = history.undo_last(work)
    assert last.lines == ["Stock not counted → 3"]
    assert amount(work.session, key) is None


def test_many_are_put_by_a_few_statements_and_twice_in_one_is_in_order(work: Work) -> None:
    product = make_product(work, "SB-1")
    of_it = StockKey(PRODUCT_STOCK, (product,))
    edits = [StockEdit(of_it, str(product), "A book", None, 4), StockEdit(of_it, str(product), "A book", 4, 6)]
    stocks.put(work, edits)
    assert amount(work.session, of_it) == 6
    with pytest.raises(Refusal, match="is gone"):
        stocks.put(work, [StockEdit(StockKey(PRODUCT_STOCK, (2**31 - 1,)), "0", "Nothing", None, 1)])
    assert amount(work.session, of_it) == 6


def test_what_is_left_counts_single_values_everywhere(work: Work) -> None:
    product = make_product(work, "SB-1")
    key = make_set(work, "Covers", option("colour", RED, BLUE))
    give(work, "sketchbooks", key)
    release.release(work, "")
    for code in ("red", "blue"):
        option_sets.put_stock(work, key, "colour", code, None, 0)
    found = selling.live_selling(work.session, [product])[product]
    assert found.sold_out
    assert nothing_left(found.goods)
    assert all(is_sold_out(found.goods, names) for names in found.goods.variants)
    assert [gone for *_, gone, _ in found.listed_variants()] == [True, True]
    assert selling.choose(found, {"colour": "red"}, 1, NOW.date()).quote.available == 0
    option_sets.put_stock(work, key, "colour", "blue", 0, 2)
    left = selling.live_selling(work.session, [product])[product]
    assert (left.sold_out, selling.choose(left, {"colour": "blue"}, 1, NOW.date()).quote.available) == (False, 2)


def test_a_required_request_of_which_nothing_is_left_sells_nothing(work: Work) -> None:
    product = make_product(work, "SB-1")
    ribbon = {"key": "ribbon", "name": "Ribbon", "kind": "text", "required": True}
    key = make_set(work, "Ribbons", ribbon)
    give(work, "sketchbooks", key)
    release.release(work, "")
    option_sets.put_stock(work, key, "ribbon", "", None, 0)
    assert selling.live_selling(work.session, [product])[product].sold_out


def test_an_option_in_two_sets_counts_in_the_set_that_offers_it(work: Work) -> None:
    product = make_product(work, "SB-1")
    first = make_set(work, "Covers", option("colour", RED, BLUE))
    second = make_set(work, "Other covers", option("colour", RED, BLUE))
    give(work, "sketchbooks", first, second)
    release.release(work, "")
    option_sets.put_stock(work, second, "colour", "red", None, 2)
    found = selling.live_selling(work.session, [product])[product]
    assert selling.choose(found, {"colour": "red"}, 1, NOW.date()).quote.available is None, "nothing would take it"
