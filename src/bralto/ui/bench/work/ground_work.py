"""The height of the eye, named on either board, and the box on the ground."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PyQt6.QtCore import QObject, QPointF

from bralto.core.study.two_boards import Board
from bralto.ui.bench.passes.ground_rows import BOX_ROW, HORIZON_ROW
from bralto.ui.bench.work.picture_commands import PictureWork
from bralto.ui.boards.hands.tools import HORIZON
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.session import pointing

__all__ = ["GroundWork"]


class GroundWork(QObject):
    """Works on both boards; tools are taken through `PictureWork`."""

    def __init__(self, work: PictureWork, parent: QObject) -> None:
        super().__init__(parent)
        self._work, self._study = work, work.study
        for board in work.boards:
            board.tools.placed.connect(partial(self._on_placed, board))

    def chose(self, key: str) -> bool:
        """Do what a row asks for; False where it is none of these."""
        study = self._study
        if key == BOX_ROW:
            study.apply(pointing.toggle_box)
        elif key.startswith(HORIZON_ROW):
            about = Board(key.removeprefix(HORIZON_ROW))
            name, named = study.session.picture_name(about), study.notes.horizon
            if name in named:
                self._note({key: at for key, at in named.items() if key != name})
            else:
                self._work.take_tool(self._work.board(about), HORIZON)
        else:
            return False
        return True

    def _on_placed(self, board: PictureBoard, name: str, at: QPointF) -> None:
        if name == HORIZON:
            place = (round(at.x(), 1), round(at.y(), 1))
            name = self._study.session.picture_name(board.board)
            self._note({**self._study.notes.horizon, name: place})
            self._work.taken.emit()

    def _note(self, horizon: dict[str, tuple[float, float]]) -> None:
        self._study.head.note(replace(self._study.notes, horizon=horizon))
