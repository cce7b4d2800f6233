"""One changed value on 10,000 products through the one writer, against one UPDATE of the same rows without triggers; and on 20,000 in one
batch, against 10,000 in one; and on 10,000 variants, against 10,000 products."""

from __future__ import annotations

import statistics

from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from base import COUNT, RUNS, database, statements, timed, work_on
from young_fabric.demo.seed import seed
from young_fabric.service.defining import definitions
from young_fabric.service.products import products
from young_fabric.service.values import value_writer, variant_writer
from young_fabric.service.values.value_states import ValueEdit

MOST, MOST_GROWTH, MOST_OF_VARIANTS = 8, 2.2, 1.3
COLOURS, SIZES = 50, 40


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


def crowd(session: Session) -> list[int]:
    """Ten thousand variants, of as few products as have room for them; gives their ids."""
    work = work_on(session)
    options = [
        {"key": key, "name": key, "values": [{"code": f"v{number}", "label": f"V {number}"} for number in range(count)]}
        for key, count in (("colour", COLOURS), ("size", SIZES))
    ]
    definitions.create(work, "option_set", "Bench", {"key": "bench", "options": options})
    definitions.create(work, "product_type", "Bench", {"key": "bench", "option_sets": ["bench"]})
    for number in range(COUNT // (COLOURS * SIZES)):
        products.create(work, "bench", f"Many {number}")
    session.commit()
    return list(session.scalars(text("SELECT id FROM variant ORDER BY id")))


def put_variants(session: Session, ids: list[int], price: str) -> None:
    """Write one price on variants, as on products."""
    variant_writer.put_many(work_on(session), [ValueEdit(variant_id, None, {"price": price}) for variant_id in ids])
    session.commit()


def of_variants(session: Session, ids: list[int]) -> tuple[float, float]:
    """Seconds that one value of 10,000 products takes, and how much longer one of 10,000 variants does."""
    variants = crowd(session)
    assert len(variants) == len(ids) == COUNT
    pairs = []
    for step in range(RUNS):
        price = f"{step + 1}.21"
        pairs.append((timed(put, session, ids, price), timed(put_variants, session, variants, price)))
    return statistics.median(pair[0] for pair in pairs), statistics.median(took / base for base, took in pairs)


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
            of_products, variants = of_variants(session, ids)
        seed(engine, COUNT, 2)
        with sessions() as session:
            grown = growth(session, list(session.scalars(text("SELECT id FROM product ORDER BY id"))))
    plain, whole = (statistics.median(times) for times in zip(*pairs, strict=True))
    print(f"write: one value of {COUNT:,} products")
    print(f"  one UPDATE, no triggers   {plain:.3f} s")
    print(f"  put_many                  {whole:.3f} s   {whole / plain:.1f} × (at most {MOST})")
    print(f"  statements                {few} for 10, {many} for {value_writer.BATCH:,}, {all_of_them} for {COUNT:,}")
    print(f"  twice as many, one batch  {grown:.2f} × (at most {MOST_GROWTH})")
    print(
        f"  of 10,000 variants        {variants:.2f} × of as many products, {of_products:.3f} s (at most {MOST_OF_VARIANTS})"
    )
    return whole / plain <= MOST and few == many and grown <= MOST_GROWTH and variants <= MOST_OF_VARIANTS
