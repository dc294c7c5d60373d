"""A study of the library in hand: its value, its assessment, and every edit of it.

Every edit is an undo command and a transaction of the library at once.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from enum import Enum, auto

from PyQt6.QtCore import QObject, QTimer, pyqtSignal
from PyQt6.QtGui import QUndoStack

from bralto.core.assessment import Assessment, assess
from bralto.core.canons.figure import canon_picture
from bralto.core.canons.library import canon_named
from bralto.core.carry import carry_by_fit, carry_by_sheet, confirmed, is_proposed
from bralto.core.corrections.wording import Correction
from bralto.core.errors import UserError
from bralto.core.results import NotMeasurable
from bralto.core.study import Mark, Picture, Sheet, State, Study
from bralto.core.tolerances import SAME_SPOT_PX
from bralto.core.views.anchored import view_of
from bralto.core.views.model import View
from bralto.store.library import Library, StoredStudy
from bralto.ui.state.edits import MarksEdit, PictureEdit

__all__ = ["Change", "KeptStudy"]

Point = tuple[float, float]

_FOLLOW_MS = 16
"""Time after which figures follow a mark that is dragged: one frame behind the hand."""


class Change(Enum):
    """What of the open study changed."""

    STUDY = auto()
    PICTURE = auto()
    MARKS = auto()
    STEP = auto()
    POINTED = auto()
    PASS = auto()
    NOTES = auto()


class KeptStudy(QObject):
    """What is kept of a study, and measured of it."""

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
        self.assessment: Assessment
        self._assess()
        self.on_both = self._find_both()

    # What there is

    @property
    def id(self) -> str:
        """The study's id in the library."""
        return self._stored.id

    def picture(self, board: str) -> Picture:
        """The picture on a board; an empty one where there is no drawing yet."""
        name = self._picture_name(board)
        state = self.study.state(name)
        if name and state is not None:
            return state.picture
        seen = self.study.reference
        if seen is None:
            seen = canon_picture(self.view, canon_named(str(self.study.canon)))
        return Picture("", seen.width, seen.height) if board == "drawing" else seen

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

    # Marks

    def move(
        self, board: str, key: str, x: float, y: float, spread: float, *, nudge: bool = False
    ) -> bool:
        """Move a mark that is there; a drag is one edit, nudges merge."""
        held, self._in_hand = self._in_hand, None
        self._soon.stop()
        if held is not None:
            self._put(*held)  # for the undo command; what is kept next is measured
        mark = self.picture(board).marks[key]
        moved = replace(confirmed(mark) if is_proposed(mark) else mark, x=x, y=y, spread=spread)
        done = self.set_mark(board, key, moved, nudge=nudge)
        if not done and held is not None:
            self._show(*held)
        return done

    def preview(self, board: str, key: str, x: float, y: float) -> None:
        """Show a mark where it is being dragged to; nothing is kept until the drag ends."""
        mark = self.picture(board).marks[key]
        if self._in_hand is None:
            self._in_hand = (board, key, mark)
        self._show(board, key, replace(mark, x=x, y=y))

    @property
    def dragging(self) -> bool:
        """Whether a mark is in hand that is not kept yet."""
        return self._in_hand is not None

    @property
    def in_hand_on(self) -> str | None:
        """The board whose mark is being dragged, or None."""
        return None if self._in_hand is None else self._in_hand[0]

    def put_back(self) -> None:
        """End a preview: the mark lies where it was before the drag."""
        if self._in_hand is not None:
            held, self._in_hand = self._in_hand, None
            self._show(*held)

    def set_mark(self, board: str, key: str, mark: Mark, *, nudge: bool = False) -> bool:
        """Set or move a mark by an undo command; what cannot be is said."""
        picture = self.picture(board)
        if refusal := self._refusal(board):
            self.trouble.emit(refusal)
            return False
        if not (0.0 <= mark.x <= picture.width and 0.0 <= mark.y <= picture.height):
            self.trouble.emit("That is outside the picture.")
            return False
        for other, there in picture.marks.items():
            near = max(abs(there.x - mark.x), abs(there.y - mark.y)) < SAME_SPOT_PX
            if other != key and there.visibility != "absent" and near:
                self.trouble.emit(
                    f"The {self.view.point_label(other)} is in that very spot already: "
                    f"show where the {self.view.point_label(key)} is."
                )
                return False
        self.undo_stack.push(MarksEdit(self, board, {key: mark}, nudge=nudge))
        return True

    def set_marks(self, board: str, marks: Mapping[str, Mark | None]) -> None:
        """Set or take away several marks as one edit."""
        if marks:
            self.undo_stack.push(MarksEdit(self, board, marks))

    def keep_marks(self, board: str, marks: Mapping[str, Mark | None]) -> None:
        """One transaction, then the new value; for the undo commands alone."""
        try:
            self._library.put_marks(self._row(board), marks)
        except UserError as error:
            self.trouble.emit(str(error))
            return
        for key, mark in marks.items():
            self._put(board, key, mark)
        self._measured(Change.MARKS)

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
            self.corrections = () if isinstance(found, NotMeasurable) else found

    def last_set(self, board: str) -> str | None:
        """The mark of a board that was set or moved last, if it is still there."""
        for i in range(self.undo_stack.index() - 1, -1, -1):
            command = self.undo_stack.command(i)
            if isinstance(command, MarksEdit) and command.board == board:
                return command.key if command.key in self.picture(board).marks else None
        return None

    # Marks carried here

    def proposals(self, board: str) -> tuple[str, ...]:
        """Marks that were carried to a board and have not been looked at, in placing order."""
        marks = self.picture(board).marks
        return tuple(k for k in self.view.placing if k in marks and is_proposed(marks[k]))

    def propose_from_reference(self) -> None:
        """Carry the marks that the drawing lacks through the best fit of the others."""
        drawing = self.picture("drawing")
        found = carry_by_fit(self.view, self.picture("reference"), drawing)
        if isinstance(found, NotMeasurable):
            self.trouble.emit(f"Nothing can be carried over: {found.reason}.")
            return
        self.set_marks("drawing", {k: m for k, m in found.items() if k not in drawing.marks})

    def confirm(self, board: str, key: str, spread: float) -> None:
        """A carried mark was looked at and is right where it lies."""
        mark = self.picture(board).marks[key]
        self.set_mark(board, key, replace(confirmed(mark), spread=spread))

    # Pictures

    def set_sheet(self, board: str, sheet: Sheet | None) -> None:
        """Say where the sheet of paper is in a picture, or that there is none."""
        before = self.picture(board)
        # Plumb is the sheet's own once there is one; a turn of the raw picture says nothing of it.
        same = (sheet is None) == (before.sheet is None)
        plumb = before.plumb_deg if same else 0.0
        self._edit(board, replace(before, sheet=sheet, plumb_deg=plumb), "sheet")

    def set_plumb(self, board: str, plumb_deg: float) -> None:
        """Turn a picture until what is truly vertical stands so."""
        self._edit(board, replace(self.picture(board), plumb_deg=plumb_deg), "plumb")

    def set_crop(self, board: str, crop: tuple[float, float, float, float] | None) -> None:
        """Look at a part of a picture alone (image px); marks outside it stay."""
        self._edit(board, replace(self.picture(board), crop=crop), "crop")

    def set_polygon(self, board: str, name: str, corners: tuple[Point, ...]) -> None:
        """Draw a shape on a board (image px), or take it away where there are no corners."""
        before = self.picture(board)
        kept = {key: shape for key, shape in before.polygons.items() if key != name}
        if corners:
            kept[name] = corners
        self._edit(board, replace(before, polygons=kept), f"shape {name}")

    def set_permission(self, board: str, permission: str | None) -> None:
        """Say where a picture comes from."""
        self._edit(board, replace(self.picture(board), permission=permission), "permission")

    def _edit(self, board: str, after: Picture, words: str) -> None:
        if refusal := self._refusal(board):
            self.trouble.emit(refusal)
            return
        if after != self.picture(board):
            self.undo_stack.push(PictureEdit(self, board, after, words))

    def keep_picture(self, board: str, picture: Picture) -> None:
        """One transaction, then the new value; for the undo commands alone."""
        there = replace(picture, marks=self.picture(board).marks)
        try:
            self._library.put_picture(self._row(board), there)
        except UserError as error:
            self.trouble.emit(str(error))
            return
        self._replace_picture(board, there)
        self._measured(Change.PICTURE)

    # States of the drawing

    def choose_state(self, name: str) -> None:
        """Put another state of the drawing on the board."""
        if name != self.state_name and self.study.state(name) is not None:
            self.put_back()
            self.state_name = name
            if self.against == name:
                self.against = ""
            self.on_both = self._find_both()
            self._measured(Change.STUDY)

    def show_pair(self, state: str, against: str) -> None:
        """The two pictures that an edit was made on."""
        self.choose_state(state)
        self.compare_with(against)

    def compare_with(self, state: str) -> None:
        """Put an earlier state in the reference's place; "" puts the reference there again."""
        if state != self.against and state != self.state_name:
            self.put_back()
            self.against = state
            self.on_both = self._find_both()
            self._measured(Change.STUDY)

    def add_state(self, new: State, media: str) -> str | None:
        """Keep a further state of the drawing, its marks carried over from the one before where
        both sheets are known; gives why they were not, or None."""
        before = self.picture("drawing")
        marks = carry_by_sheet(before, new.picture)
        reason = marks.reason if isinstance(marks, NotMeasurable) else None
        if not isinstance(marks, NotMeasurable):
            new = replace(new, picture=replace(new.picture, marks=marks))
        try:
            self._library.add_state(self.id, new, media)
        except UserError as error:
            self.trouble.emit(str(error))
            return str(error)
        stored = self._library.stored(self.id)
        assert stored is not None
        self._stored = stored
        self.study = replace(self.study, states=(*self.study.states, new))
        self.choose_state(new.name)
        return reason

    # What is said of the study as a whole, see `StudyHead`

    def keep_head(self, changed: Study, change: Change = Change.STUDY) -> None:
        """One transaction, then the new value, measured again unless only notes changed."""
        try:
            self._library.put_head(self.id, changed)
        except UserError as error:
            self.trouble.emit(str(error))
            return
        self.study = changed
        if change is Change.NOTES:
            self.changed.emit(change)
        else:
            self._measured(change)
