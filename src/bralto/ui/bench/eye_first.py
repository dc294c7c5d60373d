"""When the eye is asked before any figure is shown: once for a reference, once for a drawing."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from bralto.core.measures.short_set import short_set_of
from bralto.core.study.two_boards import BOARDS, Board
from bralto.ui.bench.eye.guess_slip import GuessSlip
from bralto.ui.bench.eye.judging_slip import JudgingSlip
from bralto.ui.bench.middle_column import MiddleColumn
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.settings import Settings

__all__ = ["EyeFirst"]


class EyeFirst(QObject):
    """What is due to be asked of one study on the bench; each is offered once."""

    asked = pyqtSignal()
    """The eye is asked before figures, or no more."""

    def __init__(
        self, study: OpenStudy, settings: Settings, middle: MiddleColumn, parent: QObject
    ) -> None:
        super().__init__(parent)
        middle.figures_wanted.connect(lambda: self.ask(None))
        self._study, self._settings, self._middle = study, settings, middle
        self._guessed = bool(study.study.guesses) or study.imagined
        self._judged = self._drawn()  # its figures were seen before

    def ask(self, slip: GuessSlip | JudgingSlip | None) -> None:
        """Ask the eye before any figure is shown; with None, show them."""
        self._middle.ask_eye(slip)
        self.asked.emit()

    def toggle(self) -> None:
        """Guess by eye before figures are shown, or show them."""
        self.ask(self._middle.guesses if self._middle.eye_first is None else None)

    def follow(self, *, gone_on: bool, boards_first: bool) -> None:
        """Ask what is due after a change of the study, and no more what has become void.

        Args:
            gone_on: whether something may be asked now.
            boards_first: marks are being set, and ladder and list drawn back.
        """
        if isinstance(self._middle.eye_first, JudgingSlip) and not self._drawn():
            self.ask(None)  # the marks of the drawing that is judged were taken back
        elif gone_on:
            due = self._due(boards_first=boards_first)
            if due is not None:
                self.ask(due)

    def _due(self, *, boards_first: bool) -> GuessSlip | JudgingSlip | None:
        middle, settings = self._middle, self._settings
        if not settings.guess_first or self._study.now.question is not None:
            return None
        if not self._guessed and not self._study.study.guesses:
            drawn = self._study.picture(Board.DRAWING).marks
            self._guessed = self._has_short_set(Board.REFERENCE) and not drawn
            if self._guessed:
                return middle.guesses
        if not self._judged and not boards_first and self._drawn():
            self._judged = True
            if "before" not in self._study.notes.log:
                return middle.judging
        return None

    def _has_short_set(self, board: Board) -> bool:
        picture = self._study.picture(board)
        found = short_set_of(self._study.view, picture.placed(), picture.absent())
        return isinstance(found, tuple)

    def _drawn(self) -> bool:
        """Whether there is a drawing, and all its marks that figures need."""
        pictured = [board for board in BOARDS if self._study.has_picture(board)]
        return Board.DRAWING in pictured and all(map(self._has_short_set, pictured))
