"""The pointer on a board, beside the keys: what a press, a move and a release mean for marks."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtWidgets import QApplication

from bralto.core.marking.whereabouts import about_a_head
from bralto.core.views.pass_keys import PassKey
from bralto.core.views.typical import typical_of
from bralto.ui.boards.hands.gestures import Action, Drag, Drop, Gesture, Hold, Pan, SetMark
from bralto.ui.boards.hands.handled_board import HandledBoard
from bralto.ui.boards.hands.line_hand import LineHand, apart
from bralto.ui.boards.overlays.corner_map import map_of
from bralto.ui.session import pointing, prompting

__all__ = ["PointerHand"]

_REACH = 11.0  # board px within which a press takes a mark in hand
_DOT = 4.0  # and within which a click means the very dot, where a mark is only offered
_AFAR_PX = 6.0  # board px of a tolerance below which a mark is set once more, from near


class PointerHand:
    """Works on one board; places are board px."""

    def __init__(self, board: HandledBoard) -> None:
        self._board = board
        self._gesture = Gesture(lambda at: self.mark_at(QPointF(*at)))
        self.lines = LineHand(board)

    @property
    def active(self) -> bool:
        """Whether a button is down."""
        return self._gesture.active or self.lines.active

    @property
    def key(self) -> str | None:
        """The mark in hand."""
        return self._gesture.key

    def mark_at(self, at: QPointF) -> str | None:
        """The mark that a press there takes in hand."""
        board, study = self._board, self._board.study
        run = study.session.repeating
        if run is not None and run.board == board.board:
            return None  # marks that are hidden cannot be taken in hand
        if not board.overlay.marks:
            return None  # nor can those that the pass does not show
        best, reach, proposed = None, _REACH, study.now.asked_proposal
        for key in study.picture(board.board).placed():
            there = board.at(key)
            if there is None:
                continue
            if not study.now.in_sight(key) and (board.board, key) != proposed:
                continue
            away = apart(there, at)
            if away < reach:
                best, reach = key, away
        return best

    def press(self, at: QPointF, *, pan: bool = False) -> bool:
        """A gesture begins; gives whether a mark is asked for here and none lies under it."""
        if self._looked_on_map(at) or (not pan and self.lines.press(at)):
            return False
        key = self.mark_at(at)
        there = self._board.at(key) if key else None
        grip = (there.x(), there.y()) if there is not None else None
        sets = not pan and self._sets(at, there)
        self._gesture.press((at.x(), at.y()), grip, pan=pan, sets=sets)
        return sets and key is None

    def move(self, at: QPointF) -> bool:
        """The pointer moved; gives whether it has a mark in hand."""
        if self.lines.active:
            self.lines.move(at)
            return False
        board, action = self._board, self._gesture.move((at.x(), at.y()))
        if isinstance(action, Drag):
            place = board.viewport.to_image(QPointF(*action.at))
            board.study.edits.preview(board.board, action.key, place.x(), place.y())
        elif isinstance(action, Pan):
            board.pan(QPointF(*action.by))
        elif not self._gesture.active:
            board.study.apply(pointing.point_at, None if board.marking else self.mark_at(at))
        return isinstance(action, Drag)

    def release(self, at: QPointF, *, own: bool = False) -> None:
        """The gesture ends; with ``own`` a click makes a point of the learner's own."""
        if self.lines.active:
            self.lines.release()
            return
        board, study = self._board, self._board.study
        action: Action = self._gesture.release((at.x(), at.y()))
        if isinstance(action, SetMark | Hold) and own:
            place = board.viewport.to_image(at)
            study.own.add(board.board, (place.x(), place.y()), board.spread())
        elif isinstance(action, SetMark):
            self.set_at(QPointF(*action.at))
        elif isinstance(action, Hold):
            self._take(action.key)
        elif isinstance(action, Drop):
            place = board.viewport.to_image(QPointF(*action.at))
            spread = board.spread(key=action.key)
            study.edits.move(board.board, action.key, place.x(), place.y(), spread)
            study.apply(pointing.select, action.key)

    def cancel(self) -> bool:
        """Put back what is dragged; False where no button is down."""
        if self.lines.cancel():
            return True
        if not self._gesture.active:
            return False
        self._gesture.cancel()
        self._board.study.edits.put_back()
        return True

    def set_at(self, at: QPointF) -> None:
        """Set the mark that is asked for."""
        board, study = self._board, self._board.study
        self._gesture.cancel()
        if study.session.trusted is not None:
            return  # marks are chosen, none is set
        place, afar = board.viewport.to_image(at), self._from_afar()
        if study.current_pass == PassKey.ACTION:
            board.begin_curve(place)
            return
        with study.gesture():
            study.apply(pointing.select, None)
            key = study.edits.place(board.board, place.x(), place.y(), board.spread())
            if afar and key is not None and study.session.doubted is None:
                study.apply(prompting.ask, board.board, key)  # once more, from near

    def _from_afar(self) -> bool:
        """Whether a mark is set on a whole picture, since nothing told where to look for it, and so
        small that a tolerance is lost under the hand."""
        board, study = self._board, self._board.study
        if not board.marking or study.now.whereabouts or study.session.repeating is not None:
            return False
        key = study.step.key if study.step is not None else ""
        if typical_of(study.view.key) is None and key not in study.view.head:
            return False  # nothing will ever tell where: near or far is the learner's choice
        if QApplication.keyboardModifiers() & Qt.KeyboardModifier.ShiftModifier:
            return False
        head = about_a_head(study.view, study.picture(board.board)) * board.viewport.zoom
        return study.grade.head * head < _AFAR_PX

    def _sets(self, at: QPointF, there: QPointF | None) -> bool:
        """Whether a click sets the mark that is asked for, though another lies ``there``; one that
        is only offered, to look closer, leaves the very dot of another to that one."""
        study = self._board.study
        step = study.step
        if step is None or step.board != self._board.board or study.session.trusted is not None:
            return False
        return there is None or step.short or apart(at, there) > _DOT

    def _take(self, key: str) -> None:
        """A mark is taken in hand, or chosen for the scale."""
        study = self._board.study
        if study.session.trusted is None:
            study.apply(pointing.select, key)
            return
        with study.gesture():
            study.apply(pointing.trust, key)
            chosen = study.session.trusted or ()
            if len(chosen) == 2:
                study.apply(pointing.end_trust)
                study.head.set_trusted(*chosen)

    def _looked_on_map(self, at: QPointF) -> bool:
        """Where the whole lies in a corner, a press on it looks there."""
        board, found = self._board, map_of(self._board)
        if found is None or not found[0].contains(at):
            return False
        middle = QPointF(board.width() / 2.0, board.height() / 2.0)
        board.look(board.viewport.aligned(found[1].to_image(at), middle, board.viewport.zoom))
        return True
