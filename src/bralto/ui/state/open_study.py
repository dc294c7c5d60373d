"""The study on the bench: its value, its assessment, what is pointed at, what comes next.

Every edit is an undo command and a transaction of the library at once.
"""

from __future__ import annotations

from dataclasses import replace
from enum import Enum, auto

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from bralto.core.assessment import Assessment, assess
from bralto.core.corrections.wording import Correction
from bralto.core.errors import UserError
from bralto.core.placing import BOARDS, Step, choose_side, next_step
from bralto.core.results import NotMeasurable
from bralto.core.study import SCHOOLS, Mark, Picture, Study
from bralto.core.tolerances import SAME_SPOT_PX
from bralto.core.views.anchored import view_of
from bralto.core.views.model import View
from bralto.store.library import Library, StoredStudy

__all__ = ["Change", "OpenStudy"]


class Change(Enum):
    """What of the open study changed."""

    STUDY = auto()
    MARKS = auto()
    STEP = auto()
    POINTED = auto()
    PASS = auto()


class _MarkEdit(QUndoCommand):
    """One mark set, moved or taken away; nudges of one mark merge into one step of undo."""

    def __init__(
        self, owner: OpenStudy, board: str, key: str, after: Mark | None, *, nudge: bool
    ) -> None:
        super().__init__(key)
        self._owner, self._board, self._key, self._nudge = owner, board, key, nudge
        self._before, self._after = owner.picture(board).marks.get(key), after

    def id(self) -> int:
        return 1 if self._nudge else -1

    def mergeWith(self, other: QUndoCommand | None) -> bool:
        if not isinstance(other, _MarkEdit):
            return False
        if (other._board, other._key, other._nudge) != (self._board, self._key, True):
            return False
        self._after = other._after
        return True

    def redo(self) -> None:
        self._owner._keep(self._board, self._key, self._after)

    def undo(self) -> None:
        self._owner._keep(self._board, self._key, self._before)


class OpenStudy(QObject):
    """State of the bench, without widgets."""

    changed = pyqtSignal(Change)
    trouble = pyqtSignal(str)

    def __init__(
        self, library: Library, stored: StoredStudy, parent: QObject | None = None
    ) -> None:
        super().__init__(parent)
        self._library = library
        self._stored = stored
        self._state_name = stored.study.states[-1].name
        self.study: Study = stored.study
        self.view: View = view_of(stored.study)
        self.undo_stack = QUndoStack(self)
        self.board = BOARDS[0]
        self.pointed: str | None = None
        self.selected: str | None = None
        self.hidden_next = False
        self.current_pass = self.view.passes[0].key
        self._in_hand: tuple[str, str, Mark] | None = None
        self.corrections: tuple[Correction, ...] = ()
        self.assessment: Assessment
        self._assess()
        self._skipped: set[str] = set()
        self._asked: Step | None = None
        self.on_both = self._find_both()
        self.step: Step | None = None
        self._find_step()
        self.current_pass = self._pass_of_step() or self.view.passes[1].key

    # What there is

    @property
    def id(self) -> str:
        """The study's id in the library."""
        return self._stored.id

    def picture(self, board: str) -> Picture:
        """The picture on a board."""
        state = self.study.state(self._state_name)
        assert state is not None
        assert self.study.reference is not None
        return self.study.reference if board == "reference" else state.picture

    def media_path(self, board: str) -> str | None:
        """Where the picture of a board lies, or None where the study came without it."""
        name = self._stored.media.get("" if board == "reference" else self._state_name)
        return None if name is None else str(self._library.media.path(name))

    @property
    def short_set_done(self) -> bool:
        """Whether the prompt has gone past the short set."""
        return self.step is None or not self.step.short

    # Placing

    def place(self, board: str, x: float, y: float, spread: float) -> str | None:
        """Set the prompted mark; gives its key, or None where it could not be set."""
        step = self.step
        if step is None or step.board != board:
            return None
        key = choose_side(self.view, step, self.picture(board), x)
        visibility = "inferred" if self.hidden_next else "seen"
        if not self._set(board, key, Mark(x, y, visibility, spread)):
            return None
        self.hidden_next = False
        self._asked = None
        self._find_step()
        self._enter_pass_of_step()
        self.changed.emit(Change.STEP)
        return key

    def move(
        self, board: str, key: str, x: float, y: float, spread: float, *, nudge: bool = False
    ) -> bool:
        """Move a mark that is there; a drag is one edit, nudges merge."""
        held, self._in_hand = self._in_hand, None
        if held is not None:
            self._put(*held)  # for the undo command; what is kept next is measured
        mark = self.picture(board).marks[key]
        done = self._set(board, key, replace(mark, x=x, y=y, spread=spread), nudge=nudge)
        if not done and held is not None:
            self._show(*held)
        return done

    def remove(self, board: str, key: str) -> None:
        """Take a mark away."""
        if key in self.picture(board).marks:
            self.undo_stack.push(_MarkEdit(self, board, key, None, nudge=False))
            self.select(None)

    def preview(self, board: str, key: str, x: float, y: float) -> None:
        """Show a mark where it is being dragged to; nothing is kept until the drag ends."""
        mark = self.picture(board).marks[key]
        if self._in_hand is None:
            self._in_hand = (board, key, mark)
        self._show(board, key, replace(mark, x=x, y=y))

    def put_back(self) -> None:
        """End a preview: the mark lies where it was before the drag."""
        if self._in_hand is not None:
            held, self._in_hand = self._in_hand, None
            self._show(*held)

    def _put(self, board: str, key: str, mark: Mark | None) -> None:
        self._replace_picture(board, self.picture(board).with_mark(key, mark))

    def _show(self, board: str, key: str, mark: Mark | None) -> None:
        self._put(board, key, mark)
        self._assess()
        self.changed.emit(Change.MARKS)

    def _set(self, board: str, key: str, mark: Mark, *, nudge: bool = False) -> bool:
        picture = self.picture(board)
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
        self.undo_stack.push(_MarkEdit(self, board, key, mark, nudge=nudge))
        return True

    def _keep(self, board: str, key: str, mark: Mark | None) -> None:
        """One transaction, then the new value."""
        row = self._stored.pictures["" if board == "reference" else self._state_name]
        try:
            self._library.put_mark(row, key, mark)
        except UserError as error:
            self.trouble.emit(str(error))
            return
        self._show(board, key, mark)
        self._find_step()
        self.changed.emit(Change.STEP)

    def _replace_picture(self, board: str, picture: Picture) -> None:
        if board == "reference":
            self.study = replace(self.study, reference=picture)
        else:
            state = self.study.state(self._state_name)
            assert state is not None
            self.study = self.study.with_state(replace(state, picture=picture))
        self.on_both = self._find_both()

    def _find_both(self) -> frozenset[str]:
        """Marks that have a place on both boards."""
        return self.picture("reference").placed() & self.picture("drawing").placed()

    def _assess(self) -> None:
        """Measure; the corrections wait until a mark that is being dragged is let go."""
        state, settled = self.study.state(self._state_name), self._in_hand is None
        self.assessment = assess(self.study, state, corrections=settled)
        if settled:
            found = self.assessment.corrections
            self.corrections = () if isinstance(found, NotMeasurable) else found

    # The prompt

    def _find_step(self) -> None:
        on_reference = self.picture("reference").marks
        on_drawing = self.picture("drawing").marks
        step = self._asked or next_step(self.view, on_reference, on_drawing, self._skipped)
        self.step = step
        if step is not None:
            self.board = step.board

    def skip(self) -> None:
        """Put the prompted mark off; `next_step` will not ask for it again in this session."""
        if self.step is not None:
            self._skipped.update(self.step.keys)
            self._asked = None
            self._find_step()
            self.changed.emit(Change.STEP)

    def ask(self, board: str, key: str) -> None:
        """Prompt for that mark on that board, whatever comes next by itself."""
        short = any(key in keys for keys in self.view.short)
        self._skipped.discard(key)
        self._asked = Step(board, (key,), short)
        self._find_step()
        self.changed.emit(Change.STEP)

    def other_board(self) -> None:
        """Prompt for the same mark on the other board."""
        if self.step is not None:
            other = BOARDS[1 - BOARDS.index(self.step.board)]
            self._asked = replace(self.step, board=other)
            self._find_step()
            self.changed.emit(Change.STEP)

    def other_side(self) -> None:
        """Prompt for the same mark on the model's other side."""
        step = self.step
        if step is None or step.key[-2:] not in {"_r", "_l"}:
            return
        self.ask(step.board, step.key[:-1] + ("l" if step.key.endswith("_r") else "r"))

    def back(self) -> None:
        """Prompt again for the mark that was set last."""
        index = self.undo_stack.index() - 1
        command = self.undo_stack.command(index) if index >= 0 else None
        if isinstance(command, _MarkEdit):
            self.ask(command._board, command._key)

    def toggle_hidden(self) -> None:
        """The next mark is hidden but placed (inferred), or seen again."""
        self.hidden_next = not self.hidden_next
        self.changed.emit(Change.STEP)

    # Looking

    def point_at(self, key: str | None) -> None:
        """Light up a mark everywhere."""
        if key != self.pointed:
            self.pointed = key
            self.changed.emit(Change.POINTED)

    def select(self, key: str | None) -> None:
        """Take a mark in hand for nudging, or let go."""
        self.selected = key
        self.changed.emit(Change.POINTED)

    def enter_pass(self, key: str) -> None:
        """Show another pass."""
        if key != self.current_pass:
            self.current_pass = key
            self.changed.emit(Change.PASS)

    def turn_pass(self, by: int) -> None:
        """Go a pass on or back."""
        keys = [one.key for one in self.view.passes]
        at = min(max(keys.index(self.current_pass) + by, 0), len(keys) - 1)
        self.enter_pass(keys[at])

    def _pass_of_step(self) -> str | None:
        mark = self.view.landmark(self.step.key) if self.step else None
        return mark.step if mark else None

    def _enter_pass_of_step(self) -> None:
        """Follow the prompt through the short set; afterwards the learner turns the passes."""
        following = self._pass_of_step()
        if following is not None and self.step is not None and self.step.short:
            self.enter_pass(following)

    # The study as a whole

    @property
    def schools(self) -> tuple[str, ...]:
        """The scale schools that this study can be measured by."""
        pictures = (self.picture("reference"), self.picture("drawing"))
        lacking = set() if len(self.study.scale.marks) == 2 else {"anchors"}
        if any(picture.sheet is None for picture in pictures):
            lacking.add("sight-size")
        return tuple(school for school in SCHOOLS if school not in lacking)

    def set_school(self, school: str) -> None:
        """Put another scale school in force."""
        self._set_head(replace(self.study, scale=replace(self.study.scale, school=school)))

    def set_grade(self, grade: str) -> None:
        """Change the tolerances."""
        self._set_head(replace(self.study, grade=grade))

    def set_title(self, title: str) -> None:
        """Rename the study."""
        self._set_head(replace(self.study, title=title))

    def _set_head(self, changed: Study) -> None:
        try:
            self._library.put_head(self.id, changed)
        except UserError as error:
            self.trouble.emit(str(error))
            return
        self.study = changed
        self._assess()
        self.changed.emit(Change.STUDY)
