"""A throwaway noun that gathers products, by a line in the registry: by hand, by condition, at once and by a job, followed and undone."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

import pytest
from sqlalchemy import Connection, Engine

from tests.conftest import person
from young_fabric.core.base.shapes import STRICT
from young_fabric.core.nouns.base import Bearing, Noun, Telling
from young_fabric.core.nouns.registry import NOUNS
from young_fabric.core.subjects.gatherers import GATHERERS, Gatherer
from young_fabric.service import history
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import definitions
from young_fabric.service.long_work import job_runs
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.values import judging, memberships, recount
from young_fabric.service.writing import writes
from young_fabric.store.base import make_sessions
from young_fabric.store.repos import gathering
from young_fabric.store.repos import products as rows


@dataclass(frozen=True)
class Season:
    """Products of a time of the year."""

    __pydantic_config__ = STRICT
    key: str
    name: str
    picked: tuple[int, ...] = ()
    kept_out: tuple[int, ...] = ()
    condition: Mapping[str, Any] | None = None


SEASON = Noun(
    code="season",
    plural="seasons",
    name="season",
    group="What it is",
    type=Season,
    check=lambda _season, _defs: None,
    blank=lambda key, name, _defs: Season(key, name),
    telling=Telling(describe=lambda _before, _after, _defs: ["changed"]),
    bearing=Bearing(gathers=True),
)
EASELS = {"field": "type", "op": "is", "value": "easels"}
PAINTS = {"field": "type", "op": "is", "value": "paint"}


@pytest.fixture(autouse=True)
def _registered(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    monkeypatch.setitem(NOUNS, SEASON.code, SEASON)
    monkeypatch.setitem(GATHERERS, SEASON.code, Gatherer(SEASON.code))
    plans.forget()
    yield
    monkeypatch.undo()
    plans.forget()


def inside(work: Work, key: str) -> set[int]:
    every = rows.stream_where(work.session, rows.every(), 0, 500)
    return {product.id for product in every if key in product.gathered.get(SEASON.code, ())}


def of_type(work: Work, key: str) -> set[int]:
    return {row.product.id for row in products.search(work, products.Filters(type=key), None, 200).rows}


def put(work: Work, key: str, **members: Any) -> None:
    version = writes.need_current(work, SEASON.code, key).version
    definitions.change(work, SEASON.code, key, version, members)


def test_products_are_gathered_by_hand_and_by_condition_and_follow(work: Work) -> None:
    key = str(definitions.create(work, SEASON.code, "Autumn", {"condition": EASELS}).thing.key)
    easels = of_type(work, "easels")
    assert inside(work, key) == easels
    first, other = min(easels), min(of_type(work, "brushes"))
    put(work, key, picked=[other], kept_out=[first])
    assert inside(work, key) == (easels | {other}) - {first}
    assert products.get(work, other).product.gathered == {SEASON.code: (key,)}
    made = products.create(work, "easels", "Plover easel").product.id
    assert made in inside(work, key), "a product's own write places it"
    put(work, key, condition=PAINTS)
    assert inside(work, key) == of_paint(work) | {other}
    history.undo_last(work)
    assert made in inside(work, key)
    assert not recount.recount(work.session)
    version = writes.need_current(work, SEASON.code, key).version
    definitions.remove(work, SEASON.code, key, version)
    assert inside(work, key) == set()


def of_paint(work: Work) -> set[int]:
    return {number for key in ("paint", "oil", "watercolour", "gouache") for number in of_type(work, key)}


@pytest.mark.parametrize("most", [200, 0])
def test_who_is_in_any_of_some_is_found_of_few_and_of_many(
    work: Work, monkeypatch: pytest.MonkeyPatch, most: int
) -> None:
    monkeypatch.setattr(rows, "MOST_NAMED", most)
    key = str(definitions.create(work, SEASON.code, "Autumn", {"condition": EASELS}).thing.key)
    wanted = rows.concerned([key, "other"], (), (), SEASON.code)
    assert set(rows.ids_where(work.session, wanted, 0, 100)) == of_type(work, "easels")


def test_more_than_fit_a_request_are_gathered_by_a_job(
    own_engine: Engine, connection: Connection, monkeypatch: pytest.MonkeyPatch
) -> None:
    shop = make_sessions(own_engine)
    with shop() as session:
        rosa = person(session, 0)
    for module in (judging, memberships):
        monkeypatch.setattr(module, "MOST_AT_ONCE", 2)
        monkeypatch.setattr(module, "BATCH", 5)
    asked: list[int] = []
    with unit_of_work(shop, rosa, hand_over=asked.append) as work:
        key = str(definitions.create(work, SEASON.code, "Autumn", {"condition": PAINTS}).thing.key)
        assert inside(work, key) == set()
        assert GATHERERS[SEASON.code].note(key) in gathering.open_keys(work.session)
    assert job_runs.run(shop, asked[0]) == "done"
    with unit_of_work(shop, rosa) as work:
        assert inside(work, key) == of_paint(work)
        assert not gathering.open_keys(work.session)
