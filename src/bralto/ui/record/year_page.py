"""A year at a glance: a tape a month, a bar a day, as high as the time that was spent that day."""

from __future__ import annotations

import calendar
from collections import defaultdict
from datetime import date

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from bralto.core.words.phrases import MONTHS, day_words, how_many, local, time_spent
from bralto.ui.prompt import Prompt
from bralto.ui.record.page import Page
from bralto.ui.shelf.shelf_entry import Entry
from bralto.ui.shelf.shelf_state import ShelfState
from bralto.ui.theme.paint import Align, text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heading import Choice, Heading

__all__ = ["YearPage"]

_NAMES, _SUMS = 110.0, 130.0
_DAYS = 18.0
"""Px below the tapes for the numbers of days."""

_FULL_S = 3600.0
"""Seconds of a day that fill the tape."""

_STUDY_S = 1500.0
"""A study whose time is not known counts as so many seconds, to be seen (chosen here)."""


class YearPage(Page):
    """Watches `ShelfState`; a day under the pointer says what was drawn on it."""

    def __init__(self, shelf: ShelfState, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._shelf = shelf
        self._year = 0
        self.years: list[int] = []
        self.heading = Heading(tokens, self)
        self.months = _Months(tokens, self)
        self.months.pointed.connect(self._say)
        self.months.opened.connect(self.opened)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self.heading)
        column.addWidget(self.months, 1)

    def prompt(self) -> Prompt:
        return Prompt("A year at a glance:", "point at a day to see what was drawn on it")

    def look(self) -> None:
        """Show the year that was chosen, or else the last."""
        days: dict[date, list[Entry]] = defaultdict(list)
        for entry in self._shelf.counted:
            if entry.dated:
                days[local(entry.when).date()].append(entry)
        years = sorted({day.year for day in days}, reverse=True)
        if self._year not in years:
            self._year = years[0] if years else 0
        of_year = {day: tuple(there) for day, there in days.items() if day.year == self._year}
        self.months.show_days(self._year, of_year)
        self.years = years
        self._say("")

    def choose_year(self, year: str) -> None:
        """Show another year."""
        self._year = int(year)
        self.look()

    def _say(self, words: str) -> None:
        many, spent = self.months.sums()
        drawn = _drawn(many, self.months.days_drawn(), spent)
        note = words or (drawn if many else "no study yet")
        if len(self.years) > 1:
            options = tuple((str(year), str(year)) for year in self.years)
            right = Choice(str(self._year), options, str(self._year), self.choose_year)
            self.heading.say(f"{self._year}", note, right)
        else:
            self.heading.say(f"{self._year}" if self._year else "Year", note, "")


def _drawn(many: int, days: int, spent: float) -> str:
    return f"{how_many(many, 'study')} on {how_many(days, 'day')}{time_spent(spent, ', ')}"


class _Months(QWidget):
    pointed = pyqtSignal(str)
    opened = pyqtSignal(str)

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self.setMouseTracking(True)
        self._tokens = tokens
        self._year = 0
        self._days: dict[date, tuple[Entry, ...]] = {}
        self._at: date | None = None

    def show_days(self, year: int, days: dict[date, tuple[Entry, ...]]) -> None:
        self._year, self._days = year, days
        many, spent = self.sums()
        self.setAccessibleName(f"{year}: {_drawn(many, len(days), spent)}")
        self.update()

    def sums(self) -> tuple[int, float]:
        """Studies of the year, and seconds spent on them."""
        every = [entry for there in self._days.values() for entry in there]
        return len(every), sum(one.digest.seconds for one in every if one.digest)

    def days_drawn(self) -> int:
        return len(self._days)

    def area(self, month: int) -> QRectF:
        """Where a month lies, px."""
        high = (self.height() - _DAYS) / 12.0
        wide = self.width() - _NAMES - _SUMS
        return QRectF(_NAMES, (month - 1) * high + 3.0, wide, high - 8.0)

    def _day_at(self, at: QPointF) -> date | None:
        if not self._year:
            return None
        for month in range(1, 13):
            area = self.area(month)
            if area.top() - 3.0 <= at.y() < area.bottom() + 5.0:
                day = int((at.x() - area.left()) / (area.width() / 31.0)) + 1
                if 1 <= day <= calendar.monthrange(self._year, month)[1]:
                    return date(self._year, month, day)
        return None

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        day = self._day_at(event.position())
        if day == self._at:
            return
        self._at = day
        there = self._days.get(day, ()) if day else ()
        titles = ", ".join(entry.title for entry in there)
        self.pointed.emit(f"{day_words(there[0].when)}: {titles}" if there else "")
        self.setCursor(Qt.CursorShape.PointingHandCursor if there else Qt.CursorShape.ArrowCursor)
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        day = self._day_at(event.position())
        there = self._days.get(day, ()) if day else ()
        if there:
            self.opened.emit(there[0].id)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for month in range(1, 13):
            self._month(painter, month)
        last = self.area(12)
        fine, ink2 = font(Size.FINE), self._tokens.colour("ink2")
        for day in (1, *range(5, 31, 5)):
            at = last.left() + (day - 0.5) * last.width() / 31.0
            text(painter, at, last.bottom() + 18.0, str(day), fine, ink2, Align.AlignHCenter)
        painter.end()

    def _month(self, painter: QPainter, month: int) -> None:
        tokens, area = self._tokens, self.area(month)
        ink, ink2 = tokens.colour("ink"), tokens.colour("ink2")
        days = calendar.monthrange(self._year or 2001, month)[1]
        step = area.width() / 31.0
        baseline = area.center().y() + 6.0
        text(painter, 0.0, baseline, MONTHS[month - 1], font(Size.BODY), ink)
        painter.fillRect(
            QRectF(area.left(), area.top(), days * step, area.height()), tokens.colour("tape")
        )
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        for day in range(days + 1):
            long = 0.34 if day % 5 == 0 else 0.16
            x = area.left() + day * step
            painter.drawLine(
                QPointF(x, area.bottom() - long * area.height()), QPointF(x, area.bottom())
            )
        many, spent = 0, 0.0
        for day in range(1, days + 1):
            when = date(self._year or 2001, month, day)
            there = self._days.get(when, ())
            if not there:
                continue
            seconds = sum((one.digest.seconds if one.digest else 0.0) or _STUDY_S for one in there)
            high = area.height() * min(1.0, max(0.3, seconds / _FULL_S))
            left = area.left() + (day - 1) * step
            role = "red" if when == self._at else "ink"
            painter.fillRect(
                QRectF(left + 0.32 * step, area.bottom() - high, 0.36 * step, high),
                tokens.colour(role),
            )
            many += len(there)
            spent += sum(one.digest.seconds for one in there if one.digest)
        if many:
            said = how_many(many, "study") + time_spent(spent, ", ")
            right = float(self.width())
            text(painter, right, baseline, said, font(Size.NOTE), ink2, Align.AlignRight)
