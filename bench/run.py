"""The benchmarks, each a ratio of two things measured in one run: `python bench/run.py [resolve|release]`.

Needs DATABASE_URL of a server on which databases can be made; makes its own and drops it.
"""

from __future__ import annotations

import contextlib
import gc
import io
import os
import statistics
import sys
import time
import tracemalloc
from collections.abc import Callable, Iterator
from datetime import UTC, datetime

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from young_fabric.core.nouns.definitions import Product
from young_fabric.core.nouns.field_sets import FieldSet, Section
from young_fabric.demo.seed import seed
from young_fabric.service import plans, products, release, writes
from young_fabric.service.actors import Work
from young_fabric.service.people import actor_of
from young_fabric.store.base import make_engine, make_sessions
from young_fabric.store.migrate import migrate
from young_fabric.store.repos import products as rows
from young_fabric.store.tables import PersonRow

COUNT = 10_000
RUNS = 5
WIDE = 40


@contextlib.contextmanager
def database() -> Iterator[tuple[object, Callable[[], Session]]]:
    """A database of its own with a seeded catalogue."""
    url = os.environ["DATABASE_URL"].replace("postgresql://", "postgresql+psycopg://")
    admin = make_engine(url, 1).execution_options(isolation_level="AUTOCOMMIT")
    name = f"bench_{os.getpid()}"
    with admin.connect() as connection:
        connection.execute(text(f"CREATE DATABASE {name}"))
    engine = make_engine(url.rsplit("/", 1)[0] + f"/{name}", 4)
    try:
        migrate(engine)
        yield engine, make_sessions(engine)
    finally:
        engine.dispose()
        with admin.connect() as connection:
            connection.execute(text(f"DROP DATABASE {name} WITH (FORCE)"))
        admin.dispose()


def work_on(session: Session) -> Work:
    """Work for the first person."""
    person = session.scalars(select(PersonRow).order_by(PersonRow.id)).first()
    assert person is not None
    return Work(session, actor_of(person), datetime.now(UTC))


def timed(what: Callable[[], object]) -> float:
    """Seconds one call takes, the collector left out."""
    gc.collect()
    gc.disable()
    begun = time.perf_counter()
    what()
    took = time.perf_counter() - begun
    gc.enable()
    return took


def widen(session: Session) -> None:
    """Give one type 40 fields by sets, and all products that type, so that each product has 40 fields."""
    work = work_on(session)
    defs = plans.draft(session)
    has = {e.field.key for e in defs.effective("watercolour")}
    more = [f.key for f in defs.fields.values() if f.key not in has][: WIDE - len(has)]
    writes.write(work, "field_set", "bench", FieldSet("bench", "Bench", (Section("all", "All", tuple(more)),)), None)
    kind, version = writes.need_current(work, "product_type", "watercolour")
    writes.write(
        work, "product_type", "watercolour", kind.__class__(**{**vars(kind), "sets": (*kind.sets, "bench")}), version
    )


def read_all(session: Session) -> int:
    """Read and decode every product."""
    return sum(len(batch) for batch in rows.stream(session, None))


def render_all(session: Session) -> int:
    """Read every product and make its product-page document."""
    plan = plans.draft_plans(session).of_type("watercolour", "product_page")
    return sum(1 for batch in rows.stream(session, None) for one in batch if plan.render(one))


def peak(session: Session, least: int) -> int:
    """Peak bytes held by Python while rendering the first `least` products."""
    plan = plans.draft_plans(session).of_type("watercolour", "product_page")
    gc.collect()
    tracemalloc.start()
    done = 0
    for batch in rows.stream(session, None):
        for one in batch:
            plan.render(one)
        done += len(batch)
        if done >= least:
            break
    found = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return found


def bench_resolve() -> bool:
    """Product-page documents for 10,000 products of 40 fields against reading those rows."""
    with database() as (engine, sessions):
        from young_fabric.demo import seed as seeding

        original, seeding.goods = seeding.goods, lambda: [one for one in original() if one.type == "watercolour"]
        try:
            seed(engine, 1)  # type: ignore[arg-type]
            with sessions() as session:
                widen(session)
                session.commit()
            seed(engine, COUNT - 1, 2)  # type: ignore[arg-type]
        finally:
            seeding.goods = original
        with sessions() as session:
            fields = len(plans.draft(session).effective("watercolour"))
            read_all(session), render_all(session)
            pairs = [(timed(lambda: read_all(session)), timed(lambda: render_all(session))) for _ in range(RUNS)]
            small, large = peak(session, COUNT // 10), peak(session, COUNT)
    read, render = (statistics.median(one) for one in zip(*pairs, strict=True))
    print(f"resolve: {COUNT:,} products of {fields} fields")
    print(f"  read and decode           {read:.3f} s")
    print(f"  read, decode and render   {render:.3f} s   {render / read:.2f} × reading (at most 4)")
    print(
        f"  peak of Python's memory   {small / 1e6:.1f} MB at {COUNT // 10:,}, {large / 1e6:.1f} MB at {COUNT:,}: {large / small:.2f} × (at most 1.5)"
    )
    return render / read <= 4 and large / small <= 1.5


def bench_release() -> bool:
    """Releasing one changed product of 10,000 against releasing all of them."""
    with database() as (engine, sessions):
        seed(engine, COUNT)  # type: ignore[arg-type]
        with sessions() as session:
            whole = timed(lambda: release.release(work_on(session), "all"))
            session.commit()
        singles = []
        for step in range(RUNS):
            with sessions() as session:
                work = work_on(session)
                first: Product = next(rows.stream(session, None, 1))[0]
                stored = rows.get(session, [first.id])[first.id]
                products.fill(work, first.id, stored.version, {"price": f"{step + 1}.50"})
                session.commit()
            with sessions() as session:
                singles.append(timed(lambda: release.release(work_on(session), "one")))
                session.commit()
    single = statistics.median(singles)
    print(f"release: one product changed of {COUNT:,}")
    print(f"  all of them   {whole:.3f} s")
    print(f"  the one       {single:.4f} s   {100 * single / whole:.2f} % of all (at most 3)")
    return single / whole <= 0.03


BENCHES = {"resolve": bench_resolve, "release": bench_release}


def main() -> None:
    """Run the benchmarks named, or all; end with 1 when a ratio is missed."""
    wanted = sys.argv[1:] or list(BENCHES)
    with contextlib.redirect_stderr(io.StringIO()):
        passed = [BENCHES[name]() for name in wanted]
    raise SystemExit(0 if all(passed) else 1)


if __name__ == "__main__":
    main()
