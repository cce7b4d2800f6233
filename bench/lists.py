"""What a narrower limit would make wrong, told of 50,000 values, and two list values merged that 50,000 products hold."""

from __future__ import annotations

import statistics

from sqlalchemy import text
from sqlalchemy.orm import Session

from base import RUNS, database, timed, work_on
from young_fabric.demo.seed import seed
from young_fabric.service.defining import definitions, value_merging
from young_fabric.service.defining.value_merging import ValueMerge
from young_fabric.service.foreseeing import value_effects
from young_fabric.service.long_work import job_runs

HOLDERS = 50_000
MOST_PREVIEW, MOST_MERGE = 4, 10
LIMITED, LISTED = "ss_paper_weight", "ss_wood"
_FILL = """
    UPDATE product SET fields = fields || jsonb_build_object(
        'ss_paper_weight', jsonb_build_object('amount', (100 + id % 700)::text, 'unit', 'g/m²'), 'ss_wood', 'elm')
"""


def read(session: Session) -> None:
    """Every value of the field, and whose it is."""
    query = text(f"SELECT id, title, fields -> '{LIMITED}' FROM product WHERE fields ? '{LIMITED}' ORDER BY id")
    assert len(session.execute(query).all()) == HOLDERS


def preview(session: Session) -> None:
    """What a narrower limit would make wrong, of all values."""
    work = work_on(session)
    thing = definitions.changed_thing(work, "field", LIMITED, {"limits": {"max": "790"}})
    found = definitions.consequences(work, "field", LIMITED, thing).effects
    looked = 0
    while found is not None:
        looked += found.values
        found = definitions.effects_after(work, "field", LIMITED, thing, found.next) if found.next else None
    assert looked == HOLDERS


def update(session: Session, code: str) -> None:
    """Put another code into the same rows, and nothing else."""
    session.execute(
        text("UPDATE product SET fields = fields || jsonb_build_object('ss_wood', CAST(:code AS text))"), {"code": code}
    )
    session.commit()


def run() -> bool:
    """Measure, print, and say whether the ratios are held."""
    with database() as (engine, sessions):
        seed(engine, HOLDERS)
        with sessions() as session:
            session.execute(text(_FILL))
            session.commit()
            session.execute(text("ANALYZE product"))
            session.commit()
            preview(session)
            pairs = [(timed(read, session), timed(preview, session)) for _ in range(RUNS)]
            session.rollback()
            plain = statistics.median(timed(update, session, code) for code in ("pine", "ash", "elm"))

        def merge(code: str, into: str) -> None:
            with sessions() as session:
                work = work_on(session)
                value_merging.merge_values(work, ValueMerge("wood", code, into))
                session.commit()
                asked = list(work.asked)
            assert [job_runs.run(sessions, number) for number in asked] == ["done"] * len(asked)

        merged = timed(merge, "elm", "ash")
        with sessions() as session:
            held = session.scalar(text('SELECT count(*) FROM product WHERE fields @> \'{"ss_wood": "ash"}\''))
            assert held == HOLDERS
    reading, previewing = (statistics.median(times) for times in zip(*pairs, strict=True))
    print(f"lists: {HOLDERS:,} products hold a value; {value_effects.SLICE:,} are looked at a question")
    print(f"  reading the values        {reading:.3f} s")
    print(f"  telling what would be wrong {previewing:.3f} s   {previewing / reading:.1f} × (at most {MOST_PREVIEW})")
    print(f"  one UPDATE                {plain:.3f} s")
    print(f"  merging two values        {merged:.3f} s   {merged / plain:.1f} × (at most {MOST_MERGE})")
    return previewing / reading <= MOST_PREVIEW and merged / plain <= MOST_MERGE
