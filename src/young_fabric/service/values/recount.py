"""What is kept beside products counted anew: marks of wrong values, gaps, and how well fields are filled."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any

from sqlalchemy.orm import Session

from young_fabric.service.acting.actors import Actor, Work
from young_fabric.service.planning import offering, plans
from young_fabric.service.planning.offering import Offers
from young_fabric.service.values import judging, variants
from young_fabric.store.repos import fills, gathering, products, shop
from young_fabric.store.repos import variants as variant_rows

Progress = Callable[[int, int], None]
"""Told how many products were looked at, of how many."""


def recount(session: Session, progress: Progress = lambda _done, _total: None) -> list[str]:
    """Put right all that is kept and differs from what is, variants too; says what differed, in words."""
    if not shop.is_there(session):
        return []
    shop.lock_definitions(session)
    plans.refresh(session)
    assessor = plans.draft_of(session).assessor
    last, marked, done = 0, 0, 0
    every = products.count_where(session, products.every())
    optioned = _optioned(session)
    total = every + products.count_where(session, optioned)
    while ids := products.ids_after(session, last, judging.BATCH):
        marked += judging.reassess(session, assessor, ids, None).count
        last, done = ids[-1], done + len(ids)
        progress(done, total)
    out = [f"{marked} products had other marks or collections than their values deserve"] if marked else []
    gathering.clear(session)
    work, last, written = Work(session, Actor(0, "recount", frozenset()), datetime.now(UTC)), 0, 0
    while ids := products.ids_where(session, optioned, last, variants.BATCH):
        written += variants.put(work, ids)
        last, done = ids[-1], done + len(ids)
        progress(min(done, total), total)
    out += [f"{written} variants were not in step with what their products are offered"] if written else []
    variant_rows.clear_unmatched(session)
    for (field, type_key, collections), kept, counted in fills.recount(session):
        group = "+".join((type_key, *collections))
        if field == fills.EVERY_PRODUCT:
            was, are = f"{kept.filled}, {kept.wrong} with gaps", f"{counted.filled}, {counted.wrong} with gaps"
            out.append(f"products of {group} were counted as {was}: there are {are}")
            continue
        was, are = f"{kept.filled} good and {kept.wrong} wrong", f"{counted.filled} good and {counted.wrong} wrong"
        out.append(f"{field} on {group} was counted as {was}, is {are}")
    return out


def _optioned(session: Session) -> Any:
    """Products that are offered options, or have variants."""
    defs = plans.draft(session)
    offers = Offers(defs)
    types = [key for key in defs.types if offers.of_type(key)]
    return products.any_of([offering.having(defs.option_sets, types), variant_rows.having_any()])
