"""The record: typical miss and each skill over time, and the studies they come from."""

from __future__ import annotations

from collections import Counter
from datetime import datetime

from PyQt6.QtCore import QRectF, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QShowEvent
from PyQt6.QtWidgets import QGridLayout, QWidget

from bralto.core.phrases import minutes
from bralto.core.results import NotMeasurable
from bralto.core.summary import SKILLS, Summary
from bralto.core.tolerances import COVERAGE
from bralto.ui.heading import Choice, Heading
from bralto.ui.place import Place
from bralto.ui.prompt import Prompt
from bralto.ui.record.chart import MOST_DOTS, Chart, Dot, running_median
from bralto.ui.shelf.card import miss_words
from bralto.ui.shelf.shelf_state import Entry, ShelfState
from bralto.ui.slip_list import SlipList
from bralto.ui.tape import Segment, TapeShown
from bralto.ui.theme.paint import Align, elided, rounded, text
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.timeline import months, share_of, span_of

__all__ = ["Record"]

_Counted = tuple[str, float, Summary]
"""A study, when it was as a share of the time shown, and its summary."""

_FIGURES, _LIST = 200, 300
_MARGIN, _BETWEEN = 24, 28
_LAST = 12
"""Studies that the figures rest on: the last five, and the five before."""
_ONE_BY_ONE = "a dot each study, the line the middle of the last five; lower is closer"
_TOGETHER = "bands: the middle 80 % of studies that fall together, the line their middle"
_WORDS = {
    "miss": ("Typical miss", "heads", "of the short set, after the best fit"),
    "heights": ("Heights", "heads", "median of a study"),
    "widths": ("Widths", "heads", "median of a study"),
    "tilts": ("Tilts", "degrees", "median of a study"),
    "plumb": ("Plumb", "heads", "median of a study"),
    "shapes": ("Shapes", "heads", "how far outlines lie apart"),
}

_SUBJECTS = ("figures", "heads", "parts")
"""What is drawn: each is a series of its own."""


def subject_of(view: str) -> str:
    """Of which series a study of that view is."""
    return next((one for one in _SUBJECTS if view.startswith(one[:-1])), _SUBJECTS[-1])


class _Figure(QWidget):
    """A skill's name and its figure over the last five studies."""

    def __init__(self, key: str, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedWidth(_FIGURES)
        self._key, self._tokens = key, tokens
        self._value: float | None = None
        self._before: float | None = None
        self._top = 0.0

    def show_values(self, middle: list[float], top: float) -> None:
        """The course of the figure, oldest first, and the value at the chart's upper edge."""
        self._top = top
        self._value = middle[-1] if middle else None
        self._before = middle[-6] if len(middle) > 5 else None
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        title, unit, what = _WORDS[self._key]
        text(painter, 0.0, 18.0, title, font(Size.BOARD, bold=True), tokens.colour("ink"))
        note, ink2 = font(Size.NOTE), tokens.colour("ink2")
        if self._value is None:
            text(painter, 0.0, 40.0, "not measured yet", note, ink2)
            painter.end()
            return
        digits = 1 if unit == "degrees" else 2
        edge, fine = self.width() - 6.0, font(Size.FINE)
        text(painter, edge, 18.0, f"{self._top:.2g}", fine, ink2, Align.AlignRight)
        text(painter, edge, self.height() - 5.0, "0", fine, ink2, Align.AlignRight)
        big = font(Size.HEADLINE if self._key == "miss" else Size.SKILL, heavy=True)
        baseline = 60.0 if self._key == "miss" else 50.0
        figure = f"{self._value:.{digits}f}"
        wide = text(painter, 0.0, baseline, figure, big, tokens.colour("ink"))
        text(painter, wide + 8.0, baseline, unit, note, ink2)
        if self._before is not None and self.height() > 80:
            change = self._value - self._before
            words = f"{abs(change):.{digits}f} " + ("closer" if change < 0 else "further off")
            line = f"{words} than the five before"
            text(painter, 0.0, baseline + 20.0, elided(line, note, self.width() - 8.0), note, ink2)
        if self._key == "miss" and self.height() > 110:
            text(painter, 0.0, baseline + 40.0, what, note, ink2)
        painter.end()


class _Studies(SlipList):
    """The studies behind the dots, newest first."""

    opened = pyqtSignal(str)
    lit = pyqtSignal(str)
    """The study under the pointer or the keys, "" for none."""

    _ROW, _GAP = 41.0, 5.0

    def __init__(self, state: ShelfState, tokens: Tokens, parent: QWidget) -> None:
        super().__init__("Studies", self._slip, tokens, parent, gap=self._GAP)
        self.setUniformItemSizes(True)
        self.setFixedWidth(_LIST)
        self._state, self._tokens, self._lit = state, tokens, ""
        self._shown: tuple[Entry, ...] | None = None
        self._numbers: dict[str, int] = {}
        self.pointed.connect(lambda row: self.lit.emit(self._id(row)))
        self.taken.connect(lambda row, _at: self.opened.emit(self._id(row)))

    def show_entries(self) -> None:
        """Other studies, or other figures of them."""
        entries = self._state.counted
        if self._shown is not entries:
            self._shown = entries
            self._numbers = {entry.id: row for row, entry in enumerate(entries)}
            said = [f"{one.title}, {' '.join(miss_words(one))}, {_day(one)}" for one in entries]
            self.say(said, [self._ROW] * len(said))
        self.repaint_slips()

    def light(self, study: str) -> None:
        """Light up one study, brought into sight."""
        if study == self._lit:
            return
        self._lit = study
        if study in self._numbers and not self.underMouse():
            model = self.model()
            assert model is not None
            self.scrollTo(model.index(self._numbers[study], 0))
        self.repaint_slips()

    def _id(self, row: int) -> str:
        entries = self._state.counted
        return entries[row].id if 0 <= row < len(entries) else ""

    def _slip(self, painter: QPainter, area: QRectF, row: int) -> None:
        entries = self._state.counted
        if row < len(entries):
            self._row(painter, area, entries[row])

    def _row(self, painter: QPainter, area: QRectF, entry: Entry) -> None:
        tokens = self._tokens
        lit = entry.id == self._lit
        rounded(painter, area, tokens.colour("here" if lit else "slip"))
        bold, note = font(Size.BODY, bold=True), font(Size.FINE)
        figure, words = miss_words(entry)
        right = area.right() - 10.0
        ink = tokens.colour("ink")
        wide = text(painter, right, area.top() + 18.0, figure, bold, ink, Align.AlignRight)
        title = elided(entry.title, font(Size.BODY), area.width() - wide - 30.0)
        text(painter, area.left() + 10.0, area.top() + 18.0, title, font(Size.BODY), ink)
        day = _day(entry)
        spent = entry.digest.seconds if entry.digest else 0.0
        day += f" · {minutes(spent)}" if spent >= 30.0 else ""
        ink2 = tokens.colour("ink2")
        wide = text(painter, area.left() + 10.0, area.top() + 35.0, day, note, ink2)
        words = elided(words, note, area.width() - wide - 34.0)
        text(painter, right, area.top() + 35.0, words, note, ink2, Align.AlignRight)


def _day(entry: Entry) -> str:
    return f"{entry.when:%d %B %Y}".lstrip("0")


class Record(Place):
    """Watches `ShelfState`; one chart a skill on the tape's own time axis."""

    opened = pyqtSignal(str)

    def __init__(self, state: ShelfState, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("ground")
        self._tokens = tokens
        self.state = state
        self._shown: tuple[Entry, ...] | None = None
        self._tracked = self._apart = self._of_it = 0
        self._subject = ""
        self._months: tuple[tuple[Segment, ...], tuple[tuple[float, float], ...]] = ((), ())
        self.charts = {key: Chart(tokens, self) for key in ("miss", *SKILLS)}
        self._figures = {key: _Figure(key, tokens, self) for key in self.charts}
        self._rows: dict[str, tuple[int, int]] = {}
        self.studies = _Studies(state, tokens, self)
        self._lay_out(tokens)
        for chart in self.charts.values():
            chart.opened.connect(self.opened)
            chart.pointed.connect(self._light)
        self.studies.opened.connect(self.opened)
        self.studies.lit.connect(self._light)
        state.changed.connect(self._while_shown)
        state.measured.connect(self._while_shown)
        self._on_change()

    def _lay_out(self, tokens: Tokens) -> None:
        grid = QGridLayout(self)
        grid.setContentsMargins(_MARGIN, 6, _MARGIN, 10)
        grid.setHorizontalSpacing(0)
        grid.setVerticalSpacing(10)
        grid.setColumnMinimumWidth(2, _BETWEEN)
        headings = [Heading(tokens, self) for _ in range(3)]
        headings[2].say("Studies", "newest first", "")
        for column, heading in zip((0, 1, 3), headings, strict=True):
            grid.addWidget(heading, 0, column)
        for row, key in enumerate(self.charts, start=1):
            grid.addWidget(self._figures[key], row, 0)
            grid.addWidget(self.charts[key], row, 1)
            # The tracked figure is the one that counts; it gets the room to show it.
            self._rows[key] = (row, 9 if key == "miss" else 5)
        grid.addWidget(self.studies, 1, 3, len(self.charts), 1)
        grid.setColumnStretch(1, 1)
        self._grid, self._headings = grid, headings

    def _light(self, study: str) -> None:
        for chart in self.charts.values():
            chart.light(study)
        self.studies.light(study)

    def _counted(self, span: tuple[datetime, datetime]) -> list[_Counted]:
        """Studies that the figures count, oldest first: observed ones that could be measured."""
        return [
            (entry.id, share_of(entry.when, span), summary)
            for entry in reversed(self.state.counted)
            if entry.row.kind == "observed" and entry.dated
            if (summary := entry.summary) is not None
        ]

    def _on_change(self) -> None:
        if self._shown is self.state.counted:
            return
        self._shown = self.state.counted
        days = [entry.when for entry in self._shown if entry.dated]
        every = self._counted(span_of(days)) if days else []
        counted = self._of_subject(every)
        self._tracked = sum(bool(summary.tracked) for _, _, summary in counted)
        self._months = months(days)
        dots_of = _dots(counted)
        together = False
        for key, chart in self.charts.items():
            dots = tuple(dots_of[key])
            self._show_row(key, bool(dots) or key != "shapes")  # few studies have any
            chart.show_dots(dots)
            last = running_median([dot.value for dot in dots[-_LAST:]])
            self._figures[key].show_values(last, chart.top())
            together = together or len(dots) > MOST_DOTS
        self._headings[1].say("", _TOGETHER if together else _ONE_BY_ONE, "")
        self.studies.show_entries()
        self.tape_changed.emit()
        self.prompt_changed.emit()

    def _of_subject(self, every: list[_Counted]) -> list[_Counted]:
        """Heads, figures and parts are no series: a head is drawn larger and held to other
        tolerances. The one that was chosen, or else the one with most studies."""
        views = {entry.id: subject_of(entry.row.view) for entry in self.state.counted}
        many = Counter(views[study] for study, _, _ in every)
        if self._subject not in many:
            self._subject = max(many, key=lambda one: many[one], default=_SUBJECTS[0])
        chosen = [one for one in every if views[one[0]] == self._subject]
        self._apart = len(every) - len(chosen)
        self._of_it = sum(view == self._subject for view in views.values())
        options = tuple((one, f"{one} ({many[one]})") for one in _SUBJECTS if one in many)
        if len(options) > 1:
            right = Choice(self._subject, options, self._subject, self.show_subject)
            self._headings[0].say("Accuracy", "", right)
        else:
            self._headings[0].say("Accuracy", "last five studies", "")
        return chosen

    def show_subject(self, subject: str) -> None:
        """Count the studies of figures, of heads or of parts."""
        self._subject, self._shown = subject, None
        self._on_change()

    def _while_shown(self) -> None:
        """Follow a change; out of sight it waits until the record is gone to."""
        if self.isVisible():
            self._on_change()

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._on_change()

    def _show_row(self, key: str, shown: bool) -> None:
        row, stretch = self._rows[key]
        self.charts[key].setVisible(shown)
        self._figures[key].setVisible(shown)
        self._grid.setRowStretch(row, stretch if shown else 0)

    def enter(self) -> None:
        """What was changed on the bench is in the record then."""
        self.state.refresh()
        self.studies.setFocus()

    def tape(self) -> TapeShown:
        """The calendar, its time over the charts'."""
        segments, bars = self._months
        margins = float(_MARGIN + _FIGURES), float(_MARGIN + _LIST + _BETWEEN)
        return TapeShown(segments, None, bars, margins)

    def prompt(self) -> Prompt:
        """What to do next."""
        if not self._tracked:
            return Prompt("Nothing on record yet:", "mark a study on the bench and it appears here")
        tracked = self._tracked
        lacking = self._of_it - tracked
        apart = "counts" if lacking == 1 else "count"
        how = f"{lacking} without the whole short set {apart} apart" if lacking else ""
        of = f" of {self._subject}" if self._apart else ""
        if self._apart:
            how += f"{', ' if how else ''}{self._apart} of other subjects are a series of their own"
        studies = f"{tracked} {'study' if tracked == 1 else 'studies'}{of} on record"
        how = how or "point at a dot to see which"
        return Prompt(f"{studies}:", how, (("↑ ↓", "study by study"), ("Enter", "open it")))


def _dots(counted: list[_Counted]) -> dict[str, list[Dot]]:
    """The dots of each chart, in one walk over the studies."""
    out: dict[str, list[Dot]] = {key: [] for key in _WORDS}
    for study, share, summary in counted:
        tracked = summary.tracked
        if not isinstance(tracked, NotMeasurable):
            value, reach = tracked.value, COVERAGE * tracked.u
            low = max(0.0, value - reach)
            out["miss"].append(Dot(study, share, value, low, value + reach, tracked.limit))
        for one in summary.skills:
            if one.skill in out:
                out[one.skill].append(Dot(study, share, one.median, one.low, one.high))
    return out
