"""Baskets and orders: prices that changed are told, what is left is shared, an order takes its stock and stands on disk."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path
from threading import Thread

import pytest
from sqlalchemy.orm import Session

from tests.service.sales.shopping import TOKEN, add, basket, buyer, count, offered, place, price_of, put, shopper
from tests.service.values.test_variants import of
from young_fabric.core.base.errors import Refusal
from young_fabric.service.acting.actors import SHOPPER, Actor, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.service.sales import baskets, orders
from young_fabric.service.sales.baskets import MOST_LINES, MOST_QUANTITY
from young_fabric.store.files import FilesOnDisk
from young_fabric.store.repos import variants as variant_rows


def test_lines_are_more_of_the_same_or_others_and_are_changed_and_taken_out(work: Work) -> None:
    product = offered(work)
    assert price_of(put(work, product, 2, colour="blue", size="large", inside="Anna")) == ("43.20", "3.00", "89.40")
    put(work, product, 1, colour="blue", size="large", inside="Anna")
    put(work, product, 1, colour="red", size="large")
    found = basket(work)
    assert [line.quantity for line in found.lines] == [3, 1]
    assert (found.total, found.ready) == ("172.60", True)
    baskets.put_quantity(shopper(work), TOKEN, found.lines[1].id, 4)
    baskets.put_quantity(shopper(work), TOKEN, found.lines[0].id, 0)
    assert basket(work).total == "160.00"
    for wrong in (-1, MOST_QUANTITY + 1):
        with pytest.raises(Refusal, match="pieces"):
            baskets.put_quantity(shopper(work), TOKEN, found.lines[1].id, wrong)
    baskets.put_quantity(shopper(work), TOKEN, found.lines[1].id, MOST_QUANTITY)
    with pytest.raises(Refusal, match="no longer in the basket"):
        baskets.put_quantity(shopper(work), "a-token-of-somebody-else-altogether", found.lines[1].id, 1)
    assert baskets.read(work.session, None, work.now.date()) == baskets.NOTHING


def test_nothing_goes_in_that_has_a_problem_and_the_basket_has_an_end(work: Work) -> None:
    product = offered(work)
    assert [problem.option for problem in put(work, product, 1, colour="red").quote.problems] == ["size"]
    assert [
        problem.option for problem in put(work, product, 1, colour="red", size="small", inside="x" * 13).quote.problems
    ] == ["inside"]
    put(work, product, 1, colour="red", size="small", inside="x" * 12)
    assert len(basket(work).lines) == 1
    with pytest.raises(Refusal, match="no longer sold"):
        put(work, 99_999)
    for number in range(MOST_LINES - 1):
        put(work, product, 1, colour="red", size="small", inside=f"{number}")
    with pytest.raises(Refusal, match=f"at most {MOST_LINES} lines"):
        put(work, product, 1, colour="red", size="small", inside="one more")


def test_a_price_that_changed_is_told_and_not_silently_taken(work: Work, tmp_path: Path) -> None:
    product = offered(work)
    put(work, product, 1, colour="red", size="small")
    shown = basket(work).total
    products.fill(work, product, None, {"price": "45"})
    assert basket(work).lines[0].was is None, "a draft changes nothing"
    release.release(work, "")
    [line] = basket(work).lines
    assert (line.was, basket(work).total, basket(work).ready) == (("40.00", "0.00"), "45.00", False)
    for total in (shown or "", "45.00"):
        with pytest.raises(Refusal, match="price changed"):
            place(work, total)
    baskets.take_note(shopper(work), TOKEN, basket(work))
    assert basket(work).ready
    with pytest.raises(Refusal, match="price changed"):
        place(work, shown or "")
    assert place(work, "45.00").number > 0


def test_an_order_is_an_open_document_and_takes_its_stock(work: Work, tmp_path: Path) -> None:
    product = offered(work)
    count(work, product, None, 5)
    put(work, product, 2, colour="red", size="large", inside="Anna")
    placed = place(work, "83.00")
    assert orders.write_documents(work, FilesOnDisk(tmp_path), work.now) == 1
    assert orders.write_documents(work, FilesOnDisk(tmp_path), work.now) == 0, "once"
    [file] = tmp_path.rglob("*.json")
    document = json.loads(file.read_text())
    assert file.name == f"{placed.number}.json"
    assert (document["format"], document["version"], document["number"]) == ("young-fabric-order", 1, placed.number)
    assert (document["total"], document["currency"], document["buyer"]["name"]) == ("83.00", "EUR", "Wren Aldous")
    [line] = document["lines"]
    assert (line["sku"], line["quantity"], line["price"]["each"], line["price"]["once"]) == (
        "SB-1-RED",
        2,
        "40.00",
        "3.00",
    )
    assert [choice["words"] for choice in line["choices"]] == ["Red", "Large", "Anna"]
    assert [fact["field"] for fact in line["facts"]] == ["sku"]
    assert of(work, product)[1].stock == 3
    assert basket(work).lines == []
    assert orders.read(work.session, placed.token) == document
    assert orders.read(work.session, "another") is None


def test_lines_share_what_is_left_and_what_a_shop_no_longer_sells_is_told(work: Work, tmp_path: Path) -> None:
    product = offered(work)
    count(work, product, 3)
    put(work, product, 2, colour="red", size="small")
    put(work, product, 1, colour="red", size="small", inside="Anna")
    assert basket(work).ready, "three of three"
    baskets.put_quantity(shopper(work), TOKEN, basket(work).lines[1].id, 2)
    assert [[problem.refusal.message for problem in line.problems] for line in basket(work).lines] == [
        [],
        ["Only 1 left for this line"],
    ]
    with pytest.raises(Refusal, match="can't be ordered"):
        place(work, basket(work).total or "")
    products.fill(work, product, None, {}, offered=False)
    release.release(work, "")
    assert {problem.refusal.code for line in basket(work).lines for problem in line.problems} == {"gone"}


@pytest.mark.parametrize(
    ("who", "code", "where"),
    [
        (orders.Buyer(" "), "required", "name"),
        (orders.Buyer("x" * 121), "long", "name"),
        (orders.Buyer("x" * 120, "no address"), "email", "email"),
        (orders.Buyer("a\nb"), "text", "name"),
        (orders.Buyer("x", "a@b"), "email", "email"),
    ],
)
def test_for_whom_an_order_is_is_checked(who: orders.Buyer, code: str, where: str) -> None:
    with pytest.raises(Refusal) as refused:
        orders.check_buyer(who)
    assert (refused.value.code, refused.value.where) == (code, (where,))


def test_two_shoppers_after_the_last_piece(shop: Callable[[], Session], rosa: Actor, tmp_path: Path) -> None:
    with unit_of_work(shop, rosa) as work:
        product = offered(work)
        count(work, product, 1)
        red = of(work, product)[0].id
    tokens = [f"{TOKEN}-{number}" for number in range(4)]
    for token in tokens:
        with unit_of_work(shop, SHOPPER) as work:
            add(work, token, product, {"colour": "red", "size": "small"}, 1)
    done: list[str] = []

    def buy(token: str) -> None:
        try:
            with unit_of_work(shop, SHOPPER) as work:
                place(work, "40.00", token)
            done.append("ordered")
        except Refusal as refusal:
            done.append(refusal.code)

    threads = [Thread(target=buy, args=(token,)) for token in tokens]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(30)
    assert done.count("ordered") == 1
    assert set(done) <= {"ordered", "sold_out", "not_ready"}
    with unit_of_work(shop, rosa) as work:
        assert variant_rows.get(work.session, [red])[red].stock == 0
    with unit_of_work(shop, SHOPPER) as work:
        assert orders.write_documents(work, FilesOnDisk(tmp_path), work.now + timedelta(days=1)) == 1


def test_a_form_sent_twice_is_one_order_and_a_new_basket_another(work: Work) -> None:
    product, seen = offered(work), orders.new_token()
    put(work, product, 1, colour="red", size="small")
    first = place(work, "40.00", seen=seen)
    assert place(work, "40.00", seen=seen) == first, "the second press of a double click"
    with pytest.raises(Refusal, match="empty"):
        place(work, "40.00")
    put(work, product, 1, colour="red", size="small")
    again = place(work, "40.00", seen=seen)
    assert again.number > first.number
    assert again.token != seen, "an order that stands is never found by another's token"


def test_what_was_viewed_must_still_stand(work: Work) -> None:
    product = offered(work)
    put(work, product, 1, colour="red", size="small")
    viewed = orders.view(work.session, TOKEN, work.now.date())
    put(work, product, 1, colour="red", size="large")
    with pytest.raises(Refusal, match="changed meanwhile"):
        orders.place(shopper(work), TOKEN, "40.00", buyer(), viewed, orders.new_token())
