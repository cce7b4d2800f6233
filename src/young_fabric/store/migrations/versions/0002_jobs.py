"""Jobs: long work with progress, and the queue's own tables. Drafts are noted by hash, the current release is the newest."""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects import postgresql

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Make the tables."""
    op.create_table(
        "job",
        sa.Column("id", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("note", sa.String(), nullable=False),
        sa.Column("asked", sa.DateTime(timezone=True), nullable=False),
        sa.Column("beat", sa.DateTime(timezone=True), nullable=False),
        sa.Column("stop", sa.Boolean(), server_default=sa.text("false"), nullable=False),
        sa.Column("done", sa.Integer(), server_default=sa.text("0"), nullable=False),
        sa.Column("total", sa.Integer(), server_default=sa.text("0"), nullable=False),
        sa.Column("result", postgresql.JSONB(), server_default=sa.text("'{}'"), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name="fk_job_person_id_person"),
        sa.PrimaryKeyConstraint("id", name="pk_job"),
    )
    op.create_index(
        "uq_job_open", "job", ["kind"], unique=True, postgresql_where=sa.text("state IN ('waiting', 'running')")
    )
    op.add_column("unreleased", sa.Column("hash", sa.String(), nullable=True))
    op.execute("UPDATE unreleased SET hash = 'unknown' WHERE noun <> 'product'")
    op.execute("UPDATE unreleased u SET hash = p.hash FROM product p WHERE u.noun = 'product' AND u.key = p.id::text")
    op.add_column("change", sa.Column("turn", sa.Integer(), server_default=sa.text("0"), nullable=False))
    op.execute("UPDATE change SET turn = 1 WHERE undoes IS NOT NULL")
    op.execute("UPDATE change c SET turn = 2 FROM change u WHERE c.undoes = u.id AND u.undoes IS NOT NULL")
    op.drop_column("shop", "release")
    op.add_column("product", sa.Column("gaps", sa.Boolean(), server_default=sa.text("false"), nullable=False))
    op.create_index("ix_product_gaps", "product", ["title", "id"], postgresql_where=sa.text("gaps"))
    raw = op.get_bind().connection.driver_connection
    if raw is None:
        raise RuntimeError("The queue's tables need a connection of their own")
    raw.execute(SchemaManager.get_schema())


def downgrade() -> None:
    """Take them away again."""
    op.add_column("shop", sa.Column("release", sa.Integer(), server_default=sa.text("0"), nullable=False))
    op.execute("UPDATE shop SET release = coalesce((SELECT max(number) FROM release), 0)")
    op.alter_column("shop", "release", server_default=None)
    op.drop_index("ix_product_gaps", table_name="product", postgresql_where=sa.text("gaps"))
    op.drop_column("product", "gaps")
    op.drop_column("change", "turn")
    op.drop_column("unreleased", "hash")
    op.drop_table("job")
    for kind, found in (
        ("TABLE", "SELECT tablename FROM pg_tables WHERE tablename LIKE 'procrastinate%'"),
        ("FUNCTION", "SELECT oid::regprocedure::text FROM pg_proc WHERE proname LIKE 'procrastinate%'"),
        ("TYPE", "SELECT typname FROM pg_type WHERE typname LIKE 'procrastinate%' AND typtype IN ('e', 'c')"),
    ):
        for (name,) in op.get_bind().exec_driver_sql(found.replace("%", "%%")).fetchall():
            op.execute(f"DROP {kind} IF EXISTS {name} CASCADE")
