"""The Model place: pose shelf, the large picture, and a slip of values."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence, QResizeEvent, QShortcut, QUndoStack
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QMenu,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from bralto.core.mannequin.camera import FILM_MM
from bralto.core.mannequin.posing.reach import get_ready
from bralto.store.library import Library
from bralto.store.record.modelled import add_model_study, add_sitter
from bralto.ui.model.bell import Bell
from bralto.ui.model.draw_sheet import DrawSheet, Looked
from bralto.ui.model.drawn import Drawer
from bralto.ui.model.joints_page import JointsPage
from bralto.ui.model.model_facts import Facts, facts_of
from bralto.ui.model.model_row import ModelRow
from bralto.ui.model.model_state import ModelState
from bralto.ui.model.pages import FigurePage, LightPage, SeriesPage
from bralto.ui.model.pose_files import PoseFiles
from bralto.ui.model.pose_shelf import PoseShelf
from bralto.ui.model.stand_board import StandBoard
from bralto.ui.place import Place
from bralto.ui.prompt import Prompt
from bralto.ui.running.tasks import Tasks
from bralto.ui.settings import Settings
from bralto.ui.theme.tokens import Tokens
from bralto.ui.widgets.tape import Segment, TapeShown
from bralto.ui.widgets.word_button import WordButton

__all__ = ["MEMORY_S", "ModelPlace"]

MEMORY_S = (10, 30, 60, 120, 300)
"""How long the model can be shown before it is hidden, s."""

_SIGHTED = frozenset({"figure", "head"})
"""Subjects of which it is known what to sight (`core.views.typical`)."""


class ModelPlace(Place):
    """Signals: ``opened`` the id of a study that was begun, ``seated`` of one that is to be sighted
    for practice; ``said`` what went wrong, ``told`` what was done."""

    opened = pyqtSignal(str)
    seated = pyqtSignal(str)
    said = pyqtSignal(str)
    told = pyqtSignal(str)

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
        self._library, self._tasks, self._tokens = library, tasks, tokens
        self._settings, self.bell = settings, Bell()
        self.state = ModelState(self)
        self.drawer = Drawer(tasks, self)
        self.shelf = PoseShelf(tasks, tokens, self)
        self.board = StandBoard(self.state, self.drawer, tokens, self)
        self.pages = QStackedWidget(self)
        self.joints = JointsPage(self.state, self)
        self.figure = FigurePage(self.state, self)
        self.light = LightPage(self.state, self)
        self.series = SeriesPage(self.state, settings, self)
        self.facts = Facts(tokens, self)
        self.sheet: DrawSheet | None = None
        self._ready = False
        self._words: list[QPushButton] = []
        self.files = PoseFiles(self.state, self)
        self._lay_out()
        self.shelf.chosen.connect(self.state.choose_pose)
        self.board.gripped.connect(self._gripped)
        self.board.shown.connect(self._on_shown)
        self.state.changed.connect(self._on_change)
        self.state.listed.connect(self._on_listed)
        self.state.trouble.connect(self.said)
        self.files.said.connect(self.said)
        self.files.told.connect(self.told)
        self.drawer.failed.connect(lambda _: self.prompt_changed.emit())
        for keys, act in (
            ("Ctrl+D", self.draw_this),
            ("Ctrl+Shift+D", partial(self.draw_this, MEMORY_S[2])),
            ("Ctrl+Return", self.state.add_to_series),
        ):
            shortcut = QShortcut(QKeySequence(keys), self)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            shortcut.activated.connect(act)
        self._on_change()

    def show_page(self, title: str) -> None:
        """Turn the slip to its page of that title."""
        next(word for word in self._words if word.text() == title).click()

    def _lay_out(self) -> None:
        words = QHBoxLayout()
        words.setSpacing(4)
        for number, (title, page) in enumerate(
            (
                ("Joints", self.joints), ("Figure", self.figure),
                ("Light", self.light), ("Series", self.series),
            )
        ):  # fmt: skip
            self.pages.addWidget(_scrolled(page))
            word = WordButton(title, self)
            word.setAutoExclusive(True)
            word.setChecked(number == 0)
            word.clicked.connect(partial(self.pages.setCurrentIndex, number))
            words.addWidget(word)
            self._words.append(word)
        self.draw = QPushButton("Draw this", self)
        self.draw.setDefault(True)
        self.draw.setToolTip("Full size with a clock; then photograph your drawing and measure it")
        self.memory = QPushButton("From memory", self)
        self.memory.setToolTip("Shown for a while, then hidden")
        menu = QMenu(self.memory)
        for seconds in MEMORY_S:
            said = f"{seconds} s" if seconds < 60 else f"{seconds // 60} min"
            action = menu.addAction(f"Show it for {said}")
            assert action is not None
            action.triggered.connect(partial(self.draw_this, seconds))
        self.memory.setMenu(menu)
        self.sight = QPushButton("Sight it", self)
        self.sight.setToolTip("As a person in the room: sight it by pencil, for practice")
        files = QHBoxLayout()
        files.addWidget(self.sight)
        for title, act in (("Open …", self.files.open), ("Save …", self.files.save)):
            button = QPushButton(title, self)
            button.clicked.connect(act)
            files.addWidget(button)
        drawing = QHBoxLayout()
        drawing.addWidget(self.draw)
        drawing.addWidget(self.memory)
        slip = QVBoxLayout()
        slip.setSpacing(10)
        slip.addLayout(words)
        slip.addWidget(self.pages, 1)
        slip.addWidget(self.facts)
        slip.addLayout(files)
        slip.addLayout(drawing)
        side = QWidget(self)
        slip.setContentsMargins(0, 0, 0, 0)
        side.setLayout(slip)
        self._row = ModelRow(self, self.shelf, self.board, side)
        self.draw.clicked.connect(lambda: self.draw_this())
        self.sight.clicked.connect(self.sight_this)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._row.fold(self.width())

    def minimumSizeHint(self) -> QSize:
        return QSize(self._row.least_wide, super().minimumSizeHint().height())

    # Showing

    def _on_change(self) -> None:
        self.shelf.hold_up(self.state.pose_key)
        self.shelf.pause(self.state.dragging)
        self.tape_changed.emit()
        self.prompt_changed.emit()

    def _on_listed(self) -> None:
        self.draw.setText("Draw the series" if self.state.series else "Draw this")
        self.tape_changed.emit()

    def _on_shown(self) -> None:
        drawn = self.board.drawn
        if drawn is not None and drawn.finished:
            self._get_ready()
            self.facts.say(facts_of(drawn))
            self.light.show_fitted(FILM_MM[1] * drawn.view.focal / drawn.view.height)
        self.draw.setEnabled(not self.board.fault)
        self.sight.setEnabled(not self.board.fault and self.state.setting.subject in _SIGHTED)
        self.prompt_changed.emit()

    def _get_ready(self) -> None:
        """Once the model stands there: what the first pull needs is loaded beside it."""
        if not self._ready:
            self._ready = True
            self._tasks.run(get_ready, lambda _: None, lambda _: None)

    def _gripped(self, grip: str) -> None:
        self.joints.choose(grip)
        self.pages.setCurrentIndex(0)
        self._words[0].setChecked(True)

    @property
    def undo_stack(self) -> QUndoStack | None:
        return self.state.undo_stack

    def enter(self) -> None:
        self.board.setFocus()

    def tape(self) -> TapeShown:
        """The series, each pose as long as it is shown; and the one that is up."""
        series = self.state.series
        if not series:
            only = Segment("0", self.state.setting.title, "no series yet", 0.0, 1.0)
            return TapeShown((only,))
        # Short poses keep room for their name.
        shares = [max(one.seconds or 60.0, 20.0) ** 0.5 for one in series]
        ends, out = 0.0, []
        for number, (one, share) in enumerate(zip(series, shares, strict=True)):
            begin, ends = ends, ends + share / sum(shares)
            seconds = one.seconds or 0.0
            note = f"{seconds:.0f} s" if seconds < 120 else f"{seconds / 60:.0f} min"
            out.append(Segment(str(number), one.title, note, begin, ends))
        held = self.state.held_up
        return TapeShown(tuple(out), None if held is None else str(held))

    def on_tape(self, key: str) -> None:
        """A pose of the series was chosen on the tape."""
        self.state.hold_up(int(key))

    def prompt(self) -> Prompt:
        """What to do next."""
        if self.board.fault:
            return Prompt(self.board.fault, trouble=True)
        keys = (("Ctrl+D", "draw this"), ("Arrows", "turn, eye"), ("+ −", "nearer, farther"))
        if self.state.setting.subject == "figure":
            return Prompt("Pose it:", "pull a ring, drag beside it to turn the stand", keys)
        return Prompt("Set it up:", "drag on the picture to turn it, move lamp and eye", keys)

    @property
    def busy(self) -> bool:
        """Whether the finished picture is still to come."""
        return self.drawer.waiting

    def release(self) -> None:
        """Begin nothing more, put away the sheet that is drawn from."""
        self.drawer.stop()
        if self.sheet is not None:
            self.sheet.close()

    # Drawing

    def draw_this(self, shown_s: float | None = None, *, full: bool = True) -> None:
        """The model alone, full size; hidden after ``shown_s`` seconds."""
        if self.board.fault or self.sheet is not None:
            return
        settings = self.state.series or (self.state.setting,)
        sheet = DrawSheet(settings, shown_s, self._tasks, self._tokens, self.window())
        sheet.setStyleSheet(self.window().styleSheet())  # type: ignore[union-attr]
        sheet.drawn.connect(self.keep)
        if self._settings.bell:
            sheet.over.connect(self.bell.ring)
        sheet.left.connect(self.put_away)
        sheet.said.connect(self.said)
        self.sheet = sheet
        if full:
            sheet.showFullScreen()
        else:
            sheet.show()

    def sight_this(self) -> None:
        """A study of what stands there, to be sighted for practice."""
        if not self.sight.isEnabled():
            return
        self.sight.setEnabled(False)
        work = partial(add_sitter, self._library, self.state.setting)
        self._tasks.run(work, self._on_seated, self._on_none_seated)

    def _on_seated(self, study_id: str) -> None:
        self.sight.setEnabled(True)
        self.seated.emit(study_id)

    def _on_none_seated(self, why: str) -> None:
        self.sight.setEnabled(True)
        self.said.emit(why)

    def put_away(self) -> None:
        """No sheet to draw on."""
        if self.sheet is not None:
            self.sheet.deleteLater()
            self.sheet = None

    def keep(self, looked: tuple[Looked, ...]) -> None:
        """A study of each pose that was drawn, made off the GUI thread; the last one is opened."""
        self.put_away()
        work = partial(_studies, self._library, looked)
        self._tasks.run(work, self._kept, self.said.emit)

    def _kept(self, ids: list[str]) -> None:
        self.opened.emit(ids[-1])


def _scrolled(page: QWidget) -> QScrollArea:
    """A page that may be taller than its place."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    page.setContentsMargins(0, 0, 8, 0)
    area.setWidget(page)
    return area


def _studies(library: Library, looked: tuple[Looked, ...]) -> list[str]:
    ids = []
    for one in looked:
        notes = {"seen_s": one.seconds, "looks": one.looks, "from_memory": one.hidden}
        ids.append(add_model_study(library, one.setting, notes))
    return ids
