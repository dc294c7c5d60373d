"""Another sitter by chance, made off the GUI thread."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QObject, pyqtSignal

from bralto.store.library import Library
from bralto.ui.running.tasks import Tasks

__all__ = ["NextSitter"]


class NextSitter(QObject):
    """One at a time: a key that is held down asks for one."""

    come = pyqtSignal(str)
    """Id of the study of one who is there now."""
    told = pyqtSignal(str)
    refused = pyqtSignal(str)

    def __init__(self, library: Library, tasks: Tasks, parent: QObject) -> None:
        super().__init__(parent)
        self._library, self._tasks = library, tasks
        self._on_the_way = False

    def call(self) -> None:
        """Have one made, to be sighted for practice."""
        if self._on_the_way:
            return
        from bralto.store.record.modelled import add_sitter  # loads the model

        self._on_the_way = True
        self.told.emit("The next sitter is on the way: a moment")
        self._tasks.run(partial(add_sitter, self._library), self._on_come, self._on_refused)

    def _on_come(self, study_id: str) -> None:
        self._on_the_way = False
        self.come.emit(study_id)

    def _on_refused(self, why: str) -> None:
        self._on_the_way = False
        self.refused.emit(why)
