"""What is kept beside products counted anew: marks of wrong values, gaps, and how well fields are filled."""

from __future__ import annotations

from sqlalchemy.orm import Session

from young_fabric.service import judging, plans
from young_fabric.store.repos import fills, gathering, products, shop


def recount(session: Session) -> list[str]:
    """Put right all that is kept and differs from what is; says what differed, in words."""
    if not shop.is_there(session):
        return []
    shop.lock_definitions(session)
    plans.refresh(session)
    assessor = plans.draft_of(session).assessor
    last, marked = 0, 0
    while ids := products.ids_after(session, last, judging.BATCH):
        marked += judging.reassess(session, assessor, ids, None).count
        last = ids[-1]
    out = [f"{marked} products had other marks or collections than their values deserve"] if marked else []
    gathering.clear(session)
    for (field, type_key, collections), kept, counted in fills.recount(session):
        group = "+".join((type_key, *collections))
        if field == fills.EVERY_PRODUCT:
            was, are = f"{kept.filled}, {kept.wrong} with gaps", f"{counted.filled}, {counted.wrong} with gaps"
            out.append(f"products of {group} were counted as {was}: there are {are}")
            continue
        was, are = f"{kept.filled} good and {kept.wrong} wrong", f"{counted.filled} good and {counted.wrong} wrong"
        out.append(f"{field} on {group} was counted as {was}, is {are}")
    return out
