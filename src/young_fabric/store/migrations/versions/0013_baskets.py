"""Baskets, pretend orders, files that shoppers sent, and notes of what is offered of products."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None

_NOW = sa.text("now()")


def upgrade() -> None:
    """Make the tables, and note all that is offered for the next release."""
    op.create_table(
        "basket",
        sa.Column("id", sa.Integer(), sa.Identity(), nullable=False),
        sa.Column("token", sa.String(), nullable=False),
        sa.Column("used_at", sa.DateTime(timezone=True), server_default=_NOW, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_basket"),
        sa.UniqueConstraint("token", name="uq_basket_token"),
    )
    op.create_index("ix_basket_used_at", "basket", ["used_at"])
    op.create_table(
        "basket_line",
        sa.Column("id", sa.Integer(), sa.Identity(), nullable=False),
        sa.Column("basket_id", sa.Integer(), nullable=False),
        sa.Column("product_id", sa.Integer(), nullable=False),
        sa.Column("choices", JSONB(), nullable=False),
        sa.Column("quantity", sa.Integer(), nullable=False),
        sa.Column("seen_each", sa.String(), nullable=True),
        sa.Column("seen_once", sa.String(), nullable=True),
        sa.PrimaryKeyConstraint("id", name="pk_basket_line"),
        sa.ForeignKeyConstraint(
            ["basket_id"], ["basket.id"], name="fk_basket_line_basket_id_basket", ondelete="CASCADE"
        ),
    )
    op.create_index("ix_basket_line_basket_id", "basket_line", ["basket_id"])
    op.create_table(
        "shop_order",
        sa.Column("number", sa.Integer(), sa.Identity(start=1001), nullable=False),
        sa.Column("token", sa.String(), nullable=False),
        sa.Column("placed_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("document", JSONB(), nullable=False),
        sa.PrimaryKeyConstraint("number", name="pk_shop_order"),
        sa.UniqueConstraint("token", name="uq_shop_order_token"),
    )
    op.create_table(
        "sent_file",
        sa.Column("token", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("type", sa.String(), nullable=False),
        sa.Column("file", sa.String(), nullable=False),
        sa.Column("bytes", sa.Integer(), nullable=False),
        sa.Column("width", sa.Integer(), nullable=False),
        sa.Column("height", sa.Integer(), nullable=False),
        sa.Column("sent_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("order_number", sa.Integer(), nullable=True),
        sa.PrimaryKeyConstraint("token", name="pk_sent_file"),
        sa.ForeignKeyConstraint(["order_number"], ["shop_order.number"], name="fk_sent_file_order_number_shop_order"),
    )
    op.create_index("ix_sent_file_sent_at", "sent_file", ["sent_at"], postgresql_where=sa.text("order_number IS NULL"))
    op.create_index("ix_sent_file_file", "sent_file", ["file"])
    bare = sa.text("sku IS NULL AND retired IS false")
    op.create_index("ix_variant_without_sku", "variant", ["product_id"], postgresql_where=bare)
    op.execute(
        "INSERT INTO unreleased (noun, key, hash) SELECT 'offered', p.id::text, 'unknown' FROM product AS p "
        "WHERE p.option_sets <> '{}' OR EXISTS (SELECT 1 FROM variant AS v WHERE v.product_id = p.id AND NOT v.retired) "
        "ON CONFLICT DO NOTHING"
    )


def downgrade() -> None:
    """Take them away."""
    op.execute("DELETE FROM unreleased WHERE noun = 'offered'")
    op.execute("DELETE FROM live_thing WHERE noun = 'offered'")
    op.drop_index("ix_variant_without_sku", "variant")
    for table in ("sent_file", "shop_order", "basket_line", "basket"):
        op.drop_table(table)
