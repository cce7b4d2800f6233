"""What is frozen fits together and readers never raise: products held back, sets too many together, variants not in step, and what
only a later version knows."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from sqlalchemy import text

from tests.conftest import NOW
from tests.service.sales.shopping import TOKEN, add, basket, place
from tests.service.values.test_variants import (
    BLUE,
    LARGE,
    PEAT,
    RED,
    SMALL,
    choices,
    give,
    make_product,
    make_set,
    of,
    option,
    put_set,
)
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.options import combinations
from young_fabric.service.acting.actors import Work
from young_fabric.service.checking import checks
from young_fabric.service.defining import definitions
from young_fabric.service.pages import proofs
from young_fabric.service.planning import offering, plans
from young_fabric.service.products import products
from young_fabric.service.releasing import differing, pending, release
from young_fabric.service.sales import baskets, selling
from young_fabric.service.values import recount, variants
from young_fabric.service.writing import by_hand
from young_fabric.store.repos import jobs as job_rows
from young_fabric.store.repos import releases
from young_fabric.store.repos import variants as variant_rows


@pytest.fixture
def few(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """At most four combinations of one product."""
    monkeypatch.setattr(combinations, "MOST", 4)
    plans.forget()
    yield
    monkeypatch.undo()
    plans.forget()


@contextmanager
def refused(work: Work, words: str) -> Iterator[None]:
    """What is refused as too many, and taken back as a unit of work does."""
    with pytest.raises(Refusal, match=words) as caught, work.session.begin_nested():
        yield
    assert caught.value.code == "too_many"
    plans.refresh(work.session)


def held(work: Work) -> list[int]:
    return [row[0] for row in release.history(work)[0][0].held_back]


def sold(work: Work, product: int) -> selling.Selling:
    return selling.live_selling(work.session, [product])[product]


def put_live(work: Work, *values: dict[str, Any]) -> tuple[int, str]:
    product = make_product(work, "SB-1")
    key = make_set(work, "Covers", option("colour", *values))
    give(work, "sketchbooks", key)
    release.release(work, "")
    return product, key


def spoil(work: Work, product: int) -> None:
    """Have a release hold a product back: its address is no address."""
    products.fill(work, product, None, {"slug": "a/b"})


def mend(work: Work, product: int) -> None:
    products.fill(work, product, None, {"slug": "marsh-book-mended"})


def test_a_product_held_back_stays_live_whole_with_the_sets_it_had(work: Work) -> None:
    product, key = put_live(work, RED, BLUE)
    address = sold(work, product).product.values["slug"]
    spoil(work, product)
    put_set(work, key, options=[option("colour", RED, PEAT), option("size", SMALL, LARGE)])
    release.release(work, "")
    assert held(work) == [product]
    found = sold(work, product)
    assert (found.product.values["slug"], list(found.goods.variants)) == (address, [("red",), ("blue",)])
    assert found.goods.offer.axis_keys == ("colour",)
    chosen = add(work, TOKEN, product, {"colour": "blue"}, 1)
    assert not chosen.quote.problems, "what its page offers can be had"
    assert chosen.quote.variant is not None
    assert basket(work).ready
    assert place(work, basket(work).total).number > 0
    definitions.display(work, Scope("product", str(product)), "ss_binding", "product_page", {"shown": False}, None)
    release.release(work, "once more")
    assert held(work) == [product]
    assert sold(work, product).own == (), "what is said for it alone waits with it"
    assert list(sold(work, product).goods.variants) == [("red",), ("blue",)], "as long as it is held back"
    mend(work, product)
    release.release(work, "")
    assert held(work) == []
    assert sold(work, product).goods.offer.axis_keys == ("colour", "size")
    assert [setting.field for setting in sold(work, product).own] == ["ss_binding"]
    assert releases.open_keys(work.session, "held") == []


def test_going_back_takes_what_was_held_back_along(work: Work) -> None:
    product, key = put_live(work, RED, BLUE)
    first = release.history(work)[0][0].number
    spoil(work, product)
    put_set(work, key, options=[option("colour", RED, PEAT)])
    release.release(work, "")
    second = release.history(work)[0][0].number
    release.go_back(work, first)
    assert releases.open_keys(work.session, "held") == []
    assert "held" not in {thing.noun for thing in pending.pending(work).things}
    release.go_back(work, second)
    assert list(sold(work, product).goods.variants) == [("red",), ("blue",)]


def test_two_sets_too_many_together_are_refused_where_they_meet(work: Work, few: None) -> None:
    product = make_product(work, "SB-1")
    first = make_set(work, "Covers", option("colour", RED, BLUE, PEAT))
    second = make_set(work, "Sizes", option("size", SMALL, LARGE))
    with refused(work, r"Covers and Sizes on products of .*3 × 2 are 6"):
        give(work, "sketchbooks", first, second)
    by_hand.by_hand(work, "option_set", first, [product], "picked")
    with refused(work, "Covers and Sizes on Marsh book"):
        by_hand.by_hand(work, "option_set", second, [product], "picked")
    cheap = {"all": [{"field": "price", "op": "lt", "typed": "50"}]}
    with refused(work, "at most 4"):
        put_set(work, second, condition=cheap)
    put_set(work, first, options=[option("colour", RED, BLUE)])
    by_hand.by_hand(work, "option_set", second, [product], "picked")
    assert len(of(work, product)) == 4
    with refused(work, "3 × 2 are 6"):
        put_set(work, first, options=[option("colour", RED, BLUE, PEAT)])
    assert len(of(work, product)) == 4


def test_a_value_that_brings_a_second_set_is_refused_and_nothing_is_lost(work: Work, few: None) -> None:
    product = make_product(work, "SB-1")
    give(work, "sketchbooks", make_set(work, "Covers", option("colour", RED, BLUE, PEAT)))
    cheap = {"all": [{"field": "price", "op": "gt", "typed": "1000"}]}
    make_set(work, "Sizes", option("size", SMALL, LARGE), condition=cheap)
    with refused(work, "Covers and Sizes on Marsh book"):
        products.fill(work, product, None, {"price": "2000"})


def test_sets_that_came_to_be_too_many_stop_nothing_and_are_told(work: Work, monkeypatch: pytest.MonkeyPatch) -> None:
    product = make_product(work, "SB-1")
    first = make_set(work, "Covers", option("colour", RED, BLUE, PEAT))
    second = make_set(work, "Sizes", option("size", SMALL, LARGE))
    give(work, "sketchbooks", first, second)
    release.release(work, "")
    monkeypatch.setattr(combinations, "MOST", 4)
    plans.forget()
    put_set(work, first, options=[option("colour", RED, BLUE, PEAT)], sku="keep")
    products.fill(work, product, None, {"price": "41"})
    assert any("too many together" in check.text for check in checks.checks(work))
    documents = proofs.documents(work, product)[1]
    assert documents
    listed = {(thing.noun, thing.key): thing for thing in pending.pending(work).things}
    assert "Options: 3 × 2 are 6" in (listed["product", str(product)].held_back or "")
    release.release(work, "")
    assert product in held(work)
    assert len(sold(work, product).goods.variants) == 6, "it stays live as it was"
    plans.forget()


@pytest.fixture
def waiting(work: Work, monkeypatch: pytest.MonkeyPatch) -> tuple[int, str]:
    """A live product whose variants wait for a job after a value was taken off and another put in."""
    product, key = put_live(work, RED, BLUE)
    monkeypatch.setattr(variants, "MOST_AT_ONCE", 1)
    put_set(work, key, options=[option("colour", RED, PEAT)])
    assert variant_rows.unmatched(work.session) == {key}
    assert choices(work, product) == [("red",), ("blue",)]
    return product, key


def test_matching_that_waits_or_was_lost_stops_neither_proofs_nor_releases(
    work: Work, waiting: tuple[int, str]
) -> None:
    product, key = waiting
    for number in [job.id for job in job_rows.open_of(work.session, variants.MATCH)]:
        job_rows.move(work.session, number, job_rows.OPEN, "stopped")
    assert proofs.documents(work, product)[1]
    draft = plans.draft_plans(work.session)
    record = products.get(work, product).product
    shown = selling.draft_selling(work, draft, [record])[product]
    assert list(shown.goods.variants) == [("red",)], "what the offer no longer has is not sold"
    assert shown.product.sold is not None
    assert [variant.choices for variant in shown.product.sold.variants] == [{"colour": "red"}]
    spoil(work, product)
    mend(work, product)
    assert pending.pending(work).count
    assert differing.differing(work, "option_set", key).rows is not None
    assert any("put in step with Covers" in check.text for check in checks.checks(work))
    release.release(work, "meanwhile")
    assert product in held(work)
    assert list(sold(work, product).goods.variants) == [("red",), ("blue",)]
    variants.match_again(work)
    while args := [job.args for job in job_rows.open_of(work.session, variants.MATCH)]:
        last = 0
        while (found := variants.match_batch(work, args[0], last))[1]:
            last = found[0]
        for job in job_rows.open_of(work.session, variants.MATCH):
            job_rows.move(work.session, job.id, job_rows.OPEN, "done")
    release.release(work, "then")
    assert held(work) == []
    assert list(sold(work, product).goods.variants) == [("red",), ("peat",)]


def test_recount_makes_variants_too(work: Work, waiting: tuple[int, str]) -> None:
    product, _ = waiting
    calls: list[tuple[int, int]] = []
    found = recount.recount(work.session, lambda done, total: calls.append((done, total)))
    assert any("variants were not in step" in words for words in found)
    assert choices(work, product) == [("red",), ("peat",)]
    assert variant_rows.unmatched(work.session) == frozenset()
    assert calls[-1][0] == calls[-1][1]
    assert recount.recount(work.session) == []


def test_without_variants_nothing_of_a_combination_is_sold(work: Work) -> None:
    product, _ = put_live(work, RED, BLUE)
    work.session.execute(text("DELETE FROM live_thing WHERE noun = 'offered' AND key = :key"), {"key": str(product)})
    wanted = baskets.want(work.session, product, {"colour": "red"}, 1, NOW.date())
    assert [problem.refusal.code for problem in wanted.problems] == ["left_out"]
    assert sold(work, product).sold_out


LATER = (
    "INSERT INTO definition (noun, key, name, version, format, state, hash, stamp) "
    "VALUES ('glossary_term', 'gesso', 'Gesso', 1, 1, '{}', 'x', nextval('definitions_stamp'))"
)


def shop_is_up(work: Work, product: int) -> list[str]:
    """Everything that reads definitions reads them; gives what checks tell of what is unread."""
    plans.forget()
    plans.refresh(work.session)
    assert proofs.documents(work, product)[1]
    assert sold(work, product).document("product_page")
    pending.pending(work)
    products.search(work, products.Filters(), None)
    recount.recount(work.session)
    assert recount.recount(work.session) == []
    release.history(work)
    return [check.text for check in checks.checks(work) if check.code == "unread"]


def test_a_noun_of_a_later_version_is_left_unread_and_told(work: Work) -> None:
    product, _ = put_live(work, RED, BLUE)
    for statement in (
        LATER,
        "INSERT INTO unreleased (noun, key, hash) VALUES ('glossary_term', 'gesso', 'x')",
        "INSERT INTO live_thing (noun, key, format, hash, state, since) VALUES ('glossary_term', 'oil', 1, 'x', '{}', 1)",
        "UPDATE shop SET stamp = nextval('definitions_stamp')",
    ):
        work.session.execute(text(statement))
    [told] = shop_is_up(work, product)
    assert told.startswith("1 definition of a sort “glossary_term”")
    assert pending.pending_count(work) == 0, "what this version can't release is not waiting for it"
    products.fill(work, product, None, {"price": "77"})
    release.release(work, "all the same")
    first = release.history(work)[1][0].number
    release.go_back(work, first)
    assert offering.Offers(plans.draft(work.session)).of_type("sketchbooks")


@pytest.mark.parametrize(
    ("statement", "words"),
    [
        (
            "UPDATE definition SET state = jsonb_set(state, '{kind}', '\"hologram\"'), stamp = nextval('definitions_stamp') "
            "WHERE noun = 'field' AND key = 'ss_paper_weight'",
            "is of a kind only a later version",
        ),
        (
            "UPDATE definition SET state = jsonb_set(state, '{options,0,kind}', '\"hologram\"'), stamp = nextval('definitions_stamp') "
            "WHERE noun = 'option_set' AND key = 'covers'",
            "of Covers is of a kind only a later version",
        ),
        (
            'UPDATE definition SET state = regexp_replace(state::text, \'"kind": "[a-z_]+"\', \'"kind": "hologram"\')::jsonb, '
            "stamp = nextval('definitions_stamp') WHERE noun = 'layout'",
            "has a block of a kind only a later version",
        ),
    ],
)
def test_a_kind_or_block_of_a_later_version_is_left_unread_and_told(work: Work, statement: str, words: str) -> None:
    product, _ = put_live(work, RED, BLUE)
    done = work.session.execute(text(statement))
    assert done.rowcount  # type: ignore[attr-defined]
    work.session.execute(text("UPDATE shop SET stamp = nextval('definitions_stamp')"))
    assert any(words in told for told in shop_is_up(work, product))


def test_the_core_keeps_its_own_keys(work: Work) -> None:
    before = plans.draft(work.session).layouts["page"]
    with pytest.raises(Refusal) as refused:
        definitions.create(work, "layout", "Mine", {"key": "page"})
    assert (refused.value.code, refused.value.where) == ("key", ("key",))
    with pytest.raises(Refusal):
        definitions.create(work, "field", "Mine", {"key": "price"})
    assert plans.draft(work.session).layouts["page"] == before
    assert definitions.create(work, "layout", "Page", {}).thing.key == "page_2"


def test_a_shop_that_took_a_key_of_the_core_before_gets_the_core_s_and_is_told(work: Work) -> None:
    made = definitions.create(work, "layout", "Mine", {}).thing
    for table in ("definition",):
        work.session.execute(
            text(
                f"UPDATE {table} SET key = 'page', state = jsonb_set(state, '{{key}}', '\"page\"') WHERE noun = 'layout' AND key = :key"
            ),
            {"key": made.key},
        )
    work.session.execute(text("UPDATE shop SET stamp = nextval('definitions_stamp')"))
    plans.forget()
    plans.refresh(work.session)
    assert plans.draft(work.session).layouts["page"].name != "Mine"
    assert any("has the key page" in check.text for check in checks.checks(work))
    plans.forget()
