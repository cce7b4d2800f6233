"""One index serves both what may be live once and what a subject has live."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

OPEN = "until IS NULL"


def upgrade() -> None:
    """Make the unique index begin with the subject, and drop the one it makes needless."""
    op.drop_index("uq_live_document_open", "live_document")
    op.drop_index("ix_live_document_subject", "live_document")
    op.create_index(
        "uq_live_document_open",
        "live_document",
        ["subject", "subject_id", "surface", "card"],
        unique=True,
        postgresql_where=sa.text(OPEN),
    )


def downgrade() -> None:
    """Put both back."""
    op.drop_index("uq_live_document_open", "live_document")
    op.create_index(
        "uq_live_document_open",
        "live_document",
        ["surface", "subject", "subject_id", "card"],
        unique=True,
        postgresql_where=sa.text(OPEN),
    )
    op.create_index(
        "ix_live_document_subject", "live_document", ["subject", "subject_id"], postgresql_where=sa.text(OPEN)
    )
