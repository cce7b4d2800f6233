"""Products, gaps and wrong values are counted beside good ones, so that no list counts the catalogue."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the column and count."""
    op.add_column("field_fill", sa.Column("wrong", sa.Integer(), server_default=sa.text("0"), nullable=False))
    op.execute(
        """
        INSERT INTO field_fill (field_key, type_key, collections, filled, wrong)
        SELECT '', type_key, collections, count(*)::int, (count(*) FILTER (WHERE gaps))::int
        FROM product GROUP BY type_key, collections
        """
    )
    op.execute(
        """
        INSERT INTO field_fill (field_key, type_key, collections, filled, wrong)
        SELECT key, type_key, collections, 0, count(*)::int FROM product, unnest(product.wrong) AS key
        GROUP BY key, type_key, collections
        ON CONFLICT (field_key, type_key, collections) DO UPDATE SET wrong = excluded.wrong
        """
    )


def downgrade() -> None:
    """Leave good values alone."""
    op.execute("DELETE FROM field_fill WHERE field_key = '' OR filled = 0")
    op.drop_column("field_fill", "wrong")
