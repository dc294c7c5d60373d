"""What a study's marks, kind and scale school may be: the words that its file says."""

from __future__ import annotations

from enum import StrEnum

__all__ = ["School", "StudyKind", "Visibility"]


class Visibility(StrEnum):
    """Whether a landmark can be seen in a picture."""

    SEEN = "seen"
    INFERRED = "inferred"
    """Hidden, or carried here, but placed: its doubt is larger."""
    ABSENT = "absent"
    """Not in the picture: its place means nothing."""


class StudyKind(StrEnum):
    """How a drawing was made."""

    OBSERVED = "observed"
    TRACED = "traced"
    EXAGGERATED = "exaggerated"
    """Changed on purpose in some measures."""
    IMAGINED = "imagined"
    """Without a reference: it is held against an average."""


class School(StrEnum):
    """How both pictures are brought to one scale; `measures.units` says which can be measured."""

    HEAD = "head"
    ENVELOPE = "envelope"
    BEST_FIT = "best-fit"
    ANCHORS = "anchors"
    """By two marks that the learner trusts."""
    SIGHT_SIZE = "sight-size"
