"""Gaps: which products lack a required value or hold a wrong one, kept beside each product so that lists can ask for it.

A product's own write says so of itself; what a change of a definition makes of others is worked out here, for the types it
touches and no more.
"""

from __future__ import annotations

from sqlalchemy.orm import Session

from young_fabric.core.definitions import Definitions
from young_fabric.service import plans
from young_fabric.service.actors import Right, Work
from young_fabric.store.repos import products, shop

Required = dict[str, tuple[str, ...]]


def required_keys(defs: Definitions) -> Required:
    """Type → keys of its required fields that no default fills."""
    return {
        key: tuple(e.field.key for e in defs.effective(key) if e.need == "required" and e.field.default is None)
        for key in defs.types
    }


def count(work: Work) -> int:
    """How many products have gaps."""
    work.need(Right.LOOK)
    return products.count(work.session, products.Search(gaps=True))


def mark(session: Session, required: Required) -> None:
    """Look anew at all products of some types."""
    for type_key, keys in required.items():
        products.mark_gaps(session, type_key, keys)


def recount(session: Session) -> None:
    """Look anew at every product, after an upgrade or a load by COPY."""
    if shop.is_there(session):
        mark(session, required_keys(plans.draft(session)))
