"""What the shelf and the record show: every study with its summary, without widgets."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from bralto.store.library import Library, StoredStudy

if TYPE_CHECKING:
    from bralto.core.record import Summary

__all__ = ["Entry", "ShelfState"]

_MEASURING = "measuring …"

_AT_ONCE = 8
"""Studies measured in one go, about a twentieth of a second."""

_PAUSE_MS = 20
"""Room for painting and input between two goes."""


@dataclass(frozen=True, slots=True)
class Entry:
    """A study on the shelf.

    Attributes:
        summary: None until it is measured, and where it cannot be; ``why`` says which.
        ratio: the drawing's scale, drawing px a reference px, where known.
    """

    stored: StoredStudy
    when: datetime
    summary: Summary | None
    ratio: float | None
    why: str = ""

    @property
    def title(self) -> str:
        """The study's title, never empty."""
        return self.stored.study.title or "Untitled study"


class ShelfState(QObject):
    """All studies, newest first. They are listed at once and measured bit by bit after that, so
    that the window is there before the figures however long the shelf is."""

    changed = pyqtSignal()
    measured = pyqtSignal()

    def __init__(self, library: Library, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._library = library
        self.entries: tuple[Entry, ...] = ()
        self._waiting: list[int] = []
        self._clock = QTimer(self)
        self._clock.setInterval(_PAUSE_MS)
        self._clock.timeout.connect(self._measure_some)
        self.refresh()

    @property
    def busy(self) -> bool:
        """Whether studies are still waiting to be measured."""
        return bool(self._waiting)

    def refresh(self) -> None:
        """Read the library again; only studies that changed are measured again."""
        known = {entry.stored.id: entry for entry in self.entries}
        fresh = []
        for stored in self._library.studies():
            before = known.get(stored.id)
            if before is None or before.stored != stored:
                when = datetime.fromisoformat(stored.made)
                ratio = before.ratio if before else None
                before = Entry(stored, when, None, ratio, _MEASURING)
            fresh.append(before)
        self.entries = tuple(fresh)
        self._waiting = [i for i, e in enumerate(fresh) if e.summary is None and not _failed(e)]
        self.changed.emit()
        if self._waiting:
            self._clock.start()

    def stop(self) -> None:
        """Measure no more; the window closes."""
        self._clock.stop()
        self._waiting.clear()

    def _measure_some(self) -> None:
        # Here and not above: NumPy takes as long to load as the whole shelf takes to show.
        from bralto.ui.state.measuring import measure_study

        entries = list(self.entries)
        for i in self._waiting[:_AT_ONCE]:
            summary, ratio, why = measure_study(entries[i].stored.study)
            entries[i] = replace(entries[i], summary=summary, ratio=ratio, why=why)
        self.entries = tuple(entries)
        del self._waiting[:_AT_ONCE]
        if not self._waiting:
            self._clock.stop()
        self.measured.emit()


def _failed(entry: Entry) -> bool:
    return entry.summary is None and entry.why != _MEASURING
