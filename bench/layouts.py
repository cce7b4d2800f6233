"""Wide pages with layouts of their own: rendering against reading, why against rendering, and what follows from a change of a
base under twenty others against rendering the pages it shows."""

from __future__ import annotations

import statistics
from dataclasses import replace
from unittest.mock import patch

from sqlalchemy.orm import Session

from base import COUNT, database, timed, work_on
from young_fabric.core.base.collector import uncollected
from young_fabric.core.display.cascade import Scope
from young_fabric.core.pages.entries import EntryBudget
from young_fabric.core.pages.plan import Plan, compile_plan
from young_fabric.core.pages.why import why
from young_fabric.core.subjects.products import Product
from young_fabric.demo import seed as seeding
from young_fabric.demo.catalogue import goods
from young_fabric.service.defining import definitions
from young_fabric.service.pages import layouts
from young_fabric.service.planning import plans
from young_fabric.store.repos import product_groups

WIDE, OTHERS, PAIRS = 200, 20, 7
SURFACE = "product_page"
MOST_RENDER, MOST_WHY, MOST_FOLLOWS = 3, 5, 2
NOTE = {"kind": "words", "id": "note", "words": "Made by hand, as {title} should be.", "heading": "Note"}
TYPES = [f"bench_{number}" for number in range(OTHERS)]


def lay_out(session: Session) -> None:
    """A type of 200 fields with twenty below it, a base with a note, and a layout for each of the twenty on it."""
    work = work_on(session)
    keys = []
    for number in range(WIDE - 9):
        keys.append(f"ss_bench_{number}")
        definitions.create(work, "field", f"Bench {number}", {"key": keys[-1]})
    section = {"key": "all", "name": "All", "fields": keys}
    definitions.create(work, "field_set", "Bench", {"key": "bench", "sections": [section]})
    definitions.create(work, "product_type", "Bench", {"key": "bench", "sets": ["bench"]})
    definitions.create(work, "layout", "Base", {"key": "bench_base", "base": "page"})
    layouts.edit(work, "bench_base", [{"op": "add", "block": NOTE, "region": "main", "after": "top"}])
    for key in TYPES:
        definitions.create(work, "product_type", key, {"key": key, "parent": "bench"})
        definitions.create(work, "layout", key, {"key": f"l_{key}", "base": "bench_base"})
        layouts.edit(work, f"l_{key}", [{"op": "set", "id": "price", "props": {"background": "pale"}}])
        definitions.display(work, Scope("type", key), "*", SURFACE, {"layout": f"l_{key}"}, None)


def read_all(session: Session) -> list[Product]:
    """Read and decode every product."""
    return [product for batch in product_groups.stream(session, None) for product in batch]


def render_one_plan(session: Session) -> int:
    """Read every product, compile one plan of 200 fields, and make every product page by it."""
    defs = plans.draft(session)
    plan = compile_plan(defs, defs.group_of(TYPES[0]), SURFACE, (), EntryBudget())
    return sum(render_batch(batch, plan) for batch in product_groups.stream(session, None))


def render_batch(batch: list[Product], plan: Plan) -> int:
    """Make the pages of a batch, as a release makes them."""
    with uncollected():
        return sum(1 for product in batch if plan.render(product))


def render_all(session: Session) -> int:
    """The same with the twenty plans that their layouts make."""
    defs = plans.draft(session)
    budget = EntryBudget()
    made = {key: compile_plan(defs, defs.group_of(key), SURFACE, (), budget) for key in TYPES}
    return sum(
        1
        for batch in product_groups.stream(session, None)
        for product in batch
        if (plan := made.get(product.type)) is not None and plan.render(product)
    )


def told(session: Session) -> int:
    """What follows from another heading of the base's note."""
    writes_nothing = [{"op": "set", "id": "note", "props": {"heading": "Otherwise"}}]
    found = layouts.preview(work_on(session), "bench_base", writes_nothing)
    return sum(found.consequences.surfaces.values())


def run() -> bool:
    """Measure, print, and say whether the ratios are held."""
    with database() as (engine, sessions):
        seeding.seed(engine, 1)
        with sessions() as session:
            lay_out(session)
            session.commit()
        with patch.object(seeding, "goods", lambda: [replace(goods()[0], type=key) for key in TYPES]):
            seeding.seed(engine, COUNT - 1, 2)
        with sessions() as session:
            read_all(session), render_all(session)
            pairs = [(timed(read_all, session), timed(render_one_plan, session)) for _ in range(PAIRS)]
            found = [product for product in read_all(session) if product.type in TYPES][:300]
            defs = plans.draft(session)
            plan = plans.draft_plans(session).of_type(TYPES[0], SURFACE)
            same = [product for product in found if product.type == TYPES[0]]
            keys = list(plan.entries)[::20]
            rendering = statistics.median(timed(lambda: [plan.render(p) for p in same]) for _ in range(9)) / len(same)
            asking = statistics.median(
                timed(lambda: [why(defs, plan, p, key) for p in same for key in keys]) for _ in range(9)
            ) / (len(same) * len(keys))
            told(session)
            follows = statistics.median(timed(told, session) for _ in range(5))
            plain = statistics.median(timed(render_all, session) for _ in range(5))
            touched = told(session)
    ratio = statistics.median(later / first for first, later in pairs)
    read, render = (statistics.median(times) for times in zip(*pairs, strict=True))
    print(f"layouts: {COUNT:,} products of {len(plan.entries)} fields, {OTHERS} layouts on one base")
    print(f"  read and decode                   {read:.3f} s")
    print(f"  read, compile, render             {render:.3f} s   {ratio:.2f} × reading (at most {MOST_RENDER})")
    print(f"  the same by twenty plans          {plain:.3f} s   {plain / read:.2f} × reading")
    print(
        f"  a page rendered, a why asked      {rendering * 1e3:.3f} ms, {asking * 1e3:.3f} ms   {asking / rendering:.2f} × (at most {MOST_WHY})"
    )
    print(
        f"  what a change of the base touches {follows:.3f} s for {touched:,} pages   {follows / plain:.2f} × rendering them (at most {MOST_FOLLOWS})"
    )
    return ratio <= MOST_RENDER and asking / rendering <= MOST_WHY and follows / plain <= MOST_FOLLOWS
