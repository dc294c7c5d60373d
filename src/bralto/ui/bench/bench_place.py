"""The place of the bench: the study that is open, or the bare table."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QUndoStack
from PyQt6.QtWidgets import QStackedLayout, QWidget

from bralto.core.errors import UserError
from bralto.core.study.two_boards import Board
from bralto.core.views.pass_keys import PassKey
from bralto.store.library import Library
from bralto.ui.place import Place
from bralto.ui.prompt import Prompt
from bralto.ui.running.tasks import Tasks
from bralto.ui.settings import Settings
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.tape import TapeShown

if TYPE_CHECKING:
    from bralto.core.examination.examine import Examination
    from bralto.ui.bench.bench import Bench
    from bralto.ui.session.moment import Moment

__all__ = ["BenchPlace"]


class BenchPlace(Place):
    """A new `Bench` for each study that is opened; its modules are loaded with the first."""

    said = pyqtSignal(str)
    opened = pyqtSignal(object)
    """A `Bench` was made."""
    emptied = pyqtSignal()
    gone_on = pyqtSignal()
    renamed = pyqtSignal()
    edited = pyqtSignal()
    rested = pyqtSignal()
    state_wanted = pyqtSignal()
    sitter_wanted = pyqtSignal()

    def __init__(
        self,
        library: Library,
        tasks: Tasks,
        settings: Settings,
        tokens: Tokens,
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self.setObjectName("ground")
        self._library, self._tasks = library, tasks
        self._settings, self._tokens = settings, tokens
        self.bench: Bench | None = None
        self.known: Examination | None = None
        """Of a study that may come next, examined before, or of the one that was here last."""
        self._stack = QStackedLayout(self)
        self._bare = QWidget(self)
        self._bare.setObjectName("ground")
        self._stack.addWidget(self._bare)

    # The study

    def open(self, study_id: str) -> bool:
        """Put a study on the bench; gives whether it is there."""
        if self.bench is not None:
            self.bench.study.time.keep()  # before it is read: the same study may be opened again
        try:
            stored = self._library.stored(study_id)
        except UserError as error:
            self.said.emit(str(error))
            return False
        stands = stored is not None and (
            stored.study.from_life or (stored.study.canon and stored.study.states)
        )
        if stored is None or (stored.study.reference is None and not stands):
            self.said.emit("That study has no reference to put on the bench.")
            return False
        from bralto.ui.bench.bench import Bench
        from bralto.ui.bench.keys.keymap import act_of
        from bralto.ui.document.open_study import OpenStudy

        try:
            study = OpenStudy(self._library, stored, self._tasks, self, self.known)
        except UserError as error:  # of a view or a canon that this version does not know
            self.said.emit(str(error))
            return False
        self.clear()
        bench = Bench(study, self._tasks, self._settings, self._tokens, act_of, self)
        bench.prompt_changed.connect(self.prompt_changed)
        bench.tape_changed.connect(self.tape_changed)
        bench.wants.state.connect(self.state_wanted)
        bench.wants.sitter.connect(self.sitter_wanted)
        bench.wants.permission.connect(self.ask_permission)
        bench.wants.anew.connect(lambda: self._put_anew(study_id))
        bench.saying.rested.connect(self.rested)
        study.changed.connect(self._on_study)
        self.bench = bench
        self._stack.addWidget(bench)
        self._stack.setCurrentWidget(bench)
        self.opened.emit(bench)
        return True

    def _put_anew(self, study_id: str) -> None:
        """Sighting for practice was begun: it has a pass of its own, which is shown."""
        if self.open(study_id):
            self.sight()

    def sight(self) -> None:
        """Show the pass in which the reference is sighted, where there is one."""
        if self.bench is not None and self.bench.room is not None:
            self.bench.enter_pass(PassKey.SIGHT)

    def clear(self) -> None:
        """Take the study off the bench, its time kept."""
        if self.bench is None:
            return
        bench, self.bench = self.bench, None
        self.known = bench.study.examination
        bench.study.time.keep()
        bench.study.release()
        bench.release()
        bench.study.changed.disconnect(self._on_study)
        self._stack.removeWidget(bench)
        bench.study.deleteLater()
        bench.deleteLater()

    def leave(self, ids: list[str]) -> None:
        """Take the study off the bench where it is one of these."""
        if self.bench is not None and self.bench.study.id in ids:
            self.clear()
            self.emptied.emit()

    def _on_study(self, before: Moment, after: Moment) -> None:
        was, now = before.session, after.session
        gone_on = after.ground is not before.ground or now.step != was.step
        if gone_on or now.current_pass != was.current_pass:
            self.gone_on.emit()
        if after.study.title != before.study.title:
            self.renamed.emit()
        if after.study is not before.study:
            self.edited.emit()

    # Where a picture comes from

    def ask_permission_once(self) -> None:
        """Ask where the reference comes from unless that was said; what is said is kept."""
        if self.bench is None:
            return
        study = self.bench.study
        asked = study.imagined or study.picture(Board.REFERENCE).permission is not None
        if not asked and study.view.key != "object":
            self.ask_permission(Board.REFERENCE)

    def ask_permission(self, board: Board) -> None:
        """Where a picture comes from."""
        from bralto.ui.arrivals.permission import PermissionSlip

        assert self.bench is not None
        study = self.bench.study
        slip = PermissionSlip(study.picture(board).permission, self.bench)
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        slip.finished.connect(lambda _: study.pictures.set_permission(board, slip.said))
        slip.open()

    # What the window asks

    @property
    def subject(self) -> str:
        return "" if self.bench is None else self.bench.study.study.title

    @property
    def busy(self) -> bool:
        return self.bench is not None and self.bench.study.busy

    @property
    def undo_stack(self) -> QUndoStack | None:
        return None if self.bench is None else self.bench.study.undo_stack

    def prompt(self) -> Prompt:
        if self.bench is not None:
            return self.bench.prompt()
        keys = (("Alt+1", "shelf"), ("Ctrl+N", "new study"))
        return Prompt("No study is on the bench:", "open one on the shelf", keys)

    def tape(self) -> TapeShown:
        if self.bench is None:
            return TapeShown()
        return TapeShown(self.bench.segments(), self.bench.study.current_pass)

    def on_tape(self, key: str) -> None:
        if self.bench is not None:
            self.bench.enter_pass(key)

    def enter(self) -> None:
        if self.bench is not None:
            self.bench.take_keys()

    def tick(self) -> None:
        if self.bench is not None:
            self.bench.study.time.spend(1.0)

    def rest(self) -> None:
        if self.bench is not None:
            self.bench.saying.rest()

    def release(self) -> None:
        self.clear()
