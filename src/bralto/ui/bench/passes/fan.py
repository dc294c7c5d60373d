"""The tilt fan: level is right of the pivot; a needle for what is seen, one for what is drawn."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.measures.kinds import fold_degrees
from bralto.core.measures.readings import Reading
from bralto.core.words.phrases import signed
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session.moment import Moment
from bralto.ui.theme.paint import Align, elided, text, text_width, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heard import Heard
from bralto.ui.widgets.label_spreading import spread_out

__all__ = ["TiltFan"]

_MOST = 4  # needles that can be told apart
_ROW, _LINE = 19.0, 15.0
_PIVOT, _DRAWN = 20.0, 62.0  # px from the left to the pivot, from the right to what is seen
_NARROW = 300.0
"""Width, px, below which the needles are shorter, so that their names have room."""


def _degrees(tilt: float) -> str:
    return signed(fold_degrees(tilt), 0).removeprefix("+") + "°"


class TiltFan(QWidget):
    """Shows the tilts of the lines near level, the worst first; limbs are in the list."""

    def __init__(self, study: OpenStudy, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName("Fan of tilts")
        self.heard = Heard(self, "Fan of tilts")
        self._study, self._tokens = study, tokens
        study.changed.connect(self._on_change)
        self._speak()

    def release(self) -> None:
        """Let go of the study."""
        self._study.changed.disconnect(self._on_change)

    def _on_change(self, before: Moment, after: Moment) -> None:
        if after.listed is not before.listed:
            self._speak()
        self.update()

    def _speak(self) -> None:
        said = (
            f"{r.spec.label}: seen {_degrees(r.reference or 0.0)}, "
            f"drawn {_degrees(r.drawing) if r.drawing is not None else 'not yet'}"
            for r in self.shown()
        )
        self.heard.say(said)

    def shown(self) -> tuple[Reading, ...]:
        """The tilts in the fan, from the highest needle to the lowest."""
        near_level = [
            r
            for r in self._study.assessment.readings
            if r.spec.kind == "tilt" and r.spec.posed and r.reference is not None
            if abs(fold_degrees(r.reference)) < 45.0
        ]
        worst = sorted(near_level, key=lambda r: -r.severity)[:_MOST]
        return tuple(sorted(worst, key=lambda r: -fold_degrees(r.reference or 0.0)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        readings = self.shown()
        top = self._heading(painter, readings)
        if readings and self.are_listed(readings):
            self._list(painter, readings, top)
        elif readings:
            self._fan(painter, readings)
        painter.end()

    def _heading(self, painter: QPainter, readings: tuple[Reading, ...]) -> float:
        """What the lines are held against, and what the figures at the right are; gives the
        baseline of its last line, px."""
        title, note, tokens = font(Size.TITLE, bold=True), font(Size.NOTE), self._tokens
        across = "Across the centre line" if self._study.view.axis else "Against level"
        room = self.width() - 4.0 - _DRAWN - text_width("seen ", note) if readings else self.width()
        wide = base = 0.0
        for number, line in enumerate(wrapped(across, title, room)):
            base = 18.0 + _ROW * number
            wide = text(painter, 0.0, base, line, title, tokens.colour("ink"))
        if not readings:
            words = "no line has both its ends yet"
            text(painter, 10.0 + wide, base, words, note, tokens.colour("ink2"))
            return base
        edge = self.width() - 4.0
        for at, words in ((edge - _DRAWN, "seen"), (edge, "drawn")):
            text(painter, at, 18.0, words, note, tokens.colour("ink2"), Align.AlignRight)
        return base

    def are_listed(self, readings: tuple[Reading, ...]) -> bool:
        """Whether the column is too narrow for needles: beside them a word of a name would have no
        room."""
        face = font(Size.NOTE)
        words = (word for r in readings for word in r.spec.label.split())
        return max(text_width(word, face) for word in words) > self._room_beside(readings)

    def _room_beside(self, readings: tuple[Reading, ...]) -> float:
        """Px that a name has between the needles and its figures."""
        return self._room_from(readings, _PIVOT + self._radius() + 14.0)

    def _room_from(self, readings: tuple[Reading, ...], left: float) -> float:
        """Px from ``left`` to what is seen of the lines."""
        bold = font(Size.NOTE, bold=True)
        wide = max(text_width(_degrees(r.reference or 0.0), bold) for r in readings)
        return self.width() - 4.0 - _DRAWN - wide - left - 10.0

    def _radius(self) -> float:
        share = 0.38 if self.width() > _NARROW else 0.29
        return max(60.0, min(self.width() * share, 190.0))

    def _list(self, painter: QPainter, readings: tuple[Reading, ...], top: float) -> None:
        """The lines below one another, as many as have room."""
        room, y = self._room_from(readings, 0.0), top + _ROW + 2.0
        for reading in readings:
            name = wrapped(reading.spec.label, font(Size.NOTE), room)
            below = y + _LINE * (len(name) - 1)
            if below > self.height():
                return
            self._name(painter, reading, name, QPointF(0.0, y), y)
            y = below + _ROW + 3.0

    def _fan(self, painter: QPainter, readings: tuple[Reading, ...]) -> None:
        """Needles from one pivot, with their names at the right."""
        pivot = QPointF(_PIVOT, 24.0 + (self.height() - 30.0) / 2.0)
        radius = self._radius()
        drawn = [v for r in readings for v in (r.reference, r.drawing) if v is not None]
        steep = max(abs(fold_degrees(v)) for v in (*drawn, 4.0))
        # Opened to the steepest needle: 'stretch' turns a true degree into a drawn one.
        room = math.degrees(math.atan2((self.height() - 34.0) / 2.0, radius))
        stretch = min(room / steep, 6.0)
        self._scale(painter, pivot, radius, steep, stretch)
        for reading in readings:
            self._needles(painter, pivot, radius, reading, stretch)
        self._names(painter, readings, pivot, radius, stretch)

    @staticmethod
    def _tip(pivot: QPointF, radius: float, drawn_degrees: float) -> QPointF:
        turn = math.radians(drawn_degrees)
        return pivot + QPointF(radius * math.cos(turn), -radius * math.sin(turn))

    def _scale(
        self, painter: QPainter, pivot: QPointF, radius: float, steep: float, stretch: float
    ) -> None:
        tokens = self._tokens
        span = steep * stretch
        sector = QPainterPath(pivot)
        box = QRectF(pivot.x() - radius, pivot.y() - radius, 2.0 * radius, 2.0 * radius)
        sector.arcTo(box, -span, 2.0 * span)
        sector.closeSubpath()
        painter.fillPath(sector, tokens.colour("slip"))
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        step = 1 if steep * stretch / steep > 2.0 and steep <= 12 else 5
        for degree in range(-int(steep), int(steep) + 1, step):
            inner = radius - (7.0 if degree % 5 == 0 else 4.0)
            painter.drawLine(
                self._tip(pivot, inner, degree * stretch),
                self._tip(pivot, radius, degree * stretch),
            )
        painter.setPen(QPen(tokens.colour("hair"), 1.0, Qt.PenStyle.DotLine))
        painter.drawLine(pivot, self._tip(pivot, radius + 6.0, 0.0))

    def _needles(
        self, painter: QPainter, pivot: QPointF, radius: float, reading: Reading, stretch: float
    ) -> None:
        tokens = self._tokens
        assert reading.reference is not None
        seen = fold_degrees(reading.reference)
        if reading.drawing is not None:
            drawn = fold_degrees(reading.drawing)
            role = tokens.verdict(reading.verdict)
            wedge = QPainterPath(pivot)
            reach = 0.86 * radius
            box = QRectF(pivot.x() - reach, pivot.y() - reach, 2.0 * reach, 2.0 * reach)
            wedge.arcTo(box, seen * stretch, (drawn - seen) * stretch)
            wedge.closeSubpath()
            painter.fillPath(wedge, tokens.colour(role, 0.18))
            pen = QPen(tokens.colour(role), 2.6)
            if role == "ochre":
                pen.setStyle(Qt.PenStyle.DashLine)
            painter.setPen(pen)
            painter.drawLine(pivot, self._tip(pivot, reach, drawn * stretch))
        painter.setPen(QPen(tokens.colour("ink"), 1.6))
        painter.drawLine(pivot, self._tip(pivot, radius + 4.0, seen * stretch))
        painter.setBrush(tokens.colour("ink"))
        painter.drawEllipse(pivot, 3.5, 3.5)

    def _names(
        self,
        painter: QPainter,
        readings: tuple[Reading, ...],
        pivot: QPointF,
        radius: float,
        stretch: float,
    ) -> None:
        face, left = font(Size.NOTE), pivot.x() + radius + 14.0
        seen_at = [fold_degrees(r.reference or 0.0) for r in readings]
        tips = [self._tip(pivot, radius + 4.0, turn * stretch) for turn in seen_at]
        room = self._room_beside(readings)
        names = [wrapped(r.spec.label, face, room) for r in readings]
        beyond = 0.5 * _LINE * (max(map(len, names)) - 1)  # of the tallest name, above and below
        top, low, apart = 36.0 + beyond, self.height() - 12.0 - beyond, _ROW + 2.0 * beyond
        if apart * (len(names) - 1) > low - top:  # there is no room for several lines of each
            names = [[elided(r.spec.label, face, room)] for r in readings]
            top, low, apart = 36.0, self.height() - 12.0, _ROW
        places = spread_out([tip.y() for tip in tips], apart, top, low)
        for reading, tip, name, y in zip(readings, tips, names, places, strict=True):
            painter.setOpacity(self._opacity(reading))
            painter.setPen(QPen(self._tokens.colour("hair"), 1.0))
            painter.drawLine(tip, QPointF(left, y))
            first = y + 5.0 - 0.5 * _LINE * (len(name) - 1)
            self._name(painter, reading, name, QPointF(left + 4.0, first), y + 5.0)

    def _opacity(self, reading: Reading) -> float:
        """Less where another mark is pointed at."""
        return 1.0 if self._study.session.pointed in (None, *reading.spec.points) else 0.4

    def _name(
        self, painter: QPainter, reading: Reading, name: list[str], at: QPointF, figures: float
    ) -> None:
        """Lines of a name from a baseline on, and its figures on another."""
        tokens, edge = self._tokens, self.width() - 4.0
        bold, right = font(Size.NOTE, bold=True), Align.AlignRight
        painter.setOpacity(self._opacity(reading))
        for number, line in enumerate(name):
            y = at.y() + _LINE * number
            text(painter, at.x(), y, line, font(Size.NOTE), tokens.colour("ink"))
        seen = _degrees(reading.reference or 0.0)
        text(painter, edge - _DRAWN, figures, seen, bold, tokens.colour("ink"), right)
        if reading.drawing is not None:
            colour = tokens.colour(tokens.verdict(reading.verdict))
            text(painter, edge, figures, _degrees(reading.drawing), bold, colour, right)
        painter.setOpacity(1.0)
