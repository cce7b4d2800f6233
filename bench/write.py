"""One changed value on 10,000 products through the one writer, against one UPDATE of the same rows without triggers; and on 20,000 in one
batch, against 10,000 in one."""

from __future__ import annotations

import statistics

from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from base import COUNT, RUNS, database, statements, timed, work_on
from young_fabric.demo.seed import seed
from young_fabric.service.values import value_writer
from young_fabric.service.values.value_states import ValueEdit

MOST, MOST_GROWTH = 8, 2.2


def put(session: Session, ids: list[int], price: str) -> None:
    """Write one price on products, with change records, counts and hashes."""
    value_writer.put_many(work_on(session), [ValueEdit(product_id, values={"price": price}) for product_id in ids])
    session.commit()


def update(session: Session, price: str) -> None:
    """Put the same value into the same rows, and nothing else."""
    session.execute(text("SET LOCAL session_replication_role = replica"))
    session.execute(
        text("UPDATE product SET fields = fields || jsonb_build_object('price', CAST(:price AS text))"),
        {"price": price},
    )
    session.commit()


def growth(session: Session, ids: list[int]) -> float:
    """How much longer twice as many products take, in one batch each."""
    kept = value_writer.BATCH
    value_writer.BATCH = 2 * COUNT
    try:
        pairs = []
        for step in range(RUNS):
            half = timed(put, session, ids[:COUNT], f"{step}.11")
            pairs.append(timed(put, session, ids, f"{step}.12") / half)
    finally:
        value_writer.BATCH = kept
    return statistics.median(pairs)


def counted(engine: Engine, session: Session, ids: list[int], price: str) -> int:
    """How many statements a write of some products sends."""
    with statements(engine) as sent:
        put(session, ids, price)
    return len(sent)


def run() -> bool:
    """Measure, print, and say whether the ratio is held."""
    with database() as (engine, sessions):
        seed(engine, COUNT)
        with sessions() as session:
            ids = list(session.scalars(text("SELECT id FROM product ORDER BY id")))
            few, many = (counted(engine, session, ids[:count], f"{count}.01") for count in (10, value_writer.BATCH))
            all_of_them = counted(engine, session, ids, "77.01")
            update(session, "78.01")
            pairs = []
            for step in range(RUNS):
                pairs.append((timed(update, session, f"{step + 1}.02"), timed(put, session, ids, f"{step + 1}.03")))
        seed(engine, COUNT, 2)
        with sessions() as session:
            grown = growth(session, list(session.scalars(text("SELECT id FROM product ORDER BY id"))))
    plain, whole = (statistics.median(times) for times in zip(*pairs, strict=True))
    print(f"write: one value of {COUNT:,} products")
    print(f"  one UPDATE, no triggers   {plain:.3f} s")
    print(f"  put_many                  {whole:.3f} s   {whole / plain:.1f} × (at most {MOST})")
    print(f"  statements                {few} for 10, {many} for {value_writer.BATCH:,}, {all_of_them} for {COUNT:,}")
    print(f"  twice as many, one batch  {grown:.2f} × (at most {MOST_GROWTH})")
    return whole / plain <= MOST and few == many and grown <= MOST_GROWTH
