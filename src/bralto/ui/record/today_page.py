"""Today: what to practise, made of the minutes and days that the learner chose."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

from PyQt6.QtCore import QPointF, QRectF, QSignalBlocker, Qt, QTime
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSpinBox,
    QTimeEdit,
    QVBoxLayout,
    QWidget,
)

from bralto.core.errors import UserError
from bralto.core.longitudinal.practice import (
    DONE,
    PLAN,
    WEEKDAYS,
    Item,
    Plan,
    Week,
    done_document,
    plan_document,
)
from bralto.core.words.phrases import local, time_spent, weekday
from bralto.disk.given import write_given
from bralto.store.instants import now_utc
from bralto.store.library import Library
from bralto.store.record.todays import Todays, todays
from bralto.ui.prompt import Prompt
from bralto.ui.record.page import Page
from bralto.ui.record.record_state import RecordState
from bralto.ui.saving import file_to_save
from bralto.ui.theme.paint import Align, check, in_lines, ring, rounded, text, text_width
from bralto.ui.theme.tokens import Tokens
from bralto.ui.theme.type import Size, font
from bralto.ui.widgets.heading import Heading
from bralto.ui.widgets.slip_list import SlipList

__all__ = ["TodayPage"]

_BESIDE = 380
_HIGH, _LINE = 64.0, 16.0  # px of an item with three lines, and of one more
_TICK, _UNIT = 40.0, 32.0  # px for what ticks it off, and for "min"


class TodayPage(Page):
    """What is begun leads to the model, the shelf or the bench; what is done is ticked."""

    def __init__(
        self, state: RecordState, library: Library, tokens: Tokens, parent: QWidget
    ) -> None:
        super().__init__(parent)
        self._state, self._library, self._tokens = state, library, tokens
        self.found: Todays | None = None
        self._lit = -1
        self._heading = Heading(tokens, self)
        self.items = SlipList("Today", self._slip, tokens, self, gap=6.0)
        self.items.pointed.connect(self._point)
        self.items.taken.connect(self._take)
        self.week = _WeekTape(tokens, self)
        self.spent = QLabel("", self)
        self.spent.setObjectName("note")
        self.spent.setWordWrap(True)
        self.minutes = QSpinBox(self)
        self.minutes.setRange(5, 240)
        self.minutes.setSingleStep(5)
        self.minutes.setKeyboardTracking(False)
        self.minutes.setSuffix(" minutes a day")
        self.minutes.setAccessibleName("Minutes a day")
        self.at = QTimeEdit(self)
        self.at.setDisplayFormat("HH:mm")
        self.at.setAccessibleName("Time of day")
        self.days = [QCheckBox(name[:3], self) for name in WEEKDAYS]
        for box, name in zip(self.days, WEEKDAYS, strict=True):
            box.setAccessibleName(name)
            box.toggled.connect(lambda _: self._choose_plan())
        self.minutes.valueChanged.connect(lambda _: self._choose_plan())
        self.at.editingFinished.connect(self._choose_plan)
        self.save = QPushButton("Save as calendar …", self)
        self.save.clicked.connect(self._save)
        self._lay_out()
        state.habits_changed.connect(self._follow)

    def _lay_out(self) -> None:
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(self._heading)
        left.addWidget(self.items, 1)
        beside = QWidget(self)
        beside.setFixedWidth(_BESIDE)
        right = QVBoxLayout(beside)
        right.setContentsMargins(0, 4, 0, 0)
        right.setSpacing(12)
        title = QLabel("This week", beside)
        title.setObjectName("panel")
        right.addWidget(title)
        right.addWidget(self.week)
        right.addWidget(self.spent)
        chosen = QLabel("What you mean to do", beside)
        chosen.setObjectName("panel")
        right.addSpacing(8)
        right.addWidget(chosen)
        row = QHBoxLayout()
        row.addWidget(self.minutes, 1)
        row.addWidget(self.at)
        right.addLayout(row)
        boxes = QGridLayout()
        for number, box in enumerate(self.days):
            boxes.addWidget(box, number // 4, number % 4)
        right.addLayout(boxes)
        note = QLabel(
            "What was missed moves on by itself. Rest eyes and wrist: stop before they ask for it.",
            beside,
        )
        note.setObjectName("note")
        note.setWordWrap(True)
        right.addWidget(note)
        right.addStretch(1)
        right.addWidget(self.save, 0, Qt.AlignmentFlag.AlignLeft)
        whole = QHBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(28)
        whole.addLayout(left, 1)
        whole.addWidget(beside)

    # What is shown

    def _follow(self) -> None:
        if self.isVisible():
            self.look()

    def takes_keys(self) -> QWidget:
        return self.items

    def prompt(self) -> Prompt:
        keys = (("Enter", "begin it"), ("D", "it is done"))
        return Prompt(
            "What to do today:", "begin with the first; leave out what does not fit", keys
        )

    def look(self) -> None:
        """Today by the clock, with what is noted and told by now."""
        try:
            noted = self._library.practice()
        except UserError as error:
            self.refused.emit(str(error))
            return
        now = datetime.now().astimezone()
        self.found = found = todays(noted, self._state.every, self._state.told, now)
        self._say_items()
        whole = sum(one.minutes for one in found.items)
        self._heading.say(weekday(found.day), f"{whole} minutes; Enter begins, D ticks", "")
        self.week.show_week(found.week, found.plan)
        drawn = sum(one.seconds for one in self._state.every if local(one.when).date() == found.day)
        words = f"{found.week.words}."
        at_work = time_spent(drawn, " ")
        words += f"{at_work} at work on the bench today." if at_work else ""
        self.spent.setText(words)
        self._show_plan(found.plan)

    def _say_items(self) -> None:
        """The slips, each as high as its words want it."""
        if (found := self.found) is None:
            return
        said = [
            f"{one.title}, {one.minutes} minutes, {'done' if one.key in found.done else 'open'}: "
            f"{one.detail}"
            for one in found.items
        ]
        lines = [sum(map(len, self._words(one))) for one in found.items]
        self.items.say(said, [_HIGH + _LINE * max(0, many - 3) for many in lines])
        self.items.repaint_slips()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._say_items()

    def _show_plan(self, plan: Plan) -> None:
        blocked = [QSignalBlocker(one) for one in (self.minutes, self.at, *self.days)]
        self.minutes.setValue(plan.minutes)
        self.at.setTime(QTime.fromString(plan.at, "HH:mm"))
        for number, box in enumerate(self.days):
            box.setChecked(number in plan.weekdays)
            box.setEnabled(not self._library.reading)
        for one in (self.minutes, self.at):
            one.setEnabled(not self._library.reading)
        del blocked

    # What is done

    def _point(self, row: int) -> None:
        self._lit = row
        self.items.repaint_slips()

    def _take(self, row: int, at: QPointF) -> None:
        if self.found is None or row >= len(self.found.items):
            return
        if 0.0 < at.x() < _TICK:
            self.tick(row)
            return
        item = self.found.items[row]
        if item.key == "warm-up":
            self.tick(row)  # there is nothing to lead to
        else:
            self.begun.emit(item)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_D and self.items.currentIndex().isValid():
            self.tick(self.items.currentIndex().row())
        else:
            event.ignore()

    def tick(self, row: int) -> None:
        """Note that an item is done; once ticked it stays so for the day."""
        if self.found is None or self.found.items[row].key in self.found.done:
            return
        self._note(DONE, done_document(self.found.items[row].key, self.found.day))

    def _choose_plan(self) -> None:
        days = tuple(number for number, box in enumerate(self.days) if box.isChecked())
        plan = Plan(self.minutes.value(), days, self.at.time().toString("HH:mm"))
        if self.found is not None and plan != self.found.plan:
            self._note(PLAN, plan_document(plan))

    def _note(self, kind: str, document: str) -> None:
        try:
            self._library.note_practice(kind, document, now_utc())
        except UserError as error:
            self.refused.emit(str(error))
        self.look()

    def _save(self) -> None:
        title, kinds = "The plan as a calendar", "iCalendar (*.ics)"
        path = file_to_save(self, title, "practice.ics", kinds)
        if path is not None:
            self.write_calendar(path)

    def write_calendar(self, path: Path) -> None:
        """The plan for any calendar program."""
        if self.found is None:
            return
        from bralto.exchange.calendar_file import plan_calendar  # the package takes 0.1 s to load

        try:
            write_given(path, plan_calendar(self.found.plan, self.found.day, datetime.now(UTC)))
        except UserError as error:
            self.refused.emit(str(error))
            return
        self.said.emit(f"{path.name} is written.")

    # Painting

    def _words(self, item: Item) -> tuple[list[str], list[str]]:
        """An item's title and what it is, in as many lines as they take beside its minutes."""
        wide = text_width(f"{item.minutes}", font(Size.PANEL, heavy=True))
        room = self.items.width() - _TICK - _UNIT - 26.0 - wide
        return (
            in_lines(item.title, font(Size.TITLE, bold=True), room, 2),
            in_lines(item.detail, font(Size.NOTE), room, 5),
        )

    def _slip(self, painter: QPainter, area: QRectF, row: int) -> None:
        if self.found is None or row >= len(self.found.items):
            return
        item, tokens = self.found.items[row], self._tokens
        rounded(painter, area, tokens.colour("here" if row == self._lit else "slip"))
        done, middle = item.key in self.found.done, area.center().y()
        at = QPointF(area.left() + 20.0, middle)
        if done:
            check(painter, at, tokens.colour("ink"))
        else:
            ring(painter, at, tokens.colour("ink2"))
        left, right = area.left() + _TICK, area.right() - 14.0
        ink, ink2 = tokens.colour("ink"), tokens.colour("ink2")
        big, said = font(Size.PANEL, heavy=True), f"{item.minutes}"
        text(painter, right - _UNIT, middle + 8.0, said, big, ink, Align.AlignRight)
        text(painter, right, middle + 8.0, "min", font(Size.NOTE), ink2, Align.AlignRight)
        titles, details = self._words(item)
        base = area.top() + (26.0 if len(titles) + len(details) < 3 else 20.0)
        for number, line in enumerate(titles):
            colour = ink2 if done else ink
            text(painter, left, base + 18.0 * number, line, font(Size.TITLE, bold=True), colour)
        base += 21.0 + 18.0 * (len(titles) - 1)
        for number, line in enumerate(details):
            text(painter, left, base + _LINE * number, line, font(Size.NOTE), ink2)


class _WeekTape(QWidget):
    """Seven days on a piece of tape: meant, drawn, today."""

    def __init__(self, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(parent)
        self.setFixedHeight(58)
        self._tokens = tokens
        self._week: Week | None = None
        self._plan = Plan()

    def show_week(self, week: Week, plan: Plan) -> None:
        self._week, self._plan = week, plan
        self.setAccessibleName(week.words)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._week is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        tokens = self._tokens
        wide = self.width() / 7.0
        area = QRectF(0.0, 0.0, float(self.width()), 40.0)
        painter.fillRect(area, tokens.colour("tape"))
        today = datetime.now().astimezone().date()
        for number, day in enumerate(self._week.days):
            left = number * wide
            painter.setPen(QPen(tokens.colour("hair"), 1.0))
            painter.drawLine(QPointF(left, 26.0), QPointF(left, 40.0))
            if day in self._week.practised:
                box = QRectF(left + 0.3 * wide, 12.0, 0.4 * wide, 28.0)
                painter.fillRect(box, tokens.colour("ink"))
            elif number in self._plan.weekdays:
                painter.setPen(QPen(tokens.colour("ink2"), 1.4))
                painter.drawRect(QRectF(left + 0.3 * wide, 22.0, 0.4 * wide, 17.0))
            face = font(Size.FINE, bold=day == today)
            colour = tokens.colour("ink" if day == today else "ink2")
            words = WEEKDAYS[number][:3]
            text(painter, left + 0.5 * wide, 55.0, words, face, colour, Align.AlignHCenter)
        painter.end()
