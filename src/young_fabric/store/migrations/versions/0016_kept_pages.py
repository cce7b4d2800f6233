"""Live pages as they were made are kept for all processes."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Have a table of them, which is not written ahead: what it holds can be made again."""
    op.create_table(
        "kept_page",
        sa.Column("address", sa.String(), nullable=False),
        sa.Column("mark", sa.String(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("ids", ARRAY(sa.Integer()), nullable=False),
        sa.Column("sets", ARRAY(sa.Text()), nullable=False),
        sa.Column("etag", sa.String(), nullable=False),
        sa.Column("body", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.PrimaryKeyConstraint("address", name="pk_kept_page"),
        prefixes=["UNLOGGED"],
    )
    op.create_index("ix_kept_page_made_at", "kept_page", ["made_at"])
    op.execute("ALTER TABLE kept_page ALTER COLUMN body SET COMPRESSION lz4")


def downgrade() -> None:
    """As it was before."""
    op.drop_table("kept_page")
