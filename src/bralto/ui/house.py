"""Joins the places: what is opened on one is worked on in another; what comes in is led to them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import cached_property, partial
from pathlib import Path
from typing import TYPE_CHECKING, cast

from PyQt6.QtCore import QObject, QPoint, Qt, QTimer
from PyQt6.QtGui import QCursor, QKeySequence, QShortcut

from bralto.core.study.two_boards import Board
from bralto.store.care.places import library_folder
from bralto.store.failures import LibraryError
from bralto.store.learners import learners
from bralto.store.library import Library
from bralto.ui.arrivals.incoming import Incoming
from bralto.ui.bench.bench_place import BenchPlace
from bralto.ui.library.care import Care
from bralto.ui.place import Door
from bralto.ui.running.faults import Faults
from bralto.ui.running.getting_ready import finish_classes, load_bench, load_others, look_ahead
from bralto.ui.running.tasks import Tasks
from bralto.ui.settings import Settings
from bralto.ui.shelf.acts import Acts
from bralto.ui.shelf.late_pictures import LatePictures
from bralto.ui.shelf.shelf import Shelf
from bralto.ui.shelf.shelf_state import ShelfState
from bralto.ui.theme.tokens import Tokens
from bralto.ui.window import MainWindow

if TYPE_CHECKING:
    from bralto.core.examination.examine import Examination
    from bralto.core.longitudinal.practice import Item
    from bralto.ui.arrivals.arrivals import Arrivals
    from bralto.ui.bench.bench import Bench
    from bralto.ui.document.open_study import OpenStudy
    from bralto.ui.model.model_place import ModelPlace
    from bralto.ui.record.record_place import Record
    from bralto.ui.sight.practice.next_sitter import NextSitter

__all__ = ["House"]

_LATE_MS = 600
"""After the window is there: what is seen first is painted first."""

SHELF, BENCH, MODEL, RECORD = "Shelf", "Bench", "Model", "Record"
"""The places' words in the strip."""


_Work = tuple[Callable[[], "Examination | None"], bool]
"""What is got ready, and whether it is needless (`Tasks.run`)."""


class House(QObject):
    """The collaborators of one window on one library; lives as long as the window."""

    def __init__(
        self,
        window: MainWindow,
        library: Library,
        settings: Settings,
        tokens: Tokens,
        faults: Faults,
        *,
        later_ms: int = 0,
    ) -> None:
        """``later_ms`` is when what the first picture of the shelf does not need is begun."""
        super().__init__(window)
        self.window, self.library, self.settings = window, library, settings
        self.faults, self._tokens = faults, tokens
        faults.setParent(self)
        self.tasks = Tasks(self)
        self.shelf_state = ShelfState(library, self.tasks, self)
        self.acts = Acts(library, self.shelf_state, self.tasks, self.on_bench, window)
        self.care = Care(
            library, self.tasks, self.shelf_state, faults.reports, self.on_bench, window
        )
        self.late = LatePictures(library, self.shelf_state, self.tasks, self.on_bench, self)
        self.shelf = Shelf(self.shelf_state, library.media, self.acts, self.late, tokens)
        self.bench_place = BenchPlace(library, self.tasks, settings, tokens)
        self.incoming = Incoming(
            library, self.tasks, settings, tokens,
            lambda: self.on_bench() if window.place == BENCH else None, window,
        )  # fmt: skip
        self._connect()
        window.set_doors(self._doors())
        self.care.begin()
        for one in learners(library_folder().absolute()):
            if one.root == library.root:
                window.strip.show_learner(one.name, one.colour)
        QTimer.singleShot(later_ms, self.shelf_state.measure)
        QTimer.singleShot(later_ms + _LATE_MS, self.late.go_on)
        if settings.drop_folder is not None:
            QTimer.singleShot(later_ms, lambda: self.incoming.watch)

    def _doors(self) -> tuple[Door, ...]:
        """The places in the order of the strip; modules of those that are made later are loaded
        then."""
        return (
            Door(SHELF, lambda: self.shelf),
            Door(BENCH, lambda: self.bench_place),
            Door(MODEL, self._make_model),
            Door(RECORD, self._make_record),
        )

    def _connect(self) -> None:
        window, care, acts = self.window, self.care, self.acts
        self.tasks.faulted.connect(self.faults.keep)
        for trouble in (
            self.faults.said, self.shelf_state.trouble, self.bench_place.said, self.incoming.said,
            acts.refused, care.refused,
        ):  # fmt: skip
            trouble.connect(window.say_trouble)
        for done in (self.incoming.told, acts.said, care.said):
            done.connect(window.say)
        window.dropped.connect(self.incoming.take)
        window.settings_wanted.connect(self.show_settings)
        window.strip.learners_wanted.connect(self.show_learners)
        window.gone_to.connect(lambda _: care.look_after_the_folder())
        window.closing.connect(self._close)
        window.may_close = care.may_close
        self.shelf.opened.connect(self.open_study)
        self.shelf.begun.connect(self.begin_study)
        self.shelf.life_begun.connect(lambda: self.begin_study([], from_life=True))
        self.shelf.example_wanted.connect(self.open_example)
        self.shelf.model_wanted.connect(lambda: window.go(MODEL))
        self.shelf.watch_wanted.connect(self.incoming.choose_drop_folder)
        self.shelf.prompt_changed.connect(window.forget_told)
        self.shelf_state.measured.connect(window.show_prompt)
        self.bench_place.emptied.connect(window.show_place)
        self.bench_place.opened.connect(self._on_opened)
        self.bench_place.gone_on.connect(window.forget_said)
        self.bench_place.renamed.connect(window.show_place)
        self.bench_place.edited.connect(care.look_after_the_folder)
        self.bench_place.rested.connect(window.strip.rested)
        self.bench_place.state_wanted.connect(self.incoming.choose_state_picture)
        self.bench_place.sitter_wanted.connect(lambda: self.next_sitter.call())
        self.incoming.begun.connect(self.begin_study)
        self.incoming.studies.connect(acts.read_in)
        self.incoming.watched.connect(self.shelf.say_watched)
        acts.begun.connect(self.open_study)
        acts.leaving.connect(self.bench_place.leave)
        acts.library_wanted.connect(care.show_library)
        care.rung.connect(window.come_up)
        care.leaving.connect(window.close)
        care.apart.connect(partial(self.shelf.say_apart, care.show_library))
        for keys, act in (
            ("Ctrl+N", partial(self.begin_study, [])), ("Ctrl+V", lambda: self.arrivals.paste()),
        ):  # fmt: skip
            QShortcut(QKeySequence(keys), window).activated.connect(act)

    # Places that are made later

    def _hear(self, place: ModelPlace | Record) -> None:
        place.opened.connect(self.open_study)
        place.said.connect(self.window.say_trouble)
        place.told.connect(self.window.say)

    def _make_model(self) -> ModelPlace:
        from bralto.ui.model.model_place import ModelPlace

        model = ModelPlace(self.library, self.tasks, self.settings, self._tokens)
        self._hear(model)
        model.seated.connect(self._sight)
        model.state.edited.connect(self.window.forget_said)
        return model

    def _make_record(self) -> Record:
        from bralto.ui.record.record_place import Record

        record = Record(self.shelf_state, self.library, self.tasks, self._tokens, self.on_bench)
        self._hear(record)
        record.posed.connect(self._set_up_pose)
        record.begun.connect(self._begin_item)
        return record

    @cached_property
    def next_sitter(self) -> NextSitter:
        """Brings another sitter by chance, who is sighted then."""
        from bralto.ui.sight.practice.next_sitter import NextSitter

        found = NextSitter(self.library, self.tasks, self)
        found.come.connect(self._sight)
        found.told.connect(self.window.say)
        found.refused.connect(self.window.say_trouble)
        return found

    def _begin_item(self, item: Item) -> None:
        """What is practised today: quick poses and drills stand on the model, a pose that is due
        again is put on a new sheet, a sitter comes by chance, a study begins at the model."""
        if item.key == "again":
            self.acts.begin_again(item.study)
            return
        if item.key == "sight":
            self.next_sitter.call()
            return
        self.window.go(MODEL)
        if item.key == "quick":
            self.model.state.throw_series(len(item.poses), item.seconds)
        elif item.poses:
            self.model.state.choose_pose(item.poses[0])

    def _set_up_pose(self, pose: str) -> None:
        """The model in a pose that trains what was asked for."""
        self.window.go(MODEL)
        self.model.state.choose_pose(pose)

    @property
    def model(self) -> ModelPlace:
        """The model stand, made on first use."""
        return cast("ModelPlace", self.window.at(MODEL))

    @property
    def record(self) -> Record:
        """The record, made on first use."""
        return cast("Record", self.window.at(RECORD))

    @property
    def bench(self) -> Bench | None:
        """What stands on the bench, or None where no study is open."""
        return self.bench_place.bench

    @property
    def arrivals(self) -> Arrivals:
        """What becomes of pictures that come in."""
        return self.incoming.arrivals

    @property
    def busy(self) -> bool:
        """Whether pictures are being opened or studies measured."""
        return self.tasks.busy or self.shelf_state.busy or self.window.busy or self.late.busy

    # Studies

    def on_bench(self) -> OpenStudy | None:
        """The study that is open."""
        return None if self.bench is None else self.bench.study

    def open_study(self, study_id: str) -> None:
        """Put a study on the bench and go there."""
        self.window.trouble = self.window.told = ""
        if self.bench_place.open(study_id):
            self.window.go(BENCH)
            self.bench_place.ask_permission_once()
        else:
            self.shelf_state.measure_again(study_id)  # its card says what is wrong from then on

    def get_ready(self) -> None:
        """While the shelf is looked at, load what the first study needs on the bench, find the
        newest one's corrections, and load the other places."""
        self.window.at(BENCH)  # before it is filled: all on it is given the window's style once
        ahead: list[_Work] = []
        if self.shelf_state.entries and self.bench is None:
            newest = self.shelf_state.entries[0].id
            ahead = [(partial(look_ahead, self.library, newest), False)]
        self._get_ready([(load_bench, True), *ahead, (load_others, True)])

    def _get_ready(self, works: Sequence[_Work], known: Examination | None = None) -> None:
        """One after the other: a hand may want the other thread. ``known`` is for the bench."""
        finish_classes()
        self.bench_place.known = known or self.bench_place.known
        if works:
            (work, needless), *rest = works
            go_on = partial(self._get_ready, rest)
            self.tasks.run(work, go_on, lambda _: go_on(), needless=needless)

    def _on_opened(self, bench: Bench) -> None:
        study = bench.study
        bench.wants.sheet.connect(lambda board: self.arrivals.show_sheet(study, board))
        bench.wants.mirrored.connect(lambda doubt: self.arrivals.mirror(study, doubt))
        self._say_what_is_worked_on(bench)

    def _say_what_is_worked_on(self, bench: Bench) -> None:
        """The check of a habit that is worked on comes first on the bench."""
        from bralto.core.longitudinal.focus import worked_on
        from bralto.core.longitudinal.traits.trait_table import group_of

        try:
            working = worked_on(self.library.practice(), group_of(bench.study.view.key))
        except LibraryError:
            return  # the bench has said what is wrong with the library
        if working:
            bench.saying.say(f"First, as you are working on it: {working[-1].trait.first}")

    def begin_study(self, files: list[Path], *, from_life: bool = False) -> None:
        """The slip for a new study; it opens on the bench once it is kept."""
        from bralto.ui.shelf.new_study import NewStudy

        slip = NewStudy(self.library, files, self.tasks, self.window, from_life=from_life)
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        slip.accepted.connect(lambda: self._open_new(slip.study_id or ""))
        slip.rejected.connect(self.incoming.forget)
        slip.open()

    def _open_new(self, study_id: str) -> None:
        """A new study goes on the bench, and its sheet is looked for."""
        self.open_study(study_id)
        study = self.on_bench()
        if study is None:
            return
        if not study.undrawn:
            self.arrivals.show_sheet(study, Board.DRAWING)
        self.incoming.go_on(study)

    def _sight(self, study_id: str) -> None:
        """A study on the bench, in the pass in which it is sighted."""
        self.open_study(study_id)
        self.bench_place.sight()

    def open_example(self) -> None:
        """Make the worked example off the GUI thread and open it."""
        self.window.say("Making the worked example: a moment")
        from bralto.store.demo_library import add_worked_example

        work = partial(add_worked_example, self.library)
        self.tasks.run(work, self.open_study, self.window.say_trouble)

    # Settings

    def show_settings(self) -> None:
        """What the learner can set."""
        from bralto.ui.slips.settings_slip import SettingsSlip

        slip = SettingsSlip(self.settings, self.faults.reports, self.window)
        slip.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        slip.minutes_changed.connect(self.window.strip.set_minutes)
        slip.learner_wanted.connect(lambda: self.show_learners(QCursor.pos()))
        if self.bench is not None:
            slip.order_changed.connect(self.bench.by_settings.order_corrections)
            slip.head_order_changed.connect(self.bench.by_settings.order_marks)
            slip.tape_changed.connect(self.bench.by_settings.begin_figures)
        slip.open()

    def show_learners(self, at: QPoint) -> None:
        """All learners of this machine, and one more."""
        from bralto.ui.slips.learners_menu import show_learners

        first = library_folder().absolute()
        show_learners(first, self.library.root, at, self.care.go_on_in, self.window)

    def _close(self) -> None:
        self.late.stop()
        self.shelf_state.stop()
        self.tasks.close()
        self.care.release()
        # Last: whatever the disk does, all else is closed by then.
        if self.library.in_place and not self.library.reading:
            self.shelf.cards.keep_first_screen()
