"""Pages as one process made them, for the others: found with the state of the shop, in one glance."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import orjson
from sqlalchemy import text
from sqlalchemy.orm import Session

from young_fabric.store.glances import Glance
from young_fabric.store.repos.shop import LiveState, state_columns

MOST = 200_000
"""So many pages are kept; those made longest ago go first."""
_FIND = f"""
SELECT kept.body, kept.etag, kept.ids, kept.sets, kept.state, {state_columns("kept.ids", "kept.sets")}
FROM shop JOIN kept_page AS kept ON kept.address = %(address)s AND kept.mark = %(mark)s
"""  # noqa: S608
_PUT = """
INSERT INTO kept_page (address, mark, state, ids, sets, etag, body)
VALUES (%(address)s, %(mark)s, %(state)s, %(ids)s, %(sets)s, %(etag)s, %(body)s)
ON CONFLICT (address) DO UPDATE SET mark = excluded.mark, state = excluded.state, ids = excluded.ids,
sets = excluded.sets, etag = excluded.etag, body = excluded.body, made_at = now()
"""


class KeptPage(NamedTuple):
    """A page as it was made: its bytes, the products and option sets whose stock it tells, and the state of the shop it was made of."""

    body: bytes
    etag: str
    ids: Sequence[int]
    sets: Sequence[str]
    state: LiveState


def find(glance: Glance, address: str, mark: str) -> KeptPage | None:
    """The page at an address that `mark` made, where the shop still is in the state that it was made of."""
    row = glance.execute(_FIND, {"address": address, "mark": mark}).fetchone()
    if row is None:
        return None
    state = LiveState(*row[5:])
    return (
        KeptPage(row[0].encode(), row[1], row[2], row[3], state) if LiveState(*orjson.loads(row[4])) == state else None
    )


def put(glance: Glance, address: str, mark: str, page: KeptPage) -> None:
    """Keep a page in place of the one that was kept at its address."""
    kept = {**page._asdict(), "ids": list(page.ids), "sets": list(page.sets), "body": page.body.decode()}
    glance.execute(_PUT, {**kept, "state": orjson.dumps(list(page.state)).decode(), "address": address, "mark": mark})


def sweep(session: Session) -> None:
    """Let go of pages beyond MOST."""
    session.execute(
        text(
            "DELETE FROM kept_page WHERE address IN (SELECT address FROM kept_page ORDER BY made_at DESC OFFSET :most)"
        ),
        {"most": MOST},
    )
