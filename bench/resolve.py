"""Product-page documents for 10,000 products of 40 fields, against reading those rows."""

from __future__ import annotations

import gc
import statistics
import tracemalloc
from unittest.mock import patch

from sqlalchemy.orm import Session

from base import COUNT, database, timed, work_on
from young_fabric.core.base.collector import uncollected
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.nouns.base import state_of
from young_fabric.core.nouns.types.field_sets import FieldSet, Section
from young_fabric.demo import seed as seeding
from young_fabric.demo.catalogue import goods
from young_fabric.service.planning import plans
from young_fabric.service.writing import writes
from young_fabric.service.writing.writes import Edit
from young_fabric.store.repos import product_groups
from young_fabric.store.repos.definitions import StoredThing

WIDE = 40
TYPE = "watercolour"
MOST = 3
PAIRS = 15
"""Readings taken in turn: a machine that is slow for a while is so for both of a pair."""


def widen(session: Session) -> None:
    """Give one type 40 fields by one more set."""
    work = work_on(session)
    defs = plans.draft(session)
    has = {effective.field.key for effective in defs.effective(TYPE)}
    more = [field.key for field in defs.product_fields.values() if field.key not in has][: WIDE - len(has)]
    wide = FieldSet("bench", "Bench", (Section("all", "All", tuple(more)),))
    writes.apply(work, "field_set", "bench", lambda _current: Edit(ABSENT, state_of(wide)))

    def with_set(current: StoredThing | None) -> Edit:
        assert current is not None
        state = state_of(current.thing)
        return Edit(state, {**state, "sets": [*state["sets"], "bench"]})

    writes.apply(work, "product_type", TYPE, with_set)


def read_all(session: Session) -> int:
    """Read and decode every product."""
    return sum(len(batch) for batch in product_groups.stream(session, None))


def render_all(session: Session, least: int | None = None) -> int:
    """Read every product, or the first, and make its product-page document."""
    plan = plans.draft_plans(session).of_type(TYPE, "product_page")
    done = 0
    for batch in product_groups.stream(session, None):
        with uncollected():
            for product in batch:
                plan.render(product)
        done += len(batch)
        if least is not None and done >= least:
            break
    return done


def peaks(session: Session, *counts: int) -> list[int]:
    """Peak bytes held by Python while rendering the first so many products, with what plans remember of all of them before."""
    found = []
    tracemalloc.start()
    render_all(session)
    for least in counts:
        gc.collect()
        tracemalloc.reset_peak()
        render_all(session, least)
        found.append(tracemalloc.get_traced_memory()[1])
    tracemalloc.stop()
    return found


def run() -> bool:
    """Measure, print, and say whether the ratios are held."""
    with database() as (engine, sessions):
        with patch.object(seeding, "goods", lambda: [product for product in goods() if product.type == TYPE]):
            seeding.seed(engine, 1)
            with sessions() as session:
                widen(session)
                session.commit()
            seeding.seed(engine, COUNT - 1, 2)
        with sessions() as session:
            fields = len(plans.draft(session).effective(TYPE))
            small, large = peaks(session, COUNT // 10, COUNT)
            read_all(session), render_all(session)
            pairs = [(timed(lambda: read_all(session)), timed(lambda: render_all(session))) for _ in range(PAIRS)]
    read, render = (statistics.median(times) for times in zip(*pairs, strict=True))
    ratio = statistics.median(later / first for first, later in pairs)
    print(f"resolve: {COUNT:,} products of {fields} fields")
    print(f"  read and decode           {read:.3f} s")
    print(f"  read, decode and render   {render:.3f} s   {ratio:.2f} × reading (at most {MOST})")
    sizes = f"{small / 1e6:.1f} MB at {COUNT // 10:,}, {large / 1e6:.1f} MB at {COUNT:,}"
    print(f"  peak of Python's memory   {sizes}: {large / small:.2f} × (at most 1.5)")
    return ratio <= MOST and large / small <= 1.5
