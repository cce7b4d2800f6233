"""A product has several cards on a listing, in an order of their own."""

import sqlalchemy as sa
from alembic import op

revision = "0021"
down_revision = "0020"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Have the position of a card among those of its product, and the order of listings go by it."""
    for table in ("listed_card", "listing_part"):
        op.add_column(table, sa.Column("position", sa.Integer(), server_default=sa.text("0"), nullable=False))
    _in_order("position, card")


def downgrade() -> None:
    """As it was before: the first of several cards stays."""
    op.execute("DELETE FROM listed_card WHERE position > 0")
    for table in ("listed_card", "listing_part"):
        op.drop_column(table, "position")
    _in_order("card")


def _in_order(last: str) -> None:
    found = op.get_bind().execute(sa.text("SELECT title_order FROM shop")).scalar()
    if found is None:
        return
    name = f"ix_listed_card_title_{found.split('-x-')[0].lower().replace('-', '_')}"
    op.execute(f"DROP INDEX IF EXISTS {name}")
    op.execute(
        f'CREATE INDEX {name} ON listed_card (listing, rank, number, text COLLATE "{found}", product_id, {last}) '
        "WHERE until IS NULL"
    )
