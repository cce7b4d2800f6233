"""Releasing all of 10,000 products against rendering their documents in memory, and one of them against all; and memory."""

from __future__ import annotations

import gc
import statistics
import tracemalloc
from collections.abc import Callable, Sequence

from sqlalchemy.orm import Session

from base import COUNT, RUNS, database, timed, work_on
from young_fabric.core.display.surfaces import SURFACES
from young_fabric.core.pages.document import to_json
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.products import Product
from young_fabric.demo.seed import seed
from young_fabric.service import plans, products, release
from young_fabric.store.repos import products as rows

MOST_RENDERING, MOST_SINGLE, MOST_MEMORY = 3, 0.01, 1.5


def render(made: Plans, goods: Sequence[Product]) -> None:
    """The documents a release makes of products, on every surface."""
    for product in goods:
        for code in SURFACES:
            to_json(made.of_product(product, code).render(product))


def all_of(sessions: Callable[[], Session]) -> tuple[float, float]:
    """(seconds of rendering in memory, the median of readings before and after; seconds of the release of all)."""
    with sessions() as session:
        made = plans.draft_plans(session)
        goods = [product for batch in rows.stream(session, None) for product in batch]
        render(made, goods)
        times = [timed(render, made, goods) for _ in range(RUNS)]
        with sessions() as other:
            whole = timed(lambda: release.release(work_on(other), "all"))
            other.commit()
        times += [timed(render, made, goods) for _ in range(RUNS)]
    return statistics.median(times), whole


def single_of(sessions: Callable[[], Session]) -> float:
    """Seconds of a release of one product whose price changed, the median."""
    singles = []
    for step in range(RUNS):
        with sessions() as session:
            product = next(rows.stream(session, None, 1))[0]
            products.fill(work_on(session), product.id, None, {"price": f"{step + 1}.50"})
            session.commit()
        with sessions() as session:
            singles.append(timed(lambda session=session: release.release(work_on(session), "single")))
            session.commit()
    return statistics.median(singles)


def peak_of(count: int) -> int:
    """Peak bytes held by Python while all of a number of products are released."""
    with database() as (engine, sessions):
        seed(engine, count)
        with sessions() as session:
            work = work_on(session)
            plans.draft_of(session)
            gc.collect()
            tracemalloc.start()
            release.release(work, "all")
            found = tracemalloc.get_traced_memory()[1]
            tracemalloc.stop()
    return found


def run() -> bool:
    """Measure, print, and say whether the ratios are held."""
    with database() as (engine, sessions):
        seed(engine, COUNT)
        rendering, whole = all_of(sessions)
        single = single_of(sessions)
    small, large = peak_of(COUNT // 5), peak_of(COUNT)
    print(f"release: {COUNT:,} products on {len(SURFACES)} surfaces")
    print(f"  rendering in memory       {rendering:.3f} s")
    print(f"  all of them               {whole:.3f} s   {whole / rendering:.2f} × rendering (at most {MOST_RENDERING})")
    print(
        f"  one of them               {single:.4f} s   {100 * single / whole:.2f} % of all (at most {100 * MOST_SINGLE:.0f})"
    )
    sizes = f"{small / 1e6:.1f} MB at {COUNT // 5:,}, {large / 1e6:.1f} MB at {COUNT:,}"
    print(f"  peak of Python's memory   {sizes}: {large / small:.2f} × (at most {MOST_MEMORY})")
    held = whole / rendering <= MOST_RENDERING and single / whole <= MOST_SINGLE
    return held and large / small <= MOST_MEMORY
