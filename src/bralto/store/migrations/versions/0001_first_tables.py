"""The first tables: studies, their states, pictures and marks."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    """Create the tables."""
    op.create_table(
        "picture",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("file", sa.String, nullable=False),
        sa.Column("media", sa.String),
        sa.Column("width", sa.Integer, nullable=False),
        sa.Column("height", sa.Integer, nullable=False),
        sa.Column("plumb_deg", sa.Float, nullable=False),
        sa.Column("sheet", sa.JSON),
        sa.Column("polygons", sa.JSON, nullable=False),
        sa.Column("permission", sa.String),
        sa.Column("extra", sa.JSON, nullable=False),
    )
    op.create_table(
        "study",
        sa.Column("id", sa.String, primary_key=True),
        sa.Column("title", sa.String, nullable=False),
        sa.Column("view", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("school", sa.String, nullable=False),
        sa.Column("grade", sa.String, nullable=False),
        sa.Column("reference_id", sa.Integer, sa.ForeignKey("picture.id")),
        sa.Column("made", sa.String, nullable=False),
        sa.Column("extra", sa.JSON, nullable=False),
    )
    op.create_index("ix_study_made", "study", ["made"])
    op.create_table(
        "state",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column(
            "study_id", sa.String, sa.ForeignKey("study.id", ondelete="CASCADE"), nullable=False
        ),
        sa.Column("number", sa.Integer, nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("taken", sa.String),
        sa.Column("picture_id", sa.Integer, sa.ForeignKey("picture.id"), nullable=False),
        sa.Column("extra", sa.JSON, nullable=False),
        sa.UniqueConstraint("study_id", "name"),
    )
    op.create_index("ix_state_study_id", "state", ["study_id"])
    op.create_table(
        "mark",
        sa.Column(
            "picture_id",
            sa.Integer,
            sa.ForeignKey("picture.id", ondelete="CASCADE"),
            primary_key=True,
        ),
        sa.Column("key", sa.String, primary_key=True),
        sa.Column("x", sa.Float, nullable=False),
        sa.Column("y", sa.Float, nullable=False),
        sa.Column("visibility", sa.String, nullable=False),
        sa.Column("spread", sa.Float, nullable=False),
        sa.Column("extra", sa.JSON, nullable=False),
    )
