"""Stock that is never below nought, in rows that stay while what they count does; orders whose document is a file, who sent files."""

import sqlalchemy as sa
from alembic import op

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None

STOCKS = ("stock", "variant_stock", "choice_stock")
OWNERS = {"product": "sku", "variant": "CASE WHEN product_id IS NOT NULL THEN sku END"}
"""What has SKUs, and the one it takes."""


def _follow(table: str, code: str) -> None:
    """Put the SKUs of changed rows beside them, as so much work as there are rows: joined with themselves, rows of a statement were
    gone through once for each of them."""
    old, new = (f"SELECT id, {code} AS sku FROM {rows}" for rows in ("old_rows", "new_rows"))  # noqa: S608
    op.execute(
        f"""
        CREATE OR REPLACE FUNCTION take_sku_of_changed_{table}() RETURNS trigger LANGUAGE plpgsql AS $$
        DECLARE changed int[];
        BEGIN
        SELECT array_agg(id) INTO changed FROM ({new} EXCEPT {old}) AS c;
        IF changed IS NULL THEN
            RETURN NULL;
        END IF;
        DELETE FROM taken_sku WHERE {table}_id = ANY(changed);
        INSERT INTO taken_sku (sku, {table}_id) SELECT sku, id FROM ({new} EXCEPT {old}) AS c WHERE sku IS NOT NULL;
        RETURN NULL; END $$
        """  # noqa: S608
    )


def upgrade() -> None:
    """What was sold beyond what there was counts as none; rows of what is not counted hold no amount."""
    for table in STOCKS:
        op.execute(f"UPDATE {table} SET amount = 0 WHERE amount < 0")  # noqa: S608
        op.alter_column(table, "amount", existing_type=sa.Integer(), nullable=True)
        op.create_check_constraint(op.f(f"ck_{table}_amount"), table, "amount >= 0")
    unread = sa.text("unread <> '{}' AND NOT retired")
    op.create_index("ix_variant_unread", "variant", ["product_id"], postgresql_where=unread)
    for table, code in OWNERS.items():
        _follow(table, code)
    op.add_column("job", sa.Column("tries", sa.Integer(), server_default=sa.text("0"), nullable=False))
    op.add_column("job", sa.Column("mark", sa.BigInteger(), server_default=sa.text("0"), nullable=False))
    op.add_column("shop_order", sa.Column("written", sa.Boolean(), server_default=sa.text("false"), nullable=False))
    op.execute("UPDATE shop_order SET written = true")
    op.create_index("ix_shop_order_unwritten", "shop_order", ["number"], postgresql_where=sa.text("NOT written"))
    op.add_column("sent_file", sa.Column("sender", sa.String(), server_default=sa.text("''"), nullable=False))
    op.create_index("ix_sent_file_sender", "sent_file", ["sender", "sent_at"])


def downgrade() -> None:
    """Back to rows of what is counted alone."""
    op.drop_index("ix_variant_unread", "variant")
    op.drop_column("job", "mark")
    op.drop_column("job", "tries")
    op.drop_index("ix_sent_file_sender", "sent_file")
    op.drop_column("sent_file", "sender")
    op.drop_index("ix_shop_order_unwritten", "shop_order")
    op.drop_column("shop_order", "written")
    for table in STOCKS:
        op.drop_constraint(op.f(f"ck_{table}_amount"), table)
        op.execute(f"DELETE FROM {table} WHERE amount IS NULL")  # noqa: S608
        op.alter_column(table, "amount", existing_type=sa.Integer(), nullable=False)
