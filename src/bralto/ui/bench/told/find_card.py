"""How to find the mark that is asked for: where it lies on a schematic body, and in words."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.study.two_boards import BOARDS
from bralto.core.views.diagrams import Diagram, diagram_of
from bralto.ui.bench.told.off_list import OffList
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session.moment import Moment
from bralto.ui.theme.paint import text, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["FindCard"]

_WIDE, _HIGH, _PAD = 204, 276, 12.0
_WORDS = 92.0


class FindCard(QWidget):
    """Lies where it hides nothing that is asked about: over the list where that is unfolded, else
    over the board that is not asked about; the pointer goes through it."""

    def __init__(
        self,
        study: OpenStudy,
        boards: tuple[QWidget, QWidget],
        off: OffList,
        tokens: Tokens,
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setAccessibleName("How to find it")
        self.resize(_WIDE, _HIGH)
        self.hide()
        self._study, self._tokens = study, tokens
        self._boards, self._off = boards, off
        self.on = False
        study.changed.connect(self._on_change)

    def release(self) -> None:
        """Let go of the study."""
        self._study.changed.disconnect(self._on_change)

    def toggle(self) -> None:
        """Show it for each mark that is asked for, or never."""
        self.on = not self.on
        self._follow()
        self.lie()

    def _on_change(self, before: Moment, after: Moment) -> None:
        was, now = before.session, after.session
        if self.on and (now.step, now.selected) != (was.step, was.selected):
            self._follow()

    @property
    def key(self) -> str | None:
        """The landmark that is shown: the one in hand, or the one that is asked for."""
        step = self._study.step
        return self._study.session.selected or (step.key if step is not None else None)

    def _follow(self) -> None:
        mark = self._study.view.landmark(self.key or "")
        self.setVisible(self.on and mark is not None)
        if mark is not None:
            self.setAccessibleDescription(f"{mark.label}: {mark.how}")
        self.update()

    def lie(self) -> None:
        """In the lower right corner of what it may hide, as the bench is laid now."""
        other = self._boards[1 - BOARDS.index(self._study.session.board)]
        part = other if self._off.folded or not self._off.isVisible() else self._off
        bench = self.parentWidget()
        assert bench is not None
        corner = part.mapTo(bench, part.rect().bottomRight())
        self.move(corner.x() - self.width() + 1, corner.y() - self.height() + 1)
        self.raise_()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        mark = self._study.view.landmark(self.key or "")
        if mark is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        area = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        painter.setBrush(tokens.colour("slip"))
        painter.drawRoundedRect(area, 4.0, 4.0)
        diagram = diagram_of(self._study.view)
        room = QRectF(_PAD, _PAD, self.width() - 2 * _PAD, self.height() - _WORDS - 2 * _PAD)
        if diagram is not None and mark.key in diagram.places:
            _draw(painter, diagram, mark.key, room, tokens)
        y = self.height() - _WORDS + 10.0
        bold, note = font(Size.NOTE, bold=True), font(Size.FINE)
        for line in wrapped(mark.label, bold, self.width() - 2 * _PAD)[:2]:
            text(painter, _PAD, y, line, bold, tokens.colour("ink"))
            y += 18.0
        for line in wrapped(mark.how, note, self.width() - 2 * _PAD)[:3]:
            text(painter, _PAD, y, line, note, tokens.colour("ink2"))
            y += 16.0
        painter.end()


def _draw(painter: QPainter, diagram: Diagram, key: str, room: QRectF, tokens: Tokens) -> None:
    """The body whole, all its landmarks faint, the one that is meant in chalk."""
    xs = [x for x, _ in (*diagram.outline, *diagram.places.values())]
    ys = [y for _, y in (*diagram.outline, *diagram.places.values())]
    wide, tall = max(xs) - min(xs), max(ys) - min(ys)
    scale = min(room.width() / wide, room.height() / tall)
    middle = QPointF(0.5 * (min(xs) + max(xs)), 0.5 * (min(ys) + max(ys)))

    def at(x: float, y: float) -> QPointF:
        return room.center() + scale * (QPointF(x, y) - middle)

    painter.setBrush(tokens.colour("sheet"))
    painter.setPen(QPen(tokens.colour("ink2"), 1.4))
    painter.drawPath(_smooth([at(x, y) for x, y in diagram.outline]))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(tokens.colour("hair"))
    for x, y in diagram.places.values():
        painter.drawEllipse(at(x, y), 1.6, 1.6)
    place = at(*diagram.places[key])
    painter.setBrush(tokens.colour("red"))
    painter.drawEllipse(place, 3.4, 3.4)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(tokens.colour("red"), 1.6))
    painter.drawEllipse(place, 8.0, 8.0)


def _smooth(corners: list[QPointF]) -> QPainterPath:
    """A closed curve through the middles of all sides, bent towards the corners."""
    middles = [(a + b) / 2.0 for a, b in zip(corners, corners[1:] + corners[:1], strict=True)]
    path = QPainterPath(middles[-1])
    for corner, end in zip(corners, middles, strict=True):
        path.quadTo(corner, end)
    path.closeSubpath()
    return path
