"""Collections: products found by them, and those still being gathered."""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the index and the table."""
    op.create_index("ix_product_collections", "product", ["collections"], postgresql_using="gin")
    op.create_table(
        "gathering",
        sa.Column("collection", sa.String(), nullable=False),
        sa.Column("stamp", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("collection", name="pk_gathering"),
    )


def downgrade() -> None:
    """Take both away."""
    op.drop_table("gathering")
    op.drop_index("ix_product_collections", "product")
