"""The pass in which a figure is sighted from life: it has the whole bench to itself."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QResizeEvent, QShowEvent
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from bralto.core.results import NotMeasurable
from bralto.core.session.passes import ENOUGH_SIGHTINGS
from bralto.core.sightings.figure.implied import Implied, imply
from bralto.core.sightings.how_sighted import FEWEST, how_sighted
from bralto.core.sightings.next_question import Next
from bralto.core.sightings.own_arm import known_arm, pooled, repeated
from bralto.core.sightings.told_skills import told_so_far
from bralto.core.study.taken import Sighting
from bralto.core.study.two_boards import Board
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import answering
from bralto.ui.session.moment import Moment
from bralto.ui.settings import Settings
from bralto.ui.sight.answer_board import AnswerBoard
from bralto.ui.sight.distance_slip import DistanceSlip
from bralto.ui.sight.figure_so_far import FigureSoFar
from bralto.ui.sight.heading_choices import order_choice, stance_choice
from bralto.ui.sight.other_questions import OtherQuestions
from bralto.ui.sight.own_sighting import OwnSighting
from bralto.ui.sight.painted import Lines
from bralto.ui.sight.practice.seated import Seated
from bralto.ui.sight.question_slip import QuestionSlip
from bralto.ui.sight.sighting_list import SightingList
from bralto.ui.sight.told_lines import implied_by, sense_lines, told_lines
from bralto.ui.sight.true_size import CardSlip, px_per_mm
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.heading import Heading

__all__ = ["SightRoom"]

_FEWEST_PX = 900
"""Width below which the figure so far gives way to the question."""

_WIDE_PX = 1200
"""Width from which on a heading has room for more words."""

_TELLS_PX = 560
"""Height below which what the sightings tell gives way too."""


class SightRoom(QWidget):
    """The figure so far, the next question, and all that was sighted."""

    sitter_wanted = pyqtSignal()
    """Another one, for practice."""

    def __init__(
        self,
        study: OpenStudy,
        tasks: Tasks,
        settings: Settings,
        tokens: Tokens,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setObjectName("ground")
        self._study, self._settings, self._tokens = study, settings, tokens
        self._at: Next | None = None
        self._behind = False
        self._twice = repeated(study.sighted.view, study.sighted.kept.items)
        study.apply(answering.know_arm, known_arm(settings.arm))
        self.figure = FigureSoFar(study.sighted.view, tokens, self)
        self.seated: Seated | None = None
        self._headings = [Heading(tokens, self) for _ in range(3)]
        if not study.from_life:
            self.seated = Seated(study, settings, tokens, self)
            self.seated.card_wanted.connect(self._check_screen)
            self.figure.hide()
            self._headings[0].hide()
        self.slip = QuestionSlip(study.sighted.view, tokens, self)
        self.slip.taken.connect(self._keep)
        self.slip.trouble.connect(study.trouble)
        self.others = OtherQuestions(self)
        self.others.chosen.connect(self._choose)
        self.others.own_wanted.connect(self.ask_own)
        self.distances = QPushButton("eye, pencil and paper …", self)
        self.distances.setObjectName("other")
        self.distances.setMinimumHeight(40)
        self.distances.setAccessibleName("where lengths in mm are read off")
        self.distances.setToolTip("How far from the eye the pencil is, and the paper (D)")
        self.distances.clicked.connect(self.ask_distances)
        self.told = Lines(tokens, self)
        self.listed = SightingList(study, tasks, tokens, self)
        self.listed.repeated.connect(self.board.setFocus)
        self._lay_out()
        study.changed.connect(self._on_change)
        self._fill()

    def _lay_out(self) -> None:
        left = QVBoxLayout()
        left.setSpacing(6)
        left.addWidget(self._headings[0])
        left.addWidget(self.seated or self.figure, 1)
        middle = QVBoxLayout()
        middle.setSpacing(8)
        middle.addWidget(self._headings[1])
        middle.addWidget(self.slip, 3)
        middle.addWidget(self.others)
        middle.addWidget(self.told)
        right = QVBoxLayout()
        right.setSpacing(6)
        right.addWidget(self._headings[2])
        right.addWidget(self.listed, 1)
        right.addWidget(self.distances)
        self._columns = whole = QHBoxLayout(self)
        whole.setContentsMargins(24, 6, 24, 8)
        whole.setSpacing(24)
        whole.addLayout(left)
        whole.addLayout(middle, 8)
        whole.addLayout(right)

    def release(self) -> None:
        """Let go of the study; what was sighted twice tells of the learner's own arm."""
        self._study.changed.disconnect(self._on_change)
        twice = repeated(self._study.sighted.view, self._study.sighted.kept.items)
        if twice != self._twice:
            arm = pooled(self._settings.arm, twice, without=self._twice)
            self._settings.set_arm(arm)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        wide = self.width() >= _FEWEST_PX
        if self.seated is not None:  # without whom there is nothing to sight
            for one in (self._headings[2], self.listed):
                one.setVisible(wide)
            self._columns.setStretch(0, 8 if self.width() >= _WIDE_PX else 6)
        else:
            self.figure.setVisible(wide)
            self._headings[0].setVisible(wide)
            self._columns.setStretch(0, 5 if wide else 0)
        self._make_room_to_tell()
        self.slip.fit(low=self.height() < _TELLS_PX)
        QTimer.singleShot(0, self.others.name)  # once they have their places
        if self._study.study.sightings is not None:
            self._name_sides(imply(self._study.sighted.view, self._study.sighted.kept.items))

    def _make_room_to_tell(self) -> None:
        """Where there is little height, how one sights takes the other questions' place, while the
        learner wants to see it."""
        low = self.height() < _TELLS_PX
        wanted = self.seated is not None and self._study.session.asking.told
        self.told.setVisible(wanted or not low)
        self.others.setVisible(not (wanted and low))

    @property
    def board(self) -> AnswerBoard:
        """Where the question is answered."""
        return self.slip.board

    @property
    def _placing(self) -> Heading:
        """The heading in which it is said how the model is placed, or where the sitter stands."""
        if self.seated is not None:
            return self.seated.heading
        return self._headings[0 if self._headings[0].isVisible() else 2]

    # What is asked

    def _on_change(self, before: Moment, after: Moment) -> None:
        sighted = after.study.sightings is not before.study.sightings
        otherwise = after.session.asking != before.session.asking
        if not self.isVisible():
            self._behind = True  # filled when it is entered: marks of a drawing are set meanwhile
        elif sighted or otherwise:
            self._fill()
            if sighted:
                self.listed.show_last()

    def showEvent(self, event: QShowEvent | None) -> None:
        if self._behind:
            self._fill()

    def _fill(self) -> None:
        study = self._study
        if study.study.sightings is None:
            return
        self._behind = False
        view = study.sighted.view
        found, items = study.now.questions, study.sighted.kept.items
        self._at = found[0] if found else None
        one = None if self._at is None else self._at.sighting
        self.figure.view = view
        self.slip.ask(view, one, study.session.asking.arm, px_per_mm(self._settings, self))
        self.others.offer(view, found[1:])
        self.distances.setVisible(study.session.asking.in_mm)
        implied = imply(view, items)
        if not isinstance(implied, NotMeasurable):
            hidden = set(one.points) | set(one.of) if one is not None else set()
            marks_of = {point.key: point.marks for point in view.points}
            hidden = {mark for key in hidden for mark in marks_of.get(key, (key,))}
            self.figure.show_figure(implied, hidden - {view.head[0], view.plumb})
            self._tell(implied, items)
        about = "" if self._at is None or not self._at.about else self._about(self._at.about)
        self._headings[1].say("Next sighting", about, order_choice(study))
        self._name_sides(implied)
        self.listed.fill()

    def _name_sides(self, implied: Implied | NotMeasurable) -> None:
        """The headings at both sides; where there is no room for the figure it is said beside the
        sightings how the model is placed."""
        study, narrow = self._study, self.width() < _FEWEST_PX
        placing = stance_choice(study) if study.from_life else ""
        if self.seated is None:
            on_sheet = " on paper" if self.width() >= _WIDE_PX else ""
            so_far = implied_by(study.sighted.kept, implied, on_sheet=on_sheet)
            self._headings[0].say("The figure so far", so_far, placing)
        items = study.sighted.kept.items
        count = f"{len(items)} of about {ENOUGH_SIGHTINGS}" if items else ""
        self._headings[2].say("Sightings", count, placing if narrow else "")

    def _tell(self, implied: Implied, items: Sequence[Sighting]) -> None:
        """What the sightings tell; in practice how they were, once the learner asks."""
        study = self._study
        if self.seated is None:
            self.told.say(
                told_lines(told_so_far(study.sighted.view, implied, study.grade)) if items else ()
            )
            return
        self._make_room_to_tell()
        senses = how_sighted(study.sighted.view, items, study.picture(Board.REFERENCE))
        if not senses:
            self.told.say((), f"After {FEWEST} of a kind you may see how you sight.")
        elif study.session.asking.told:
            self.told.say(sense_lines(senses), "How you sight", wide=True)
        else:
            self.told.say((), "K shows how you sight: bias and scatter.")

    def _about(self, check: str) -> str:
        """What it tells most of; never of a value."""
        spec = self._study.sighted.view.measure(check)
        return f"tells most of: {spec.label}" if spec is not None else ""

    def _choose(self, number: int) -> None:
        found = self._study.now.questions
        if number < len(found):  # what was offered may be of another grade by now
            self._study.apply(answering.choose_question, found[number].sighting.asks)
            self.board.setFocus()

    def ask_own(self) -> None:
        """Let the learner say what to sight."""
        slip = OwnSighting(self._study.sighted.view, self._study.sighted.kept.items, self)

        def ask() -> None:
            if slip.question is not None:
                self._study.apply(answering.ask_own, slip.question)
                self.board.setFocus()

        slip.accepted.connect(ask)
        slip.open()

    def ask_distances(self) -> None:
        """Let the learner say how far from the eye the pencil is, and the paper."""
        study = self._study
        kept, drawn = study.sighted.kept, not study.undrawn
        slip = DistanceSlip(study.sighted.view, kept, drawn=drawn, parent=self)

        def keep() -> None:
            study.sighted.stand(slip.changed)
            self.board.setFocus()

        slip.accepted.connect(keep)
        slip.open()

    # The answer

    def _keep(self, one: Sighting) -> None:
        """Keep what was sighted, and go on."""
        self._study.sighted.take(one)
        self.board.setFocus()

    def toggle_pencil(self) -> None:
        """Thumb marks in mm, or heads; the screen is checked with a card before the first."""
        self._study.apply(answering.toggle_mm)
        if self._study.session.asking.in_mm and self._settings.px_per_mm is None:
            self._check_screen()

    def _check_screen(self) -> None:
        """Let the learner lay a card on the screen."""
        slip = CardSlip(self._settings, self._tokens, self)
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        slip.checked.connect(self._show_true_size)
        slip.open()

    def _show_true_size(self, px: float) -> None:
        self.board.px_per_mm = px
        self.board.update()
        self.board.setFocus()
        if self.seated is not None:
            self.seated.stand_off()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = Qt.Key(event.key())
        plain = not event.modifiers() & (
            Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
        )
        if plain and key in {Qt.Key.Key_Return, Qt.Key.Key_Enter}:
            self.slip.answer()
        elif plain and key == Qt.Key.Key_M:
            self.toggle_pencil()
        elif plain and key == Qt.Key.Key_K and self.seated is not None:
            self._study.apply(answering.toggle_told)
        elif plain and key == Qt.Key.Key_X and self.seated is not None:
            self.sitter_wanted.emit()
        elif plain and key == Qt.Key.Key_O:
            self.ask_own()
        elif plain and key == Qt.Key.Key_P:
            self._placing.open_menu()
        elif plain and key == Qt.Key.Key_D and self.distances.isVisible():
            self.ask_distances()
        elif plain and key == Qt.Key.Key_N and self._at is not None:
            self._study.apply(answering.put_off, self._at.sighting.asks)
        elif plain and key == Qt.Key.Key_R and self._study.sighted.kept.items:
            suspects = self.listed.suspects
            items = self._study.sighted.kept.items
            row = suspects[0] if suspects else len(items) - 1
            self._study.apply(answering.ask_again, items[row].asks)
        else:
            event.ignore()
