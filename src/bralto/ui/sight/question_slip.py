"""The slip with the question: what is asked, where it is answered, and the answer so far."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from bralto.core.errors import UserError
from bralto.core.sightings.answers_read import read_value
from bralto.core.sightings.own_arm import taken_by
from bralto.core.sightings.sighting_words import asked, doubt_said, value_said
from bralto.core.study.taken import Sighting
from bralto.core.views.model import View
from bralto.ui.sight.answer_board import AnswerBoard
from bralto.ui.sight.painted import Question, Slip, Value
from bralto.ui.theme.tokens import Tokens

__all__ = ["QuestionSlip"]

_HIGH, _LOW = 152, 136
"""Height of the question, px, and where there is little."""


class QuestionSlip(Slip):
    """Answered by hand, by keys or in words."""

    taken = pyqtSignal(object)
    """A `Sighting` that is to be kept."""
    trouble = pyqtSignal(str)

    def __init__(self, view: View, tokens: Tokens, parent: QWidget) -> None:
        super().__init__(tokens, parent)
        self._view = view
        self._asked: Sighting | None = None
        self.question = Question(tokens, self)
        self.board = AnswerBoard(view, tokens, self)
        self.board.changed.connect(self.show_answer)
        self.typed = QLineEdit(self)
        self.typed.setPlaceholderText("or type it")
        self.typed.setFixedWidth(150)
        self.typed.setAccessibleName("The sighting in words")
        self.typed.returnPressed.connect(self._take_typed)
        self.take = QPushButton("That is it", self)
        self.take.setDefault(True)
        self.take.setMinimumSize(130, 44)
        self.take.clicked.connect(self.answer)
        self._value = Value(tokens, self)
        row = QHBoxLayout()
        row.addWidget(self._value, 1)
        row.addWidget(self.typed)
        row.addWidget(self.take)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 18, 24, 18)
        column.setSpacing(8)
        column.addWidget(self.question)
        column.addWidget(self.board, 1)
        column.addLayout(row)

    def fit(self, *, low: bool) -> None:
        """Leave the board more room where there is little height."""
        self.question.setFixedHeight(_LOW if low else _HIGH)

    def ask(
        self, view: View, one: Sighting | None, arm: Mapping[str, float], px_per_mm: float
    ) -> None:
        """Put up another question; None where an order is done.

        Args:
            view: with the model as it is placed.
            arm: the learner's own (`own_arm.known_arm`).
            px_per_mm: px of the window a millimetre of the pencil on the screen.
        """
        self._view, self._asked = view, one
        self.question.say(None if one is None else asked(view, one))
        self.board.view, self.board.arm, self.board.px_per_mm = view, arm, px_per_mm
        self.board.ask(one)
        self.typed.clear()
        self.show_answer()

    def show_answer(self) -> None:
        """What is answered so far."""
        one = self.board.answer
        self._value.say(
            "" if one is None else value_said(one), "" if one is None else doubt_said(one)
        )
        self.take.setEnabled(one is not None)

    def answer(self) -> None:
        """What stands on the board is what was sighted."""
        if self.board.answer is not None:
            self.taken.emit(self.board.answer)

    def _take_typed(self) -> None:
        words = self.typed.text()
        if self._asked is None or not words.strip():
            self.answer()
            return
        try:
            one = read_value(self._view, self._asked, words, about=self._asked.value)
        except UserError as error:
            self.trouble.emit(f"{error}.")
            return
        self.taken.emit(taken_by(self._view, one, self.board.arm))
