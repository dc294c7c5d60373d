"""What the shelf and the record show: every study with its summary, without widgets."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from PyQt6.QtCore import QObject, pyqtSignal

from bralto.core.assessment import Assessment, assess
from bralto.core.errors import UserError
from bralto.core.record import Summary, summarise
from bralto.core.results import NotMeasurable
from bralto.store.library import Library, StoredStudy

__all__ = ["Entry", "ShelfState"]


@dataclass(frozen=True, slots=True)
class Entry:
    """A study on the shelf; ``summary`` is None where it cannot be measured, and ``why`` says it.

    ``ratio`` is the drawing's scale against the reference, drawing px a reference px, where known.
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
    """All studies, newest first."""

    changed = pyqtSignal()

    def __init__(self, library: Library, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._library = library
        self._measured: dict[str, tuple[StoredStudy, Entry]] = {}
        self.entries: tuple[Entry, ...] = ()
        self.refresh()

    def refresh(self) -> None:
        """Read the library again; only studies that changed are measured again."""
        fresh: dict[str, tuple[StoredStudy, Entry]] = {}
        for stored in self._library.studies():
            known = self._measured.get(stored.id)
            entry = known[1] if known is not None and known[0] == stored else _entry(stored)
            fresh[stored.id] = (stored, entry)
        self._measured = fresh
        self.entries = tuple(entry for _, entry in fresh.values())
        self.changed.emit()


def _entry(stored: StoredStudy) -> Entry:
    when = datetime.fromisoformat(stored.made)
    try:
        found = assess(stored.study)
    except UserError as error:
        return Entry(stored, when, None, None, str(error))
    return Entry(stored, when, summarise(found), _ratio(found))


def _ratio(found: Assessment) -> float | None:
    unit = found.unit
    if isinstance(unit, NotMeasurable) or isinstance(unit.drawing_px, NotMeasurable):
        return None
    return unit.drawing_px / unit.reference_px
