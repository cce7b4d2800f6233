"""The rules of the storm in one process: whatever is written, ordered, released, gone back to and undone, in any order, what is kept is
what is deserved, stock is what came in less what was sold, and what is live is what renders."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import (
    RuleBasedStateMachine,
    initialize,
    invariant,
    precondition,
    rule,
    run_state_machine_as_test,
)
from sqlalchemy import Connection
from sqlalchemy.orm import Session

from tests.conftest import NOW, person
from tests.service.sales.shopping import add, place
from tests.service.values.test_variants import BLUE, PEAT, RED, give, make_product, make_set, of, option, put_set
from young_fabric.core.base.errors import Refusal
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import differing, pending, release
from young_fabric.service.releasing.holding import HoldingBack
from young_fabric.service.sales import selling, variant_values
from young_fabric.service.sales.variant_values import VariantStock
from young_fabric.service.values import recount, variant_writer
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.writing import writes
from young_fabric.store.repos import products as rows

COLOURS = (RED, BLUE, PEAT)
amounts = st.integers(0, 6)


class Shop(RuleBasedStateMachine):
    """One shop, written by one hand; `sessions` see a transaction that is rolled back at the end."""

    sessions: Callable[[], Session]

    @initialize()
    def open(self) -> None:
        self.session = self.sessions()
        self.work = Work(self.session, person(self.session, 0), NOW)
        self.products = [make_product(self.work, f"SB-{number}") for number in range(2)]
        self.key = make_set(self.work, "Covers", option("colour", RED, BLUE))
        give(self.work, "sketchbooks", self.key)
        self.came: dict[int, int] = {}
        self.sold: dict[int, int] = {}
        self.orders = 0
        release.release(self.work, "")

    def attempt(self, act: Callable[[], Any]) -> Any:
        """What is refused is taken back as a whole, and said in words."""
        try:
            with self.session.begin_nested():
                return act()
        except Refusal as refusal:
            assert refusal.message
            plans.refresh(self.session)
            return None

    @rule(which=st.integers(0, 1), price=st.integers(1, 90))
    def price(self, which: int, price: int) -> None:
        self.attempt(lambda: products.fill(self.work, self.products[which], None, {"price": str(price)}))

    @rule(which=st.integers(0, 1), sound=st.booleans())
    def address(self, which: int, sound: bool) -> None:
        slug = f"marsh-{which}-{self.orders}" if sound else "a/b"
        self.attempt(lambda: products.fill(self.work, self.products[which], None, {"slug": slug}))

    @rule(which=st.integers(0, 1), at=st.integers(0, 2), amount=amounts)
    def stock(self, which: int, at: int, amount: int) -> None:
        found = of(self.work, self.products[which])
        if at < len(found):
            variant = found[at]
            edit = VariantStock(variant.id, variant.stock, (variant.stock or 0) + amount)
            self.attempt(lambda: variant_values.put_stocks(self.work, [edit]))
            if variant.id not in self.came:
                self.came[variant.id], self.sold[variant.id] = 0, 0
            self.came[variant.id] += amount

    @rule(which=st.integers(0, 1), at=st.integers(0, 2), price=st.sampled_from(["31", "about ten", ""]))
    def variant(self, which: int, at: int, price: str) -> None:
        found = of(self.work, self.products[which])
        if at < len(found):
            edit = ValueEdit(found[at].id, found[at].version, {"price": price})
            self.attempt(lambda: variant_writer.put_many(self.work, [edit]))

    @rule(colours=st.sets(st.integers(0, 2), min_size=1))
    def colours(self, colours: set[int]) -> None:
        wanted = [COLOURS[index] for index in sorted(colours)]
        self.attempt(lambda: put_set(self.work, self.key, options=[option("colour", *wanted)]))

    @rule(which=st.integers(0, 1), colour=st.integers(0, 2), quantity=st.integers(1, 3))
    def order(self, which: int, colour: int, quantity: int) -> None:
        self.orders += 1
        token = f"a-token-of-a-browser-that-is-long-{self.orders}"
        product = self.products[which]
        if product not in selling.live_selling(self.session, [product]):
            return
        asked = {"colour": COLOURS[colour]["code"]}
        chosen = self.attempt(lambda: add(self.work, token, product, asked, quantity))
        if chosen is None or chosen.quote.problems or chosen.quote.price is None:
            return
        placed = self.attempt(lambda: place(self.work, chosen.quote.price.total, token))
        variant = chosen.quote.variant
        if placed is not None and variant in self.came:
            self.sold[variant] += quantity

    @rule(name=st.sampled_from(["Tides", "Marsh", "Reeds"]))
    def define(self, name: str) -> None:
        key = name.lower()
        if key in plans.draft(self.session).sets:
            current = writes.need_current(self.work, "field_set", key)
            self.attempt(lambda: definitions.remove(self.work, "field_set", key, current.version))
        else:
            self.attempt(lambda: definitions.create(self.work, "field_set", name, {}))

    @rule()
    def make_release(self) -> None:
        self.attempt(lambda: release.release(self.work, ""))

    @precondition(lambda self: self.orders % 2 == 1)
    @rule()
    def go_back(self) -> None:
        found = release.history(self.work)
        if len(found) > 2:
            self.attempt(lambda: release.go_back(self.work, found[1][0].number))

    @rule(again=st.booleans())
    def undo(self, again: bool) -> None:
        before = {variant.id: variant.stock for product in self.products for variant in of(self.work, product)}
        self.attempt(lambda: (history.redo_last if again else history.undo_last)(self.work))
        for product in self.products:
            for variant in of(self.work, product):
                if variant.id in self.came and variant.id in before and variant.stock != before[variant.id]:
                    # Stock that was put is taken back: it never came.
                    self.came[variant.id] += (variant.stock or 0) - (before[variant.id] or 0)

    @invariant()
    def stock_is_what_came_less_what_was_sold(self) -> None:
        if not hasattr(self, "products"):
            return
        for product in self.products:
            for variant in of(self.work, product):
                if variant.id in self.came and variant.stock is not None:
                    assert variant.stock == self.came[variant.id] - self.sold[variant.id]
                    assert variant.stock >= 0

    def teardown(self) -> None:
        """All that holds at any end: nothing raises, what is kept is deserved, and live is as rendered."""
        if not hasattr(self, "products"):
            return
        pending.pending(self.work)
        assert recount.recount(self.session) == []
        self.attempt(lambda: release.release(self.work, "last"))
        draft = plans.draft_of(self.session)
        found = [record.product for record in rows.get(self.session, self.products).values()]
        held = HoldingBack(self.session, draft.assessor, draft.showing.offers).reasons(found)
        differ = differing.surfaces_of(self.work, draft.plans, [product.id for product in found], found)
        assert {number for number, surfaces in differ.items() if surfaces} <= held.keys()
        for product in self.products:
            for sold in selling.live_selling(self.session, [product]).values():
                assert sold.document("product_page")
        self.session.close()


def test_in_any_order_the_rules_of_the_storm_hold(
    connection: Connection, sessions: Callable[[], Session], standing: plans.Kept
) -> None:
    class Rolled(Shop):
        def __init__(self) -> None:
            super().__init__()
            self.kept = connection.begin_nested()
            plans.set_back(standing)

        def teardown(self) -> None:
            try:
                super().teardown()
            finally:
                self.kept.rollback()

    Rolled.sessions = staticmethod(sessions)  # type: ignore[assignment]
    health = [HealthCheck.too_slow, HealthCheck.data_too_large, HealthCheck.filter_too_much]
    run_state_machine_as_test(  # type: ignore[no-untyped-call]
        Rolled, settings=settings(max_examples=12, stateful_step_count=20, deadline=None, suppress_health_check=health)
    )
