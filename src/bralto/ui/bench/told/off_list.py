"""What is off, worst first, with what cannot be told and the typical miss below."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from bralto.core.canons.compare import agreeing
from bralto.core.measures.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.core.words.lengths import length
from bralto.core.words.phrases import figure_and_doubt, spread
from bralto.core.words.wording import doubt_text, excess_text
from bralto.ui.boards.overlays.marks_and_loupe import direction_of
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import pointing, prompting
from bralto.ui.session.moment import Moment
from bralto.ui.theme.paint import Align, elided, rounded, text, verdict_mark
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.slip_list import SlipList

__all__ = ["FOLDED", "SLIP", "UNFOLDED", "OffList"]

FOLDED, UNFOLDED = 56, 290
"""Widths, px: a strip of numbers, or whole slips."""

SLIP, _GAP, _LINE = 54.0, 6.0, 20.0
_FOOT = 128.0


class OffList(QWidget):
    """Slips of paper, one an error; pointing at one lights it up everywhere, and one that is taken
    shows its pass."""

    def __init__(self, study: OpenStudy, tokens: Tokens, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._study, self._tokens = study, tokens
        self.folded, self._room = False, 0
        self.list = SlipList("What is off", self._slip, tokens, self, gap=_GAP)
        self.list.pointed.connect(self._point)
        self.list.taken.connect(self._take)
        self.list.scrolled.connect(self.update)  # how many are below
        self._rows: tuple[Reading, ...] = ()
        study.changed.connect(self._on_change)
        self._show()

    def release(self) -> None:
        """Let go of the study."""
        self._study.changed.disconnect(self._on_change)

    def _on_change(self, before: Moment, after: Moment) -> None:
        unfolded = after.session.unfolded is not before.session.unfolded
        if after.listed is before.listed and not unfolded:
            if after.session.pointed != before.session.pointed:
                self.list.repaint_slips()
            return  # while a mark is dragged the list waits
        self._show()

    def _show(self) -> None:
        rows = self._rows = self._listed()
        self.list.say([self._said(row) for row in rows], [SLIP] * len(rows))
        self.list.setVisible(bool(rows))
        self.list.repaint_slips()
        self._lay_out()
        self.arrange()
        self.update()

    def arrange(self) -> None:
        """Ask for the room of the typical miss, and of one slip where there are any."""
        least = SLIP + _GAP if self._rows else 0.0
        self.setMinimumHeight(round(least if self.folded else least + _FOOT - _GAP))

    def resizeEvent(self, event: object) -> None:
        self._lay_out()

    def _lay_out(self) -> None:
        foot = 0.0 if self.folded else _FOOT
        room = max(0, int((self.height() - foot + _GAP) / (SLIP + _GAP)))
        self._room = room
        self.list.setGeometry(0, 0, self.width(), round(room * (SLIP + _GAP)))

    def rows(self) -> tuple[Reading, ...]:
        """The readings listed, worst first."""
        return self._rows

    def _listed(self) -> tuple[Reading, ...]:
        """What no correction explains, or what follows from the one that is unfolded."""
        if self._study.now.in_doubt or self._study.now.listed.awaits_list:
            return ()
        unfolded = self._study.session.unfolded
        if unfolded is not None:
            return self._study.now.consequences(unfolded)
        return self._study.now.advice.left_over()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        total = self.list.count()
        if not total and not self.folded:
            self._nothing(painter)
        if not self.folded:
            self._foot(painter, total)
        painter.end()

    def _nothing(self, painter: QPainter) -> None:
        tokens = self._tokens
        note, ink2 = font(Size.NOTE), tokens.colour("ink2")
        beside = bool(self._study.corrections) and not self._study.now.in_doubt
        if self.height() < _FOOT + (_LINE if beside else SLIP):
            return  # no room between what stands above and below
        if self._study.now.listed.awaits_list:
            return  # it is not known yet
        if beside:  # their title says that nothing is left over
            text(painter, 0.0, 14.0, "what is off follows from the corrections", note, ink2)
            return
        measured = bool(self._study.assessment.told())
        head = "Nothing is off" if measured else "Nothing measured yet"
        body = "by more than your tolerance" if measured else "marks on both boards make measures"
        if self._study.now.in_doubt:
            head, body = "No errors yet", "they are told once that is settled"
        text(painter, 0.0, 24.0, head, font(Size.TITLE, bold=True), tokens.colour("ink"))
        text(painter, 0.0, 46.0, body, note, ink2)

    def _slip(self, painter: QPainter, area: QRectF, row: int) -> None:
        tokens, number, reading = self._tokens, row + 1, self._rows[row]
        lit = self._study.session.pointed in reading.spec.points
        dim = self._study.session.pointed is not None and not lit
        painter.setOpacity(0.45 if dim else 1.0)
        rounded(painter, area, tokens.colour("here" if lit else "slip"))
        bold = font(Size.BODY, bold=True)
        role = tokens.verdict(reading.verdict)
        way = direction_of(reading)
        if self.folded:
            x = area.center().x()
            numbered = not self._study.corrections  # those have the numbers
            y = area.top() + 16.0 if numbered else area.center().y()
            verdict_mark(painter, QPointF(x, y), reading.verdict, way, tokens, 5.0)
            if numbered:
                ink = tokens.colour("ink")
                text(painter, x, area.bottom() - 10.0, str(number), bold, ink, Align.AlignHCenter)
        else:
            x = area.left() + 12.0
            at = QPointF(x + 5.0, area.center().y())
            verdict_mark(painter, at, reading.verdict, way, tokens, 6.0)
            left, room = x + 22.0, area.width() - 40.0
            label = elided(reading.spec.label[:1].upper() + reading.spec.label[1:], bold, room)
            text(painter, left, area.top() + 22.0, label, bold, tokens.colour("ink"))
            face = font(Size.NOTE)
            words = elided(self._amount(reading), face, room)
            text(painter, left, area.top() + 42.0, words, face, tokens.colour(role))
        painter.setOpacity(1.0)

    def _said(self, reading: Reading) -> str:
        return f"{reading.spec.label}, {self._amount(reading)}"

    def _amount(self, reading: Reading) -> str:
        """'0.12 head lower ± 0.04 · 5 mm', millimetres where the sheet is known."""
        words = f"{excess_text(reading)} ± {doubt_text(reading)}"
        unit = self._study.assessment.unit
        if reading.unit == "head" and not isinstance(unit, NotMeasurable):
            mm = unit.drawing_mm
            if not isinstance(mm, NotMeasurable):
                words += f" · {length(abs(reading.error or 0.0) * mm)}"
        canon = self._study.imagined and not self._study.from_life
        schools = agreeing(self._study.view, reading) if canon else ()
        return f"{words} · as in {schools[0].lower()}" if schools else words

    def _foot(self, painter: QPainter, total: int) -> None:
        tokens, top = self._tokens, self.height() - _FOOT
        note = font(Size.NOTE)
        shown = min(total, self.list.first() + self._room)
        unsure = len(self._study.assessment.unsure())
        left = []
        if total > shown:
            left.append(f"{total - shown} more below")
        if unsure:
            left.append(f"{unsure} cannot be told")
        text(painter, 0.0, top + 16.0, " · ".join(left), note, tokens.colour("ink2"))
        painter.setPen(QPen(tokens.colour("hair"), 1.0))
        painter.drawLine(QPointF(0.0, top + 28.0), QPointF(self.width(), top + 28.0))
        title = font(Size.TITLE, bold=True)
        text(painter, 0.0, top + 50.0, "Typical miss", title, tokens.colour("ink"))
        tracked = self._study.assessment.short_miss
        miss = self._study.assessment.miss
        if isinstance(tracked, NotMeasurable):
            reason = "once there is a drawing" if self._study.undrawn else tracked.reason
            words = elided(reason, note, self.width())
            text(painter, 0.0, top + 74.0, words, note, tokens.colour("ink2"))
            return
        figure, doubt = figure_and_doubt(tracked.value, COVERAGE * tracked.u, 2)
        wide = text(
            painter, 0.0, top + 96.0, figure, font(Size.HEADLINE, heavy=True), tokens.colour("ink")
        )
        x = wide + 12.0
        text(painter, x, top + 76.0, f"{self._study.view.unit}s", note, tokens.colour("ink2"))
        text(painter, x, top + 95.0, doubt, font(Size.NOTE, bold=True), tokens.colour("ink"))
        limit = f"marks alone would give {spread(tracked.limit, 2)}"
        if not isinstance(miss, NotMeasurable) and miss.marks > tracked.marks:
            limit = f"all {miss.marks} marks {miss.value:.2f} · {limit.replace(' would give', '')}"
        words = elided(limit, note, self.width())
        text(painter, 0.0, top + 119.0, words, note, tokens.colour("ink2"))

    # Pointing and taking

    def _point(self, row: int) -> None:
        # The point that is off is the last of a height or offset, and any of the others.
        found = self._rows[row] if 0 <= row < len(self._rows) else None
        key = None if found is None else found.spec.points[1]
        # Folded there is no room for its words.
        self.list.setToolTip("" if found is None or not self.folded else self._said(found))
        self._study.apply(pointing.point_at, key)

    def _take(self, row: int, _at: QPointF) -> None:
        self._study.apply(prompting.enter_pass, self._rows[row].spec.step)
