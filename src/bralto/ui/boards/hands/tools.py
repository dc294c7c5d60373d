"""A line, a frame or a shape drawn on a board, with the pointer or with the crosshair."""

from __future__ import annotations

from dataclasses import dataclass, field

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPen, QPolygonF

from bralto.core.action.curve import FEWEST_POINTS, MOST_POINTS
from bralto.core.session.polygons import FEWEST_CORNERS
from bralto.ui.boards.overlays.sweep_path import swept
from bralto.ui.boards.viewport import Viewport
from bralto.ui.theme.tokens import LIGHT

__all__ = ["ERASE", "FOCUS", "HORIZON", "OF_THE_MENU", "SHADOW", "SHAPE", "SWEEP", "TOOLS", "Tool"]

SHAPE, SWEEP = "shape", "sweep"
"""The tools that take one corner after another: round a shape, or along an open curve."""

SHADOW, FOCUS, ERASE, HORIZON = "shadow", "focus", "erase", "horizon"
"""What a shape of shadow is called while it is drawn; and the tools that take one place."""

TOOLS: dict[str, tuple[str, str]] = {
    "plumb": ("Draw along something truly vertical:", "a door frame, a plumb line, a wall's edge"),
    "level": (
        "Draw along something truly level:",
        "a table's edge, the model stand, a window sill",
    ),
    "crop": ("Draw a frame about the figure:", "marks outside it stay where they are"),
    "stick": ("Hold a stick along any line:", "its angle and length are carried over"),
    "second stick": ("Hold a second stick along another line:", "the angle between both is told"),
    "dividers": ("Take a length between two points:", "it is stepped along what you drag next"),
    "steps": ("Step the length along anything:", "drag along it; the steps are counted"),
    FOCUS: ("Click where the eye should go to:", "one place, on the reference"),
    HORIZON: ("Click at the height of the eye:", "where level lines that recede run together"),
    ERASE: ("Click in the shadow that is none:", "the smallest outline about that place goes"),
    SWEEP: ("Go along it, point by point:", "from the top down, or from the root outwards"),
    SHAPE: ("Go round the shape, corner by corner:", "straight lines; the first corner closes it"),
}
"""What to do with each, and an example."""

OF_THE_MENU = ("plumb", "level", "crop")
"""Those that say something of the picture itself."""

_SHORTEST = 8.0  # board px; a click is no line
_CLOSE = 12.0  # board px from the first corner at which a shape closes


@dataclass(slots=True)
class Tool:
    """What is being drawn: ``corners`` in image px, ``end`` (the hand) in board px.

    Attributes:
        about: the name of the shape or curve that is drawn, or "".
    """

    name: str
    about: str = ""
    corners: list[QPointF] = field(default_factory=list)
    end: QPointF | None = None
    pressed: bool = False

    @property
    def keeps(self) -> bool:
        """Whether corners are taken one by one until the shape is closed, or the curve done."""
        return self.name in (SHAPE, SWEEP)

    @property
    def of_one_place(self) -> bool:
        """Whether a click is all that it wants."""
        return self.name in (FOCUS, ERASE, HORIZON)

    @property
    def wants(self) -> int:
        """How many corners it takes at least."""
        return FEWEST_POINTS if self.name == SWEEP else FEWEST_CORNERS

    def press(self, view: Viewport, at: QPointF) -> bool:
        """The pointer goes down; gives whether the drawing is done."""
        self.end = at
        if self.keeps:
            return self.corner(view, at)
        self.pressed = True
        if not self.corners:
            self.corners.append(view.to_image(at))
        return self.of_one_place

    def release(self, view: Viewport) -> bool:
        """The pointer goes up. A click sets one end; another, or a drag, sets the other."""
        if self.keeps or not self.pressed or self.end is None:
            return False
        self.pressed = False
        return self._second(view, self.end)

    def corner(self, view: Viewport, at: QPointF) -> bool:
        """A corner at a place of the board; gives whether the drawing is done."""
        if not self.keeps:
            if self.corners:
                return self._second(view, at)
            self.corners.append(view.to_image(at))
            return self.of_one_place
        if self.corners and self.name == SHAPE:
            first = view.to_board(self.corners[0].x(), self.corners[0].y())
            if (first - at).manhattanLength() < _CLOSE:
                return self.closes
        if self.corners and self.name == SWEEP:
            last = view.to_board(self.corners[-1].x(), self.corners[-1].y())
            if (last - at).manhattanLength() < _SHORTEST:
                return self.closes  # twice in one spot: that was the last
        self.corners.append(view.to_image(at))
        return self.name == SWEEP and len(self.corners) == MOST_POINTS

    @property
    def closes(self) -> bool:
        """Whether there are corners enough for it."""
        return self.keeps and len(self.corners) >= self.wants

    def _rings(self, places: list[QPointF]) -> list[QPointF]:
        """Corners that are ringed: all along a curve, the one that closes a shape."""
        if self.name == SWEEP:
            return places
        return places[:1] if self.keeps else []

    def _second(self, view: Viewport, at: QPointF) -> bool:
        first = view.to_board(self.corners[0].x(), self.corners[0].y())
        if (first - at).manhattanLength() < _SHORTEST:
            return False
        self.corners.append(view.to_image(at))
        return True

    def back(self) -> bool:
        """Take the last corner away; False where there is none."""
        if self.corners:
            self.corners.pop()
            return True
        return False

    def paint(self, painter: QPainter, area: QRectF, view: Viewport) -> None:
        """The line, the shape, or the frame with what is outside it veiled."""
        places = [view.to_board(one.x(), one.y()) for one in self.corners]
        if places and self.end is not None:
            places.append(self.end)
        if not places:
            return
        if self.name == "crop" and len(places) == 2:
            frame = QRectF(*places).normalized()
            outside, inside = QPainterPath(), QPainterPath()
            outside.addRect(area)
            inside.addRect(frame)
            painter.fillPath(outside - inside, LIGHT.colour("ink", 0.45))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for width, role in ((4.0, "veil"), (1.6, "red")):
            painter.setPen(QPen(LIGHT.colour(role), width))
            if self.name == "crop" and len(places) == 2:
                painter.drawRect(QRectF(*places).normalized())
            elif self.name == SWEEP:
                painter.drawPath(swept(places))
            else:
                painter.drawPolyline(QPolygonF(places))
            for place in self._rings(places):
                painter.drawEllipse(place, 5.0, 5.0)
