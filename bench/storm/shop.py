"""The shop that is attacked: seeded, with options, stock and a first release."""

from __future__ import annotations

import random
from typing import Any

from sqlalchemy import text

from young_fabric.core.subjects.stock import PRODUCT_STOCK, StockKey
from young_fabric.demo.seed import seed
from young_fabric.service.acting import people
from young_fabric.service.acting.actors import Work
from young_fabric.service.acting.unit import unit_of_work
from young_fabric.service.defining import definitions
from young_fabric.service.planning import plans
from young_fabric.service.releasing import release
from young_fabric.service.sales.variant_values import VariantStock, put_stocks
from young_fabric.service.values import recount, stocks
from young_fabric.service.values.stocks import StockEdit
from young_fabric.service.writing import writes
from young_fabric.store.base import make_engine, make_sessions
from young_fabric.store.migrate import migrate
from young_fabric.store.repos import people as person_rows
from young_fabric.store.repos import variants

COUNT = 5_000
OPTIONED = ("sketchbooks", "easels")
COUNTED = 50
"""So many products without variants have counted stock."""


def actor(session: Any) -> Any:
    found = person_rows.by_email(session, "rosa@saltmarsh.example")
    assert found is not None
    return people.actor_of(found)


def make(url: str, rng: random.Random) -> dict[str, Any]:
    """Lay it out; gives the products there are, those with options, and the record types."""
    engine = make_engine(url.replace("postgresql://", "postgresql+psycopg://"), 4)
    sessions = make_sessions(engine)
    migrate(engine)
    seed(engine, COUNT, rng.randrange(1, 10**6))
    plans.forget()
    with sessions() as session:
        rosa = actor(session)
    with unit_of_work(sessions, rosa) as work:
        _define(work)
    with sessions.begin() as session:
        recount.recount(session)
    with unit_of_work(sessions, rosa) as work:
        optioned = list(
            work.session.scalars(text("SELECT DISTINCT product_id FROM variant WHERE NOT retired ORDER BY 1"))
        )
        plain = list(
            work.session.scalars(
                text("SELECT id FROM product WHERE NOT id = ANY(:ids) ORDER BY id LIMIT :most"),
                {"ids": optioned, "most": COUNTED},
            )
        )
        rest = list(
            work.session.scalars(text("SELECT id FROM product WHERE NOT id = ANY(:ids) ORDER BY id"), {"ids": plain})
        )
        _count(work, optioned[:200], plain, rng)
        types = sorted(plans.draft(work.session).things["record_type"])
    with unit_of_work(sessions, rosa) as work:
        release.release(work, "before the storm")
    engine.dispose()
    return {"products": [*plain, *rest], "optioned": optioned, "record_types": types}


def _define(work: Work) -> None:
    values = [{"code": f"c{number}", "label": f"C{number}", "effect": {"sku": f"C{number}"}} for number in range(3)]
    sizes = [{"code": code, "label": code.title()} for code in ("small", "large")]
    options = [
        {"key": "cover", "name": "Cover", "values": values},
        {"key": "size", "name": "Size", "values": sizes},
        {"key": "words", "name": "Words", "kind": "text", "required": False},
    ]
    made = definitions.create(work, "option_set", "Storm covers", {"options": options}).thing.key
    for name in OPTIONED:
        current = writes.need_current(work, "product_type", name)
        given = {"option_sets": [*current.thing.option_sets, made]}
        definitions.change(work, "product_type", name, current.version, given)
    cheap = {"all": [{"field": "price", "op": "lt", "typed": "60"}]}
    definitions.create(work, "collection", "Storm cheap", {"condition": cheap})
    note = definitions.create(work, "field", "Storm note", {"kind": "text"}).thing.key
    current = writes.need_current(work, "product_type", "paint")
    definitions.change(work, "product_type", "paint", current.version, {"fields": [*current.thing.fields, note]})


def _count(work: Work, optioned: list[int], plain: list[int], rng: random.Random) -> None:
    found = variants.of_products(work.session, optioned, retired=False)
    edits = [VariantStock(variant.id, None, rng.randrange(4, 40)) for rows in found.values() for variant in rows]
    for start in range(0, len(edits), 2_000):
        put_stocks(work, edits[start : start + 2_000])
    of = [StockEdit(StockKey(PRODUCT_STOCK, (number,)), str(number), f"Product {number}", None, 60) for number in plain]
    stocks.put(work, of)
