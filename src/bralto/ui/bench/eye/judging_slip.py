"""Judge it first: how close the learner finds the drawing, before any figure of it is shown."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt
from bralto.ui.settings import Settings
from bralto.ui.slips.log_slip import LOG_TITLES, RATINGS, lines_edit

__all__ = ["JudgingSlip"]

_WRITTEN = ("well", "next")


class JudgingSlip(QWidget):
    """In the ladder's place, once, when a drawing has its marks; `done` once it is left.

    What was said goes into the study's log.
    """

    done = pyqtSignal()

    title = "Judge it first"
    prompt = Prompt(
        "How close is your drawing?",
        "say so before any figure does",
        (("1 to 5", "far off to very close"), ("Enter", "show the figures")),
    )

    def __init__(self, study: OpenStudy, settings: Settings, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._study, self._settings = study, settings
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("How close is your drawing?")
        question = QLabel("How close is it?", self)
        question.setObjectName("panel")
        self.ratings = QButtonGroup(self)
        numbers = [QPushButton(str(number), self) for number in range(1, len(RATINGS))]
        buttons = QHBoxLayout()
        buttons.setSpacing(6)
        for number, button in enumerate(numbers, start=1):
            button.setObjectName("figure")
            button.setCheckable(True)
            button.setMinimumWidth(0)
            button.setAccessibleName(RATINGS[number])
            self.ratings.addButton(button, number)
            buttons.addWidget(button, 1)
        ends = QHBoxLayout()
        for words in (RATINGS[1], RATINGS[-1]):
            end = QLabel(words.lstrip("0123456789 "), self)
            end.setObjectName("note")
            ends.addWidget(end, 0)
        ends.insertStretch(1, 1)
        self.written = {key: lines_edit(LOG_TITLES[key], self) for key in _WRITTEN}
        self.leave = QPushButton("Show the figures", self)
        self.leave.setAutoDefault(True)
        self.leave.clicked.connect(self._leave)
        self.never = QPushButton("Do not ask by itself", self)
        self.never.clicked.connect(self._never)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 8, 14, 0)
        column.setSpacing(8)
        column.addWidget(question)
        column.addLayout(buttons)
        column.addLayout(ends)
        for key, edit in self.written.items():
            asked = QLabel(LOG_TITLES[key], self)
            asked.setObjectName("note")
            asked.setWordWrap(True)
            column.addWidget(asked)
            column.addWidget(edit)
        column.addSpacing(6)
        column.addWidget(self.leave, 0, Qt.AlignmentFlag.AlignLeft)
        column.addStretch(1)
        column.addWidget(self.never, 0, Qt.AlignmentFlag.AlignLeft)

    def begin(self) -> bool:
        """Ask, with what the log holds already."""
        log = self._study.notes.log
        self.ratings.setExclusive(False)
        for button in self.ratings.buttons():
            button.setChecked(False)
        self.ratings.setExclusive(True)
        for key, edit in self.written.items():
            edit.setPlainText(log.get(key, ""))
        return True

    def take_keys(self) -> None:
        """The keys go to the ratings: a figure rates."""
        self.setFocus()  # not to one of them: none is proposed

    def _never(self) -> None:
        self._settings.set_guess_first(False)
        self._leave()

    def _leave(self) -> None:
        self.done.emit()

    def keep(self) -> None:
        """Put what was said into the log: whichever way the slip is left, nothing needs saving."""
        notes = self._study.notes
        rated = self.ratings.checkedId()
        if rated > 0:
            notes = notes.wrote("before", str(rated))
        for key, edit in self.written.items():
            notes = notes.wrote(key, edit.toPlainText())
        self._study.head.note(notes)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """A figure rates, Enter and Escape show the figures."""
        assert event is not None
        key = event.key()
        rated = self.ratings.button(key - Qt.Key.Key_0)
        if rated is not None:
            rated.setChecked(True)
            self.leave.setFocus()
        elif key in {Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape}:
            self._leave()
        else:
            event.ignore()
