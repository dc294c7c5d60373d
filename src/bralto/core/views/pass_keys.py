"""The passes of a session, in the order in which the usual tape lays them."""

from __future__ import annotations

from enum import StrEnum

__all__ = ["PassKey"]


class PassKey(StrEnum):
    """Key of a pass; the further ones of a learner's own view are plain text."""

    SIGHT = "sight"
    """A figure from life is sighted."""
    SHEET = "sheet"
    EDGES = "edges"
    PLUMB = "plumb"
    HEIGHTS = "heights"
    WIDTHS = "widths"
    TILTS = "tilts"
    FAR_SIDE = "far"
    """Of a side view: the other leg and arm."""
    LIKENESS = "likeness"
    """Of a head: its marks are asked for by region."""
    ACTION = "action"
    """The sweep of a pose is drawn through both pictures."""
    SHAPES = "shapes"
    LIGHT = "light"
    """Light and shadow are held together as big shapes."""
    VERDICT = "verdict"
