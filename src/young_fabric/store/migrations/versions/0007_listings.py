"""Where live cards stand is worked out when a release is made, not when a page is asked for."""

from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None
LAST = 2**31 - 2


def upgrade() -> None:
    """Make the tables, and place the cards there were in the listings of their types."""
    op.create_table(
        "listed_card",
        sa.Column("id", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("listing", sa.String(), nullable=False),
        sa.Column("product_id", sa.Integer(), nullable=False),
        sa.Column("card", sa.String(), server_default=sa.text("''"), nullable=False),
        sa.Column("rank", sa.Integer(), nullable=False),
        sa.Column("number", sa.Numeric(), nullable=False),
        sa.Column("text", sa.String(), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("since", sa.Integer(), nullable=False),
        sa.Column("until", sa.Integer(), nullable=True),
        sa.PrimaryKeyConstraint("id", name="pk_listed_card"),
    )
    op.create_table(
        "listing_part",
        sa.Column("listing", sa.String(), nullable=False),
        sa.Column("number_in_listing", sa.Integer(), nullable=False),
        sa.Column("rank", sa.Integer(), nullable=False),
        sa.Column("number", sa.Numeric(), nullable=False),
        sa.Column("text", sa.String(), nullable=False),
        sa.Column("product_id", sa.Integer(), nullable=False),
        sa.Column("card", sa.String(), nullable=False),
        sa.Column("cards", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("listing", "number_in_listing", name="pk_listing_part"),
    )
    op.execute(
        f"""
        INSERT INTO listed_card (listing, product_id, card, rank, number, text, hash, since, until)
        SELECT 'product_type:' || type, subject_id::int, card, {LAST}, 0, title, 'as it was', since, until
        FROM live_document, unnest(under) AS type WHERE listed
        """  # noqa: S608
    )
    _index()
    op.execute(
        """
        DO $$ DECLARE found text; BEGIN
        FOR found IN SELECT indexname FROM pg_indexes
            WHERE schemaname = current_schema() AND indexname LIKE 'ix\\_live\\_document\\_title\\_%' LOOP
            EXECUTE format('DROP INDEX %I', found);
        END LOOP; END $$
        """
    )
    op.drop_index("ix_live_document_under", "live_document")
    found = op.get_bind().execute(sa.text("SELECT title_order FROM shop")).scalar()
    if found is not None:
        _in_order(found)


def _index() -> None:
    there: dict[str, Any] = {"postgresql_where": sa.text("until IS NULL")}
    op.create_index("uq_listed_card_open", "listed_card", ["product_id", "listing", "card"], unique=True, **there)
    op.create_index("ix_listed_card_since", "listed_card", ["since"])
    op.create_index("ix_listed_card_until", "listed_card", ["until"])


def _in_order(collation: str) -> None:
    """For a shop that is there: the index in the order of its titles, and the parts of its listings."""
    name = f"ix_listed_card_title_{collation.split('-x-')[0].lower().replace('-', '_')}"
    order = f'listing, rank, number, text COLLATE "{collation}", product_id, card'
    op.execute(f"CREATE INDEX {name} ON listed_card ({order}) WHERE until IS NULL")
    op.execute(
        f"""
        INSERT INTO listing_part (listing, number_in_listing, rank, number, text, product_id, card, cards)
        SELECT listing, n / 96, CASE n WHEN 0 THEN -1 ELSE rank END, number, CASE n WHEN 0 THEN '' ELSE text END,
            CASE n WHEN 0 THEN 0 ELSE product_id END, card, least(96, total - n)
        FROM (SELECT c.*, row_number() OVER (PARTITION BY listing ORDER BY {order}) - 1 AS n,
            count(*) OVER (PARTITION BY listing) AS total FROM listed_card AS c WHERE until IS NULL) AS placed
        WHERE n % 96 = 0
        """  # noqa: S608
    )


def downgrade() -> None:
    """Take the tables away; listings count again."""
    op.create_index(
        "ix_live_document_under",
        "live_document",
        ["under"],
        postgresql_using="gin",
        postgresql_where=sa.text("until IS NULL AND listed"),
    )
    op.drop_table("listing_part")
    op.drop_table("listed_card")
