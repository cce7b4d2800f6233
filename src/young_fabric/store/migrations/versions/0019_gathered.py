"""Products are gathered into whatever gathers, by one column; what is not yet gathered is noted with its noun."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Have the column, found by what is in it."""
    op.add_column("product", sa.Column("gathered", JSONB(), server_default=sa.text("'{}'"), nullable=False))
    op.create_index("ix_product_gathered", "product", ["gathered"], postgresql_using="gin")
    op.execute("UPDATE gathering SET collection = 'collection:' || collection WHERE position(':' IN collection) = 0")


def downgrade() -> None:
    """As it was before."""
    op.execute("UPDATE gathering SET collection = substr(collection, 12) WHERE collection LIKE 'collection:%'")
    op.drop_index("ix_product_gathered", table_name="product")
    op.drop_column("product", "gathered")
