"""The study on the bench: document, session and examination, changed by gestures."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from typing import Concatenate, ParamSpec

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QUndoStack

from bralto.core.corrections.correction_words import Correction
from bralto.core.discover.lines import SightLine
from bralto.core.examination.assessment import Assessment
from bralto.core.examination.examine import Examination, GroundPair
from bralto.core.examination.kept_advice import measured_by
from bralto.core.marking.placing import Step
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import Notes
from bralto.core.study.anchored import view_of
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.study.values import Picture, Study
from bralto.core.tolerances import Grade
from bralto.core.views.model import View
from bralto.store.library import Library
from bralto.store.sqlite.reading import StoredStudy
from bralto.ui.document.advice_soon import AdviceSoon
from bralto.ui.document.board_edits import BoardEdits
from bralto.ui.document.intentions import Intentions
from bralto.ui.document.own_points import OwnPoints
from bralto.ui.document.picture_edits import PictureEdits
from bralto.ui.document.shown_states import ShownStates
from bralto.ui.document.sighting_edits import SightingEdits
from bralto.ui.document.study_document import StudyDocument
from bralto.ui.document.study_head import StudyHead
from bralto.ui.document.tied_head import TiedHead
from bralto.ui.document.worked_time import WorkedTime
from bralto.ui.running.tasks import Tasks
from bralto.ui.session import prompting
from bralto.ui.session.moment import Moment
from bralto.ui.session.shown import examined, ground_of
from bralto.ui.session.state import Ground, SessionState

__all__ = ["OpenStudy"]

_FOLLOW_MS = 16
"""Time after which figures follow a mark that is dragged: one frame behind the hand."""

P = ParamSpec("P")


class OpenStudy(QObject):
    """Joins what is kept, what is looked at and what is known of it.

    Whatever a gesture does, `changed` is emitted once, when it is over, with the moment before and
    the moment after; a listener compares what it shows.
    """

    now: Moment
    """What was told last."""

    changed = pyqtSignal(object, object)
    trouble = pyqtSignal(str)
    told = pyqtSignal(str)
    hand_found = pyqtSignal(object)
    """The learner's own spread was measured: `PooledSpread` in heads by kind of landmark."""

    def __init__(
        self,
        library: Library,
        stored: StoredStudy,
        tasks: Tasks,
        parent: QObject | None = None,
        known: Examination | None = None,
    ) -> None:
        """``known``: an earlier examination; used where it is of the very same marks."""
        super().__init__(parent)
        self.document = StudyDocument(library, stored, self)
        self.document.committed.connect(self._on_committed)
        self.document.refused.connect(self.trouble)
        self.head = StudyHead(self.document)
        self.edits = BoardEdits(self, self.trouble.emit, self.hand_found.emit)
        self.pictures = PictureEdits(self, self.edits)
        self.own = OwnPoints(self, self.edits, self.trouble.emit)
        self.sighted = SightingEdits(self, self.trouble.emit)
        self.intentions = Intentions(self, self.trouble.emit)
        self.tied = TiedHead(self, library)
        self.time = WorkedTime(self)
        self.states = ShownStates(self)
        self._view: View = view_of(stored.study)
        self._view_as = _view_as(stored.study)
        self._depth, self._telling, self._late, self.released = 0, False, False, False
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_FOLLOW_MS)
        self._soon.timeout.connect(self._follow)
        self.advice = AdviceSoon(tasks, lambda: self.now.examination, self)
        self.advice.advised.connect(self._tell)
        self.advice.trouble.connect(self.trouble)
        state = stored.study.states[-1].name if stored.study.states else ""
        self.session = SessionState(self._view.passes[1].key, state)
        self._ground: Ground | None = None
        self.session = prompting.begin_session(self.ground(), state)
        ground, study, media = self.ground(), self.document.study, self.document.media
        found = examined(study, self.session, ground, known)
        listed = found if found.is_advised else found.without_list()  # pictures do not wait for it
        self.now = Moment(study, media, self.notes, self.session, ground, found, listed)
        if self.busy:
            self.advice.want(found, hand_rests=True)

    def release(self) -> None:
        """Work nothing more out: it leaves the bench."""
        self.released = True
        self._soon.stop()
        self.advice.stop()

    # Gestures

    @contextmanager
    def gesture(self) -> Iterator[None]:
        """What is done within is one change, told once at its end."""
        self._depth += 1
        try:
            yield
        finally:
            self._depth -= 1
            if not self._depth:
                self._tell()

    def apply(
        self,
        transition: Callable[Concatenate[SessionState, Ground, P], SessionState],
        *args: P.args,
        **kwargs: P.kwargs,
    ) -> None:
        """Go on by a transition of `ui.session`."""
        with self.gesture():
            self.session = transition(self.session, self.ground(), *args, **kwargs)

    def _on_committed(self, pair: tuple[str, str] | None) -> None:
        """Something was kept or undone: the pictures that it was made on are shown."""
        with self.gesture():
            if pair is not None:
                self.session = replace(self.session, in_hand=None)  # it may be gone by this
                self.states.show(*pair)

    def _tell(self) -> None:
        """Tell what the gesture came to; what listeners change is told after it."""
        if self._telling:
            self._late = True
            return
        self._telling = True
        try:
            self._late = True
            while self._late:
                self._late = False
                self.time.keep_of_pass()
                before, after = self.now, self._after()
                if after is not None:
                    self.now = after
                    self.changed.emit(before, after)
        finally:
            self._telling = False

    def _after(self, *, settle: bool = False) -> Moment | None:
        """The moment that follows, or None where nothing is another."""
        before, ground = self.now, self.ground()
        study, media = self.document.study, self.document.media
        measured = ground is not before.ground or measured_by(study) != measured_by(before.study)
        if (measured or before.dragging) and self.session.in_hand is None:
            self.session = replace(self.session, held=None, unfolded=None)
            self.session = prompting.refresh(self.session, ground)
        found = before.examination
        if self.session.in_hand is not None and not settle:
            if measured and not self._soon.isActive():  # not put off by further moves
                self._soon.start()
        elif measured or settle or self._is_behind(ground):
            self._soon.stop()
            found = examined(study, self.session, ground, before.examination)
        after = Moment(study, media, self.notes, self.session, ground, found, before.listed)
        if self.session.in_hand is None and found is not before.listed:
            if found.is_advised:
                after = replace(after, listed=found)
            else:
                self.advice.want(found, hand_rests=not after.marks_changed(before))
                if after.boards_changed(before):
                    after = replace(after, listed=found.without_list())
        same = (
            after.study is before.study
            and after.media == before.media
            and after.session == before.session
            and after.ground is before.ground
            and after.examination is before.examination
            and after.listed is before.listed
        )
        return None if same else after

    @property
    def busy(self) -> bool:
        """Whether the list of corrections is of what has changed since: it stays until another one
        is found; of other pictures none is shown meanwhile."""
        return self.now.listed is not self.now.examination

    def _is_behind(self, ground: Ground) -> bool:
        found = self.now.examination
        named = found.state.name == self.session.state_name
        return not named or (found.seen.picture, found.drawn.picture) != (ground.seen, ground.drawn)

    def _follow(self) -> None:
        """Figures follow a mark that is being dragged."""
        before, after = self.now, self._after(settle=True)
        if after is not None:
            self.now = after
            self.changed.emit(before, after)

    def ground(self, *, in_hand: bool = True) -> Ground:
        """The pictures on both boards; the very same as before where nothing is another."""
        study, session = self.document.study, self.session
        if (so := _view_as(study)) != self._view_as:
            self._view, self._view_as = view_of(study), so
        if not in_hand:
            return ground_of(self._view, study, replace(session, in_hand=None), self._ground)
        self._ground = ground_of(self._view, study, session, self._ground)
        return self._ground

    # What there is

    @property
    def id(self) -> str:
        """The study's id in the library."""
        return self.document.id

    @property
    def study(self) -> Study:
        """As it is kept."""
        return self.document.study

    @property
    def undo_stack(self) -> QUndoStack:
        """Edits, to be undone."""
        return self.document.undo_stack

    @property
    def view(self) -> View:
        """Landmarks, measures and passes."""
        return self._view

    @property
    def grade(self) -> Grade:
        """The learner's grade for what the view shows."""
        return self.view.grade(self.study.grade)

    @property
    def notes(self) -> Notes:
        """What was noted on the bench."""
        return self.head.notes

    @property
    def imagined(self) -> bool:
        """Whether what stands in the reference's place is no picture: a canon, or what sightings
        imply."""
        return self.study.reference is None

    @property
    def from_life(self) -> bool:
        """Whether what was sighted stands in the reference's place."""
        return self.study.from_life

    @property
    def by_canon(self) -> bool:
        """Whether a canon stands in the reference's place."""
        return self.imagined and not self.from_life

    @property
    def undrawn(self) -> bool:
        """Whether there is a reference alone: before a line is drawn."""
        return not self.study.states

    def has_picture(self, board: Board) -> bool:
        """Whether there is a picture for a board: not where something else stands in the
        reference's place, nor before there is a drawing."""
        return not (self.imagined if board == Board.REFERENCE else self.undrawn)

    @property
    def lies(self) -> bool:
        """Whether the figure lies, by the reference or else by the drawing: it is wider than high
        then, and so are its boards. A canon stands, whatever is drawn from imagination."""
        seen, drawn = self.examination.seen, self.examination.drawn
        return (drawn if self.by_canon or isinstance(seen.shape, NotMeasurable) else seen).lies

    @property
    def rails(self) -> tuple[str, ...]:
        """Marks whose distance from plumb stands below the boards: of a figure that lies the
        stations too, which lie side by side there."""
        view = self.view
        return tuple(dict.fromkeys((*view.stations, *view.rails))) if self.lies else view.rails

    def picture(self, board: Board) -> Picture:
        """The picture on a board; an empty one where there is no drawing yet."""
        return self.now.picture(board)

    @property
    def examination(self) -> Examination:
        """All figures of what lies on the boards."""
        return self.now.examination

    @property
    def assessment(self) -> Assessment:
        """Measures and typical miss; with what they follow from, once the list is known."""
        return self.now.assessment

    @property
    def corrections(self) -> tuple[Correction, ...]:
        """The list, in the order of work or greatest first."""
        return self.now.corrections

    @property
    def step(self) -> Step | None:
        """What the prompt asks for."""
        return self.now.session.step

    @property
    def current_pass(self) -> str:
        """Key of the pass that is shown."""
        return self.now.session.current_pass

    @property
    def line(self) -> SightLine | None:
        """The plumb line that hangs on both boards."""
        return self.now.line

    def media_path(self, board: Board) -> str | None:
        """Where the picture of a board lies, or None where the study came without it."""
        if self.edits.refusal(board):
            return None
        return self.document.media_path(self.session.picture_name(board))

    @property
    def grounds(self) -> GroundPair:
        """The ground under the figure on both boards, by the height of the eye as it is named."""
        named = self.notes.horizon
        seen, drawn = (named.get(self.session.picture_name(board)) for board in BOARDS)
        return self.examination.grounds(seen, drawn)


def _view_as(study: Study) -> tuple[object, ...]:
    """What a study's view depends on besides its key: points of one's own are landmarks too."""
    stance = study.sightings.stance if study.from_life and study.sightings else None
    return study.anchors, stance
