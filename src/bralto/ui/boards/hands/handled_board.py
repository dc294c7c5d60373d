"""What the hands know of the board on which they work: `PictureBoard`, as they need it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from PyQt6.QtCore import QPointF, QRect
from PyQt6.QtGui import QPainter

from bralto.ui.boards.board import PaintedBoard
from bralto.ui.boards.hands.tools import Tool
from bralto.ui.boards.viewport import Viewport

__all__ = ["HandledBoard"]


class HandledBoard(PaintedBoard, Protocol):
    """A board on which marks are set, moved and nudged; places are board px if nothing is said."""

    above: Callable[[QPainter], None] | None
    over: Callable[[QPainter], None] | None

    @property
    def tool(self) -> Tool | None:
        """What is drawn with, or None."""

    @property
    def message(self) -> str:
        """Why there is no picture, or ""."""

    @property
    def marking(self) -> bool:
        """Whether the hand is here to set a mark."""

    @property
    def is_moving(self) -> bool:
        """Whether the hand zooms or pans."""

    def take_hold(self) -> None:
        """A hand takes hold of the board: it stays where it is."""

    def begin_curve(self, place: QPointF) -> None:
        """A curve may begin there, image px."""

    def look(self, viewport: Viewport) -> None:
        """Look at another part of the picture."""

    def aim(self, at: QPointF | None) -> None:
        """The loupe looks there, or nowhere."""

    def pan(self, by: QPointF) -> None:
        """The picture is dragged along."""

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Nearer or farther about a point, the middle where none is given."""

    def spread(self, *, nudged: bool = False, key: str | None = None) -> float:
        """SD of placing a mark as it is seen now, image px."""

    def cancel_drag(self) -> bool:
        """Put back a mark that is being dragged; False where none is."""

    def mapFromGlobal(self, at: QPointF, /) -> QPointF:
        """A place of the screen on the board."""

    def rect(self) -> QRect:
        """All of the board."""

    def hasFocus(self) -> bool:
        """Whether the keys go there."""

    def update(self) -> None:
        """Paint it anew."""
