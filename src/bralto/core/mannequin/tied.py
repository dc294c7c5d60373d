"""Two studies of one head from different sides, held level."""

from __future__ import annotations

from bralto.core.discover.figures import Figure, figure_of
from bralto.core.discover.levels import USUAL, Tie, can_be_tied, ties
from bralto.core.mannequin.known import standpoint_of
from bralto.core.results import NotMeasurable
from bralto.core.study.anchored import view_of
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture, Study

__all__ = ["picture_on", "tied"]


def tied(
    own: Study, figure: Figure | NotMeasurable, other: Study, board: Board
) -> tuple[Tie, ...] | NotMeasurable:
    """What of a picture is level with the same picture of the other study, or why it is not known.

    Args:
        figure: of ``own``'s ``board``, `reference` or `drawing`; the other's drawing is its latest
            state.
    """
    if isinstance(figure, NotMeasurable):
        return figure
    if not can_be_tied(own.view, other.view):
        return NotMeasurable("the two do not show a head from different sides")
    picture = picture_on(other, board)
    if picture is None:
        return NotMeasurable(f"there is no {board} of the other side yet")
    there = figure_of(view_of(other), picture)
    if isinstance(there, NotMeasurable):
        return there
    stood = (standpoint_of(own) or USUAL, standpoint_of(other) or USUAL)
    return ties(figure, there, figure.view.grade(own.grade), stood)


def picture_on(study: Study, board: Board) -> Picture | None:
    """The reference, or the drawing's latest state; None where there is none."""
    if board == Board.REFERENCE:
        return study.reference
    latest = study.state(None)
    return latest.picture if latest else None
