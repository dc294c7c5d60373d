"""The hand that draws with a tool: a line, a frame, a shape, a curve, or one place."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QPointF, pyqtSignal

from bralto.ui.boards.hands.handled_board import HandledBoard
from bralto.ui.boards.hands.tools import SWEEP, Tool

__all__ = ["ToolHand"]


class ToolHand(QObject):
    """Works on one board; says what was drawn once it is done, and lays the tool down."""

    drawn = pyqtSignal(str, QPointF, QPointF)
    """A line or a frame: the tool's name and both ends, image px."""
    outlined = pyqtSignal(str, object)
    """A shape: what it is called and its corners, a list of image px."""
    curved = pyqtSignal(str, object)
    """A curve: what it is called and its points, a list of image px."""
    placed = pyqtSignal(str, QPointF)
    """One place: the tool's name and the place, image px."""

    def __init__(self, board: HandledBoard, parent: QObject) -> None:
        super().__init__(parent)
        self._board = board
        self.tool: Tool | None = None

    def take(self, name: str | None, about: str = "") -> None:
        """Draw a line, frame or shape next; with None, lay the tool down."""
        self.tool = Tool(name, about) if name is not None else None
        self._board.update()

    def press(self, at: QPointF) -> None:
        """The pointer goes down, board px."""
        if self.tool is not None:
            self._told(self.tool, done=self.tool.press(self._board.viewport, at))
            self._board.update()

    def move(self, at: QPointF) -> None:
        """The pointer is there, board px."""
        if self.tool is not None:
            self.tool.end = at

    def release(self) -> None:
        """The pointer goes up."""
        if self.tool is not None:
            self._told(self.tool, done=self.tool.release(self._board.viewport))

    def corner(self, at: QPointF) -> None:
        """A corner or an end where the crosshair stands, image px."""
        if self.tool is not None:
            self.tool.end = self._board.viewport.to_board(at.x(), at.y())
            self._told(self.tool, done=self.tool.corner(self._board.viewport, self.tool.end))

    def close(self) -> None:
        """A shape whose corners are all set."""
        if self.tool is not None:
            self._told(self.tool, done=self.tool.closes)

    def _told(self, tool: Tool, *, done: bool) -> None:
        if not done:
            return
        self.take(None)
        if tool.name == SWEEP:
            self.curved.emit(tool.about, tool.corners)
        elif tool.of_one_place:
            self.placed.emit(tool.name, tool.corners[0])
        elif tool.keeps:
            self.outlined.emit(tool.about, tool.corners)
        else:
            self.drawn.emit(tool.name, *tool.corners)
