"""The ladder: a slope graph of heights between the two boards, rung by rung at true scale."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from bralto.core.measures.verdict_names import Verdict
from bralto.core.study.two_boards import BOARDS
from bralto.core.tolerances import COVERAGE
from bralto.core.words.phrases import plain
from bralto.core.words.wording import error_text
from bralto.ui.bench.scales.rungs import Station, face_bands, points_up, stations
from bralto.ui.boards.board import point_on_board
from bralto.ui.boards.overlays.marks_and_loupe import direction_of
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import pointing
from bralto.ui.session.moment import Moment
from bralto.ui.theme.layer import Layer
from bralto.ui.theme.paint import Align, elided, rule, text, text_width, triangle, verdict_mark
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heard import Heard
from bralto.ui.widgets.label_spreading import spread_out

__all__ = [
    "BOTTOM",
    "TOP",
    "Ladder",
]

TOP, BOTTOM = 24.0, 22.0
"""Air above the crown and below the lowest sole, px; the boards align to it."""

_GAP = 17.0  # px that labels need
_STAFF = 9.0
_STANDING = 8.0
"""Heads of a standing figure."""

_BELOW_CHIN = 0.12
"""Of a head, how much more is shown below the chin, heads."""

_ACROSS = 0.92
"""Share of a board's width that the marks may take."""

_ABOVE = 0.3
"""Heads that are shown above the uppermost mark of a figure where that is not its crown."""

_LEAST_NAME = 0.9
"""Share of a rung's name that must be read beside its figure."""

_AT_EDGE = 3.0
"""Air between a name and the ladder's edge, px."""

_DIM = 0.4


class Ladder(QWidget):
    """Watches the study; its scale is its own and never moves with the pictures."""

    def __init__(
        self,
        study: OpenStudy,
        boards: tuple[PictureBoard, PictureBoard],
        tokens: Tokens,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self.setMinimumWidth(200)
        self.setAccessibleName("Ladder of heights")
        self.heard = Heard(self, "Heights")
        self._study, self._boards, self._tokens = study, boards, tokens
        self.labels: dict[str, float] = {}
        self._layer = Layer(self)
        self._read()
        study.changed.connect(self._on_change)
        for board in boards:
            board.viewed.connect(self.update)

    def release(self) -> None:
        """Let go of the study."""
        self._study.changed.disconnect(self._on_change)

    def _on_change(self, before: Moment, after: Moment) -> None:
        if after.examination is not before.examination:
            self._read()
        elif after.dragging:
            return  # it follows with the figures
        self.update()

    def _read(self) -> None:
        """Take rungs and their extent from the study once a change, not once a label."""
        self.rungs = stations(self._study)
        known = [h for one in self.rungs for h in (one.reference, one.drawing) if h is not None]
        # Before anything is known: as many heads as such a picture usually holds.
        view = self._study.view
        standing = view.size == "figure" and view.unit == "head"
        usual = _STANDING if standing else view.heads
        if standing:  # arms may reach above the crown, and who bends has a back that is higher
            known = self._heights()
        # A hand may point up: what is counted from is its lower end then.
        self._top = min([0.0, *known])
        if standing and self._top < 0.0:
            self._top -= _ABOVE
        tallest = max(known, default=0.0) - self._top
        self._upward = points_up(view, self.rungs)
        self._heads = tallest if tallest > 0.6 * usual else usual
        if view.axis:
            self._heads += _BELOW_CHIN
        self._across = self._reach()

    def _heights(self) -> list[float]:
        """Of all marks of both figures, heads below the crown."""
        return [
            height
            for one in self._study.assessment.readings
            if one.spec.kind == "height"
            for height in (one.reference, one.drawing)
            if height is not None
        ]

    def _reach(self) -> float:
        """Heads between the outermost marks, of the wider of both pictures."""
        reaches = []
        for side in BOARDS:
            away = [
                value
                for one in self._study.assessment.readings
                if one.spec.kind == "offset" and (value := getattr(one, side)) is not None
            ]
            reaches.append(max(away, default=0.0) - min(away, default=0.0))
        return max(reaches)

    # Geometry

    def heads(self) -> float:
        """Heads that the staffs span: the taller of the two figures, 8 before there is any; so many
        that no mark lies beside its board."""
        room = _ACROSS * max(1, self._boards[0].width())
        return max(self._heads, self._across * (self.height() - TOP - BOTTOM) / room)

    def px_per_head(self, height: float | None = None) -> float:
        """Scale of the staffs, widget px a head; or of staffs in a widget of another height."""
        return ((height or self.height()) - TOP - BOTTOM) / self.heads()

    def y_of(self, heads: float) -> float:
        """Widget px of a height below the crown."""
        return TOP + (heads - self._top) * self.px_per_head()

    def _staffs(self) -> tuple[float, float]:
        """Left edges of the two staffs; below 300 px the labels get most of the room."""
        side = min(128.0, (0.42 if self._study.view.axis else 0.36) * self.width())
        return side, self.width() - side - _STAFF

    # Painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        left, right = self._staffs()
        painter.drawPixmap(0, 0, self._layer.pixmap(self._reference_key(), self._reference_side))
        for one in self.rungs:
            self._rung(painter, one, left + _STAFF, right)
        self._side(painter, right + _STAFF, reference=False)
        painter.end()

    def _reference_key(self) -> object:
        """What the staffs and the reference's labels depend on."""
        seen = tuple((one.key, one.reference, one.drawing) for one in self.rungs)
        span = self._top, self.heads(), self._study.session.bands
        return seen, span, self._study.session.pointed, self._boards[0].viewport

    def _reference_side(self, painter: QPainter) -> None:
        left, right = self._staffs()
        for x in (left, right):
            self._staff(painter, x, reference=x == left)
        self.labels = {}
        self._side(painter, left, reference=True)

    def _staff(self, painter: QPainter, x: float, *, reference: bool) -> None:
        """Banded one band a head, or where there are few a quarter of one; that of a face in its
        own halves or thirds."""
        bands = face_bands(self._study, self.rungs, reference=reference)
        if bands:
            wide = _STAFF / len(bands)
            for i, edges in enumerate(bands):
                self._banded(painter, QRectF(x + i * wide, 0.0, wide, 0.0), edges)
            return
        heads, step = self.heads(), 1.0 if self.heads() > 2.0 else 0.25
        top, bottom = self._top, self._top + heads
        first = math.floor(top / step + 1e-6)  # counted from the crown, up and down
        last = math.ceil(bottom / step - 1e-6)
        edges = [min(max(i * step, top), bottom) for i in range(first, last + 1)]
        self._banded(painter, QRectF(x, 0.0, _STAFF, 0.0), edges, first)

    def _banded(
        self, painter: QPainter, column: QRectF, edges: Sequence[float], first: int = 0
    ) -> None:
        """Dark and light by turns between heights, in heads; even ones are dark, and the uppermost
        is number ``first``."""
        dark, light = self._tokens.colour("ink2"), self._tokens.colour("sheet")
        painter.setPen(QPen(dark, 1.0))
        for number, (top, bottom) in enumerate(pairwise(self.y_of(one) for one in edges), first):
            painter.setBrush(dark if number % 2 == 0 else light)
            painter.drawRect(QRectF(column.left(), top, column.width(), bottom - top))

    def _rung(self, painter: QPainter, one: Station, x0: float, x1: float) -> None:
        if one.reference is None:
            return
        painter.setOpacity(1.0 if self._study.session.pointed in (None, one.key) else _DIM)
        y0 = self.y_of(one.reference)
        level = QPen(self._tokens.colour("hair"), 1.0, Qt.PenStyle.DotLine)
        rule(painter, QPointF(x0, y0), QPointF(x1, y0), level)
        if one.drawing is not None and one.reading.error is not None:
            y1 = self.y_of(one.drawing)
            role = self._tokens.verdict(one.reading.verdict)
            reach = COVERAGE * (one.reading.u or 0.0) * self.px_per_head()
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self._tokens.colour(role, 0.16))
            wedge = [QPointF(x0, y0), QPointF(x1, y1 - reach), QPointF(x1, y1 + reach)]
            painter.drawPolygon(QPolygonF(wedge))
            pen = QPen(self._tokens.colour(role), 2.6 if role != "ink" else 1.8)
            if role == "ochre":
                pen.setStyle(Qt.PenStyle.DashLine)
            painter.setPen(pen)
            painter.drawLine(QPointF(x0, y0), QPointF(x1, y1))
        painter.setOpacity(1.0)

    def _side(self, painter: QPainter, x: float, *, reference: bool) -> None:
        """Labels of one side on sighting lines from the board to the staff, spread apart."""
        shown = [
            (one, heads)
            for one in self.rungs
            if (heads := one.reference if reference else one.drawing) is not None
            if reference or one.reference is not None
        ]
        wanted = [self.y_of(heads) for _, heads in shown]
        places = spread_out(wanted, _GAP, TOP - 4.0, self.height() - 6.0)
        board = self._boards[0 if reference else 1]
        outer, inner = (0.0, x) if reference else (float(self.width()), x)
        way = 1.0 if reference else -1.0
        for (one, heads), true, place in zip(shown, wanted, places, strict=True):
            painter.setOpacity(1.0 if self._study.session.pointed in (None, one.key) else _DIM)
            at = point_on_board(board, one.key)
            here = true if at is None else min(max(at.y(), 4.0), self.height() - 4.0)
            hair = QPen(self._tokens.colour("hair"), 1.0)
            start, end = QPointF(outer + way * 8.0, place), QPointF(inner - way * 9.0, place)
            if abs(here - place) < 0.6 and abs(true - place) < 0.6:
                rule(painter, QPointF(outer, place), QPointF(inner, place), hair)
            else:
                rule(painter, QPointF(outer, here), start, hair)
                rule(painter, start, end, hair)
                rule(painter, end, QPointF(inner, true), hair)
            if at is not None and not 0.0 <= at.y() <= self.height():
                triangle(
                    painter,
                    QPointF(outer + way * 4.0, here),
                    "up" if at.y() < 0 else "down",
                    self._tokens.colour("ink2"),
                    3.5,
                )
            self._label(painter, one, heads, outer, inner, place - 4.0, reference=reference)
            if reference:
                self.labels[one.key] = place
            painter.setOpacity(1.0)

    def _label(
        self,
        painter: QPainter,
        one: Station,
        heads: float,
        outer: float,
        inner: float,
        baseline: float,
        *,
        reference: bool,
    ) -> None:
        tokens = self._tokens
        size = Size.NOTE if self.width() > 330 else Size.FINE
        plain, bold = font(size), font(size, bold=True)
        if reference:
            figure, ink, end = self.figure(heads), tokens.colour("ink"), inner - 10.0
            beside = end - text_width(figure, bold) - 6.0
            # A rung without a name is none: where little of it would be left, its figure goes.
            if beside - _AT_EDGE >= _LEAST_NAME * text_width(one.label, plain):
                text(painter, end, baseline, figure, bold, ink, Align.AlignRight)
                end = beside
            name = elided(one.label, plain, end - _AT_EDGE)
            text(painter, end, baseline, name, plain, ink, Align.AlignRight)
            return
        reading = one.reading
        if reading.error is None:
            return
        start = inner + 14.0
        role = tokens.verdict(reading.verdict)
        if reading.verdict == Verdict.WITHIN:
            mark = QPointF(start + 3.0, baseline - 5.0)
            verdict_mark(painter, mark, Verdict.WITHIN, "up", tokens, 4.5)
        else:
            verdict_mark(
                painter,
                QPointF(start + 3.0, baseline - 5.0),
                reading.verdict,
                direction_of(reading),
                tokens,
                4.5,
            )
        words = error_text(reading, uncertainty=False, unit=False)
        face = bold if reading.verdict.off else plain
        text(painter, start + 13.0, baseline, words, face, tokens.colour(role))
        figure = self.figure(heads)
        if outer - start > 13.0 + text_width("+0.00 0.00", bold) + 14.0:
            at = outer - 12.0
            text(painter, at, baseline, figure, plain, tokens.colour("ink2"), Align.AlignRight)

    def figure(self, heads: float) -> str:
        """How far from where it is counted, up the part where that points up."""
        return plain(-heads if self._upward else heads, 2)

    # Pointing

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        y = event.position().y()
        near = min(self.labels.items(), key=lambda kv: abs(kv[1] - 6.0 - y), default=None)
        close = near is not None and abs(near[1] - 6.0 - y) < 10.0
        self._study.apply(pointing.point_at, near[0] if close and near is not None else None)

    def leaveEvent(self, event: object) -> None:
        self._study.apply(pointing.point_at, None)
