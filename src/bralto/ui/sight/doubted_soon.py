"""What of the sightings is doubted, worked out on another thread: the hand goes on meanwhile."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import QObject, pyqtSignal

from bralto.core.sightings.contradictions import Contradiction, contradictions
from bralto.core.sightings.stance import doubted
from bralto.core.study.taken import Sighting
from bralto.core.views.model import View
from bralto.core.views.stances import Stance
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.running.tasks import Tasks

__all__ = ["DoubtedSoon"]

_Found = tuple[Stance | None, tuple[Contradiction, ...]]


class DoubtedSoon(QObject):
    """Of one study. Until it is known, what was doubted before stands, as far as it is about
    sightings that are still there.

    Attributes:
        likelier: another way in which the model may be placed, or None.
        wrong: what cannot both be, the worst first.
    """

    found = pyqtSignal()

    def __init__(self, study: OpenStudy, tasks: Tasks, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._study, self._tasks = study, tasks
        self._asked: tuple[View, Sequence[Sighting]] = (study.sighted.view, ())
        self._pending = False
        self.likelier: Stance | None = None
        self.wrong: tuple[Contradiction, ...] = ()

    def ask(self) -> None:
        """The sightings may be others than before."""
        view, items = self._study.sighted.view, self._study.sighted.kept.items
        before, asked = self._asked, (view, items)
        if asked == before:
            return
        self._asked, self._pending = asked, True
        if view is not before[0]:
            self.likelier, self.wrong = None, ()
        same = [one is other for one, other in zip(items, before[1], strict=False)]
        self.wrong = tuple(
            one for one in self.wrong if all(row < len(same) and same[row] for row in one.rows)
        )
        self._tasks.call_off(self)
        work = partial(_found, view, items, from_life=self._study.from_life)
        self._tasks.run(work, partial(self._take, asked), partial(self._go_without, asked))

    def know(self) -> None:
        """Work it out at once: what is done next depends on it."""
        if self._pending:
            self._take(self._asked, _found(*self._asked, from_life=self._study.from_life))

    def _take(self, asked: tuple[View, Sequence[Sighting]], found: _Found) -> None:
        if self._pending and asked is self._asked:
            self._pending = False
            self.likelier, self.wrong = found
            self.found.emit()

    def _go_without(self, asked: tuple[View, Sequence[Sighting]], message: str) -> None:
        self._take(asked, (None, ()))


def _found(view: View, items: Sequence[Sighting], *, from_life: bool) -> _Found:
    if from_life:
        return doubted(view, items)
    return None, contradictions(view, items)  # the marks of a known sitter show how it is placed
