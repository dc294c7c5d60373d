"""What was sighted, as a list: a word, a value, its doubt; what cannot both be is tied in red."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from bralto.core.measures.verdict_names import Verdict
from bralto.core.sightings.figure.read_off import head_changed
from bralto.core.sightings.held import Held
from bralto.core.sightings.sighting_words import (
    doubt_said,
    error_said,
    head_change_said,
    label_of,
    value_said,
)
from bralto.core.sightings.stance import stance_doubt
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import answering
from bralto.ui.sight.doubted_soon import DoubtedSoon
from bralto.ui.theme.paint import Align, elided, rounded, text, verdict_mark, wrapped
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.slip_list import SlipList

__all__ = ["SightingList"]

_HIGH, _GAP, _THREAD = 46.0, 6.0, 12.0


class SightingList(QWidget):
    """Enter, or a click, sights one again; `Del` takes it away."""

    repeated = pyqtSignal()

    def __init__(
        self, study: OpenStudy, tasks: Tasks, tokens: Tokens, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.setFixedWidth(264)
        self._study, self._tokens = study, tokens
        self.doubts: DoubtedSoon = DoubtedSoon(study, tasks, self)
        self.doubts.found.connect(self._say_doubts)
        self._held: tuple[Held, ...] = ()
        self.list = _List("Sightings", self._slip, tokens, self, gap=_GAP)
        self.list.taken.connect(self._again)
        self.list.dropped.connect(study.sighted.remove)
        self.list.scrolled.connect(self.update)
        self.words = _Words(tokens, self)
        column = QVBoxLayout(self)
        column.setContentsMargins(round(_THREAD), 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.words)
        column.addWidget(self.list, 1)
        self.fill()

    def fill(self) -> None:
        """Say what there is."""
        study, items = self._study, self._study.sighted.kept.items
        self.doubts.ask()
        self._held = study.examination.held if not study.undrawn else ()
        said = [
            f"{label_of(study.sighted.view, one)}: {value_said(one)} {doubt_said(one)}"
            for one in items
        ]
        self.list.say(said, [_HIGH] * len(items))
        self._say_doubts()

    def _say_doubts(self) -> None:
        self.words.say(self._contradiction())
        self.list.repaint_slips()
        self.update()

    def show_last(self) -> None:
        """The newest is in sight."""
        self.list.scrollToBottom()

    def _contradiction(self) -> str:
        changed = head_changed(self._study.sighted.view, self._study.sighted.kept.items)
        if changed is not None:
            return head_change_said(changed)
        items, view = self._study.sighted.kept.items, self._study.sighted.view
        if self.doubts.likelier is not None:
            return stance_doubt(view, self.doubts.likelier)
        if not self.doubts.wrong:
            return ""
        rows = self.doubts.wrong[0].rows
        names = " or ".join(label_of(view, items[row]) for row in rows)
        if len(rows) > 1:
            return f"One of these two cannot be: {names}. Sight either again."
        return f"{names} does not fit the others. Sight it again."

    @property
    def suspects(self) -> tuple[int, ...]:
        """Rows of what cannot be, the likeliest first."""
        self.doubts.know()
        return self.doubts.wrong[0].rows if self.doubts.wrong else ()

    def _again(self, row: int, at: QPointF) -> None:
        items = self._study.sighted.kept.items
        if row < len(items):
            self._study.apply(answering.ask_again, items[row].asks)
            self.repeated.emit()

    def _slip(self, painter: QPainter, area: QRectF, row: int) -> None:
        items = self._study.sighted.kept.items
        if row >= len(items):
            return
        one, tokens = items[row], self._tokens
        rounded(painter, area, tokens.colour("slip"))
        wrong = any(row in found.rows for found in self.doubts.wrong)
        value = value_said(one, short=True)
        face, note = font(Size.BODY, bold=True), font(Size.NOTE)
        role = "red" if wrong else "ink"
        right = area.right() - 10.0
        wide = text(painter, right, area.top() + 19.0, value, face, tokens.colour(role),
                    Align.AlignRight)  # fmt: skip
        room = area.width() - wide - 32.0
        label = elided(label_of(self._study.sighted.view, one), face, room)
        text(painter, area.left() + 10.0, area.top() + 19.0, label, face, tokens.colour(role))
        text(painter, area.left() + 10.0, area.top() + 37.0, doubt_said(one), note,
             tokens.colour("ink2"))  # fmt: skip
        held = self._held[row] if row < len(self._held) else None
        if held is not None and held.verdict != Verdict.NOT_MEASURED:
            colour = tokens.verdict(held.verdict)
            way = "up" if held.verdict == Verdict.OVER else "down"
            verdict_mark(
                painter, QPointF(right - 5.0, area.top() + 32.0), held.verdict, way, tokens
            )
            if held.error is not None and held.verdict.off:
                words = f"drawn {error_said(one, held.error)}"
                text(painter, right - 16.0, area.top() + 37.0, words, note, tokens.colour(colour),
                     Align.AlignRight)  # fmt: skip

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The red thread between what cannot both be."""
        wrong = self.doubts.wrong
        if not wrong or len(wrong[0].rows) < 2:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self._tokens.colour("red"), 1.8))
        ends = []
        for row in sorted(wrong[0].rows):
            area = self.list.area(row)
            if area.isValid():
                ends.append(self.list.y() + area.center().y())
        if len(ends) == 2:
            x = _THREAD - 8.0
            painter.drawLine(QPointF(x, ends[0]), QPointF(x, ends[1]))
            for y in ends:
                painter.drawLine(QPointF(x, y), QPointF(_THREAD, y))
        painter.end()


class _List(SlipList):
    dropped = pyqtSignal(int)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Delete and self.currentIndex().isValid():
            self.dropped.emit(self.currentIndex().row())
            return
        super().keyPressEvent(event)


class _Words(QWidget):
    """A sentence in red above the list; no room where there is none."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self._tokens, self.words = tokens, ""
        self.setFixedHeight(0)

    def say(self, words: str) -> None:
        if words == self.words:
            return
        self.words = words
        self.setAccessibleName(words)
        lines = wrapped(words, font(Size.NOTE, bold=True), 250.0) if words else []
        self.setFixedHeight(19 * len(lines) + (4 if lines else 0))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        face = font(Size.NOTE, bold=True)
        for i, line in enumerate(wrapped(self.words, face, 250.0) if self.words else []):
            text(painter, 0.0, 15.0 + 19.0 * i, line, face, self._tokens.colour("red"))
        painter.end()
