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
        tokens, readings = self._tokens, self.shown()
        title = font(Size.TITLE, bold=True)
        note = font(Size.NOTE)
        across = "Across the centre line" if self._study.view.axis else "Against level"
        # "seen" stands over the figures at the right.
        room = self.width() - 4.0 - 62.0 - text_width("seen ", note) if readings else self.width()
        shown = elided(across, title, room)
        wide = text(painter, 0.0, 18.0, shown, title, tokens.colour("ink"))
        if not readings:
            words = "no line has both its ends yet"
            text(painter, 10.0 + wide, 18.0, words, note, tokens.colour("ink2"))
            painter.end()
            return
        edge = self.width() - 4.0
        for at, words in ((edge - 62.0, "seen"), (edge, "drawn")):
            text(painter, at, 18.0, words, note, tokens.colour("ink2"), Align.AlignRight)
        pivot = QPointF(20.0, 24.0 + (self.height() - 30.0) / 2.0)
        share = 0.38 if self.width() > _NARROW else 0.29
        radius = max(60.0, min(self.width() * share, 190.0))
        drawn = [v for r in readings for v in (r.reference, r.drawing) if v is not None]
        steep = max(abs(fold_degrees(v)) for v in (*drawn, 4.0))
        # Opened to the steepest needle: 'stretch' turns a true degree into a drawn one.
        room = math.degrees(math.atan2((self.height() - 34.0) / 2.0, radius))
        stretch = min(room / steep, 6.0)
        self._scale(painter, pivot, radius, steep, stretch)
        for reading in readings:
            self._needles(painter, pivot, radius, reading, stretch)
        self._names(painter, readings, pivot, radius, stretch, edge)
        painter.end()

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
        edge: float,
    ) -> None:
        tokens, face = self._tokens, font(Size.NOTE)
        bold, right = font(Size.NOTE, bold=True), Align.AlignRight
        left, end = pivot.x() + radius + 14.0, edge - 62.0
        seen_at = [fold_degrees(r.reference or 0.0) for r in readings]
        tips = [self._tip(pivot, radius + 4.0, turn * stretch) for turn in seen_at]
        wide = max(text_width(_degrees(r.reference or 0.0), bold) for r in readings)
        room = end - wide - left - 10.0
        names = [wrapped(r.spec.label, face, room) for r in readings]
        beyond = 0.5 * _LINE * (max(map(len, names)) - 1)  # of the tallest name, above and below
        top, low, apart = 36.0 + beyond, self.height() - 12.0 - beyond, _ROW + 2.0 * beyond
        if apart * (len(names) - 1) > low - top:  # there is no room for several lines of each
            names = [[r.spec.label] for r in readings]
            top, low, apart = 36.0, self.height() - 12.0, _ROW
        places = spread_out([tip.y() for tip in tips], apart, top, low)
        for reading, tip, name, y in zip(readings, tips, names, places, strict=True):
            lit = self._study.session.pointed in (None, *reading.spec.points)
            painter.setOpacity(1.0 if lit else 0.4)
            painter.setPen(QPen(tokens.colour("hair"), 1.0))
            painter.drawLine(tip, QPointF(left, y))
            seen = _degrees(reading.reference or 0.0)
            text(painter, end, y + 5.0, seen, bold, tokens.colour("ink"), right)
            first = y + 5.0 - 0.5 * _LINE * (len(name) - 1)
            for number, line in enumerate(name):
                at, words = first + _LINE * number, elided(line, face, room)
                text(painter, left + 4.0, at, words, face, tokens.colour("ink"))
            if reading.drawing is not None:
                drawn = _degrees(reading.drawing)
                colour = tokens.colour(tokens.verdict(reading.verdict))
                text(painter, edge, y + 5.0, drawn, bold, colour, right)
            painter.setOpacity(1.0)
