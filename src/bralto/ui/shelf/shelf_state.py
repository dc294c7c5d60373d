"""What the shelf and the record show: every study with its digest, without widgets."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial
from importlib import import_module
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoStack

from bralto.core.examination.summary import SCIENCE
from bralto.store.library import Library
from bralto.store.summaries import ShelfRow
from bralto.ui.running.tasks import Tasks
from bralto.ui.shelf.shelf_edits import ShelfEdit
from bralto.ui.shelf.shelf_entry import Entry

__all__ = [
    "ShelfState",
]

FIRST = 60
"""Studies that are listed before the window is there: more than a screen shows."""

_FEW = 200
"""Studies that are read one by one after a change; of more, the whole list is read."""


class ShelfState(QObject):
    """All studies, newest first. They are listed at once from what is kept of them; what has
    changed since is measured off the GUI thread after that."""

    changed = pyqtSignal()
    measured = pyqtSignal()
    trouble = pyqtSignal(str)
    damaged = pyqtSignal()
    """Part of the library cannot be read; what is left is listed."""

    def __init__(self, library: Library, tasks: Tasks, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._library, self._tasks = library, tasks
        self.undo_stack = QUndoStack(self)
        self._kept = True
        self._by_id: dict[str, Entry] = {}
        self.everything: tuple[Entry, ...] = ()
        self.counted: tuple[Entry, ...] = ()
        """What the record counts: all that is not in the bin, hidden or not."""
        self.entries: tuple[Entry, ...] = ()
        self.words = ""
        self.show = "shelf"
        self._waiting: set[str] = set()
        self._unmeasurable: dict[str, int] = {}
        self._measuring = self._reading = self._stopped = self._unlisted = self._read = False
        self.total = library.count()
        rows = library.rows(newest=FIRST) if self.total > FIRST else library.rows()
        self.complete = self.total == len(rows)
        """Whether all studies are listed: the window shows the newest before it reads the rest."""
        library.take_touched()
        self._by_id.update((row.id, Entry(row)) for row in rows)
        self.torn = any(row.fault for row in rows)
        """Whether rows could not be read when it was opened: the database itself is damaged."""
        self._arrange()
        self._waiting = self._lacking()

    # What is shown

    def entry(self, study_id: str) -> Entry | None:
        """The study of that id."""
        return self._by_id.get(study_id)

    def count(self, show: str) -> int:
        """How many studies lie there: ``shelf``, ``hidden`` or ``bin``."""
        return sum(_lies(entry) == show for entry in self.everything)

    def look(self, show: str, words: str) -> None:
        """Show what lies on the shelf, what is hidden, or the bin; of it what has these words."""
        if (show, words) != (self.show, self.words):
            self.show, self.words = show, words
            self._choose()
            self.changed.emit()

    def _arrange(self) -> None:
        self.everything = tuple(
            sorted(self._by_id.values(), key=lambda e: (e.row.made, e.id), reverse=True)
        )
        self.counted = tuple(e for e in self.everything if e.row.binned is None)
        self._choose()

    def _choose(self) -> None:
        words = self.words.casefold().split()
        self.entries = tuple(
            e for e in self.everything if _lies(e) == self.show and (not words or e.matches(words))
        )

    # What the learner does with studies; undone step by step

    def rename(self, entry: Entry, title: str) -> None:
        """Another name. Like the acts below it is refused where the library refuses it."""
        before = (entry.id, entry.row.title)

        def write(value: tuple[str, str]) -> None:
            self._library.rename(*value)

        if title != entry.row.title:
            self._edit("rename", write, before, (entry.id, title))

    def tag(self, entries: Iterable[Entry], add: set[str], remove: set[str]) -> None:
        """Give studies tags and take others away."""
        before = {e.id: set(e.tags) for e in entries}
        after = {key: (tags | add) - remove for key, tags in before.items()}
        if before != after:
            self._edit("tags", self._library.put_tags, before, after)

    def hide(self, entries: Iterable[Entry], hidden: bool) -> bool:
        """Leave studies out of the shelf, or show them again; they stay on record. Gives whether
        that is kept."""
        before = {e.id: bool(e.row.hidden) for e in entries}
        return self._edit("hide", self._library.put_hidden, before, dict.fromkeys(before, hidden))

    def bin(self, entries: Iterable[Entry], when: str | None) -> bool:
        """Put studies into the bin at that instant, or take them out again (None). Gives whether
        that is kept."""
        before = {e.id: e.row.binned for e in entries}
        return self._edit("bin", self._library.put_binned, before, dict.fromkeys(before, when))

    def _edit(self, words: str, write: Callable[[Any], None], before: Any, after: Any) -> bool:
        self.undo_stack.push(
            ShelfEdit(self.undo_stack, words, write, before, after, self._on_edited)
        )
        return self._kept

    def _on_edited(self, trouble: str) -> None:
        self._kept = not trouble
        self.refresh()
        if trouble:
            self.trouble.emit(trouble)

    def erase(self, entries: Iterable[Entry]) -> tuple[int, int]:
        """Remove studies for good; gives how many pictures went with them, and their bytes.

        Raises:
            UserError: the library refused; nothing is removed.
        """
        ids = [e.id for e in entries]
        free = self._library.erase(ids)
        self.undo_stack.clear()  # its steps may be about these
        size = self._library.media.remove(free)
        self.refresh()
        return len(free), size

    # Keeping up

    @property
    def busy(self) -> bool:
        """Whether studies are still waiting to be listed or measured."""
        if self._stopped:
            return False
        listing = not self.complete and not self._unlisted
        return listing or self._measuring or bool(self._waiting)

    def refresh(self) -> None:
        """Read again what has changed, and have it measured."""
        touched = self._library.take_touched()
        if touched:
            ids = touched if len(touched) <= _FEW else None
            found = {row.id: row for row in self._library.rows(ids)}
            for study_id in touched:
                row = found.get(study_id)
                if row is None:
                    self._by_id.pop(study_id, None)
                else:
                    self._by_id[study_id] = Entry(row)
            self._arrange()
            self.changed.emit()
        self.measure()

    def measure(self) -> None:
        """Measure what has no digest in force, once all studies are listed."""
        if self.complete:
            self._waiting = self._lacking()
            self._measure_some()
        elif not self._reading and not self._stopped:
            self._reading, self._unlisted = True, False
            self._tasks.run(self._library.rows, self._on_read, self._on_failed)

    def measure_again(self, study_id: str) -> None:
        """Measure a study though it seems to be as it was: it could not be opened."""
        self._waiting.add(study_id)
        self._measure_some()

    def _on_read(self, rows: list[ShelfRow]) -> None:
        """All studies; what has changed since they were read is read again."""
        self._by_id = {row.id: self._by_id.get(row.id) or Entry(row) for row in rows}
        self.complete, self._reading = True, False
        self._arrange()
        self.changed.emit()
        if any(row.fault for row in rows):
            self.damaged.emit()
        self.refresh()

    def _lacking(self) -> set[str]:
        return {
            e.id
            for e in self.everything
            if ((e.row.stamp, e.row.science) != (e.row.version, SCIENCE) or e.broken)
            and not e.row.fault
            and e.row.binned is None
            and self._unmeasurable.get(e.id) != e.row.version
        }

    def _measure_some(self) -> None:
        if self._measuring or self._stopped:
            return
        if not self._waiting:
            if self.complete and not self._read:
                self._read = True  # what is kept of thousands takes a while to be read
                self._tasks.run(partial(_read_digests, self.everything), _ignore, _ignore)
            return
        order = [e.id for e in self.everything if e.id in self._waiting]
        self._measuring = True
        work = partial(_measure, self._library, order, self._tasks.faulted.emit)
        self._tasks.run(work, self._on_measured, self._on_failed)

    def _on_measured(self, found: list[tuple[ShelfRow | None, str]]) -> None:
        self._measuring = False
        for row, study_id in found:
            self._waiting.discard(study_id)
            before = self._by_id.get(study_id)
            if before is None:
                continue
            if row is None:  # gone meanwhile
                continue
            if row.fault:
                self._unmeasurable[study_id] = row.version
            self._by_id[study_id] = Entry(row)
        if found:
            self._arrange()
            self.measured.emit()
        self._measure_some()

    def _on_failed(self, message: str) -> None:
        self._unlisted = self._reading  # the rest is asked for again at the next change
        self._measuring = self._reading = False
        self._waiting.clear()
        self.trouble.emit(message)

    def stop(self) -> None:
        """Measure no more; the window closes."""
        self._stopped = True
        self._waiting.clear()


def _lies(entry: Entry) -> str:
    if entry.row.binned is not None:
        return "bin"
    return "hidden" if entry.row.hidden else "shelf"


def _read_digests(entries: Iterable[Entry]) -> None:
    """Off the GUI thread, once the shelf stands: what the record will ask each study for, and what
    it does its sums with, which takes a quarter of a second to load."""
    import_module("bralto.core.longitudinal.told")
    for entry in entries:
        _ = entry.digest, entry.when


def _ignore(_: object) -> None:
    """Nothing follows."""


def _measure(
    library: Library, ids: list[str], report: Callable[[Exception], None]
) -> list[tuple[ShelfRow | None, str]]:
    """Off the GUI thread, for a second at most: rows of these studies with what was measured."""
    # NumPy takes as long to load as the whole shelf takes to show.
    from bralto.ui.shelf.measuring import measure_studies

    return measure_studies(library, ids, report)
