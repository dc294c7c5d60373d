"""The span rail: how far marks stand from the plumb line, hung below their board."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from bralto.core.measures.readings import Reading
from bralto.core.measures.verdict_names import Verdict
from bralto.core.study.two_boards import Board
from bralto.core.words.wording import error_text
from bralto.ui.boards.board_view import head_px
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import pointing
from bralto.ui.session.moment import Moment
from bralto.ui.theme.layer import Layer
from bralto.ui.theme.paint import Align, rule, text, text_width, triangle
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heard import Heard

__all__ = ["Rail"]

_TAPE = 22.0
_ROW = 19.0
_DIM = 0.4
_EYES = 5


class Rail(QWidget):
    """Zero at the plumb bob; stems hang to names. On the drawing a dotted stem is the reference."""

    def __init__(
        self, study: OpenStudy, board: PictureBoard, tokens: Tokens, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self.setAccessibleName(f"Distances from the plumb line, {board.accessibleName()}")
        self.heard = Heard(self, "Distances from plumb")
        self._study, self._board, self._tokens = study, board, tokens
        self.spots: list[tuple[QRectF, str]] = []
        self._layer = Layer(self)
        study.changed.connect(self._on_change)
        board.viewed.connect(self.update)

    def release(self) -> None:
        """Let go of the study."""
        self._study.changed.disconnect(self._on_change)

    def _on_change(self, before: Moment, after: Moment) -> None:
        if after.dragging and after.examination is before.examination:
            return  # it follows with the figures
        in_hand = after.session.in_hand
        if in_hand is not None and in_hand.board != self._board.board == Board.REFERENCE:
            return  # what is seen stands where it stood
        self.update()

    def _px_per_head(self) -> float | None:
        board = self._board.board
        px = head_px(self._study.assessment, self._study.picture(board), board)
        return None if px is None else px * self._board.viewport.zoom

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.spots = []
        plumb, scale = self._board.at(self._study.view.plumb), self._px_per_head()
        zero = plumb.x() if plumb else None
        eye = self.eye_width()
        tape = self._layer.pixmap((zero, scale, eye), lambda p: self._tape(p, zero, scale, eye))
        painter.drawPixmap(0, 0, tape)
        if plumb is None or scale is None:
            words = f"mark the {self._study.view.point_label(self._study.view.plumb)} for the rail"
            if self._study.undrawn:
                words = "figures from plumb stand here once there is a drawing"
            if self._board.board == Board.REFERENCE and self._study.imagined:
                words = "a canon has no plumb line"
                if self._study.from_life:
                    words = "plumbs stand among the sightings"
            face = font(Size.FINE, italic=True)
            text(painter, 2.0, _TAPE + 22.0, words, face, self._tokens.colour("ink2"))
        else:
            self._stems(painter, plumb.x(), scale)
            if eye:
                self._across(painter)
        painter.end()

    def _across(self, painter: QPainter) -> None:
        """How many eyes wide the face is."""
        found = self._study.assessment.reading("ratio.face_eyes")
        drawn = self._board.board == Board.DRAWING
        value = None if found is None else found.drawing if drawn else found.reference
        if found is None or value is None:
            return
        role = self._tokens.verdict(found.verdict) if drawn else "ink"
        face, words = font(Size.FINE, bold=True), f"eyes across the face: {value:.1f}"
        at = float(self.width()) - 2.0
        below = float(self.height()) - 4.0
        text(painter, at, below, words, face, self._tokens.colour(role), Align.AlignRight)

    def eye_width(self) -> float | None:
        """Width of an eye on this board, the mean of both, in heads; None where none is drawn."""
        if not self._study.view.axis:
            return None
        found = [self._study.assessment.reading(f"span.eye_{one}") for one in "rl"]
        widths = [getattr(one, self._board.board) for one in found if one is not None]
        return None if len(widths) < 2 or None in widths else 0.5 * sum(widths)

    def _tape(
        self, painter: QPainter, zero: float | None, scale: float | None, eye: float | None
    ) -> None:
        tokens = self._tokens
        painter.fillRect(QRectF(0, 0, self.width(), _TAPE), tokens.colour("tape"))
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        painter.drawLine(QPointF(0, _TAPE), QPointF(self.width(), _TAPE))
        if zero is None or scale is None:
            return
        if eye:
            self._eyes(painter, zero, eye * scale)
        else:
            self._heads(painter, zero, scale)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, True)
        painter.setBrush(tokens.colour("ink"))
        painter.setPen(Qt.PenStyle.NoPen)
        bob = [(-4, -1), (4, -1), (5, 8), (0, 18), (-5, 8)]
        painter.drawPolygon(QPolygonF([QPointF(zero + x, y) for x, y in bob]))

    def _eyes(self, painter: QPainter, zero: float, wide: float) -> None:
        """Five eyes across, the middle one on the centre line, each as wide as this face's own."""
        tokens, face = self._tokens, font(Size.FINE)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        painter.setPen(QPen(tokens.colour("ink2"), 1.0))
        for i in range(_EYES + 1):
            x = zero + (i - 0.5 * _EYES) * wide
            painter.drawLine(QPointF(x, 0.0), QPointF(x, 14.0))
            middle = x + 0.5 * wide
            if i < _EYES and i != _EYES // 2 and 8.0 < middle < self.width() - 8.0:
                colour = tokens.colour("ink2")
                text(painter, middle, _TAPE - 4.0, str(i + 1), face, colour, Align.AlignHCenter)

    def _heads(self, painter: QPainter, zero: float, scale: float) -> None:
        """Heads from the plumb line."""
        tokens = self._tokens
        # Tenths of a head where there is room for them, else halves.
        parts = 10 if scale / 10 >= 5.0 else 2
        if scale / parts < 3.0:
            parts = 1
        first = int(-zero / scale * parts) - 1
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        hair, dark = QPen(tokens.colour("hair"), 1.0), QPen(tokens.colour("ink2"), 1.0)
        for i in range(first, first + int(self.width() / scale * parts) + 3):
            x, whole = zero + i * scale / parts, i % parts == 0
            painter.setPen(dark if whole else hair)
            painter.drawLine(QPointF(x, 0.0), QPointF(x, 9.0 if whole else 5.0))
            if whole and i and 8.0 < x < self.width() - 8.0:
                number, face = str(abs(i // parts)), font(Size.FINE)
                colour = tokens.colour("ink2")
                text(painter, x, _TAPE - 2.0, number, face, colour, Align.AlignHCenter)

    def _stems(self, painter: QPainter, zero: float, scale: float) -> None:
        readings = [
            (key, reading)
            for key in self._study.rails
            if (reading := self._study.assessment.reading(f"offset.{key}")) is not None
        ]
        drawn = self._board.board == Board.DRAWING
        way = -1.0 if self._board.viewport.mirrored else 1.0
        # The worst are named first; what finds no room keeps a short stem without a name.
        readings.sort(key=lambda kr: -kr[1].severity)
        ends: list[list[tuple[float, float]]] = [
            [] for _ in range(max(1, int((self.height() - _TAPE - 8) / _ROW)))
        ]
        for key, reading in readings:
            value = reading.drawing if drawn else reading.reference
            if value is None:
                continue
            x = zero + way * scale * value
            if 0.0 <= x <= self.width():
                seen_x = zero + way * scale * (reading.reference or 0.0)
                self._stem(painter, key, reading, x, seen_x, ends)

    def _stem(
        self,
        painter: QPainter,
        key: str,
        reading: Reading,
        x: float,
        seen_x: float,
        ends: list[list[tuple[float, float]]],
    ) -> None:
        tokens, drawn = self._tokens, self._board.board == Board.DRAWING
        role = tokens.verdict(reading.verdict) if drawn else "ink"
        off = reading.verdict.off
        figure = (
            error_text(reading, uncertainty=False, unit=False)
            if drawn and off
            else ("" if drawn else f"{abs(reading.reference or 0.0):.2f}")
        )
        words = f"{self._study.view.point_label(key)} {figure}".strip()
        face = font(Size.FINE, bold=drawn and off)
        wide = text_width(words, face) + 12.0
        place = self._free(x, wide, ends)
        row, left = place if place is not None else (-0.5, x)
        y = _TAPE + 14.0 + row * _ROW
        painter.setOpacity(1.0 if self._study.session.pointed in (None, key) else _DIM)
        colour = tokens.colour(role)
        rule(painter, QPointF(x, _TAPE), QPointF(x, y), QPen(colour, 1.2))
        if drawn and off:
            dotted = QPen(tokens.colour("ink2"), 1.0, Qt.PenStyle.DotLine)
            rule(painter, QPointF(seen_x, 2.0), QPointF(seen_x, y), dotted)
            triangle(painter, QPointF(x, y), "right" if x > seen_x else "left", colour, 4.5)
        else:
            painter.setPen(QPen(colour, 1.4))
            hollow = drawn and reading.verdict == Verdict.CANNOT_TELL
            painter.setBrush(Qt.BrushStyle.NoBrush if hollow else colour)
            painter.drawEllipse(QPointF(x, y), 2.8, 2.8)
        if place is None:
            wide = 4.0
        else:
            start = x + 8.0 if left >= x else left + 4.0
            text(painter, start, y + 5.0, words, face, colour)
        painter.setOpacity(1.0)
        self.spots.append((QRectF(min(left, x - 6.0), y - 9.0, wide + 8.0, 18.0), key))

    def _free(
        self, x: float, wide: float, ends: list[list[tuple[float, float]]]
    ) -> tuple[int, float] | None:
        """The first row and side of the stem where a label of that width meets no other."""
        for row, taken in enumerate(ends):
            for left in (x + 4.0, x - wide - 4.0):
                if left < 0.0 or left + wide > self.width():
                    continue
                span = (min(left, x - 6.0), max(left + wide, x + 6.0))
                if all(span[1] < a or span[0] > b for a, b in taken):
                    taken.append(span)
                    for above in ends[:row]:  # the stem passes there
                        above.append((x - 3.0, x + 3.0))
                    return row, left
            if any(a < x < b for a, b in taken):
                return None  # a stem must not run through a name
        return None

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        at = event.position()
        self._study.apply(
            pointing.point_at, next((key for area, key in self.spots if area.contains(at)), None)
        )

    def leaveEvent(self, event: object) -> None:
        self._study.apply(pointing.point_at, None)
