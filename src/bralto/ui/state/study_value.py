"""The value of the open study and what is measured of it; what keeps it is `KeptStudy`."""

from __future__ import annotations

from dataclasses import replace
from enum import Enum, auto
from functools import lru_cache

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QUndoStack

from bralto.core.assessment import Assessment, assess
from bralto.core.canons.figure import canon_picture
from bralto.core.canons.library import canon_named
from bralto.core.corrections.wording import Correction
from bralto.core.errors import UserError
from bralto.core.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.study import Mark, Picture, State, Study
from bralto.core.tolerances import Grade
from bralto.core.views.anchored import view_of
from bralto.core.views.model import View
from bralto.store.library import Library, StoredStudy

__all__ = ["Change", "StudyValue"]

_FOLLOW_MS = 16
"""Time after which figures follow a mark that is dragged: one frame behind the hand."""


@lru_cache(maxsize=8)
def _blank(width: int, height: int) -> Picture:
    """The drawing that is not there yet; one object, so that nothing takes it for another."""
    return Picture("", width, height)


class Change(Enum):
    """What of the open study changed."""

    STUDY = auto()
    PICTURE = auto()
    MARKS = auto()
    STEP = auto()
    POINTED = auto()
    PASS = auto()
    NOTES = auto()


class StudyValue(QObject):
    """What lies on the boards, with its assessment; measured again by those that change it."""

    changed = pyqtSignal(Change)
    trouble = pyqtSignal(str)
    told = pyqtSignal(str)
    dragged = pyqtSignal(str)

    def __init__(
        self, library: Library, stored: StoredStudy, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._library = library
        self._stored = stored
        self._version = stored.version
        self.state_name = stored.study.states[-1].name if stored.study.states else ""
        self.against = ""  # an earlier state in the reference's place, or the reference itself
        self.study: Study = stored.study
        self.view: View = view_of(stored.study)
        self.undo_stack = QUndoStack(self)
        self._in_hand: tuple[str, str, Mark] | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(_FOLLOW_MS)
        self._soon.timeout.connect(self._measure_shown)
        self.corrections: tuple[Correction, ...] = ()
        self._listed: tuple[Correction, ...] = ()
        self.by_share = False
        self.unfolded: Correction | None = None  # whose consequences are listed
        self.assessment: Assessment
        self._assess()
        self.on_both = self._find_both()

    # What there is

    @property
    def id(self) -> str:
        """The study's id in the library."""
        return self._stored.id

    @property
    def grade(self) -> Grade:
        """The learner's grade for what the view shows."""
        return self.view.grade(self.study.grade)

    def picture(self, board: str) -> Picture:
        """The picture on a board; an empty one where there is no drawing yet."""
        name = self._picture_name(board)
        state = self.study.state(name)
        if name and state is not None:
            return state.picture
        seen = self.study.reference
        if seen is None:
            seen = canon_picture(self.view, canon_named(str(self.study.canon)))
        return _blank(seen.width, seen.height) if board == "drawing" else seen

    @property
    def imagined(self) -> bool:
        """Whether a canon stands in the reference's place."""
        return self.study.reference is None

    @property
    def undrawn(self) -> bool:
        """Whether there is a reference alone: before a line is drawn."""
        return not self.study.states

    def _picture_name(self, board: str) -> str:
        """The state whose picture lies on a board, or "" for the reference."""
        return self.against if board == "reference" else self.state_name

    @property
    def drawing_head_mm(self) -> float | None:
        """One reference head on the drawing's sheet, where it is known."""
        unit = self.assessment.unit
        mm = unit if isinstance(unit, NotMeasurable) else unit.drawing_mm
        return None if isinstance(mm, NotMeasurable) else mm

    def media_of(self, board: str) -> str:
        """Name in the media folder of a board's picture, or '' where the study came without it."""
        return self._stored.media.get(self._picture_name(board), "")

    def media_path(self, board: str) -> str | None:
        """Where the picture of a board lies, or None where the study came without it."""
        if self._refusal(board):
            return None
        name = self._stored.media.get(self._picture_name(board))
        return None if name is None else str(self._library.media.path(name))

    def _refusal(self, board: str) -> str:
        """Why nothing can be kept of a board, or ""."""
        if board == "drawing":
            return "There is no drawing yet: photograph it first." if self.undrawn else ""
        if self.imagined and not self.against:
            return "A canon stands here: what is asked for are the marks of your drawing."
        return ""

    def _row(self, board: str) -> int:
        return self._stored.pictures[self._picture_name(board)]

    def _find_both(self) -> frozenset[str]:
        """Marks that have a place on both boards; of the reference while the drawing has none."""
        if not self.picture("drawing").marks:
            return self.picture("reference").placed()
        return self.picture("reference").placed() & self.picture("drawing").placed()

    # Measuring

    @property
    def dragging(self) -> bool:
        """Whether a mark is in hand that is not kept yet."""
        return self._in_hand is not None

    @property
    def in_hand_on(self) -> str | None:
        """The board whose mark is being dragged, or None."""
        return None if self._in_hand is None else self._in_hand[0]

    def _put(self, board: str, key: str, mark: Mark | None) -> None:
        self._replace_picture(board, self.picture(board).with_mark(key, mark))

    def _show(self, board: str, key: str, mark: Mark | None) -> None:
        """Put a mark that is not kept; while it is dragged it is measured once it is painted, so
        that it never lags behind the hand."""
        self._put(board, key, mark)
        if self.dragging:
            if not self._soon.isActive():  # not put off by further moves
                self._soon.start()
            self.dragged.emit(board)
        else:
            self._measure_shown()

    def _measure_shown(self) -> None:
        self._soon.stop()
        self._assess()
        self.changed.emit(Change.MARKS)

    def _measured(self, change: Change) -> None:
        self._assess()
        self.changed.emit(change)

    def _replace_picture(self, board: str, picture: Picture) -> None:
        state = self.study.state(self._picture_name(board))
        if self._picture_name(board) and state is not None:
            self.study = self.study.with_state(replace(state, picture=picture))
        else:
            self.study = replace(self.study, reference=picture)
        self.on_both = self._find_both()

    @property
    def in_doubt(self) -> bool:
        """Whether the whole picture must be looked at before any error is told."""
        return any(one.of_the_whole for one in self.assessment.doubts)

    def greatest_first(self, on: bool) -> None:
        """List the corrections by what they take away, or in the order of work."""
        self.by_share = on
        self._order_corrections()

    def _order_corrections(self) -> None:
        listed = self._listed
        self.corrections = (
            tuple(sorted(listed, key=lambda one: -one.share)) if self.by_share else listed
        )
        self.unfolded = None

    def consequences(self, one: Correction) -> tuple[Reading, ...]:
        """The errors that follow from a correction, worst first."""
        if one not in self._listed:
            return ()
        return self.assessment.following(self._listed.index(one) + 1)

    def _assess(self) -> None:
        """Measure; the corrections wait until a mark that is being dragged is let go."""
        state, settled = self.study.state(self.state_name), self._in_hand is None
        study = self.study.against_state(self.against) if self.against else self.study
        if state is None:
            state = State("", self.picture("drawing"))
        try:
            self.assessment = assess(study, state, corrections=settled)
        except UserError:
            if not self.imagined:
                raise
            # Too few marks to hold against a canon: the canon alone is shown.
            beside = replace(study, reference=self.picture("reference"))
            self.assessment = assess(
                beside, replace(state, picture=replace(state.picture, marks={}))
            )
        if settled:
            found = self.assessment.corrections
            self._listed = () if isinstance(found, NotMeasurable) else found
            self._order_corrections()
