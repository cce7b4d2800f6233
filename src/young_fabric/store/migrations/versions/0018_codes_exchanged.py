"""Products can exchange their codes and addresses in one statement: whether two have the same is looked at when it has ended."""

from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None


def _put(*, deferrable: bool) -> None:
    for column in ("sku", "slug"):
        op.drop_constraint(f"uq_product_{column}", "product", type_="unique")
        op.create_unique_constraint(
            f"uq_product_{column}",
            "product",
            [column],
            deferrable=deferrable or None,
            initially="IMMEDIATE" if deferrable else None,
        )


def upgrade() -> None:
    """Look at it then."""
    _put(deferrable=True)


def downgrade() -> None:
    """As it was before."""
    _put(deferrable=False)
