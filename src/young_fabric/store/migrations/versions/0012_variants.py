"""Variants, and SKUs that one product or variant has."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

_OWNERS = {"product": "sku", "variant": "CASE WHEN product_id IS NOT NULL THEN sku END"}


def upgrade() -> None:
    """Make the tables, and have the database keep which SKUs are taken."""
    op.add_column(
        "product", sa.Column("option_sets", sa.ARRAY(sa.Text()), server_default=sa.text("'{}'"), nullable=False)
    )
    op.create_index("ix_product_option_sets", "product", ["option_sets"], postgresql_using="gin")
    some = sa.text("option_sets <> '{}'")
    op.create_index("ix_product_offered", "product", ["type_key"], postgresql_where=some)
    _variants()
    _stocks()
    op.create_table(
        "unmatched",
        sa.Column("option_set", sa.String(), nullable=False),
        sa.Column("stamp", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("option_set", name="pk_unmatched"),
    )
    _skus()


def _variants() -> None:
    op.create_table(
        "variant",
        sa.Column("id", sa.Integer(), sa.Identity(), nullable=False),
        sa.Column("product_id", sa.Integer(), nullable=True),
        sa.Column("former_product", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("choices", JSONB(), nullable=False),
        sa.Column("fields", JSONB(), server_default=sa.text("'{}'"), nullable=False),
        sa.Column("unread", JSONB(), server_default=sa.text("'{}'"), nullable=False),
        sa.Column("sku", sa.String(), nullable=True),
        sa.Column("retired", sa.Boolean(), server_default=sa.text("false"), nullable=False),
        sa.Column("version", sa.Integer(), server_default=sa.text("1"), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_variant"),
        sa.ForeignKeyConstraint(
            ["product_id"], ["product.id"], name="fk_variant_product_id_product", ondelete="SET NULL"
        ),
    )
    op.create_index("ix_variant_product_id_position", "variant", ["product_id", "retired", "position"])
    apart = sa.text("product_id IS NULL")
    op.create_index("ix_variant_former_product", "variant", ["former_product"], postgresql_where=apart)
    offered = sa.text("NOT retired")
    op.create_index("uq_variant_choices", "variant", ["product_id", "choices"], unique=True, postgresql_where=offered)


def _stocks() -> None:
    op.create_table(
        "variant_stock",
        sa.Column("variant_id", sa.Integer(), nullable=False),
        sa.Column("amount", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("variant_id", name="pk_variant_stock"),
        sa.ForeignKeyConstraint(
            ["variant_id"], ["variant.id"], name="fk_variant_stock_variant_id_variant", ondelete="CASCADE"
        ),
    )
    op.create_table(
        "choice_stock",
        sa.Column("set_noun", sa.String(), sa.Computed("'option_set'", persisted=True), nullable=False),
        sa.Column("set_key", sa.String(), nullable=False),
        sa.Column("option", sa.String(), nullable=False),
        sa.Column("code", sa.String(), nullable=False),
        sa.Column("amount", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("set_key", "option", "code", name="pk_choice_stock"),
        sa.ForeignKeyConstraint(
            ["set_noun", "set_key"],
            ["definition.noun", "definition.key"],
            name="fk_choice_stock_option_set",
            ondelete="CASCADE",
        ),
    )


def _skus() -> None:
    op.create_table(
        "taken_sku",
        sa.Column("sku", sa.String(), nullable=False),
        sa.Column("product_id", sa.Integer(), nullable=True),
        sa.Column("variant_id", sa.Integer(), nullable=True),
        sa.PrimaryKeyConstraint("sku", name="pk_taken_sku"),
        sa.CheckConstraint("(product_id IS NULL) <> (variant_id IS NULL)", name="ck_taken_sku_of_one"),
        sa.ForeignKeyConstraint(
            ["product_id"], ["product.id"], name="fk_taken_sku_product_id_product", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["variant_id"], ["variant.id"], name="fk_taken_sku_variant_id_variant", ondelete="CASCADE"
        ),
    )
    for owner in _OWNERS:
        there = sa.text(f"{owner}_id IS NOT NULL")
        op.create_index(f"uq_taken_sku_{owner}_id", "taken_sku", [f"{owner}_id"], unique=True, postgresql_where=there)
    op.execute("INSERT INTO taken_sku (sku, product_id) SELECT sku, id FROM product WHERE sku IS NOT NULL")
    for table, code in _OWNERS.items():
        _keep(table, code)


def _keep(table: str, code: str) -> None:
    """Triggers that put the SKUs of rows written beside them, many rows at a time."""
    put = f"INSERT INTO taken_sku (sku, {table}_id) SELECT sku, id FROM"
    op.execute(
        f"""
        CREATE FUNCTION take_sku_of_new_{table}() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
        {put} (SELECT id, {code} AS sku FROM new_rows) AS n WHERE sku IS NOT NULL;
        RETURN NULL; END $$
        """  # noqa: S608
    )
    op.execute(
        f"""
        CREATE FUNCTION take_sku_of_changed_{table}() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
        IF NOT EXISTS (SELECT FROM (SELECT id, {code} AS sku FROM old_rows) AS o
            JOIN (SELECT id, {code} AS sku FROM new_rows) AS n USING (id) WHERE o.sku IS DISTINCT FROM n.sku) THEN
            RETURN NULL;
        END IF;
        DELETE FROM taken_sku AS t USING (SELECT id, {code} AS sku FROM new_rows) AS n
            WHERE t.{table}_id = n.id AND t.sku IS DISTINCT FROM n.sku;
        {put} (SELECT id, {code} AS sku FROM new_rows) AS n
            WHERE sku IS NOT NULL AND NOT EXISTS (SELECT FROM taken_sku AS t WHERE t.{table}_id = n.id);
        RETURN NULL; END $$
        """  # noqa: S608
    )
    op.execute(
        f"CREATE TRIGGER take_sku_of_new AFTER INSERT ON {table} REFERENCING NEW TABLE AS new_rows "
        f"FOR EACH STATEMENT EXECUTE FUNCTION take_sku_of_new_{table}()"
    )
    op.execute(
        f"CREATE TRIGGER take_sku_of_changed AFTER UPDATE ON {table} REFERENCING OLD TABLE AS old_rows NEW TABLE AS new_rows "
        f"FOR EACH STATEMENT EXECUTE FUNCTION take_sku_of_changed_{table}()"
    )


def downgrade() -> None:
    """Take it all away."""
    for table in _OWNERS:
        op.execute(f"DROP TRIGGER take_sku_of_new ON {table}")
        op.execute(f"DROP TRIGGER take_sku_of_changed ON {table}")
        op.execute(f"DROP FUNCTION take_sku_of_new_{table}, take_sku_of_changed_{table}")
    for table in ("taken_sku", "unmatched", "choice_stock", "variant_stock", "variant"):
        op.drop_table(table)
    op.drop_index("ix_product_offered", "product")
    op.drop_index("ix_product_option_sets", "product")
    op.drop_column("product", "option_sets")
