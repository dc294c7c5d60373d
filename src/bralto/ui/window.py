"""The window: strip, tape, the place one is in, prompt line."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeySequence, QShortcut
from PyQt6.QtWidgets import QFileDialog, QMainWindow, QStackedWidget, QVBoxLayout, QWidget

from bralto.core.errors import UserError
from bralto.store.library import Library
from bralto.ui.dropping import PICTURES, accept_files, dropped_files
from bralto.ui.faults import Faults
from bralto.ui.library.care import Care
from bralto.ui.prompt import Prompt, PromptLine
from bralto.ui.shelf.acts import Acts
from bralto.ui.shelf.shelf import Shelf
from bralto.ui.state.settings import Settings
from bralto.ui.state.shelf_state import ShelfState
from bralto.ui.strip import Strip
from bralto.ui.tape import Tape
from bralto.ui.tasks import Tasks
from bralto.ui.theme.style import style_sheet
from bralto.ui.theme.tokens import Tokens

if TYPE_CHECKING:
    from bralto.ui.arrivals.arrivals import Arrivals
    from bralto.ui.arrivals.watch import FolderWatch
    from bralto.ui.bench.bench import Bench
    from bralto.ui.document.open_study import OpenStudy
    from bralto.ui.model.model_place import ModelPlace
    from bralto.ui.record.record import Record
    from bralto.ui.session.moment import Moment

__all__ = ["PLACES", "MainWindow", "when_settled"]

PLACES = ("Shelf", "Bench", "Model", "Record")
"""The places that exist, in the order of the strip; Alt and their number goes there."""


class MainWindow(QMainWindow):
    """Joins the places; each place knows only its own state."""

    def __init__(
        self,
        library: Library,
        tokens: Tokens,
        faults: Faults,
        parent: QWidget | None = None,
        *,
        later_ms: int = 0,
    ) -> None:
        """``later_ms`` is when what the first picture of the shelf does not need is begun."""
        super().__init__(parent)
        self.faults = faults
        faults.setParent(self)
        self.setWindowTitle("Bralto")
        self.setMinimumSize(900, 620)
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.setStyleSheet(style_sheet(tokens))
        self.library, self._tokens = library, tokens
        self.settings = Settings(library.root)
        self.tasks = Tasks(self)
        self.tasks.faulted.connect(faults.keep)
        self.shelf_state = ShelfState(library, self.tasks, self)
        self.acts = Acts(library, self.shelf_state, self.tasks, self._on_bench, self)
        self.care = Care(
            library, self.tasks, self.shelf_state, faults.reports, self._on_bench, self
        )
        self.strip = Strip(PLACES, tokens, self, minutes=self.settings.step_back_min)
        self.tape = Tape(tokens, self)
        self.prompt_line = PromptLine(tokens, self)
        self.shelf = Shelf(self.shelf_state, library.media, self.acts, tokens, self)
        self._no_bench = QWidget(self)
        self._no_bench.setObjectName("ground")
        self.bench: Bench | None = None
        self._record: Record | None = None
        self._no_record = QWidget(self)
        self._model: ModelPlace | None = None
        self._no_model = QWidget(self)
        self.trouble = self.told = ""
        self._stack = QStackedWidget(self)
        for page in (self.shelf, self._no_bench, self._no_model, self._no_record):
            self._stack.addWidget(page)
        self._lay_out()
        self._arrivals: Arrivals | None = None
        self._watch: FolderWatch | None = None
        self._connect()
        self._show_place()
        self.shelf.list.setFocus()
        QTimer.singleShot(later_ms, self.shelf_state.measure)
        if self.settings.drop_folder is not None:
            QTimer.singleShot(later_ms, lambda: self.watch)

    def _lay_out(self) -> None:
        centre = QWidget(self)
        column = QVBoxLayout(centre)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.strip, self.tape):
            column.addWidget(part)
        column.addWidget(self._stack, 1)
        column.addWidget(self.prompt_line)
        self.setCentralWidget(centre)

    def _connect(self) -> None:
        self.strip.chosen.connect(self.go)
        self.strip.settings_wanted.connect(self.show_settings)
        self.strip.ticked.connect(self._on_tick)
        self.strip.due.connect(self._on_due)
        self.tape.chosen.connect(self._on_tape)
        self.shelf.opened.connect(self.open_study)
        self.shelf.begun.connect(self.begin_study)
        self.shelf.example_wanted.connect(self.open_example)
        self.shelf_state.changed.connect(self._show_place)
        self.shelf_state.measured.connect(self._show_prompt)
        self.shelf_state.trouble.connect(self._say_trouble)
        self.shelf.prompt_changed.connect(self._on_shelf)
        self.acts.refused.connect(self._say_trouble)
        self.acts.said.connect(self._say)
        self.acts.leaving.connect(self._on_leaving)
        self.acts.library_wanted.connect(self.care.show_library)
        self.faults.said.connect(self._say_trouble)
        care = self.care
        care.said.connect(self._say)
        care.refused.connect(self._say_trouble)
        care.rung.connect(self.come_up)
        care.leaving.connect(self.close)
        care.apart.connect(partial(self.shelf.say_apart, care.show_library))
        care.begin()
        for number, place in enumerate(PLACES, start=1):
            self._shortcut(f"Alt+{number}", partial(self.go, place))
        self._shortcut("Ctrl+N", partial(self.begin_study, []))
        self._shortcut("Ctrl+V", lambda: self.arrivals.paste())
        self.shelf.watch_wanted.connect(self.choose_drop_folder)
        self._shortcut("Ctrl+Z", self._undo)
        self._shortcut("Ctrl+Shift+Z", self._redo)
        self._shortcut("F1", self.show_keys)
        self._shortcut("Ctrl+,", self.show_settings)

    def _shortcut(self, keys: str, act: Callable[[], None]) -> None:
        shortcut = QShortcut(QKeySequence(keys), self)
        shortcut.activated.connect(act)

    # Places. Bench and record are made, and their modules loaded, when they are first gone to:
    # the shelf is there the sooner.

    @property
    def record(self) -> Record:
        """The record, made on first use."""
        if self._record is None:
            from bralto.ui.record.record import Record

            self._record = Record(self.shelf_state, self._tokens, self)
            self._record.opened.connect(self.open_study)
            self._record.updated.connect(self._on_record)
            self._stack.insertWidget(PLACES.index("Record"), self._record)
            self._stack.removeWidget(self._no_record)
        return self._record

    def _on_record(self) -> None:
        if self.place == "Record":
            self._show_tape()
            self._show_prompt()

    @property
    def model(self) -> ModelPlace:
        """The model stand, made on first use."""
        if self._model is None:
            from bralto.ui.model.model_place import ModelPlace

            self._model = ModelPlace(self.library, self.tasks, self._tokens, self)
            self._model.opened.connect(self.open_study)
            self._model.said.connect(self._say_trouble)
            self._model.state.edited.connect(self._forget_trouble)
            self._model.prompt_changed.connect(self._show_prompt)
            self._model.tape_changed.connect(self._show_tape)
            self._stack.insertWidget(PLACES.index("Model"), self._model)
            self._stack.removeWidget(self._no_model)
        return self._model

    @property
    def arrivals(self) -> Arrivals:
        """What becomes of pictures that come in, made on first use."""
        if self._arrivals is None:
            from bralto.ui.arrivals.arrivals import Arrivals

            self._arrivals = Arrivals(
                self.library,
                self.tasks,
                self._tokens,
                self,
                lambda: self.bench.study if self.bench and self.place == "Bench" else None,
                self.settings,
                self.watch,
            )
            self._arrivals.begun.connect(self.begin_study)
            self._arrivals.said.connect(self._say_trouble)
            self._arrivals.told.connect(self._say)
            self._arrivals.watched.connect(self.shelf.say_watched)
        return self._arrivals

    @property
    def watch(self) -> FolderWatch:
        """The folder in which the learner's phone or scanner saves; what becomes of a picture is
        loaded when the first one comes."""
        if self._watch is None:
            from bralto.ui.arrivals.watch import FolderWatch

            self._watch = FolderWatch(self)
            self._watch.arrived.connect(lambda path: self.arrivals.take([path]))
            self._watch.watch(self.settings.drop_folder)
            self.shelf.say_watched(self._watch.folder)
        return self._watch

    @property
    def place(self) -> str:
        """The place one is in."""
        return PLACES[self._stack.currentIndex()]

    def go(self, place: str) -> None:
        """Go to a place; what was changed on the bench is on the shelf and in the record then."""
        if place != "Bench":
            self.shelf_state.refresh()
        self.trouble = self.told = ""
        self.care.look_after_the_folder()
        if place == "Record":
            _ = self.record
        elif place == "Model":
            _ = self.model
        self._stack.setCurrentIndex(PLACES.index(place))
        self._show_place()
        if place == "Bench" and self.bench is not None:
            self.bench.active_board().setFocus()
        elif place == "Shelf":
            self.shelf.list.setFocus()
        elif place == "Model":
            self.model.board.setFocus()

    def _show_place(self) -> None:
        title = self.bench.study.study.title if self.bench is not None else ""
        self.strip.show_place(self.place, title)
        self._show_tape()
        self._show_prompt()

    def _show_tape(self) -> None:
        if self.place == "Bench":
            if self.bench is None:
                self.tape.show_segments((), None)
            else:
                self.tape.show_segments(self.bench.segments(), self.bench.study.current_pass)
        elif self.place == "Model":
            self.tape.show_segments(*self.model.segments())
        elif self.place == "Record":
            segments, bars = self.record.segments()
            self.tape.show_segments(segments, None, bars, self.record.tape_margins())
        else:
            segments, bars = self.shelf.segments()
            self.tape.show_segments(segments, None, bars)

    def _show_prompt(self) -> None:
        if self.trouble:
            self.prompt_line.say(Prompt(self.trouble, trouble=True))
        elif self.told:
            self.prompt_line.say(Prompt(self.told))
        elif self.place == "Shelf":
            self.prompt_line.say(self.shelf.prompt())
        elif self.place == "Model":
            self.prompt_line.say(self.model.prompt())
        elif self.place == "Record":
            self.prompt_line.say(self.record.prompt())
        elif self.bench is None:
            keys = (("Alt+1", "shelf"), ("Ctrl+N", "new study"))
            self.prompt_line.say(Prompt("No study is on the bench:", "open one on the shelf", keys))
        else:
            self.prompt_line.say(self.bench.prompt())

    def _on_tape(self, key: str) -> None:
        if self.place == "Bench" and self.bench is not None:
            self.bench.enter_pass(key)
        elif self.place == "Model":
            self.model.on_tape(key)

    @property
    def busy(self) -> bool:
        """Whether pictures are being opened or studies measured."""
        drawing = self._model is not None and self.place == "Model" and self._model.busy
        return self.tasks.busy or self.shelf_state.busy or drawing

    # Studies

    def open_study(self, study_id: str) -> None:
        """Put a study on the bench."""
        self.trouble = self.told = ""
        if self.bench is not None:
            self.bench.study.keep_time()  # before it is read: the same study may be opened again
        try:
            stored = self.library.stored(study_id)
        except UserError as error:
            self._say_trouble(str(error))
            return
        canon = stored is not None and stored.study.canon and stored.study.states
        if stored is None or (stored.study.reference is None and not canon):
            self.trouble = "That study has no reference to put on the bench."
            self._show_prompt()
            return
        from bralto.ui.bench.bench import Bench
        from bralto.ui.document.open_study import OpenStudy

        try:
            study = OpenStudy(self.library, stored, self)
        except UserError as error:  # of a view or a canon that this version does not know
            self._say_trouble(str(error))
            return
        self._clear_bench()
        bench = Bench(study, self.tasks, self.settings, self._tokens, self)
        bench.prompt_changed.connect(self._show_prompt)
        bench.tape_changed.connect(self._show_tape)
        bench.sheet_wanted.connect(lambda board: self.arrivals.show_sheet(study, board))
        bench.mirror_wanted.connect(lambda doubt: self.arrivals.mirror(study, doubt))
        bench.state_wanted.connect(self._choose_state_picture)
        bench.permission_wanted.connect(self.ask_permission)
        bench.rested.connect(self.strip.rested)
        study.changed.connect(self._on_study)
        self.bench = bench
        self._stack.insertWidget(1, bench)
        self._stack.removeWidget(self._no_bench)
        self.go("Bench")
        asked = study.imagined or study.picture("reference").permission is not None
        if not asked and study.view.key != "object":
            self.ask_permission("reference")  # once: what is said is kept

    def _clear_bench(self) -> None:
        if self.bench is None:
            return
        bench, self.bench = self.bench, None
        bench.study.keep_time()
        bench.release()
        bench.study.changed.disconnect(self._on_study)
        self._stack.insertWidget(1, self._no_bench)
        self._stack.removeWidget(bench)
        bench.study.deleteLater()
        bench.deleteLater()

    def _on_study(self, before: Moment, after: Moment) -> None:
        was, now = before.session, after.session
        gone_on = after.ground is not before.ground or now.step != was.step
        if (gone_on or now.current_pass != was.current_pass) and (self.told or self.trouble):
            self._forget_trouble()
            self._show_prompt()
        if after.study.title != before.study.title:
            self._show_place()
        if after.study is not before.study:
            self.care.look_after_the_folder()

    def begin_study(self, files: list[Path]) -> None:
        """The slip for a new study; it opens on the bench once it is kept."""
        from bralto.ui.shelf.new_study import NewStudy

        slip = NewStudy(self.library, files, self.tasks, self)
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        slip.accepted.connect(lambda: self._open_new(slip.study_id or ""))
        slip.open()

    def _open_new(self, study_id: str) -> None:
        """A new study goes on the bench, and its sheet is looked for."""
        self.open_study(study_id)
        if self.bench is not None and not self.bench.study.undrawn:
            self.arrivals.show_sheet(self.bench.study, "drawing")

    def ask_permission(self, board: str) -> None:
        """Where a picture comes from."""
        from bralto.ui.arrivals.permission import PermissionSlip

        assert self.bench is not None
        study = self.bench.study
        slip = PermissionSlip(study.picture(board).permission, self)
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        slip.finished.connect(lambda _: study.edits.set_permission(board, slip.said))
        slip.open()

    def _choose_state_picture(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "A later photo of your drawing", "", PICTURES)
        if name:
            self.arrivals.take([Path(name)])

    def choose_drop_folder(self) -> None:
        """Choose the folder in which a phone or scanner saves, or watch none any more."""
        if self.arrivals.settings.drop_folder is not None:
            self.arrivals.set_drop_folder(None)
            return
        name = QFileDialog.getExistingDirectory(
            self, "The folder in which your phone or scanner saves"
        )
        if name:
            self.arrivals.set_drop_folder(Path(name))

    def open_example(self) -> None:
        """Make the worked example off the GUI thread and open it."""
        self.prompt_line.say(Prompt("Making the worked example:", "a moment"))
        from bralto.store.demo import add_worked_example

        work = partial(add_worked_example, self.library)
        self.tasks.run(work, self.open_study, self._say_trouble)

    def _say_trouble(self, message: str) -> None:
        self.trouble = message
        self._show_prompt()

    def _say(self, message: str) -> None:
        """What became of something; it stays until something else is done."""
        self.trouble, self.told = "", message
        self._show_prompt()

    def _on_shelf(self) -> None:
        """Something else is shown or selected there: what was told is of before."""
        self.told = ""
        self._show_prompt()

    def _forget_trouble(self) -> None:
        self.trouble = self.told = ""

    # The library itself

    def _on_bench(self) -> OpenStudy | None:
        return None if self.bench is None else self.bench.study

    def _on_leaving(self, ids: list[str]) -> None:
        if self.bench is not None and self.bench.study.id in ids:
            self._clear_bench()
            self._show_place()

    def come_up(self) -> None:
        """A second start on the same library: this window is the one."""
        self.setWindowState(self.windowState() & ~Qt.WindowState.WindowMinimized)
        self.show()
        self.raise_()
        self.activateWindow()

    # Dropping files anywhere begins a study

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        accept_files(event)

    def dropEvent(self, event: QDropEvent | None) -> None:
        files = dropped_files(event)
        self.take_files(files)

    def take_files(self, files: list[Path]) -> None:
        """Studies are read in, pictures begin a study or a further state."""
        studies = [path for path in files if path.suffix.lower() in {".bralto", ".json"}]
        pictures = [path for path in files if path not in studies]
        self.acts.read_in(studies)
        if pictures:
            self.arrivals.take(pictures)

    # Editing

    def _undo(self) -> None:
        self._forget_trouble()
        if self.place == "Shelf":
            self.shelf_state.undo_stack.undo()
        elif self.place == "Model":
            self.model.state.undo_stack.undo()
        elif self.bench is not None and self.place == "Bench":
            self.bench.study.undo_stack.undo()

    def _redo(self) -> None:
        self._forget_trouble()
        if self.place == "Shelf":
            self.shelf_state.undo_stack.redo()
        elif self.place == "Model":
            self.model.state.undo_stack.redo()
        elif self.bench is not None and self.place == "Bench":
            self.bench.study.undo_stack.redo()

    def show_keys(self) -> None:
        """All keys on one sheet."""
        from bralto.ui.keys import KeySheet

        sheet = KeySheet(self)
        sheet.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        sheet.open()

    def show_settings(self) -> None:
        """What the learner can set."""
        from bralto.ui.settings_slip import SettingsSlip

        slip = SettingsSlip(self.settings, self.faults.reports, self)
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        slip.minutes_changed.connect(self.strip.set_minutes)
        if self.bench is not None:
            slip.order_changed.connect(self.bench.order_corrections)
            slip.head_order_changed.connect(self.bench.order_marks)
        slip.open()

    # The step-back clock

    def _on_tick(self) -> None:
        if self.bench is not None and self.place == "Bench" and self.isActiveWindow():
            self.bench.study.spend(1.0)

    def _on_due(self) -> None:
        if self.bench is not None and self.place == "Bench":
            self.bench.rest()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if not self.care.may_close():
            if event is not None:
                event.ignore()
            return
        self._clear_bench()
        if self._model is not None:
            self._model.release()
        self.shelf_state.stop()
        self.tasks.close()
        self.care.release()
        super().closeEvent(event)


def when_settled(window: MainWindow, act: Callable[[], object], delay_ms: int = 40) -> None:
    """Call ``act`` once nothing is loading and the window has been painted."""

    def look() -> None:
        if window.busy:
            QTimer.singleShot(delay_ms, look)
        else:
            QTimer.singleShot(delay_ms, act)

    QTimer.singleShot(delay_ms, look)
