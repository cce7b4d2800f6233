"""Recording what became of counted stock, whoever's it is: products', variants', or single values'."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import uuid4

from young_fabric.core.base.patches import diff
from young_fabric.core.subjects.products import describe_stock
from young_fabric.service import plans
from young_fabric.service.actors import Work
from young_fabric.store.repos import changes


@dataclass(frozen=True)
class StockChange:
    """Whose stock it is (noun, key, name), and what it was and is; None where it is not counted."""

    noun: str
    key: str
    name: str
    before: int | None
    after: int | None


def record(work: Work, change: StockChange, group: str | None = None, undoes: int | None = None) -> None:
    """Put it in the record of changes."""
    before, after = {"amount": change.before}, {"amount": change.after}
    changes.add(
        work.session,
        at=work.now,
        person_id=work.actor.id,
        noun=change.noun,
        key=change.key,
        name=change.name,
        lines=describe_stock(before, after, plans.draft(work.session)),
        patch=diff(before, after) or {"in": {}},
        format=1,
        version=changes.last_version(work.session, change.noun, change.key) + 1,
        group_id=group or uuid4().hex,
        undoes=undoes,
    )
