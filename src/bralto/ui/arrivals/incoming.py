"""Files that come in, however they do: dropped, chosen, saved in the folder that is watched."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QWidget

from bralto.store.library import Library
from bralto.ui.arrivals.dropping import PICTURES
from bralto.ui.running.tasks import Tasks
from bralto.ui.settings import Settings
from bralto.ui.theme.tokens import Tokens

if TYPE_CHECKING:
    from bralto.ui.arrivals.arrivals import Arrivals
    from bralto.ui.arrivals.watch import FolderWatch
    from bralto.ui.document.open_study import OpenStudy

__all__ = ["Incoming"]

_STUDIES = frozenset({".bralto", ".json"})
"""Endings of files that are studies."""


class Incoming(QObject):
    """What becomes of pictures is loaded when the first one comes."""

    begun = pyqtSignal(list)
    """Pictures that are to begin a study, as `Arrivals.begun`."""
    studies = pyqtSignal(list)
    """Paths of files that are studies."""
    watched = pyqtSignal(object)
    """Another folder is watched, or none (None)."""
    said = pyqtSignal(str)
    told = pyqtSignal(str)

    def __init__(
        self,
        library: Library,
        tasks: Tasks,
        settings: Settings,
        tokens: Tokens,
        on_bench: Callable[[], OpenStudy | None],
        window: QWidget,
    ) -> None:
        """``on_bench``: the study that stands there in sight, or None."""
        super().__init__(window)
        self._library, self._tasks, self._settings = library, tasks, settings
        self._tokens, self._on_bench, self._window = tokens, on_bench, window
        self._arrivals: Arrivals | None = None
        self._watch: FolderWatch | None = None

    @property
    def arrivals(self) -> Arrivals:
        """What becomes of pictures, made on first use."""
        if self._arrivals is None:
            from bralto.ui.arrivals.arrivals import Arrivals

            made = self._arrivals = Arrivals(
                self._library, self._tasks, self._tokens, self._window, self._on_bench,
                self._settings, self.watch,
            )  # fmt: skip
            made.begun.connect(self.begun)
            made.said.connect(self.said)
            made.told.connect(self.told)
            made.watched.connect(self.watched)
        return self._arrivals

    @property
    def watch(self) -> FolderWatch:
        """The folder in which the learner's phone or scanner saves."""
        if self._watch is None:
            from bralto.ui.arrivals.watch import FolderWatch

            self._watch = FolderWatch(self)
            self._watch.arrived.connect(lambda path: self.arrivals.take([path]))
            self._watch.watch(self._settings.drop_folder)
            self.watched.emit(self._watch.folder)
        return self._watch

    def take(self, files: list[Path]) -> None:
        """Studies are read in, pictures begin a study or a further state."""
        studies = [path for path in files if path.suffix.lower() in _STUDIES]
        pictures = [path for path in files if path not in studies]
        self.studies.emit(studies)
        if pictures:
            self.arrivals.take(pictures)

    def choose_state_picture(self) -> None:
        """Choose a later photo of the drawing on the bench."""
        name, _ = QFileDialog.getOpenFileName(
            self._window, "A later photo of your drawing", "", PICTURES
        )
        if name:
            self.arrivals.take([Path(name)])

    def choose_drop_folder(self) -> None:
        """Choose the folder in which a phone or scanner saves, or watch none any more."""
        if self._settings.drop_folder is not None:
            self.arrivals.set_drop_folder(None)
            return
        name = QFileDialog.getExistingDirectory(
            self._window, "The folder in which your phone or scanner saves"
        )
        if name:
            self.arrivals.set_drop_folder(Path(name))

    def go_on(self, study: OpenStudy) -> None:
        """A study was begun; what else came with its pictures is offered for it."""
        if self._arrivals is not None:
            self._arrivals.go_on(study)

    def forget(self) -> None:
        """No study was begun; what came is let go."""
        if self._arrivals is not None:
            self._arrivals.forget()
