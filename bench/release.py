"""Releasing all of 10,000 products against rendering their documents in memory, and one of them against all; and memory."""

from __future__ import annotations

import gc
import statistics
import tracemalloc
from collections.abc import Callable, Sequence
from itertools import pairwise

from sqlalchemy.orm import Session

from base import COUNT, RUNS, database, timed, work_on
from young_fabric.core.display.surfaces import product_surfaces
from young_fabric.core.pages.document import to_json
from young_fabric.core.pages.plans import Plans
from young_fabric.core.subjects.products import Product
from young_fabric.demo.seed import seed
from young_fabric.service.planning import plans
from young_fabric.service.products import products
from young_fabric.service.releasing import release
from young_fabric.store.repos import product_groups

MOST_RENDERING, MOST_SINGLE, MOST_MEMORY = 3, 0.01, 1.5


def render(made: Plans, goods: Sequence[Product]) -> None:
    """The documents a release makes of products, on every surface."""
    for product in goods:
        for code in product_surfaces():
            to_json(made.of_product(product, code).render(product))


def all_of(sessions: Callable[[], Session]) -> tuple[float, float, float]:
    """(seconds of rendering in memory, seconds of releasing all, how many times the former); medians of readings in turn."""
    with sessions() as session:
        made = plans.draft_plans(session)
        goods = [product for batch in product_groups.stream(session, None) for product in batch]
    render(made, goods)
    rendering, whole = [timed(render, made, goods)], []
    for left in reversed(range(RUNS)):
        with sessions() as session:
            whole.append(timed(lambda session=session: release.release(work_on(session), "all")))
            if left:
                session.rollback()
            else:
                session.commit()
        rendering.append(timed(render, made, goods))
    around = [(before + after) / 2 for before, after in pairwise(rendering)]
    ratios = [took / beside for took, beside in zip(whole, around, strict=True)]
    return statistics.median(rendering), statistics.median(whole), statistics.median(ratios)


def single_of(sessions: Callable[[], Session]) -> float:
    """Seconds of a release of one product whose price changed, the median."""
    singles = []
    for step in range(RUNS):
        with sessions() as session:
            product = next(product_groups.stream(session, None, 1))[0]
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
        rendering, whole, ratio = all_of(sessions)
        single = single_of(sessions)
    small, large = peak_of(COUNT // 5), peak_of(COUNT)
    print(f"release: {COUNT:,} products on {len(product_surfaces())} surfaces")
    print(f"  rendering in memory       {rendering:.3f} s")
    print(f"  all of them               {whole:.3f} s   {ratio:.2f} × rendering (at most {MOST_RENDERING})")
    print(
        f"  one of them               {single:.4f} s   {100 * single / whole:.2f} % of all (at most {100 * MOST_SINGLE:.0f})"
    )
    sizes = f"{small / 1e6:.1f} MB at {COUNT // 5:,}, {large / 1e6:.1f} MB at {COUNT:,}"
    print(f"  peak of Python's memory   {sizes}: {large / small:.2f} × (at most {MOST_MEMORY})")
    held = ratio <= MOST_RENDERING and single / whole <= MOST_SINGLE
    return held and large / small <= MOST_MEMORY
