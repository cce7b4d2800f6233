"""Documents are told apart by BLAKE2b: hashes of those there are are made anew, so that none counts as changed."""

from __future__ import annotations

import hashlib
from typing import Any

import orjson
import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None
BATCH = 2_000


def upgrade() -> None:
    """Hash every document again, a batch at a time."""
    session = op.get_bind()
    page = sa.text(
        "SELECT id, format, address, title, under, document::text FROM live_document WHERE id > :after ORDER BY id LIMIT :batch"
    )
    put = sa.text(
        "UPDATE live_document AS d SET hash = r.hash FROM jsonb_to_recordset(:rows) AS r(id bigint, hash text) WHERE d.id = r.id"
    ).bindparams(sa.bindparam("rows", type_=JSONB()))
    after = 0
    while rows := session.execute(page, {"after": after, "batch": BATCH}).all():
        session.execute(put, {"rows": [{"id": row[0], "hash": _hash(row[1:5], row[5])} for row in rows]})
        after = rows[-1][0]


def _hash(head: Any, document: str) -> str:
    parts = [orjson.dumps(part, option=orjson.OPT_SORT_KEYS) for part in (*head, orjson.loads(document))]
    return hashlib.blake2b(b"[" + b",".join(parts) + b"]", digest_size=32).hexdigest()


def downgrade() -> None:
    """Nothing to do: documents with such hashes are made anew where they are next looked at."""
