"""The figure that the sightings imply: thin lines and ellipses of doubt, never as if it were seen.

It grows: what the sightings do not tell is not there, and neither is what is asked for now. What is
expected would pull the eye.
"""

from __future__ import annotations

from collections.abc import Collection

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QTransform
from PyQt6.QtWidgets import QWidget

from bralto.core.sightings.figure.alone import shown_marks, sighted_marks
from bralto.core.sightings.figure.implied import Implied
from bralto.core.views.model import View
from bralto.core.words.phrases import how_many
from bralto.ui.boards.overlays.implied_figure import draw_implied
from bralto.ui.theme.paint import Align, text, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font

__all__ = ["FigureSoFar"]

_AIR = {"figure": 0.45, "part": 0.12}
"""Heads about the figure, by what the view shows."""

_NAMES_APART = 15.0


class FigureSoFar(QWidget):
    """Painted on a sheet, with the heads counted down its left edge."""

    def __init__(self, view: View, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setMinimumWidth(220)
        self.setAccessibleName("The figure so far")
        self.view, self._tokens = view, tokens
        self._implied: Implied | None = None
        self._hidden: frozenset[str] = frozenset()

    def show_figure(self, implied: Implied | None, hidden: Collection[str]) -> None:
        """Another figure; ``hidden`` points are asked for now."""
        self._implied, self._hidden = implied, frozenset(hidden)
        known = len(shown_marks(self.view, implied) - self._hidden) if implied else 0
        self.setAccessibleDescription(f"{how_many(known, 'mark')} told by the sightings")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self._tokens.colour("sheet"))
        if self._implied is not None and self._implied.items:
            self._paint(painter, self._implied)
        else:
            face, line = font(Size.TITLE), 22.0
            words = "Here stands what your sightings tell, and nothing else. Take the first."
            top = 0.42 * self.height()
            for i, said in enumerate(wrapped(words, face, self.width() - 48.0)):
                text(painter, 24.0, top + line * i, said, face, self._tokens.colour("ink2"))
        painter.end()

    def _paint(self, painter: QPainter, implied: Implied) -> None:
        xy = implied.marks.xy
        air = _AIR[self.view.size]
        low, high = xy.min(axis=0) - air, xy.max(axis=0) + air
        room = QRectF(self.rect()).adjusted(44.0, 8.0, -8.0, -8.0)
        if self.view.lies:
            room = QRectF(self.rect()).adjusted(8.0, 34.0, -8.0, -8.0)
        px = min(room.width() / (high[0] - low[0]), room.height() / (high[1] - low[1]))
        left = room.center().x() - 0.5 * px * (low[0] + high[0])
        stands = self.view.size == "figure" and not self.view.lies
        above = 0.0 if stands else 0.5 * (room.height() - px * (high[1] - low[1]))
        to = QTransform(px, 0.0, 0.0, -px, left, room.top() + above + px * high[1])
        crown = xy[implied.marks.keys.index(self.view.head[0])]
        keys = shown_marks(self.view, implied) - self._hidden
        if self.view.lies:
            self._count_across(painter, float(crown[0]), (float(low[0]), float(high[0])), to)
        else:
            self._count(painter, float(crown[1]), float(low[1]), to)
            along = sighted_marks(self.view, implied, along_alone=True) - keys - self._hidden
            self._levels(painter, implied, along, to)
        draw_implied(painter, self.view, implied, keys, to, self._tokens)

    def _levels(
        self, painter: QPainter, implied: Implied, keys: Collection[str], to: QTransform
    ) -> None:
        """Marks of which only the height is told, as level lines, the highest first."""
        tokens, face = self._tokens, font(Size.FINE)
        places = [
            (to.map(QPointF(*implied.marks.xy[i].tolist())).y(), key)
            for i, key in enumerate(implied.marks.keys)
            if key in keys
        ]
        last = -_NAMES_APART
        for y, key in sorted(places):
            painter.setPen(QPen(tokens.colour("hair"), 1.0, Qt.PenStyle.DotLine))
            painter.drawLine(QPointF(44.0, y), QPointF(self.width() - 8.0, y))
            if y - last >= _NAMES_APART:
                words = self.view.point_label(key)
                text(painter, self.width() - 10.0, y - 3.0, words, face, tokens.colour("ink2"),
                     Align.AlignRight)  # fmt: skip
                last = y

    def _count(self, painter: QPainter, crown: float, low: float, to: QTransform) -> None:
        """Heads below the crown."""
        tokens, face = self._tokens, font(Size.NOTE)
        step = 1.0 if self.view.size == "figure" else 0.5
        down = 0.0
        while crown - down > low:
            y = to.map(QPointF(0.0, crown - down)).y()
            painter.setPen(QPen(tokens.colour("ink2"), 1.6))
            painter.drawLine(QPointF(8.0, y), QPointF(18.0, y))
            text(painter, 23.0, y + 5.0, f"{down:g}", face, tokens.colour("ink2"))
            down += step

    def _count_across(
        self, painter: QPainter, crown: float, ends: tuple[float, float], to: QTransform
    ) -> None:
        """Heads from the crown on, to where the figure lies."""
        tokens, face = self._tokens, font(Size.NOTE)
        way = 1.0 if ends[1] - crown > crown - ends[0] else -1.0
        across = 0.0
        while ends[0] < crown + way * across < ends[1]:
            x = to.map(QPointF(crown + way * across, 0.0)).x()
            painter.setPen(QPen(tokens.colour("ink2"), 1.6))
            painter.drawLine(QPointF(x, 8.0), QPointF(x, 18.0))
            text(painter, x, 32.0, f"{across:g}", face, tokens.colour("ink2"), Align.AlignHCenter)
            across += 1.0
