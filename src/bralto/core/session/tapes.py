"""In which order a session goes: light to load, for the settings."""

from __future__ import annotations

from enum import StrEnum

__all__ = ["TAPES", "TapeOrder", "usual_tape"]


class TapeOrder(StrEnum):
    """What comes first."""

    EDGES = "edges"
    ACTION = "action"


TAPES = {TapeOrder.EDGES: "edges first", TapeOrder.ACTION: "action first"}
"""Two schools of what comes first: the edges between which all lies, or the sweep of the pose with
what bears the weight (common practice, no source)."""


def usual_tape(view: str, figures_begin: TapeOrder) -> TapeOrder:
    """What comes first in a view of that key: in figures what the learner begins them with; heads,
    parts and things begin with their edges."""
    return figures_begin if view.startswith("figure") else TapeOrder.EDGES
