"""What was written a moment ago, and who is where in the studio."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import ARRAY, JSONB

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Have both tables."""
    op.create_table(
        "news",
        sa.Column("id", sa.BigInteger(), sa.Identity(), primary_key=True),
        sa.Column(
            "xact",
            sa.BigInteger(),
            server_default=sa.text("(pg_current_xact_id()::text::bigint)"),
            nullable=False,
            index=True,
        ),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("person_id", sa.Integer(), sa.ForeignKey("person.id", ondelete="CASCADE"), nullable=False),
        sa.Column("window_id", sa.String(), nullable=False),
        sa.Column("nouns", ARRAY(sa.Text()), nullable=False),
        sa.Column("things", JSONB()),
        prefixes=["UNLOGGED"],
    )
    op.create_table(
        "presence",
        sa.Column("window_id", sa.String(), primary_key=True),
        sa.Column("person_id", sa.Integer(), sa.ForeignKey("person.id", ondelete="CASCADE"), nullable=False),
        sa.Column("noun", sa.String(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("seen", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        prefixes=["UNLOGGED"],
    )


def downgrade() -> None:
    """As it was before."""
    op.drop_table("presence")
    op.drop_table("news")
