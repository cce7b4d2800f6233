"""Which collections still have products to be put in or taken out by a job."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.orm import Session

from young_fabric.store.tables import GatheringRow

G = GatheringRow


def note(session: Session, keys: Sequence[str], stamp: int) -> None:
    """Note collections as not yet gathered since the definitions had a stamp."""
    if keys:
        rows = [{"collection": key, "stamp": stamp} for key in sorted(keys)]
        query = upsert(G).values(rows)
        session.execute(
            query.on_conflict_do_update(index_elements=["collection"], set_={"stamp": query.excluded.stamp})
        )


def open_keys(session: Session) -> frozenset[str]:
    """The collections that are not yet gathered."""
    return frozenset(session.scalars(select(G.collection)))


def settle(session: Session, keys: Sequence[str], stamp: int) -> None:
    """Say that collections are gathered as definitions had it at a stamp."""
    gone = delete(G).where(G.collection == func.any(list(keys)), G.stamp <= stamp)
    session.execute(gone.execution_options(synchronize_session=False))


def clear(session: Session) -> None:
    """Say that all are gathered."""
    session.execute(delete(G))
