"""Keys of other systems."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the table."""
    op.create_table(
        "api_key",
        sa.Column("id", sa.Integer(), sa.Identity(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("tail", sa.String(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.Column("used", sa.DateTime(timezone=True), nullable=True),
        sa.Column("ended", sa.DateTime(timezone=True), nullable=True),
        sa.PrimaryKeyConstraint("id", name="pk_api_key"),
        sa.UniqueConstraint("hash", name="uq_api_key_hash"),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name="fk_api_key_person_id_person"),
    )


def downgrade() -> None:
    """Take it away."""
    op.drop_table("api_key")
