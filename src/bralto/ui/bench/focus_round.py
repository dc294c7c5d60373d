"""Where the keys go on the bench: round its boards and lists, and from board to board."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QWidget

from bralto.core.study.two_boards import BOARDS
from bralto.ui.bench.middle_column import MiddleColumn
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import prompting

__all__ = ["FocusRound"]


class FocusRound:
    """Hands the keys on between the boards, the pass's list and the lists beside them."""

    def __init__(
        self,
        study: OpenStudy,
        boards: tuple[PictureBoard, PictureBoard],
        column: MiddleColumn,
        lists: Sequence[QWidget],
    ) -> None:
        """``lists`` stand beside the boards whatever the pass."""
        self._study, self._boards, self._column, self._lists = study, boards, column, lists

    @property
    def active(self) -> PictureBoard:
        """The board that the prompt is about."""
        return self._boards[BOARDS.index(self._study.session.board)]

    def turn(self) -> None:
        """From the boards to the pass's list, to the corrections, to what is off, and back."""
        boards = [board for board in self._boards if board.isVisible()]
        first = self.active if self.active in boards else next(iter(boards), None)
        every = (first, self._column.first_field(), *self._lists)
        stops = [one for one in every if one is not None and one.isVisible()]
        if not stops:
            return
        at = next((i for i, one in enumerate(stops) if one.hasFocus()), None)
        if at is None and any(board.hasFocus() for board in boards):
            at = 0
        stops[0 if at is None else (at + 1) % len(stops)].setFocus(Qt.FocusReason.OtherFocusReason)

    def is_on_slip(self) -> bool:
        """Whether the keys are on a slip that a pass has, where Tab leads from field to field."""
        focused = QApplication.focusWidget()
        return focused is not None and self._column.whole.isAncestorOf(focused)

    def other_board(self) -> None:
        """Ask for the other board; once all is marked, only hand it the keys."""
        if self._study.step is None:
            reference, drawing = self._boards
            (drawing if reference.hasFocus() else reference).setFocus()
        else:
            self._study.apply(prompting.other_board)
