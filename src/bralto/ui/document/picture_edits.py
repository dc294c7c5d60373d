"""Edits of what is said of the pictures on the two boards, and states of the drawing."""

from __future__ import annotations

from dataclasses import replace

from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.remedies import remedied_picture
from bralto.core.marking.carry import carry_by_sheet
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import OUTLINE, Mark, Picture, Sheet, State
from bralto.ui.document.board_edits import BoardEdits
from bralto.ui.document.worked_on import WorkedOn

__all__ = ["PictureEdits"]

Point = tuple[float, float]


class PictureEdits:
    """A part of `OpenStudy`: each edit is one gesture of it, and what cannot be is said there."""

    def __init__(self, study: WorkedOn, marks: BoardEdits) -> None:
        self._study, self._marks = study, marks

    def set_sheet(self, board: Board, sheet: Sheet | None) -> None:
        """Say where the sheet of paper is in a picture, or that there is none."""
        before = self._marks.kept(board)
        # Plumb is the sheet's own once there is one; a turn of the raw picture says nothing of it.
        same = (sheet is None) == (before.sheet is None)
        plumb = before.plumb_deg if same else 0.0
        self._edit(board, replace(before, sheet=sheet, plumb_deg=plumb), "sheet")

    def set_plumb(self, board: Board, plumb_deg: float) -> None:
        """Turn a picture until what is truly vertical stands so."""
        self._edit(board, replace(self._marks.kept(board), plumb_deg=plumb_deg), "plumb")

    def set_crop(self, board: Board, crop: tuple[float, float, float, float] | None) -> None:
        """Look at a part of a picture alone (image px); marks outside it stay."""
        self._edit(board, replace(self._marks.kept(board), crop=crop), "crop")

    def set_polygon(self, board: Board, name: str, corners: tuple[Point, ...]) -> None:
        """Draw a shape on a board (image px), or take it away where there are no corners."""
        before = self._marks.kept(board)
        kept = {key: shape for key, shape in before.polygons.items() if key != name}
        if corners:
            kept[name] = corners
        self._edit(board, replace(before, polygons=kept), f"shape {name}")

    def set_curve(self, board: Board, name: str, points: tuple[Point, ...]) -> None:
        """Draw a curve on a board (image px), or take it away where there are no points."""
        before = self._marks.kept(board)
        kept = {key: line for key, line in before.curves.items() if key != name}
        if points:
            kept[name] = points
        self._edit(board, replace(before, curves=kept), f"the {name}")

    def set_shadows(
        self,
        board: Board,
        rings: tuple[tuple[Point, ...], ...],
        outline: tuple[Point, ...] | None = None,
    ) -> None:
        """Outline what is dark on a board (image px).

        Args:
            outline: of the figure itself, where it was found with them and none is drawn yet.
        """
        before = self._marks.kept(board)
        shapes = dict(before.polygons)
        if outline is not None:
            shapes.setdefault(OUTLINE, outline)
        self._edit(board, replace(before, shadows=rings, polygons=shapes), "the shadows")

    def set_permission(self, board: Board, permission: str | None) -> None:
        """Say where a picture comes from."""
        self._edit(board, replace(self._marks.kept(board), permission=permission), "permission")

    def _edit(self, board: Board, after: Picture, words: str) -> None:
        marks = self._marks
        if not marks.refused(board):
            with self._study.gesture():
                document = self._study.document
                document.set_picture(marks.pair(), marks.name_of(board), after, words)

    # What settles a doubt

    def remedy(self, doubt: Doubt) -> bool:
        """Do what settles a doubt of the marks or of what is said of a picture, as one edit.

        Returns:
            Whether it was kept.
        """
        before = self._marks.kept(doubt.board)
        after = remedied_picture(self._study.view, before, doubt)
        moved: dict[str, Mark | None] = {
            key: after.marks.get(key)
            for key in before.marks
            if after.marks.get(key) != before.marks[key]
        }
        if moved:
            self._marks.set_marks(doubt.board, moved)
        else:
            self._edit(doubt.board, after, "remedy")
        return self._marks.kept(doubt.board) == after

    def mirror(self, doubt: Doubt, media: str) -> bool:
        """Put a picture's mirror image in its place, with its marks, as one edit.

        Args:
            media: the mirror image in the media folder.

        Returns:
            Whether it was kept.
        """
        marks, board = self._marks, doubt.board
        if marks.refused(board):
            return False
        after = remedied_picture(self._study.view, marks.kept(board), doubt)
        with self._study.gesture():
            self._study.document.exchange(marks.pair(), marks.name_of(board), after, media)
        return marks.kept(board) == after

    # States of the drawing

    def add_state(self, new: State, media: str) -> str | None:
        """Keep a further state of the drawing, its marks carried over from the one before where
        both sheets are known; gives why they were not, or None.

        Raises:
            UserError: it was not kept.
        """
        marks = carry_by_sheet(self._marks.kept(Board.DRAWING), new.picture)
        reason = marks.reason if isinstance(marks, NotMeasurable) else None
        if not isinstance(marks, NotMeasurable):
            new = replace(new, picture=replace(new.picture, marks=marks))
        with self._study.gesture():
            self._study.document.add_state(new, media)
        return reason
