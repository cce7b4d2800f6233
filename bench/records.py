"""What people wait for with records: 10,000 of them against a few."""

from __future__ import annotations

import statistics
from collections.abc import Callable
from pathlib import Path

from sqlalchemy.orm import Session

from base import RUNS, database, timed, work_on
from young_fabric.core.nouns.content.records import NOUN, Record
from young_fabric.demo.load import load
from young_fabric.service.acting.actors import Work
from young_fabric.service.defining import definitions, holders, records
from young_fabric.service.planning import plans
from young_fabric.service.products import references
from young_fabric.service.writing import writes
from young_fabric.store.repos import definitions as rows
from young_fabric.store.repos import shop

MANY, FEW = 10_000, 10
MOST = 12
"""A few records are answered in two or three milliseconds: what does not grow with them is most of that."""
FIELD = "ss_maker_place"


def fill_shop(sessions: Callable[[], Session], count: int) -> None:
    """Put in records with a value, by what stores them."""
    with sessions() as session:
        stamp, made = shop.next_stamp(session), []
        for number in range(count):
            key, filled = f"bench_{number}", {FIELD: ("value", f"Place {number}")}
            record = Record(key, f"Maker {number}", "maker", key.replace("_", "-"), filled)
            made.append(rows.row_of(NOUN, key, record.name, record, 1, stamp))
        rows.write_many(session, made, [])
        session.commit()
    plans.forget()


def acts() -> dict[str, Callable[[Work], object]]:
    """What is measured, each undone by rolling back."""

    def fill(work: Work) -> None:
        version = writes.need_current(work, NOUN.code, "bench_5").version
        holders.fill(work, NOUN.code, "bench_5", version, {FIELD: "Elsewhere"})

    return {
        "a page of records": lambda work: records.page(work, "maker", "", 0),
        "looking for one to refer to": lambda work: references.choices(work, ("record_type", "maker"), "maker 7"),
        "making one": lambda work: definitions.create(work, NOUN.code, "Reed & Rush", {"type": "maker"}),
        "filling one": fill,
        "what refers to one": lambda work: definitions.uses(work, NOUN.code, "bench_5"),
    }


def measure(count: int) -> dict[str, float]:
    """Seconds for each act with so many records."""
    with database() as (_engine, sessions):
        load(sessions, Path("/nonexistent"), with_pictures=False)
        fill_shop(sessions, count)
        out = {}
        for name, act in acts().items():

            def once(act: Callable[[Work], object] = act) -> None:
                with sessions() as session:
                    act(work_on(session))
                    session.rollback()

            once()
            out[name] = statistics.median(timed(once) for _ in range(RUNS))
        return out


def run() -> bool:
    """Measure, print, and say whether the ratios are held."""
    few, many = measure(FEW), measure(MANY)
    print(f"records: {MANY:,} against {FEW}")
    for name, seconds in many.items():
        ratio = seconds / few[name]
        print(f"  {name:28} {few[name] * 1000:6.1f} ms {seconds * 1000:7.1f} ms   {ratio:.1f} × (at most {MOST})")
    return all(seconds / few[name] <= MOST for name, seconds in many.items())
