"""The drawing laid over the reference under the school in force: as a ghost, blinking, or wiped."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QObject, QPointF, QRectF, QTimer, pyqtSignal
from PyQt6.QtGui import QPainter, QPen, QTransform

from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points, sight_points
from bralto.core.terms import School
from bralto.ui.boards.board import point_on_board
from bralto.ui.boards.board_view import head_px
from bralto.ui.boards.difference import draw_difference
from bralto.ui.boards.laying import paint_laid
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.theme.tokens import LIGHT

__all__ = ["BLINK_MS", "RATES_MS", "VEILS", "WAYS", "DrawingOver"]

WAYS = ("ghost", "blink", "wipe", "outline")
"""A veil of the drawing; drawing and reference by turns; the drawing to one side of the pointer;
where the two outlines differ."""

RATES_MS = (2000, 1400, 1000, 700, 500, 350)
"""How long each picture may show. A turn of both is twice that: 1.4 Hz at most, below the 3 flashes
a second that can harm (WCAG 2.2, 2.3.1)."""

BLINK_MS = RATES_MS[3]

VEILS = (0.2, 0.4, 0.6, 0.8, 1.0)
"""How thick the veil of the drawing may be."""


class DrawingOver(QObject):
    """What lies over the reference board; it paints in the reference board's px."""

    changed = pyqtSignal()

    def __init__(self, reference: PictureBoard, drawing: PictureBoard) -> None:
        super().__init__(reference)
        self._reference, self._drawing = reference, drawing
        self.way: str | None = None
        self._shown = True
        self.veil = VEILS[2]
        self.clock = QTimer(self)
        self.clock.setInterval(BLINK_MS)
        self.clock.timeout.connect(self._turn)

    def take(self, way: str | None) -> None:
        """Lay the drawing over in one of `WAYS`; the same way again, or None, takes it off."""
        self.way = None if way == self.way else way
        self._shown = True
        if self.way == "blink":
            self.clock.start()
        else:
            self.clock.stop()
        self._reference.quiet = self.way is not None
        self._reference.update()
        self.changed.emit()

    def release(self) -> None:
        """Blink no more."""
        self.clock.stop()

    def turn_down(self, by: int) -> None:
        """A thicker veil or a faster change (+1), a thinner or slower one (-1)."""
        if self.way == "blink":
            at = RATES_MS.index(self.clock.interval()) + by
            self.clock.setInterval(RATES_MS[min(max(at, 0), len(RATES_MS) - 1)])
        else:
            at = VEILS.index(self.veil) + by
            self.veil = VEILS[min(max(at, 0), len(VEILS) - 1)]
        self._reference.update()
        self.changed.emit()

    @property
    def said(self) -> str:
        """The thickness or the rate in force."""
        if self.way == "blink":
            seconds = self.clock.interval() / 1000.0
            return f"each for {seconds:g} s; leave it if it troubles your eyes"
        if self.way == "outline":
            return "red: drawn beyond it, blue: drawn short of it"
        return f"{100.0 * self.veil:.0f} % thick" if self.way == "ghost" else ""

    def _turn(self) -> None:
        self._shown = not self._shown
        self._reference.update()

    def between(self) -> QTransform | None:
        """From the drawing's board to the reference's, as the school in force has it; None where
        there is no unit yet."""
        study = self._reference.study
        if study.assessment.school == School.BEST_FIT:
            return self._by_fit()
        heads = []
        for board in (self._reference, self._drawing):
            px = head_px(study.assessment, study.picture(board.board), board.board)
            if px is None:
                return None
            heads.append(px * board.viewport.zoom)
        scale = heads[0] / heads[1]
        key = study.view.edges[0]
        a, b = (point_on_board(one, key) for one in (self._reference, self._drawing))
        if a is None or b is None:
            return None
        shift = a - scale * b
        return QTransform.fromScale(scale, scale) * QTransform.fromTranslate(shift.x(), shift.y())

    def _by_fit(self) -> QTransform | None:
        """By the core's own best fit: three places about the reference's figure, carried over by
        it; far from it paper may curl."""
        found = self._reference.study.examination
        fit = found.fit
        if isinstance(fit, NotMeasurable):
            return None
        seen = found.seen.picture
        marks = np.array([[seen.marks[key].x, seen.marks[key].y] for key in seen.placed()])
        (left, top), (right, low) = marks.min(axis=0), marks.max(axis=0)
        places = np.array([[left, top], [max(right, left + 1.0), top], [left, max(low, top + 1.0)]])
        at = sight_points(seen, places, np.ones(3))
        if isinstance(at, NotMeasurable):
            return None
        drawn = image_points(found.drawn.picture, fit.scale * at.xy + fit.shift)
        if isinstance(drawn, NotMeasurable):
            return None
        on_boards = []
        for board, xy in ((self._reference, places), (self._drawing, drawn)):
            corners = [board.viewport.to_board(x, y) for x, y in xy.tolist()]
            o, right, down = corners
            across, along = right - o, down - o
            on_boards.append(QTransform(across.x(), across.y(), along.x(), along.y(), o.x(), o.y()))
        back, able = on_boards[1].inverted()
        return back * on_boards[0] if able else None

    def paint(self, painter: QPainter) -> None:
        """Paint over the picture, under the marks."""
        if self.way == "outline":
            between = self.between()
            if between is not None:
                draw_difference(painter, self._reference, self._drawing, between)
            return
        view, between = self._drawing.viewport, self.between()
        image = self._drawing.level_for(view.zoom)
        if self.way is None or not self._shown or between is None or image is None:
            return
        board = self._reference
        painter.save()
        if self.way == "wipe":
            edge = board.hover.x() if board.hover is not None else board.width() / 2.0
            painter.setClipRect(QRectF(edge, 0.0, board.width() - edge, board.height()))
        if self.way == "ghost":
            painter.setOpacity(self.veil)
            painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Multiply)
        painter.setTransform(between, combine=True)
        paint_laid(painter, view, image)
        painter.restore()
        if self.way == "wipe":
            painter.setPen(QPen(LIGHT.colour("red"), 1.2))
            painter.drawLine(QPointF(edge, 0.0), QPointF(edge, float(board.height())))
