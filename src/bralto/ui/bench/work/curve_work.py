"""Curves drawn through the pictures: the sweep of the action, legs, the edges of limbs."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QObject, QPointF

from bralto.core.action.sweeps import WHOLE
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.words.phrases import sentence
from bralto.ui.bench.work.picture_commands import PictureWork
from bralto.ui.boards.hands.tools import SWEEP
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.session import pointing, prompting

__all__ = ["CurveWork"]


class CurveWork(QObject):
    """Works on both boards; tools are taken through `PictureWork`."""

    def __init__(self, work: PictureWork, parent: QObject) -> None:
        super().__init__(parent)
        self._work, self._study = work, work.study
        self._names: tuple[str, ...] = ()  # what is being drawn one after the other
        for board in work.boards:
            board.tools.curved.connect(partial(self._on_curved, board))
            board.begun.connect(partial(self._begin_here, board))

    def begin(self, names: tuple[str, ...]) -> None:
        """Draw curves where they are lacking, the reference first; where both pictures have them
        all, on the active board anew."""
        self._names = names
        following = self._lacking(names)
        if following is None:
            self._names, following = (), (self._work.in_hand(), names[0])
        self._take(*following)

    def _take(self, board: PictureBoard, name: str) -> None:
        self._study.apply(pointing.choose_shape, name)
        self._work.take_tool(board, SWEEP, name)

    def _lacking(self, names: tuple[str, ...]) -> tuple[PictureBoard, str] | None:
        study, boards = self._study, list(self._work.boards)
        if study.imagined:
            boards.remove(self._work.boards[0])
        if study.undrawn or study.now.alone:
            boards.remove(self._work.boards[1])
        wanted = ((board, name) for board in boards for name in names)
        return next(
            (one for one in wanted if one[1] not in study.picture(one[0].board).curves), None
        )

    def _begin_here(self, board: PictureBoard, place: QPointF) -> None:
        """A click in the pass of the action begins the sweep, where a picture has none."""
        picture = self._study.picture(board.board)
        if WHOLE in picture.curves or not picture.file:
            return
        self._names = (WHOLE,)
        self._take(board, WHOLE)
        board.tools.corner(place)

    def _on_curved(self, board: PictureBoard, name: str, points: list[QPointF]) -> None:
        self._study.pictures.set_curve(board.board, name, tuple((at.x(), at.y()) for at in points))
        following = self._lacking(self._names) if self._names else None
        if following is not None:
            self._take(*following)
        else:
            self._work.taken.emit()

    def confirm(self) -> None:
        """Take the sweep that is proposed on the reference; once there is one, go on."""
        study = self._study
        lacks = WHOLE not in study.picture(Board.REFERENCE).curves and not study.imagined
        if lacks and not isinstance(study.examination.seen.proposed, NotMeasurable):
            self.take_proposed()
        else:
            study.apply(prompting.go_on)

    def take_proposed(self) -> None:
        """The sweep that the reference's marks propose is kept as it is."""
        found = self._study.examination.seen.proposed
        if isinstance(found, NotMeasurable):
            self._work.trouble.emit(sentence(found.reason))
            return
        points = tuple((float(x), float(y)) for x, y in found)
        self._study.pictures.set_curve(Board.REFERENCE, WHOLE, points)
