"""What may be said of an error; apart from what decides it, as the window loads no NumPy first."""

from __future__ import annotations

from enum import StrEnum

__all__ = ["VERDICTS", "Verdict"]


class Verdict(StrEnum):
    """What is said of one error; what counts as more, each measure says (`Reading.more`)."""

    off: bool
    """Whether the error is named as one; kept, since lists of corrections ask it of thousands."""

    OVER = "over"
    UNDER = "under"
    WITHIN = "within"
    CANNOT_TELL = "cannot tell"
    INTENDED = "intended"
    """Changed on purpose, and within the tolerance of that."""
    NOT_MEASURED = "not measured"

    def __init__(self, word: str) -> None:
        self.off = word in {"over", "under"}


VERDICTS = tuple(Verdict)
