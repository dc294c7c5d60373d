"""A month of studies on one page of A4, to keep."""

from __future__ import annotations

import calendar
from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QMarginsF, QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QFontMetricsF, QPagedPaintDevice, QPageLayout, QPageSize, QPainter, QPen

from bralto.core.words.lengths import INCH
from bralto.core.words.phrases import how_many, local, month_words, time_spent
from bralto.ui.pdf_file import DPI, write_page
from bralto.ui.shelf.card import miss_words
from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.theme.type import plain_font

__all__ = ["write_month"]

_WIDTH, _HEIGHT, _MARGIN = 210.0, 297.0, 18.0
_PT = 9.0
_LINE_MM = 4.6


def write_month(path: Path, year: int, month: int, entries: Sequence[Entry]) -> None:
    """The studies of a month, oldest first; of those that find no room it says how many.

    Raises:
        UserError: it cannot be written there.
    """
    size = QPageSize(QSizeF(_WIDTH, _HEIGHT), QPageSize.Unit.Millimeter)
    none = QMarginsF(0.0, 0.0, 0.0, 0.0)
    whole = QPageLayout(size, QPageLayout.Orientation.Portrait, none)

    def paint(device: QPagedPaintDevice) -> bool:
        painter = QPainter()
        if not painter.begin(device):
            return False
        _Page(painter, DPI / INCH).paint(year, month, entries)
        return painter.end()

    write_page(path, f"Bralto, {month_words(year, month)}", whole, paint)


class _Page:
    """Everything in mm."""

    def __init__(self, painter: QPainter, px: float) -> None:
        self._painter, self._px = painter, px

    def paint(self, year: int, month: int, entries: Sequence[Entry]) -> None:
        """The whole page."""
        y = self._text(_MARGIN, _MARGIN + 4.0, month_words(year, month), 18.0) + 4.0
        many = how_many(len(entries), "study")
        spent = sum(one.digest.seconds for one in entries if one.digest)
        many += time_spent(spent, ", ")
        y = self._text(_MARGIN, y + 3.0, many, _PT) + 2.0
        y = self._tape(y, year, month, entries) + 6.0
        for number, entry in enumerate(entries):
            lines = _lines(entry)
            if y + _LINE_MM * (len(lines) + 1) > _HEIGHT - _MARGIN:
                self._text(_MARGIN, y + 3.0, f"and {len(entries) - number} more", _PT)
                break
            day = f"{local(entry.when).day}"
            self._text(_MARGIN, y, day, 11.0)
            self._text(_MARGIN + 12.0, y, entry.title, 11.0)
            self._text(_WIDTH - _MARGIN - 40.0, y, " ".join(miss_words(entry)), _PT)
            for line in lines:
                y += _LINE_MM
                self._text(_MARGIN + 12.0, y, line, _PT)
            y += _LINE_MM + 2.5

    def _tape(self, top: float, year: int, month: int, entries: Sequence[Entry]) -> float:
        """A bar for each study on the days of the month."""
        painter, px = self._painter, self._px
        days = calendar.monthrange(year, month)[1]
        wide = (_WIDTH - 2.0 * _MARGIN) / days
        floor = top + 12.0
        painter.setPen(QPen(LIGHT.colour("ink"), 0.2 * px))
        painter.drawLine(
            QPointF(px * _MARGIN, px * floor), QPointF(px * (_WIDTH - _MARGIN), px * floor)
        )
        drawn = [local(entry.when).day for entry in entries]
        for day in range(1, days + 1):
            left = _MARGIN + (day - 1) * wide
            high = min(10.0, 3.5 * drawn.count(day))
            if high:
                box = QRectF(px * (left + 0.3 * wide), px * (floor - high), px * 0.4 * wide,
                             px * high)  # fmt: skip
                painter.fillRect(box, LIGHT.colour("ink"))
            if day == 1 or day % 5 == 0:
                self._text(left + 0.2 * wide, floor + 3.5, str(day), 6.5)
        return floor + 4.0

    def _text(self, x: float, baseline: float, words: str, points: float) -> float:
        """One line; gives its baseline."""
        painter = self._painter
        painter.setFont(plain_font(points))
        painter.setPen(LIGHT.colour("ink"))
        metrics = QFontMetricsF(painter.font(), painter.device())
        room = self._px * (_WIDTH - _MARGIN - x)
        shown = metrics.elidedText(words, Qt.TextElideMode.ElideRight, room)
        painter.drawText(QPointF(self._px * x, self._px * baseline), shown)
        return baseline


def _lines(entry: Entry) -> list[str]:
    """What was written about it, a line each."""
    log = dict(entry.log)
    titles = {"well": "Went well: ", "next": "Next time: ", "materials": ""}
    return [title + " ".join(log[key].split()) for key, title in titles.items() if key in log]
