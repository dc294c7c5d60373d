"""What of a picture is looked at, and the lens that took it."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    """Add both columns, empty."""
    op.add_column("picture", sa.Column("crop", sa.JSON))
    op.add_column("picture", sa.Column("focal_35mm", sa.Float))
