"""What large strokes take: undoing one of 100,000 products, counting all anew, and a release of as many groups as there are products of
a tenth; memory of Python at a fifth of it and at all, against each other."""

from __future__ import annotations

import gc
import time
import tracemalloc
from uuid import uuid4

from sqlalchemy import text
from sqlalchemy.orm import Session

from base import database, work_on
from young_fabric.demo.seed import seed
from young_fabric.service import history
from young_fabric.service.defining import definitions
from young_fabric.service.releasing import release
from young_fabric.service.values import recount, value_writer
from young_fabric.service.values.value_states import ValueEdit
from young_fabric.store.repos import fills

MOST_PRODUCTS, GROUPS = 100_000, 40_000
MOST_MEMORY, BITS = 1.5, 16


def stroke(session: Session, ids: list[int]) -> int:
    """One price on all products, batch by batch as jobs write, in one group; gives a change of it."""
    group = uuid4().hex
    for start in range(0, len(ids), value_writer.BATCH):
        part = ids[start : start + value_writer.BATCH]
        value_writer.put_many(
            work_on(session), [ValueEdit(number, values={"price": "77.01"}) for number in part], group
        )
        session.commit()
    return int(session.scalar(text("SELECT max(id) FROM change")) or 0)


def undoing(count: int) -> tuple[float, float]:
    """(megabytes of Python at most, seconds) of taking back a stroke of so many products."""
    with database() as (engine, sessions):
        seed(engine, count)
        with sessions() as session:
            ids = list(session.scalars(text("SELECT id FROM product ORDER BY id")))
            change = stroke(session, ids)
        with sessions() as session:
            gc.collect()
            tracemalloc.start()
            begun = time.perf_counter()
            history.undo_at_once(work_on(session), change)
            session.commit()
            took = time.perf_counter() - begun
            peak = tracemalloc.get_traced_memory()[1] / 1_048_576
            tracemalloc.stop()
            calls: list[tuple[int, int]] = []
            begun = time.perf_counter()
            differed = recount.recount(session, lambda done, total: calls.append((done, total)))
            print(
                f"  recount of {count:,}: {time.perf_counter() - begun:.0f} s, told {len(calls)} times, differed {differed}"
            )
    return peak, took


def releasing() -> tuple[int, float]:
    """(groups, seconds) of a release in which as many (type, collections) differ."""
    with database() as (engine, sessions):
        seed(engine, GROUPS)
        with sessions() as session:
            for number in range(BITS):
                definitions.create(work_on(session), "collection", f"C{number}", {})
            # Each product in collections of its own mixture: as many stored groups as products.
            mixed = "ARRAY(SELECT 'c' || bit FROM generate_series(0, :last) AS bit WHERE (id >> bit) & 1 = 1)"
            session.execute(text(f"UPDATE product SET collections = {mixed}"), {"last": BITS - 1})
            fills.recount(session)
            session.commit()
        with sessions() as session:
            begun = time.perf_counter()
            release.release(work_on(session), "all")
            session.commit()
            took = time.perf_counter() - begun
            groups = int(session.scalar(text("SELECT count(DISTINCT (type_key, collections)) FROM product")) or 0)
    return groups, took


def run() -> bool:
    """Measure, print, and say whether memory stays as it is."""
    print("sizes:")
    few, short = undoing(MOST_PRODUCTS // 5)
    many, long = undoing(MOST_PRODUCTS)
    groups, took = releasing()
    print(
        f"  undo of {MOST_PRODUCTS // 5:,}: {short:.0f} s, {few:.1f} MB; of {MOST_PRODUCTS:,}: {long:.0f} s, {many:.1f} MB"
    )
    print(f"  memory                    {many / few:.2f} × for 5 × the products (at most {MOST_MEMORY})")
    print(f"  a release of {groups:,} groups  {took:.0f} s")
    return many / few <= MOST_MEMORY and groups >= GROUPS
