"""The tables, once; the migrations create them and a test holds the two together.

Marks and pictures have rows of their own because they change gesture by gesture; what a study file
says besides (anchors, intents, guesses, unknown keys) is kept as the JSON of the file.
"""

from __future__ import annotations

from sqlalchemy import (
    JSON,
    Column,
    Float,
    ForeignKey,
    Integer,
    MetaData,
    String,
    Table,
    UniqueConstraint,
)

__all__ = ["mark", "metadata", "picture", "state", "study"]

metadata = MetaData(
    naming_convention={
        "pk": "pk_%(table_name)s",
        "fk": "fk_%(table_name)s_%(column_0_name)s",
        "uq": "uq_%(table_name)s_%(column_0_name)s",
        "ix": "ix_%(table_name)s_%(column_0_name)s",
    }
)

picture = Table(
    "picture",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("file", String, nullable=False),  # its name as the learner knew it
    Column("media", String),  # name in the media folder; none for a study imported without pictures
    Column("width", Integer, nullable=False),
    Column("height", Integer, nullable=False),
    Column("plumb_deg", Float, nullable=False),
    Column("sheet", JSON),
    Column("polygons", JSON, nullable=False),
    Column("permission", String),
    Column("crop", JSON),
    Column("focal_35mm", Float),
    Column("extra", JSON, nullable=False),
)

study = Table(
    "study",
    metadata,
    Column("id", String, primary_key=True),
    Column("title", String, nullable=False),
    Column("view", String, nullable=False),
    Column("kind", String, nullable=False),
    Column("school", String, nullable=False),
    Column("grade", String, nullable=False),
    Column("reference_id", ForeignKey("picture.id")),
    Column("made", String, nullable=False, index=True),  # ISO 8601, UTC
    Column("extra", JSON, nullable=False),  # the rest of the study file
)

state = Table(
    "state",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("study_id", ForeignKey("study.id", ondelete="CASCADE"), nullable=False, index=True),
    Column("number", Integer, nullable=False),
    Column("name", String, nullable=False),
    Column("taken", String),
    Column("picture_id", ForeignKey("picture.id"), nullable=False),
    Column("extra", JSON, nullable=False),
    UniqueConstraint("study_id", "name"),
)

mark = Table(
    "mark",
    metadata,
    Column("picture_id", ForeignKey("picture.id", ondelete="CASCADE"), primary_key=True),
    Column("key", String, primary_key=True),
    Column("x", Float, nullable=False),
    Column("y", Float, nullable=False),
    Column("visibility", String, nullable=False),
    Column("spread", Float, nullable=False),
    Column("extra", JSON, nullable=False),
)
