"""When the eye is asked before any figure is shown: once for a reference, once for a drawing."""

from __future__ import annotations

from bralto.core.measures.short_set import short_set_of
from bralto.core.study.two_boards import BOARDS, Board
from bralto.ui.bench.eye.guess_slip import GuessSlip
from bralto.ui.bench.eye.judging_slip import JudgingSlip
from bralto.ui.bench.middle_column import MiddleColumn
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.settings import Settings

__all__ = ["EyeFirst"]


class EyeFirst:
    """What is due to be asked of one study on the bench; each is offered once."""

    def __init__(self, study: OpenStudy, settings: Settings, middle: MiddleColumn) -> None:
        self._study, self._settings, self._middle = study, settings, middle
        self._guessed = bool(study.study.guesses) or study.imagined
        self._judged = self._drawn()  # its figures were seen before

    def due(self, *, boards_first: bool) -> GuessSlip | JudgingSlip | None:
        """What is to be asked now, or None.

        Args:
            boards_first: marks are being set, and ladder and list drawn back.
        """
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

    def is_void(self) -> bool:
        """Whether a judgement is asked of a drawing whose marks were taken back."""
        return isinstance(self._middle.eye_first, JudgingSlip) and not self._drawn()

    def _has_short_set(self, board: Board) -> bool:
        picture = self._study.picture(board)
        found = short_set_of(self._study.view, picture.placed(), picture.absent())
        return isinstance(found, tuple)

    def _drawn(self) -> bool:
        """Whether there is a drawing, and all its marks that figures need."""
        pictured = [board for board in BOARDS if self._study.has_picture(board)]
        return Board.DRAWING in pictured and all(map(self._has_short_set, pictured))
