"""Releasing one changed product of 10,000, against releasing all of them."""

from __future__ import annotations

import statistics

from base import COUNT, RUNS, database, timed, work_on
from young_fabric.demo.seed import seed
from young_fabric.service import products, release
from young_fabric.store.repos import products as rows

MOST = 0.03


def run() -> bool:
    """Measure, print, and say whether the ratio is held."""
    with database() as (engine, sessions):
        seed(engine, COUNT)
        with sessions() as session:
            whole = timed(lambda: release.release(work_on(session), "all"))
            session.commit()
        singles = []
        for step in range(RUNS):
            with sessions() as session:
                product = next(rows.stream(session, None, 1))[0]
                products.fill(work_on(session), product.id, None, {"price": f"{step + 1}.50"})
                session.commit()
            with sessions() as session:
                singles.append(timed(lambda: release.release(work_on(session), "single")))
                session.commit()
    single = statistics.median(singles)
    print(f"release: one product changed of {COUNT:,}")
    print(f"  all of them   {whole:.3f} s")
    print(f"  the one       {single:.4f} s   {100 * single / whole:.2f} % of all (at most {100 * MOST:.0f})")
    return single / whole <= MOST
