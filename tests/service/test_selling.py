"""What is sold live: choices and baskets are quoted by one service, prices that changed are told, orders take stock and stand on disk."""

from __future__ import annotations

import io
import json
import os
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path
from threading import Thread
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from sqlalchemy import text
from sqlalchemy.orm import Session

from tests.service.test_variants import BLUE, LARGE, PEAT, RED, SMALL, give, make_product, make_set, of, option, put_set
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.surfaces import addressed_surface, basket_surface
from young_fabric.core.options.quote import Quote
from young_fabric.service import (
    baskets,
    definitions,
    orders,
    pending,
    plans,
    products,
    quotes,
    release,
    selling,
    sent_files,
    variant_values,
)
from young_fabric.service.actors import SHOPPER, Actor, Work
from young_fabric.service.baskets import MOST_LINES, MOST_QUANTITY
from young_fabric.service.unit import unit_of_work
from young_fabric.service.variant_values import VariantEdit, VariantStock
from young_fabric.store.files import FilesOnDisk
from young_fabric.store.repos import variants as variant_rows

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
    variant_values.put_many(work, [VariantEdit(first.id, first.version, {"price": "31"})])
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


def picture(width: int, height: int) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (width, height), "#446688").save(out, "PNG")
    return out.getvalue()


def swept(work: Work, store: FilesOnDisk, now: datetime) -> int:
    return sent_files.drop_unnamed(work, store, sent_files.forget(work.session, now))


def keep(work: Work, store: FilesOnDisk, name: str, content: bytes) -> str:
    found = sent_files.check(name, content)
    token = sent_files.note(work, found, sent_files.Sending("somebody"))
    sent_files.write(store, found)
    return token


def test_files_are_kept_privately_reencoded_judged_and_thrown_away_after_a_month(work: Work, tmp_path: Path) -> None:
    store, limits = FilesOnDisk(tmp_path), {"uploads": ["picture", "pdf"], "max_megabytes": "1", "min_width": 100}
    product = make_product(work, "SB-1")
    give(
        work,
        "sketchbooks",
        make_set(work, "Printed", {"key": "image", "name": "Image", "kind": "file", "limits": limits}),
    )
    release.release(work, "")
    for size, wrong in ((99, ["image"]), (100, [])):
        token = keep(shopper(work), store, "C:\\pictures\\my\u202e dog.png", picture(size, 40))
        chosen = put(work, product, 1, image=token)
        assert [problem.option for problem in chosen.quote.problems] == wrong
    assert chosen.quote.given["image"].words == "my dog.png"
    assert all(file.suffix == ".webp" for file in tmp_path.rglob("*") if file.is_file())
    assert [problem.option for problem in put(work, product, 1, image="nobody-sent-this").quote.problems] == ["image"]
    with pytest.raises(Refusal, match="not a JPEG"):
        keep(shopper(work), store, "x.png", b"MZ not a picture")
    paper = keep(shopper(work), store, "a.pdf", b"%PDF-1.4 x")
    old = replace(shopper(work), now=work.now - timedelta(days=32))
    keep(old, store, "b.pdf", b"%PDF-1.4 y")
    place(work, "40.00")
    held = len(list(tmp_path.rglob("*.webp")))
    assert swept(work, store, work.now) == 1
    assert swept(work, store, work.now + timedelta(days=sent_files.KEPT_DAYS)) == 0, "a day more is needed"
    assert swept(work, store, work.now + timedelta(days=32)) == 2
    assert len(list(tmp_path.rglob("*.webp"))) == held - 1, "that of the order stays"
    assert work.session.execute(text("SELECT count(*) FROM sent_file WHERE token = :t"), {"t": paper}).scalar() == 0


def test_what_shoppers_send_is_bounded_by_rate_and_in_all(work: Work, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sent_files, "MOST_AN_HOUR", 2)
    found = sent_files.check("a.pdf", b"%PDF-1.4 x")
    one, other = sent_files.Sending("one"), sent_files.Sending("other", 3 * len(found.content))
    for _ in range(2):
        sent_files.note(shopper(work), found, one)
    with pytest.raises(Refusal) as refused:
        sent_files.note(shopper(work), found, one)
    assert refused.value.code == "too_often"
    sent_files.note(shopper(work), found, other)
    with pytest.raises(Refusal) as refused:
        sent_files.note(shopper(work), found, other)
    assert refused.value.code == "full", "no more than fits in all"
    sent_files.note(replace(shopper(work), now=work.now + timedelta(hours=1, seconds=1)), found, one)


def test_files_that_nobody_noted_are_swept_and_noted_ones_stay(
    work: Work, sessions: Callable[[], Session], tmp_path: Path
) -> None:
    store, day = FilesOnDisk(tmp_path), 24 * 3600
    found, lost = sent_files.check("a.pdf", b"%PDF-1.4 kept"), sent_files.check("b.pdf", b"%PDF-1.4 lost")
    sent_files.note(replace(shopper(work), now=datetime.now(UTC)), found, sent_files.Sending())
    for file in (found, lost):
        sent_files.write(store, file)
    work.session.commit()
    assert sent_files.sweep(sessions, store) == 0, "what is fresh may be noted yet"
    for path in tmp_path.rglob("*.pdf"):
        os.utime(path, (path.stat().st_atime - 2 * day, path.stat().st_mtime - 2 * day))
    assert sent_files.sweep(sessions, store) == 1
    [left] = tmp_path.rglob("*.pdf")
    assert left.name.startswith(str(found.facts["file"]))


def test_the_same_file_is_written_by_many_at_once(tmp_path: Path) -> None:
    store, failed = FilesOnDisk(tmp_path), []

    def write() -> None:
        try:
            for _ in range(50):
                store.write("same.pdf", b"x" * 4096)
        except OSError as error:
            failed.append(error)

    threads = [Thread(target=write) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(60)
    assert not failed
    assert [path.name for path in tmp_path.rglob("*") if path.is_file()] == ["same.pdf"]


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
