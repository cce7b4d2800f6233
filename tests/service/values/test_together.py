"""Several people at once: nothing is lost, nothing locks up, and what is kept is what counting anew gives."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy.orm import Session

from tests.conftest import NOW, person
from young_fabric.core.base.errors import Refusal
from young_fabric.core.display.cascade import Scope
from young_fabric.core.nouns.base import state_of
from young_fabric.service import history
from young_fabric.service.acting.actors import Actor, Clash, Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import definitions, new_fields
from young_fabric.service.defining.new_fields import Taker
from young_fabric.service.long_work import job_runs, jobs
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import pending, release
from young_fabric.service.values.recount import recount
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.service.values.value_writer import put_many
from young_fabric.service.writing import writes

Sessions = Callable[[], Session]
Act = Callable[[Work], object]


@pytest.fixture
def people(shop: Sessions) -> tuple[Actor, Actor]:
    with shop() as session:
        return person(session, 0), person(session, 1)


def at_once(shop: Sessions, acts: list[tuple[Actor, Act]]) -> list[object]:
    """What each act gave, or was refused with; anything else is raised."""

    def run(pair: tuple[Actor, Act]) -> object:
        try:
            with unit_of_work(shop, pair[0]) as work:
                return pair[1](work)
        except (Refusal, Clash) as refused:
            return refused

    with ThreadPoolExecutor(max_workers=4) as threads:
        return list(threads.map(run, acts))


def first_products(work: Work, words: str) -> list[products.AssessedProduct]:
    return products.search(work, products.Filters(words=words), None).rows


def test_two_on_one_setting_keep_both_changes(shop: Sessions, people: tuple[Actor, Actor]) -> None:
    scope = Scope("type", "easels")
    for _ in range(5):
        put = lambda given: lambda work: definitions.display(work, scope, "ss_wood", "product_page", given, None)  # noqa: E731
        got = at_once(shop, [(people[0], put({"label": "above"})), (people[1], put({"label_text": "Timber"}))])
        with unit_of_work(shop, people[0]) as work:
            key = "type:easels/ss_wood/product_page"
            kept = writes.need_current(work, "display_setting", key)
            assert not [outcome for outcome in got if isinstance(outcome, Clash | Refusal)]
            assert kept.thing.set == {"label": "above", "label_text": "Timber"}
            definitions.display(work, scope, "ss_wood", "product_page", dict.fromkeys(kept.thing.set), kept.version)


APART = [
    ("field", "ss_wood", {"label": "Timber"}, {"help": "As the mill says"}),
    ("value_list", "wood", {"name": "Timbers"}, {"values": "retire the last"}),
    ("field_set", "origin", {"name": "Where from"}, {"sections": "take the first off"}),
    ("product_type", "easels", {"name": "Stands"}, {"fields": ["ss_marks"]}),
]


def edited(state: dict[str, Any], given: dict[str, Any]) -> dict[str, Any]:
    """Changes as the API takes them: whole lists, from the state that was read."""
    if given.get("values") == "retire the last":
        values = [dict(value) for value in state["values"]]
        values[-1]["retired"] = True
        return {"values": values}
    if given.get("sections") == "take the first off":
        sections = [dict(section) for section in state["sections"]]
        sections[0]["fields"] = sections[0]["fields"][1:]
        return {"sections": sections}
    return given


@pytest.mark.parametrize(("noun", "key", "mine", "theirs"), APART)
def test_two_on_one_thing_keep_both_changes_or_are_told(
    shop: Sessions, people: tuple[Actor, Actor], noun: str, key: str, mine: dict[str, Any], theirs: dict[str, Any]
) -> None:
    with unit_of_work(shop, people[0]) as work:
        read = writes.need_current(work, noun, key)
    state = state_of(read.thing)
    changes_of = [edited(state, given) for given in (mine, theirs)]

    def write(given: dict[str, Any]) -> Act:
        return lambda work: definitions.change(work, noun, key, read.version, given)

    got = at_once(shop, [(who, write(given)) for who, given in zip(people, changes_of, strict=True)])
    assert not [outcome for outcome in got if isinstance(outcome, Clash | Refusal)], got
    with unit_of_work(shop, people[0]) as work:
        kept = writes.need_current(work, noun, key)
    assert kept.version == read.version + 2
    after = state_of(kept.thing)
    assert all(after[member] == value for given in changes_of for member, value in given.items())

    ends = [write({"name": f"Ends {end}"}) for end in (1, 2)]
    got = at_once(shop, [(people[0], ends[0]), (people[1], ends[1])])
    clashed = [outcome for outcome in got if isinstance(outcome, Clash)]
    assert len(clashed) >= 1, "both named it from one version"


def test_two_on_one_product_keep_both_changes_or_are_told(shop: Sessions, people: tuple[Actor, Actor]) -> None:
    with unit_of_work(shop, people[0]) as work:
        easel = first_products(work, "Groyne Studio")[0]

    def write(values: dict[str, Any]) -> Act:
        return lambda work: products.fill(work, easel.product.id, easel.version, values)

    got = at_once(shop, [(people[0], write({"price": "77"})), (people[1], write({"title": "Groyne Stand"}))])
    assert not [outcome for outcome in got if isinstance(outcome, Clash | Refusal)], got
    with unit_of_work(shop, people[0]) as work:
        kept = products.get(work, easel.product.id)
    assert (kept.version, kept.product.values["price"], kept.product.title) == (easel.version + 2, "77", "Groyne Stand")
    got = at_once(shop, [(people[0], write({"sku": "A-1"})), (people[1], write({"sku": "A-2"}))])
    assert len([outcome for outcome in got if isinstance(outcome, Clash)]) == 1


def test_one_change_is_undone_once_however_many_ask(shop: Sessions, people: tuple[Actor, Actor]) -> None:
    with unit_of_work(shop, people[0]) as work:
        easel = first_products(work, "Groyne Studio")[0]
        products.fill(work, easel.product.id, easel.version, {"price": "401"})
        change = history.history(work, "product", str(easel.product.id), None)[0]
    undo = lambda work: history.undo(work, change.id)  # noqa: E731
    got = at_once(shop, [(people[0], undo)] * 6)
    assert sum(isinstance(outcome, history.TakenBack) for outcome in got) == 1
    assert {outcome.code for outcome in got if isinstance(outcome, Refusal)} == {"undone"}


def test_types_swapped_by_many_lock_nothing_up(shop: Sessions, people: tuple[Actor, Actor]) -> None:
    with unit_of_work(shop, people[0]) as work:
        rows = [row.product for row in first_products(work, "Ebb")][:6]
    order = random.Random(7)

    def swap(work: Work) -> None:
        edits = []
        for row in order.sample(rows, len(rows)):
            current = products.get(work, row.id)
            to = "gouache" if current.product.type != "gouache" else "watercolour"
            edits.append(ValueEdit(row.id, current.version, type=to))
        put_many(work, edits)

    got = at_once(shop, [(people[turn % 2], swap) for turn in range(12)])
    assert all(outcome is None or isinstance(outcome, Clash) for outcome in got)
    with unit_of_work(shop, people[0]) as work:
        assert recount(work.session) == []


def test_referring_and_removing_at_once_leave_no_loose_end(shop: Sessions, people: tuple[Actor, Actor]) -> None:
    with unit_of_work(shop, people[0]) as work:
        into = Taker("product_type", "paint")
        field = new_fields.make(work, "Goes with", {"kind": "product"}, None, into)
        ids = [row.product.id for row in first_products(work, "Ebb")][:4]

    def refer(number: int, other: int) -> Act:
        return lambda work: put_many(work, [ValueEdit(number, values={field: other})])

    def remove(number: int) -> Act:
        return lambda work: put_many(work, [ValueEdit(number, removes=True)])

    pairs = [(number, other) for number in ids for other in ids if number != other]
    acts = [refer(*pair) for pair in pairs] + [remove(ids[0]), remove(ids[1])]
    random.Random(3).shuffle(acts)
    got = at_once(shop, [(people[turn % 2], act) for turn, act in enumerate(acts)])
    assert {outcome.code for outcome in got if isinstance(outcome, Refusal)} <= {"gone", "in_use", "not_found"}
    with unit_of_work(shop, people[0]) as work:
        named = [row.product.values.get(field) for row in first_products(work, "Ebb")]
        there = {row.product.id for row in first_products(work, "Ebb")}
        assert {number for number in named if number is not None} <= there
        assert recount(work.session) == []


def test_of_many_who_write_one_value_one_gets_it_where_none_may_share(
    shop: Sessions, people: tuple[Actor, Actor]
) -> None:
    with unit_of_work(shop, people[0]) as work:
        given = {"kind": "text", "limits": {"unique": True}}
        field = new_fields.make(work, "Lot", given, None, Taker("product_type", "paint"))
        ids = [row.product.id for row in first_products(work, "Ebb")][:4]
    got = at_once(
        shop,
        [
            (people[turn % 2], lambda work, number=number: put_many(work, [ValueEdit(number, values={field: "L7"})]))  # type: ignore[misc]
            for turn, number in enumerate(ids)
        ],
    )
    assert sorted(isinstance(outcome, Refusal) for outcome in got) == [False, True, True, True]
    assert {outcome.code for outcome in got if isinstance(outcome, Refusal)} == {"taken"}


def test_filling_while_a_limit_changes_keeps_the_counts(shop: Sessions, people: tuple[Actor, Actor]) -> None:
    with unit_of_work(shop, people[0]) as work:
        rows = [row.product.id for row in first_products(work, "Fen Etching")]

    def narrow(most: str) -> Act:
        def act(work: Work) -> None:
            weight = writes.need_current(work, "field", "ss_paper_weight")
            definitions.change(work, "field", "ss_paper_weight", weight.version, {"limits": {"max": most}})

        return act

    def refill(product: int, text: str) -> Act:
        def act(work: Work) -> None:
            products.fill(work, product, products.get(work, product).version, {"ss_paper_weight": text})

        return act

    acts: list[tuple[Actor, Act]] = []
    for turn in range(8):
        acts.append((people[0], narrow("200" if turn % 2 else "900")))
        acts += [(people[1], refill(product, "" if turn % 3 else "300 g/m²")) for product in rows[:4]]
    got = at_once(shop, acts)
    assert all(outcome is None or isinstance(outcome, Clash) for outcome in got)
    with unit_of_work(shop, people[0]) as work:
        assert recount(work.session) == []


@contextmanager
def taken_back(session: Session) -> Iterator[None]:
    """What is done within leaves nothing behind."""
    point = session.begin_nested()
    try:
        yield
    finally:
        point.rollback()
        forget(session)


def forget(session: Session) -> None:
    """What the session knew may have been taken back."""
    session.info.clear()
    session.expire_all()
    plans.set_back()


STEPS = st.lists(
    st.tuples(
        st.sampled_from(
            ["fill", "empty", "type", "limit", "many", "need", "offer", "take off", "give", "remove", "undo", "redo"]
        ),
        st.integers(0, 3),
        st.integers(0, 1),
    ),
    min_size=3,
    max_size=9,
)
TYPES = ("easels", "gouache", "watercolour")


def step(work: Work, what: str, number: int) -> None:
    """One thing somebody does."""
    rows = [*first_products(work, "Groyne"), *first_products(work, "Ebb")]
    if not rows:
        return
    row = rows[number % len(rows)]
    field = writes.need_current(work, "field", "ss_count")
    easels = writes.need_current(work, "product_type", "easels")
    put: dict[str, Callable[[], Any]] = {
        "fill": lambda: products.fill(work, row.product.id, row.version, {"ss_count": ["5", "50", "many"][number % 3]}),
        "empty": lambda: products.fill(work, row.product.id, row.version, {"ss_count": ""}),
        "type": lambda: products.fill(work, row.product.id, row.version, {}, type_key=TYPES[number % 3]),
        "limit": lambda: definitions.change(
            work, "field", "ss_count", field.version, {"limits": {"max": str(10**number)}}
        ),
        "many": lambda: definitions.change(work, "field", "ss_count", field.version, {"many": bool(number % 2)}),
        "need": lambda: definitions.change(
            work, "field", "ss_count", field.version, {"need": ["optional", "required"][number % 2]}
        ),
        "offer": lambda: products.fill(work, row.product.id, row.version, {}, offered=bool(number % 2)),
        "take off": lambda: definitions.change(work, "product_type", "easels", easels.version, {"fields": []}),
        "give": lambda: definitions.change(work, "product_type", "easels", easels.version, {"fields": ["ss_count"]}),
        "remove": lambda: products.remove(work, row.product.id, row.version),
        "undo": lambda: history.undo_last(work),
        "redo": lambda: history.redo_last(work),
    }
    put[what]()


@settings(max_examples=7, suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow])
@given(steps=STEPS)
def test_what_is_kept_is_what_counting_anew_gives(session: Session, steps: list[tuple[str, int, int]]) -> None:
    with taken_back(session):
        both = [Work(session, person(session, place), NOW) for place in (0, 1)]
        definitions.create(both[0], "field", "Count", {"kind": "whole"})
        easels = writes.need_current(both[0], "product_type", "easels")
        definitions.change(both[0], "product_type", "easels", easels.version, {"fields": ["ss_count"]})
        for what, number, who in steps:
            with session.begin_nested() as point:
                try:
                    step(both[who], what, number)
                    session.flush()
                except (Refusal, Clash):
                    point.rollback()
                    forget(session)
        assert recount(session) == []
        release.release(both[0], "all of it")


def test_a_release_and_people_go_side_by_side(shop: Sessions, people: tuple[Actor, Actor]) -> None:
    with unit_of_work(shop, people[0]) as work:
        rows = [row.product.id for row in first_products(work, "Fen Etching")][:4]
        number = jobs.ask_for(work, "release", {"note": "Spring"}).id

    def dearer(product: int) -> Act:
        return lambda work: products.fill(work, product, products.get(work, product).version, {"price": "77"}) and None

    with ThreadPoolExecutor(max_workers=1) as releasing:
        done = releasing.submit(job_runs.run, shop, number)
        got = at_once(shop, [(people[turn % 2], dearer(product)) for turn, product in enumerate(rows * 3)])
        assert done.result() == "done"
    assert all(outcome is None or isinstance(outcome, Clash) for outcome in got)
    with unit_of_work(shop, people[0]) as work:
        if pending.pending_count(work):
            release.release(work, "the rest")
        assert pending.pending_count(work) == 0
