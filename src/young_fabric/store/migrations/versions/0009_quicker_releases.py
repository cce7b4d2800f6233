"""Documents are kept as written and packed the quick way; what is still live stands in no index of what ended."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None
ENDED = sa.text("until IS NOT NULL")
TABLES = ("live_thing", "live_document", "listed_card")


def upgrade() -> None:
    """Change the column and the indexes."""
    op.execute("ALTER TABLE live_document ALTER COLUMN document TYPE text USING document::text")
    op.execute("ALTER TABLE live_document ALTER COLUMN document SET COMPRESSION lz4")
    op.execute("ALTER TABLE live_thing ALTER COLUMN state SET COMPRESSION lz4")
    for table in TABLES:
        op.drop_index(f"ix_{table}_until", table)
        op.create_index(f"ix_{table}_until", table, ["until"], postgresql_where=ENDED)


def downgrade() -> None:
    """As it was before."""
    for table in TABLES:
        op.drop_index(f"ix_{table}_until", table)
        op.create_index(f"ix_{table}_until", table, ["until"])
    op.execute("ALTER TABLE live_document ALTER COLUMN document TYPE jsonb USING document::jsonb")
