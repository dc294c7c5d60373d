"""The keys of a board: nudging a mark, moving the crosshair, setting and leaving."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QKeyEvent

from bralto.ui.boards.hands.handled_board import HandledBoard
from bralto.ui.boards.hands.line_hand import LineHand
from bralto.ui.boards.hands.tool_hand import ToolHand
from bralto.ui.session import pointing, prompting

__all__ = ["KeyHand"]

_STEPS = {
    Qt.Key.Key_Left: (-1.0, 0.0),
    Qt.Key.Key_Right: (1.0, 0.0),
    Qt.Key.Key_Up: (0.0, -1.0),
    Qt.Key.Key_Down: (0.0, 1.0),
}
_ENTER = (Qt.Key.Key_Return, Qt.Key.Key_Enter)
_NUDGE, _BIG_NUDGE = 0.5, 5.0  # screen px


class KeyHand:
    """Works on one board."""

    def __init__(self, board: HandledBoard, lines: LineHand, tools: ToolHand) -> None:
        self._board, self._lines, self._tools = board, lines, tools

    def take(self, event: QKeyEvent) -> bool:
        """Do what a key asks for; False where it asks for nothing here."""
        board, study, key = self._board, self._board.study, Qt.Key(event.key())
        plain = event.modifiers() & ~(
            Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.KeypadModifier
        )
        if key in _STEPS and plain == Qt.KeyboardModifier.NoModifier:
            far = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self._nudge(_STEPS[key], _BIG_NUDGE if far else _NUDGE)
            return True
        held = study.session.selected or board.candidate is not None or board.tool
        if key in _ENTER and (held or self._lines.active):
            self._enter()
            return True
        free = study.session.selected is None and study.now.question is None
        if key in _ENTER and board.marking and free:
            board.candidate, board.hover = self.start(), None  # looked at first, then set
            board.update()
            return True
        if key == Qt.Key.Key_Backspace and board.tool is not None and board.tool.back():
            board.update()
            return True
        if key == Qt.Key.Key_Escape:
            return self._leave()
        if key == Qt.Key.Key_Delete and study.session.selected:
            if study.own.is_own(study.session.selected):
                study.own.forget(study.session.selected)
            else:
                study.edits.remove(board.board, study.session.selected)
            return True
        return False

    def _leave(self) -> bool:
        """Leave what is in hand, the nearest first."""
        board, study = self._board, self._board.study
        if board.cancel_drag():
            return True
        if board.tool is not None:
            self._tools.take(None)
            study.apply(pointing.select, None)
        elif study.session.repeating is not None:
            study.apply(prompting.end_repeats)
        elif study.session.trusted is not None:
            study.apply(pointing.end_trust)
        elif study.session.doubted is not None:
            study.apply(prompting.undoubt)
        elif study.session.selected is not None:
            study.apply(pointing.select, None)
        else:
            return False
        return True

    def _nudge(self, step: tuple[float, float], size: float) -> None:
        board, study = self._board, self._board.study
        by = QPointF(step[0] * size, step[1] * size)
        if self._lines.active:
            self._lines.nudge(by)
            return
        selected = study.session.selected if board.tool is None else None
        there = board.at(selected) if selected else None
        if selected and there is not None:
            place = board.viewport.to_image(there + by)
            spread = board.spread(nudged=True, key=selected)
            study.edits.move(board.board, selected, place.x(), place.y(), spread, nudge=True)
            return
        now = board.viewport.to_board(self.start().x(), self.start().y())
        board.candidate = board.viewport.to_image(now + by)
        board.hover = None
        board.update()

    def start(self) -> QPointF:
        """Where the crosshair begins: in the middle of a board that is near, else at its last mark.

        Never where the mark of a drawing 'should' be: a crosshair that waits at the right place
        would hide the very error that the learner came to see (a board that comes near stops
        somewhat beside it).
        """
        board = self._board
        if board.candidate is not None:
            return board.candidate
        if board.tool is not None and board.tool.corners:
            return board.tool.corners[-1]
        middle = board.viewport.to_image(QPointF(board.width() / 2.0, board.height() / 2.0))
        marks = board.study.picture(board.board).marks
        if board.overview or not marks:
            return middle
        last = list(marks.values())[-1]
        return QPointF(last.x, last.y)

    def _enter(self) -> None:
        board, study = self._board, self._board.study
        spread = board.spread(nudged=True)
        at, board.candidate = board.candidate, None
        if board.tool is not None:
            if at is None:  # Enter without another corner: that was all
                self._tools.close()
            else:
                self._tools.corner(at)
            board.update()
        elif self._lines.active:
            self._lines.release()
        elif at is not None and self._lines.press(board.viewport.to_board(at.x(), at.y())):
            board.update()  # a point of a line is in hand until Enter leaves it
        elif study.session.selected:
            asked, key = study.session.asked, study.session.selected
            if asked is not None and (asked.board, asked.key) == (board.board, key):
                study.edits.leave_it(board.board, key, spread)
            else:
                study.apply(pointing.select, None)
        elif at is not None:
            study.edits.place(board.board, at.x(), at.y(), spread)
