"""The one writer of counted stock in the studio, whoever's it is: of products, of variants, of single values of options.

The row that orders lock is held before what was read is compared with what stands, so that a sale is never written over.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from uuid import uuid4

from sqlalchemy.exc import IntegrityError

from young_fabric.core.base.errors import Refusal
from young_fabric.core.base.patches import diff
from young_fabric.core.subjects.products import describe_stock
from young_fabric.core.subjects.stock import StockKey, check_amount
from young_fabric.service.acting.actors import Clash, Right, Work
from young_fabric.service.planning import plans
from young_fabric.store.repos import changes, stocks
from young_fabric.store.tables import ChangeRow


@dataclass(frozen=True)
class StockEdit:
    """The stock to be put (None: not counted), and what was read of it; `key` and `name` are those of its record."""

    of: StockKey
    key: str
    name: str
    expected: int | None
    amount: int | None
    undoes: int | None = None


def put(work: Work, edits: Sequence[StockEdit], group: str | None = None) -> None:
    """Put counted stock of one sort, in pieces, all or none; live at once. It takes the locks that orders take. Raises Refusal `below`, `above`, `not_found`, Clash."""
    work.need(Right.EDIT)
    if not edits:
        return
    for edit in edits:
        check_amount(edit.amount)
    sort = edits[0].of.sort
    stands = _held(work, sort, edits)
    changed = []
    for edit in edits:
        now = stands.get(edit.of.of)
        if now != edit.expected:
            began, mine, theirs = ({"amount": amount} for amount in (edit.expected, edit.amount, now))
            defs = plans.draft(work.session)
            lines = describe_stock(began, mine, defs), describe_stock(began, theirs, defs)
            raise Clash(f"The stock of {edit.name}", mine, theirs, None, lines=lines)
        if now != edit.amount:
            changed.append(edit)
            stands[edit.of.of] = edit.amount
    stocks.put(work.session, sort, {edit.of.of: edit.amount for edit in changed})
    _record(work, sort, changed, group or uuid4().hex)


def amounts_of(change: ChangeRow) -> tuple[int | None, int | None]:
    """(the stock before, after) a recorded change of it."""
    amounts = change.patch.get("in", {}).get("amount", {})
    return amounts.get("was"), amounts.get("is")


def _held(work: Work, sort: str, edits: Sequence[StockEdit]) -> dict[stocks.Of, int | None]:
    try:
        with work.session.begin_nested():
            return stocks.hold(work.session, sort, [edit.of.of for edit in edits])
    except IntegrityError as error:
        raise Refusal(
            "not_found", "What this stock is of is gone", (), "Look again: it may have been removed"
        ) from error


def _record(work: Work, sort: str, changed: Sequence[StockEdit], group: str) -> None:
    if not changed:
        return
    last = changes.last_versions(work.session, sort, [edit.key for edit in changed])
    defs = plans.draft(work.session)
    rows = []
    for edit in changed:
        last[edit.key] = last.get(edit.key, 0) + 1
        before, after = {"amount": edit.expected}, {"amount": edit.amount}
        rows.append(
            {
                "noun": sort,
                "key": edit.key,
                "name": edit.name,
                "lines": describe_stock(before, after, defs),
                "patch": diff(before, after) or {"in": {}},
                "format": 1,
                "version": last[edit.key],
                "undoes": edit.undoes,
            }
        )
    changes.add_many(work.session, rows, at=work.now, person_id=work.actor.id, group_id=group)
