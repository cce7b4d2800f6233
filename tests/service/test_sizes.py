"""No limit is met by size: statements do not bind by the row, and there are as many of them for many things as for few."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from decimal import Decimal
from typing import Any

import pytest
from sqlalchemy import Connection, event, text
from sqlalchemy.orm import Session

from tests.core.helpers import field
from tests.service.values.test_variants import give, make_product, make_set, of, option
from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.memory import Memory
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.definitions.groups import Group
from young_fabric.core.display.cascade import Scope
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.nouns.types.field_sets import FieldSet, Section
from young_fabric.core.options.offers import Offer
from young_fabric.core.options.variant_prices import MOST_KEPT, VariantPrices
from young_fabric.core.pages.plans import PlanCache
from young_fabric.core.subjects.stock import CHOICE_STOCK, PRODUCT_STOCK, VARIANT_STOCK
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import bundles
from young_fabric.service.defining.definitions import SettingEdit
from young_fabric.service.pages import weave_cells
from young_fabric.service.planning import plans
from young_fabric.service.sales import variant_values
from young_fabric.service.sales.variant_values import VariantStock
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit, ThingEdit
from young_fabric.store.repos import changes as change_rows
from young_fabric.store.repos import (
    definitions,
    fills,
    product_groups,
    products,
    releases,
    stocks,
    stored_values,
    variants,
)

MANY = 70_000
"""More than a statement can bind one by one."""


@contextmanager
def sent(connection: Connection) -> Iterator[list[str]]:
    found: list[str] = []

    def note(_connection: Any, _cursor: Any, statement: str, *_: Any) -> None:
        if not statement.startswith(("SAVEPOINT", "RELEASE")):
            found.append(statement)

    event.listen(connection, "before_cursor_execute", note)
    try:
        yield found
    finally:
        event.remove(connection, "before_cursor_execute", note)


KEYS = [str(number) for number in range(MANY)]


@pytest.mark.parametrize(
    "ask",
    [
        lambda s: change_rows.since_versions(s, {("product", key): 1 for key in KEYS}),
        lambda s: change_rows.last_versions(s, "product", KEYS),
        lambda s: change_rows.note_missing(s, "product", dict.fromkeys(KEYS, "x")),
        lambda s: change_rows.last_changed(s, [("product", key) for key in KEYS]),
        lambda s: releases.open_things(s, keys=[("product", key) for key in KEYS]),
        lambda s: releases.open_keys(s, "product", KEYS),
        lambda s: releases.labels(s, range(MANY)),
        lambda s: definitions.states(s, [("field", key) for key in KEYS]),
        lambda s: definitions.get_many(s, [("field", key) for key in KEYS]),
        lambda s: definitions.versions_of(s, "field", KEYS),
        lambda s: list(product_groups.stream(s, [("easels", (key,)) for key in KEYS])),
        lambda s: products.groups_of(s, range(MANY)),
        lambda s: stored_values.holders(s, "ss_wood", KEYS),
        lambda s: stored_values.hold_values(s, "ss_wood", KEYS),
        lambda s: fills.by_group(s, KEYS),
        lambda s: fills.held_by(s, KEYS),
        lambda s: stocks.read(s, PRODUCT_STOCK, [(number,) for number in range(MANY)]),
        lambda s: stocks.read(s, VARIANT_STOCK, [(number,) for number in range(MANY)]),
        lambda s: stocks.read(s, CHOICE_STOCK, [("set", "option", key) for key in KEYS]),
        lambda s: variants.get(s, range(MANY)),
        lambda s: variants.note_offered(s, range(1, MANY)),
    ],
)
def test_a_statement_takes_as_many_as_there_are(session: Session, ask: Callable[[Session], Any]) -> None:
    ask(session)


def test_more_groups_than_a_statement_names_give_the_same_products(
    session: Session, monkeypatch: pytest.MonkeyPatch
) -> None:
    groups = product_groups.groups(session)[:5]
    few = [product.id for batch in product_groups.stream(session, groups) for product in batch]
    monkeypatch.setattr(product_groups, "MOST_NAMED", 2)
    assert [product.id for batch in product_groups.stream(session, groups) for product in batch] == few
    assert few


def test_as_many_values_as_are_held_one_by_one_and_one_more(session: Session, connection: Connection) -> None:
    for count in (stored_values.MOST_HELD, stored_values.MOST_HELD + 1):
        before = _locks(connection)
        stored_values.hold_values(session, f"ss_{count}", KEYS[:count])
        held = _locks(connection) - before
        assert held == (count + 1 if count == stored_values.MOST_HELD else 1)


def _locks(connection: Connection) -> int:
    return int(
        connection.execute(
            text("SELECT count(*) FROM pg_locks WHERE locktype = 'advisory' AND pid = pg_backend_pid()")
        ).scalar_one()
    )


def test_stock_of_many_variants_is_put_by_as_many_statements_as_of_few(work: Work, connection: Connection) -> None:
    product = make_product(work, "SB-1")
    give(work, "sketchbooks", make_set(work, "Covers", option("colour", *_values(30))))
    found = of(work, product)
    counts = []
    for rows in (found[:2], found[2:]):
        with sent(connection) as statements:
            variant_values.put_stocks(work, [VariantStock(row.id, None, 3) for row in rows])
        counts.append(len(statements))
    assert counts[0] == counts[1]
    with sent(connection) as statements:
        history.undo_last(work)
    assert len(statements) < 60
    assert [row.stock for row in of(work, product)] == [3, 3, *[None] * 28]


def _values(count: int) -> list[dict[str, Any]]:
    return [{"code": f"v{number}", "label": f"V {number}"} for number in range(count)]


def test_many_cells_are_set_by_as_many_statements_as_few(work: Work, connection: Connection) -> None:
    fields = list(plans.draft(work.session).all_fields)[:24]
    scope = Scope("shop")

    def put(keys: list[str], label: str) -> int:
        with sent(connection) as statements:
            cells = [SettingEdit(key, "quick_look", {"label": label}, None) for key in keys]
            assert all(row.version for row in weave_cells.put_several(work, scope, cells))
        return len(statements)

    _, few = put(fields[:1], "above"), put(fields[1:3], "above")
    before = dict(plans.draft(work.session).settings)
    many = put(fields[3:], "above")
    assert many <= few + 2, "not by the cell"
    with sent(connection) as statements:
        history.undo_last(work)
    assert len(statements) < 60
    assert dict(plans.draft(work.session).settings) == before


def sets(count: int, begin: int) -> dict[str, Any]:
    sections = [{"key": "main", "name": "Main", "fields": []}]
    things = [
        {"key": f"glue_{begin + number}", "name": f"Glue {begin + number}", "sections": sections, "collections": []}
        for number in range(count)
    ]
    return {"format": 1, "definitions": {"field_sets": {"format": 1, "things": things}}}


def test_many_definitions_come_in_by_as_many_statements_as_few(work: Work, connection: Connection) -> None:
    counts = []
    for count, begin in ((1, 50), (2, 0), (40, 100)):
        with sent(connection) as statements:
            bundles.import_definitions(work, sets(count, begin), from_file=False)
        counts.append(len(statements))
    assert counts[1] == counts[2], "the first reads more of what is kept afterwards"
    assert len(plans.draft(work.session).sets) >= 43
    history.undo_last(work)
    assert "glue_100" not in plans.draft(work.session).sets
    assert "glue_0" in plans.draft(work.session).sets


def test_what_an_import_costs_is_bounded_by_its_work(work: Work, connection: Connection) -> None:
    values = [{"code": f"v{number}", "label": f"V {number}"} for number in range(100_000)]
    whole = {"format": 1, "definitions": {"value_lists": {"format": 1, "things": [{"key": "many", "values": values}]}}}
    with pytest.raises(Refusal) as refused:
        bundles.plan(work, whole, from_file=False)
    assert (refused.value.code, refused.value.where[-1]) == ("too_many", 0)
    nowhere = {"name": "Lost", "slug": "lost", "parent": "nowhere", "sets": [], "fields": [], "needs": {}}
    things = [{**nowhere, "key": f"lost_{number}", "slug": f"lost-{number}"} for number in range(400)]
    lost = {
        "format": 1,
        "definitions": {"product_types": {"format": NOUNS["product_type"].stored.format, "things": things}},
    }
    with sent(connection) as statements, pytest.raises(Refusal, match="Lost"):
        bundles.import_definitions(work, lost, from_file=False)
    assert len(statements) < 20, "the first that can't stand is told, and no round is made for the others"


def test_things_written_together_may_name_one_another_and_go_together(work: Work) -> None:
    glue = field("ss_glue", "Glue", "Glue", "text")
    found = FieldSet("gluing", "Gluing", (Section("main", "Main", ("ss_glue",)),))

    def to(thing: Any) -> Any:
        return lambda _current: Edit(ABSENT, state_of(thing))

    writes.apply_many(work, [ThingEdit("field_set", "gluing", to(found)), ThingEdit("field", "ss_glue", to(glue))])
    assert plans.draft(work.session).sets["gluing"].fields == ("ss_glue",)
    gone = [
        ThingEdit(noun, key, lambda current: Edit(state_of(current.thing), ABSENT))
        for noun, key in (("field", "ss_glue"), ("field_set", "gluing"))
    ]
    writes.apply_many(work, gone)
    assert "ss_glue" not in plans.draft(work.session).fields
    history.undo_last(work)
    assert plans.draft(work.session).sets["gluing"].fields == ("ss_glue",)


def test_a_pass_over_more_than_fits_finds_most_of_it_again() -> None:
    cache = PlanCache(most=100)
    for turn in range(4):
        met = 0
        for number in range(110):
            key = ("draft", Group(str(number)), "page")
            if cache.get(key) is not None:
                met += 1
            else:
                cache.put(key, object())  # type: ignore[arg-type]
        if turn == 3:
            assert met > 50, "one more than fits used to lose all of them"
    assert len(cache) == 100


def test_what_is_remembered_is_bounded() -> None:
    prices = VariantPrices(Offer(), "EUR")
    for number in range(MOST_KEPT + 10):
        assert prices.of(Decimal(number), ()) == f"{number}.00"
    assert len(prices._made) == MOST_KEPT
    kept: Memory[str, bytes] = Memory(10, len)
    for key, size in (("a", 4), ("b", 6), ("c", 11), ("d", 5)):
        kept.put(key, b"x" * size)
    assert kept.items() == {"d": b"xxxxx"}, "of ten, six and five do not fit together, and eleven never"
