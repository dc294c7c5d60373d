"""How the parts of the Model place stand side by side, as wide as there is room."""

from __future__ import annotations

from typing import NamedTuple

from PyQt6.QtWidgets import QHBoxLayout, QWidget

from bralto.ui.model.pose_shelf import PoseShelf
from bralto.ui.model.stand_board import StandBoard

__all__ = ["ModelRow"]

_SLIP = 300
_ABOVE = 14


class _Folded(NamedTuple):
    """Poses in a row; px at either edge, and between the parts."""

    poses: int
    edge: int
    between: int


_ROOMY, _TIGHT = _Folded(2, 24, 18), _Folded(1, 12, 10)


class ModelRow(QHBoxLayout):
    """Pose shelf, large picture, slip of values; with less room the poses stand in one column."""

    def __init__(self, place: QWidget, shelf: PoseShelf, board: StandBoard, slip: QWidget) -> None:
        super().__init__(place)
        self._shelf, self._board = shelf, board
        slip.setFixedWidth(_SLIP)
        self.addWidget(shelf)
        self.addWidget(board, 1)
        self.addWidget(slip)

    @property
    def least_wide(self) -> int:
        """px below which it is scrolled."""
        return self._least(_TIGHT)

    def fold(self, width: int) -> None:
        """Stand as there is room in so many px."""
        way = _ROOMY if width >= self._least(_ROOMY) else _TIGHT
        self._shelf.stand_in(way.poses)
        self.setContentsMargins(way.edge, _ABOVE, way.edge, _ABOVE)
        self.setSpacing(way.between)

    def _least(self, way: _Folded) -> int:
        parts = PoseShelf.width_of(way.poses) + self._board.minimumWidth() + _SLIP
        return parts + 2 * (way.edge + way.between)
