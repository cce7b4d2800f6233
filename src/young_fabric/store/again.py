"""Which failures of the database are no fault of anybody's: the same transaction, begun anew, can succeed."""

from __future__ import annotations

from sqlalchemy.exc import DBAPIError, OperationalError

AGAIN = frozenset({"40001", "40P01"})
"""SQLSTATE (ISO 9075, PostgreSQL appendix A): serialization failure, deadlock detected."""
MOST_TRIES = 8


def worth_another_try(error: DBAPIError) -> bool:
    """Whether two transactions only met, and what was undone may be done once more."""
    return getattr(error.orig, "sqlstate", None) in AGAIN


def is_away(error: DBAPIError) -> bool:
    """Whether the database could not be reached, or went while it was asked."""
    state = getattr(error.orig, "sqlstate", None) or ""
    return (
        error.connection_invalidated
        or state[:2] == "08"
        or state[:3] == "57P"
        or (not state and isinstance(error, OperationalError))
    )
