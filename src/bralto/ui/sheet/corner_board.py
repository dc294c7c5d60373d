"""The photo with the points that say where its sheet is; each can be dragged under a loupe."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QSizeF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPolygonF,
    QResizeEvent,
)
from PyQt6.QtWidgets import QWidget

from bralto.core.study.curled import outline
from bralto.core.tolerances import DEFAULT_SPREAD_PX
from bralto.ui.boards.laying import paint_laid
from bralto.ui.boards.pyramid import level_of
from bralto.ui.boards.viewport import Viewport
from bralto.ui.sheet.sheet_state import SheetState
from bralto.ui.theme.tokens import LIGHT, Tokens

__all__ = ["CornerBoard"]

_REACH = 16.0
_LOUPE, _MAGNIFY = 74.0, 4.0
_ARM = 13.0
_STEPS = {
    Qt.Key.Key_Left: (-1.0, 0.0),
    Qt.Key.Key_Right: (1.0, 0.0),
    Qt.Key.Key_Up: (0.0, -1.0),
    Qt.Key.Key_Down: (0.0, 1.0),
}


class CornerBoard(QWidget):
    """Watches `SheetState`; a press sets the point asked for, a drag moves one that is there."""

    shown = pyqtSignal()

    def __init__(self, state: SheetState, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMinimumSize(320, 320)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Photo with the corners of its sheet")
        self._state, self._tokens = state, tokens
        self._levels: tuple[QImage, ...] = ()
        self.viewport = Viewport(state.picture.width, state.picture.height)
        self.held: int | None = None
        self._dragging = self._adding = False
        self._pointer: QPointF | None = None
        state.changed.connect(self.update)

    def show_levels(self, levels: tuple[QImage, ...]) -> None:
        """Take the picture, full size first."""
        self._levels = levels
        self.update()

    def at(self, index: int) -> QPointF:
        """Where a point lies, widget px."""
        return self.viewport.to_board(*self._state.points[index])

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        inner = QSizeF(self.width() - 2 * _ARM, self.height() - 2 * _ARM)
        fitted = self.viewport.fitted(inner)
        self.viewport = fitted.panned(QPointF(_ARM, _ARM))

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHints(
            QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform
        )
        painter.fillRect(self.rect(), self._tokens.colour("slip"))
        self._picture(painter)
        points = [self.at(i) for i in range(len(self._state.points))]
        self._outline(painter, points)
        for i, place in enumerate(points):
            self._handle(painter, place, held=i == self.held)
        self._loupe(painter)
        painter.end()

    def _picture(self, painter: QPainter, magnified: float = 1.0) -> None:
        wide = magnified * self.viewport.zoom * self.viewport.width * self.devicePixelRatioF()
        image = level_of(self._levels, wide)
        if image is not None:
            paint_laid(painter, self.viewport, image)

    def _outline(self, painter: QPainter, points: list[QPointF]) -> None:
        """What lies outside the sheet is veiled; its edge is one thin line over a light one."""
        closed = len(points) == 4
        if closed:
            outside = self.viewport.outline()
            sheet = QPainterPath()
            sheet.addPolygon(self._edge())
            painter.fillPath(outside - sheet, LIGHT.colour("ink", 0.45))
        for width, role in ((3.2, "veil"), (1.2, "ink")):
            painter.setPen(QPen(LIGHT.colour(role), width))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            if closed:
                painter.drawPolygon(self._edge())
            elif len(points) > 1:
                origin = points[0]
                for place in points[1:]:
                    painter.drawLine(origin, place)
                    origin = place if self._state.way == "corners" else points[0]

    def _edge(self) -> QPolygonF:
        """The sheet's edge as it curls, widget px."""
        edge = outline(np.array(self._state.points, np.float64), self._state.bends)
        return QPolygonF([self.viewport.to_board(x, y) for x, y in edge.tolist()])

    def _handle(self, painter: QPainter, place: QPointF, *, held: bool) -> None:
        """Two short arms that leave the very corner free to see."""
        role = "red" if held else "ink"
        for width, colour in ((5.0, "veil"), (2.2, role)):
            painter.setPen(QPen(LIGHT.colour(colour), width))
            for dx, dy in ((1, 0), (-1, 0), (0, 1), (0, -1)):
                way = QPointF(dx, dy)
                painter.drawLine(place + 4.0 * way, place + _ARM * way)

    def _focus(self) -> QPointF | None:
        if self.held is not None and self.held < len(self._state.points):
            return self.at(self.held)
        return self._pointer if self._state.asked is not None else None

    def _loupe(self, painter: QPainter) -> None:
        focus = self._focus()
        if focus is None or not self._levels:
            return
        away = _LOUPE + 34.0
        x = focus.x() + (away if focus.x() < self.width() / 2 else -away)
        y = focus.y() + (away if focus.y() < self.height() / 2 else -away)
        centre = QPointF(
            min(max(x, _LOUPE + 3), self.width() - _LOUPE - 3),
            min(max(y, _LOUPE + 3), self.height() - _LOUPE - 3),
        )
        circle = QPainterPath()
        circle.addEllipse(centre, _LOUPE, _LOUPE)
        painter.save()
        painter.setClipPath(circle)
        painter.fillPath(circle, self._tokens.colour("slip"))
        painter.translate(centre)
        painter.scale(_MAGNIFY, _MAGNIFY)
        painter.translate(-focus)
        self._picture(painter, _MAGNIFY)
        if len(self._state.points) == 4:
            painter.setPen(QPen(LIGHT.colour("red"), 1.0 / _MAGNIFY))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolygon(self._edge())
        painter.restore()
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for width, role in ((4.0, "veil"), (1.6, "ink")):
            painter.setPen(QPen(LIGHT.colour(role), width))
            painter.drawEllipse(centre, _LOUPE, _LOUPE)

    # Pointer and keys

    def _hit(self, at: QPointF) -> int | None:
        near = [((self.at(i) - at).manhattanLength(), i) for i in range(len(self._state.points))]
        within = [one for one in near if one[0] < _REACH]
        return min(within)[1] if within else None

    def _spread(self) -> float:
        # Under the loupe a corner is placed as finely as the loupe shows it.
        return DEFAULT_SPREAD_PX / (self.viewport.zoom * _MAGNIFY)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self.setFocus()
        hit = self._hit(event.position())
        if hit is not None:
            self.held, self._dragging = hit, True
        elif self._state.asked is not None:
            place = self.viewport.to_image(event.position())
            self._state.add(place.x(), place.y(), self._spread())
            self.held, self._dragging = len(self._state.points) - 1, True
            self._adding = True
        else:
            self.held = None
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._pointer = event.position()
        if self._dragging and self.held is not None:
            place = self.viewport.to_image(event.position())
            self._state.move(self.held, place.x(), place.y(), self._spread())
        over = self._hit(event.position()) is not None
        shape = Qt.CursorShape.OpenHandCursor if over else Qt.CursorShape.ArrowCursor
        asked = self._state.asked is not None
        self.setCursor(Qt.CursorShape.CrossCursor if asked and not over else shape)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._dragging = False
        if self._adding and self._state.asked is None:
            self.shown.emit()
        self._adding = False

    def leaveEvent(self, event: object) -> None:
        self._pointer = None
        self.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        count = len(self._state.points)
        if key in _STEPS and self.held is not None and self.held < count:
            far = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            step = (5.0 if far else 0.5) / self.viewport.zoom
            x, y = self._state.points[self.held]
            dx, dy = _STEPS[key]
            self._state.move(self.held, x + dx * step, y + dy * step, self._spread())
        elif key == Qt.Key.Key_N and count:
            self.held = 0 if self.held is None else (self.held + 1) % count
            self.update()
        else:
            event.ignore()
