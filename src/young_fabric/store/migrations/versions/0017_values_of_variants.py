"""What variants hold is found by what is in it, as what products hold is."""

from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Have an index of it."""
    op.create_index("ix_variant_fields", "variant", ["fields"], postgresql_using="gin")


def downgrade() -> None:
    """As it was before."""
    op.drop_index("ix_variant_fields", table_name="variant")
