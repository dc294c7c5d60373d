"""Guess first: practical questions on the reference before its figures are shown."""

from __future__ import annotations

from PyQt6.QtCore import QSignalBlocker, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bralto.core.results import NotMeasurable
from bralto.core.session.guesses import (
    GUESSED,
    Asked,
    questions,
    seeing_and_doing,
    told_right,
)
from bralto.core.words.phrases import plain, sentence, signed
from bralto.ui.bench.passes.dial import Dial
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt
from bralto.ui.settings import Settings
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.figure_spin import FigureSpin
from bralto.ui.widgets.row_list import Row, Rows, Tick

__all__ = ["GuessSlip"]


class GuessSlip(QWidget):
    """In the ladder's place; `done` once it is left."""

    done = pyqtSignal()

    title = "Guess first"
    prompt = Prompt(
        "Look at the reference and guess:",
        "a wrong guess teaches most",
        (("Enter", "my guess"), ("Esc", "show the figures")),
    )

    def __init__(
        self, study: OpenStudy, settings: Settings, tokens: Tokens, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._settings = settings
        self._study = study
        self.asked: tuple[Asked, ...] = ()
        self.at = 0
        self.question = QLabel("", self)
        self.question.setObjectName("panel")
        self.question.setWordWrap(True)
        self.count = QLabel("", self)
        self.count.setObjectName("note")
        self.dial = Dial(tokens, self)
        self.number = FigureSpin(self)
        self.number.setAccessibleName("Your guess in figures")
        self.choices = [QPushButton("", self), QPushButton("", self)]
        self.take = QPushButton("That is my guess", self)
        self.skip = QPushButton("Skip", self)
        self.leave = QPushButton("Show the figures", self)
        self.never = QPushButton("", self)
        self.never.clicked.connect(self._turn)
        self.rows = Rows(tokens, "Your guesses", self)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 8, 14, 0)
        column.setSpacing(12)
        for part in (self.count, self.question, self.dial, self.number, *self.choices):
            column.addWidget(part)
        buttons = QHBoxLayout()
        for button in (self.take, self.skip):
            buttons.addWidget(button)
        buttons.addStretch(1)
        column.addLayout(buttons)
        self._air = QWidget(self)
        column.addWidget(self._air, 1)
        column.addWidget(self.rows, 1)
        for button in (self.leave, self.never):
            column.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
        self.dial.moved.connect(self._show_number)
        self.number.valueChanged.connect(self.dial.show_value)
        self.take.clicked.connect(self._take_number)
        self.skip.clicked.connect(self._next)
        self.leave.clicked.connect(self.done)
        for i, button in enumerate(self.choices):
            button.clicked.connect(lambda _=False, i=i: self._choose(i))

    def begin(self) -> bool:
        """Ask from the first question on; False where the reference has too few marks."""
        figure = self._study.examination.seen.figure
        if isinstance(figure, NotMeasurable):
            self._study.trouble.emit(sentence(figure.reason))
            return False
        self.asked, self.at = questions(figure), 0
        if not self.asked:
            self._study.trouble.emit("Set a few marks more on the reference first.")
            return False
        self._show()
        return True

    def _turn(self) -> None:
        """Ask by itself before a drawing is measured, or never any more."""
        self._settings.set_guess_first(not self._settings.guess_first)
        self._say_turn()
        if not self._settings.guess_first:
            self.done.emit()

    def _say_turn(self) -> None:
        on = self._settings.guess_first
        self.never.setText("Do not ask by itself" if on else "Ask by itself")

    def _show(self) -> None:
        self._say_turn()
        asked = self.asked[self.at] if self.at < len(self.asked) else None
        for part in (self.question, self.take, self.skip, self.dial, self.number, *self.choices):
            part.setVisible(asked is not None)
        self.rows.setVisible(asked is None)
        self._air.setVisible(asked is not None)
        if asked is None:
            self.count.setText("Seeing and doing")
            self.rows.say(self._compared(), ("hand", "eye"))
            self.take_keys()
            return
        self.count.setText(f"Guess by eye: question {self.at + 1} of {len(self.asked)}")
        self.question.setText(asked.text)
        number = not asked.options
        for part in (self.dial, self.number, self.take):
            part.setVisible(number)
        for button in self.choices:
            button.setVisible(not number)
        if number:
            self.dial.ask(asked)
            blocker = QSignalBlocker(self.number)
            self.number.setRange(asked.low, asked.high)
            self.number.setSingleStep(asked.step)
            self.number.setDecimals(asked.digits)
            self.number.setSuffix(asked.unit)
            self.number.setValue(self.dial.value)
            del blocker
        else:
            for button, option in zip(self.choices, asked.options, strict=True):
                button.setText(option[:1].upper() + option[1:])
        self.take_keys()

    def take_keys(self) -> None:
        """The keys go to what is asked."""
        asked = self.asked[self.at] if self.at < len(self.asked) else None
        if asked is None:
            self.leave.setFocus()
        elif asked.options:
            self.choices[0].setFocus()
        else:
            self.dial.setFocus()

    def _show_number(self, value: float) -> None:
        blocker = QSignalBlocker(self.number)
        self.number.setValue(value)
        del blocker

    def _take_number(self) -> None:
        asked = self.asked[self.at]
        self._study.head.guess(asked.key, self.number.value() / asked.factor)
        self._next()

    def _choose(self, i: int) -> None:
        asked = self.asked[self.at]
        study = self._study
        study.head.note(study.notes.answer(GUESSED, asked.key, asked.options[i]))
        self._next()

    def _next(self) -> None:
        self.at += 1
        self._show()

    def _compared(self) -> tuple[Row, ...]:
        """What the eye missed, and what the hand added."""
        study = self._study
        rows = [Row("", "In figures", "guess less seen; drawn less guess", title=True)]
        for one in seeing_and_doing(study.assessment, study.study.guesses, self.asked):
            digits = one.digits
            hand = "" if one.hand is None else signed(one.hand, digits)
            guessed, seen = (plain(value, digits) for value in (one.guess, one.seen))
            detail = f"guessed {guessed}, seen {seen}{one.unit}"
            rows.append(Row("", one.label, detail, (hand, signed(one.seeing, digits))))
        given = study.notes.answers.get(GUESSED, {})
        told = told_right(given, self.asked)
        if told:
            right = sum(one.given == one.answer for one in told)
            rows.append(Row("", "Which one", f"{right} of {len(told)} right", title=True))
        for each in told:
            same = each.given == each.answer
            detail = each.given if same else f"you said {each.given}: it is {each.answer}"
            rows.append(Row("", each.text, detail, glyph=Tick.DONE if same else Tick.OPEN))
        return tuple(rows)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Enter takes the guess, or the choice that has the focus; Escape shows the figures."""
        assert event is not None
        key = event.key()
        if key in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            focused = next((b for b in (*self.choices, self.leave) if b.hasFocus()), None)
            if focused is not None:
                focused.click()
            elif self.take.isVisible():
                self._take_number()
        elif key == Qt.Key.Key_Escape:
            self.done.emit()
        else:
            event.ignore()
