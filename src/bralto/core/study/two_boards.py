"""The two pictures that are held against each other, by the boards that they lie on."""

from __future__ import annotations

from enum import StrEnum

__all__ = ["BOARDS", "Board"]


class Board(StrEnum):
    """Whose picture: the reference's on the left board, the drawing's on the right one.

    Its text is what files and sentences say; ids and keys of files stay as they are.
    """

    REFERENCE = "reference"
    DRAWING = "drawing"

    @property
    def other(self) -> Board:
        """The board beside it."""
        return Board.DRAWING if self is Board.REFERENCE else Board.REFERENCE


BOARDS = tuple(Board)
