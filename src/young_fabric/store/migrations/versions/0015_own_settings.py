"""What is live of settings said for one thing alone is found by what it is said for."""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Have an index of them."""
    op.create_index(
        "ix_live_thing_own_settings",
        "live_thing",
        [sa.text("left(key, strpos(key, '/'))")],
        postgresql_where=sa.text("until IS NULL AND noun = 'display_setting'"),
    )


def downgrade() -> None:
    """As it was before."""
    op.drop_index("ix_live_thing_own_settings", "live_thing")
