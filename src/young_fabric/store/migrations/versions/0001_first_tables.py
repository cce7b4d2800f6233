"""first tables"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute("CREATE SEQUENCE definitions_stamp")
    op.create_table(
        "display_setting",
        sa.Column("scope_kind", sa.String(), nullable=False),
        sa.Column("scope_key", sa.String(), nullable=False),
        sa.Column("field", sa.String(), nullable=False),
        sa.Column("surface", sa.String(), nullable=False),
        sa.Column("properties", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("scope_kind", "scope_key", "field", "surface", name=op.f("pk_display_setting")),
    )
    op.create_table(
        "field_fill",
        sa.Column("field_key", sa.String(), nullable=False),
        sa.Column("type_key", sa.String(), nullable=False),
        sa.Column("filled", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("field_key", "type_key", name=op.f("pk_field_fill")),
    )
    op.create_table(
        "field_set",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_field_set")),
    )
    op.create_table(
        "live_card",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("product_id", sa.Integer(), nullable=False),
        sa.Column("slug", sa.String(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("types", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("card", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("since", sa.Integer(), nullable=False),
        sa.Column("until", sa.Integer(), nullable=True),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_live_card")),
    )
    op.create_index("ix_live_card_since", "live_card", ["since"], unique=False)
    op.create_index(
        "ix_live_card_types",
        "live_card",
        ["types"],
        unique=False,
        postgresql_using="gin",
        postgresql_where=sa.text("until IS NULL"),
    )
    op.create_index("ix_live_card_until", "live_card", ["until"], unique=False)
    op.create_index(
        "uq_live_card_open", "live_card", ["product_id"], unique=True, postgresql_where=sa.text("until IS NULL")
    )
    op.create_table(
        "live_doc",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("product_id", sa.Integer(), nullable=False),
        sa.Column("slug", sa.String(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("type_key", sa.String(), nullable=False),
        sa.Column("page", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("facts", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("since", sa.Integer(), nullable=False),
        sa.Column("until", sa.Integer(), nullable=True),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_live_doc")),
    )
    op.create_index("ix_live_doc_since", "live_doc", ["since"], unique=False)
    op.create_index("ix_live_doc_slug", "live_doc", ["slug"], unique=False, postgresql_where=sa.text("until IS NULL"))
    op.create_index("ix_live_doc_until", "live_doc", ["until"], unique=False)
    op.create_index(
        "uq_live_doc_open", "live_doc", ["product_id"], unique=True, postgresql_where=sa.text("until IS NULL")
    )
    op.create_table(
        "live_thing",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("noun", sa.String(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("state", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("since", sa.Integer(), nullable=False),
        sa.Column("until", sa.Integer(), nullable=True),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_live_thing")),
    )
    op.create_index("ix_live_thing_since", "live_thing", ["since"], unique=False)
    op.create_index("ix_live_thing_until", "live_thing", ["until"], unique=False)
    op.create_index(
        "uq_live_thing_open", "live_thing", ["noun", "key"], unique=True, postgresql_where=sa.text("until IS NULL")
    )
    op.create_table(
        "person",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("email", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("password_hash", sa.String(), nullable=False),
        sa.Column("rights", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("epoch", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_person")),
        sa.UniqueConstraint("email", name=op.f("uq_person_email")),
    )
    op.create_table(
        "picture",
        sa.Column("file", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("width", sa.Integer(), nullable=False),
        sa.Column("height", sa.Integer(), nullable=False),
        sa.Column("bytes", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.text("now()"), nullable=False),
        sa.PrimaryKeyConstraint("file", name=op.f("pk_picture")),
    )
    op.create_table(
        "product_type",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("parent", sa.String(), nullable=True),
        sa.Column("slug", sa.String(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["parent"], ["product_type.key"], name=op.f("fk_product_type_parent_product_type")),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_product_type")),
        sa.UniqueConstraint("slug", name=op.f("uq_product_type_slug")),
    )
    op.create_index(op.f("ix_product_type_parent"), "product_type", ["parent"], unique=False)
    op.create_table(
        "shop",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("prefix", sa.String(), nullable=False),
        sa.Column("currency", sa.String(), nullable=False),
        sa.Column("locale", sa.String(), nullable=False),
        sa.Column("release", sa.Integer(), nullable=False),
        sa.Column("stamp", sa.BigInteger(), nullable=False),
        sa.CheckConstraint("id = 1", name=op.f("ck_shop_single")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_shop")),
    )
    op.create_table(
        "unreleased",
        sa.Column("noun", sa.String(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.PrimaryKeyConstraint("noun", "key", name=op.f("pk_unreleased")),
    )
    op.create_table(
        "value_list",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_value_list")),
    )
    op.create_table(
        "change",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("noun", sa.String(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("before", postgresql.JSONB(none_as_null=True, astext_type=sa.Text()), nullable=True),
        sa.Column("after", postgresql.JSONB(none_as_null=True, astext_type=sa.Text()), nullable=True),
        sa.Column("group_id", sa.String(), nullable=False),
        sa.Column("undoes", sa.BigInteger(), nullable=True),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_change_person_id_person")),
        sa.ForeignKeyConstraint(["undoes"], ["change.id"], name=op.f("fk_change_undoes_change")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_change")),
        sa.UniqueConstraint("undoes", name=op.f("uq_change_undoes")),
    )
    op.create_index(op.f("ix_change_group_id"), "change", ["group_id"], unique=False)
    op.create_index("ix_change_person", "change", ["person_id", "id"], unique=False)
    op.create_index("ix_change_thing", "change", ["noun", "key", "id"], unique=False)
    op.create_table(
        "field",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("label", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("many", sa.Boolean(), nullable=False),
        sa.Column("unit", sa.String(), nullable=True),
        sa.Column("list_key", sa.String(), nullable=True),
        sa.Column("limits", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("need", sa.String(), nullable=False),
        sa.Column("audience", sa.String(), nullable=False),
        sa.Column("help", sa.String(), nullable=False),
        sa.Column("example", sa.String(), nullable=False),
        sa.Column("default_value", postgresql.JSONB(none_as_null=True, astext_type=sa.Text()), nullable=True),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["list_key"], ["value_list.key"], name=op.f("fk_field_list_key_value_list")),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_field")),
    )
    op.create_index(op.f("ix_field_list_key"), "field", ["list_key"], unique=False)
    op.create_table(
        "list_value",
        sa.Column("list_key", sa.String(), nullable=False),
        sa.Column("code", sa.String(), nullable=False),
        sa.Column("label", sa.String(), nullable=False),
        sa.Column("synonyms", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("retired", sa.Boolean(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["list_key"], ["value_list.key"], name=op.f("fk_list_value_list_key_value_list"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("list_key", "code", name=op.f("pk_list_value")),
    )
    op.create_table(
        "product",
        sa.Column("id", sa.Integer(), sa.Identity(always=False), nullable=False),
        sa.Column("type_key", sa.String(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("slug", sa.String(), nullable=True),
        sa.Column("sku", sa.String(), nullable=True),
        sa.Column("fields", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("unread", postgresql.JSONB(astext_type=sa.Text()), server_default=sa.text("'{}'"), nullable=False),
        sa.Column("wrong", sa.ARRAY(sa.Text()), server_default=sa.text("'{}'"), nullable=False),
        sa.Column("offered", sa.Boolean(), server_default=sa.text("true"), nullable=False),
        sa.Column("hash", sa.String(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["type_key"], ["product_type.key"], name=op.f("fk_product_type_key_product_type")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_product")),
        sa.UniqueConstraint("sku", name=op.f("uq_product_sku")),
        sa.UniqueConstraint("slug", name=op.f("uq_product_slug")),
    )
    op.create_index("ix_product_fields", "product", ["fields"], unique=False, postgresql_using="gin")
    op.create_index(
        "ix_product_search",
        "product",
        [sa.literal_column("to_tsvector('simple', title || ' ' || coalesce(sku, ''))")],
        unique=False,
        postgresql_using="gin",
    )
    op.create_index("ix_product_title", "product", ["title", "id"], unique=False)
    op.create_index(op.f("ix_product_type_key"), "product", ["type_key"], unique=False)
    op.create_index("ix_product_wrong", "product", ["id"], unique=False, postgresql_where=sa.text("wrong <> '{}'"))
    op.create_table(
        "release",
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("things", sa.Integer(), nullable=False),
        sa.Column("pages", sa.Integer(), nullable=False),
        sa.Column("cards", sa.Integer(), nullable=False),
        sa.Column("plans", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("back_to", sa.Integer(), nullable=True),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_release_person_id_person")),
        sa.PrimaryKeyConstraint("number", name=op.f("pk_release")),
    )
    op.create_table(
        "section",
        sa.Column("set_key", sa.String(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["set_key"], ["field_set.key"], name=op.f("fk_section_set_key_field_set"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("set_key", "key", name=op.f("pk_section")),
    )
    op.create_table(
        "type_need",
        sa.Column("type_key", sa.String(), nullable=False),
        sa.Column("field_key", sa.String(), nullable=False),
        sa.Column("need", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["type_key"], ["product_type.key"], name=op.f("fk_type_need_type_key_product_type"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("type_key", "field_key", name=op.f("pk_type_need")),
    )
    op.create_table(
        "type_set",
        sa.Column("type_key", sa.String(), nullable=False),
        sa.Column("set_key", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["set_key"], ["field_set.key"], name=op.f("fk_type_set_set_key_field_set")),
        sa.ForeignKeyConstraint(
            ["type_key"], ["product_type.key"], name=op.f("fk_type_set_type_key_product_type"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("type_key", "set_key", name=op.f("pk_type_set")),
    )
    op.create_index(op.f("ix_type_set_set_key"), "type_set", ["set_key"], unique=False)
    op.create_table(
        "section_field",
        sa.Column("set_key", sa.String(), nullable=False),
        sa.Column("field_key", sa.String(), nullable=False),
        sa.Column("section_key", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["field_key"], ["field.key"], name=op.f("fk_section_field_field_key_field")),
        sa.ForeignKeyConstraint(
            ["set_key", "section_key"],
            ["section.set_key", "section.key"],
            name=op.f("fk_section_field_set_key_section_key_section"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("set_key", "field_key", name=op.f("pk_section_field")),
        sa.UniqueConstraint(
            "set_key", "section_key", "position", name=op.f("uq_section_field_set_key_section_key_position")
        ),
    )
    op.create_index(op.f("ix_section_field_field_key"), "section_field", ["field_key"], unique=False)
    op.create_table(
        "stock",
        sa.Column("product_id", sa.Integer(), nullable=False),
        sa.Column("amount", sa.Integer(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["product_id"], ["product.id"], name=op.f("fk_stock_product_id_product"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("product_id", name=op.f("pk_stock")),
    )
    op.create_table(
        "type_field",
        sa.Column("type_key", sa.String(), nullable=False),
        sa.Column("field_key", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["field_key"], ["field.key"], name=op.f("fk_type_field_field_key_field")),
        sa.ForeignKeyConstraint(
            ["type_key"], ["product_type.key"], name=op.f("fk_type_field_type_key_product_type"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("type_key", "field_key", name=op.f("pk_type_field")),
    )
    op.create_index(op.f("ix_type_field_field_key"), "type_field", ["field_key"], unique=False)


def downgrade() -> None:
    op.execute("DROP SEQUENCE definitions_stamp")
    op.drop_index(op.f("ix_type_field_field_key"), table_name="type_field")
    op.drop_table("type_field")
    op.drop_table("stock")
    op.drop_index(op.f("ix_section_field_field_key"), table_name="section_field")
    op.drop_table("section_field")
    op.drop_index(op.f("ix_type_set_set_key"), table_name="type_set")
    op.drop_table("type_set")
    op.drop_table("type_need")
    op.drop_table("section")
    op.drop_table("release")
    op.drop_index("ix_product_wrong", table_name="product", postgresql_where=sa.text("wrong <> '{}'"))
    op.drop_index(op.f("ix_product_type_key"), table_name="product")
    op.drop_index("ix_product_title", table_name="product")
    op.drop_index("ix_product_search", table_name="product", postgresql_using="gin")
    op.drop_index("ix_product_fields", table_name="product", postgresql_using="gin")
    op.drop_table("product")
    op.drop_table("list_value")
    op.drop_index(op.f("ix_field_list_key"), table_name="field")
    op.drop_table("field")
    op.drop_index("ix_change_thing", table_name="change")
    op.drop_index("ix_change_person", table_name="change")
    op.drop_index(op.f("ix_change_group_id"), table_name="change")
    op.drop_table("change")
    op.drop_table("value_list")
    op.drop_table("unreleased")
    op.drop_table("shop")
    op.drop_index(op.f("ix_product_type_parent"), table_name="product_type")
    op.drop_table("product_type")
    op.drop_table("picture")
    op.drop_table("person")
    op.drop_index("uq_live_thing_open", table_name="live_thing", postgresql_where=sa.text("until IS NULL"))
    op.drop_index("ix_live_thing_until", table_name="live_thing")
    op.drop_index("ix_live_thing_since", table_name="live_thing")
    op.drop_table("live_thing")
    op.drop_index("uq_live_doc_open", table_name="live_doc", postgresql_where=sa.text("until IS NULL"))
    op.drop_index("ix_live_doc_until", table_name="live_doc")
    op.drop_index("ix_live_doc_slug", table_name="live_doc", postgresql_where=sa.text("until IS NULL"))
    op.drop_index("ix_live_doc_since", table_name="live_doc")
    op.drop_table("live_doc")
    op.drop_index("uq_live_card_open", table_name="live_card", postgresql_where=sa.text("until IS NULL"))
    op.drop_index("ix_live_card_until", table_name="live_card")
    op.drop_index(
        "ix_live_card_types", table_name="live_card", postgresql_using="gin", postgresql_where=sa.text("until IS NULL")
    )
    op.drop_index("ix_live_card_since", table_name="live_card")
    op.drop_table("live_card")
    op.drop_table("field_set")
    op.drop_table("field_fill")
    op.drop_table("display_setting")
