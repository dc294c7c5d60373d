"""What was sighted from life: each answer, and each that is taken away, is one step of undo."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from bralto.core.sightings.stance import otherwise_placed
from bralto.core.study.anchored import placed
from bralto.core.study.taken import MOST_SIGHTINGS, Sighting, Sightings
from bralto.core.views.model import View
from bralto.core.views.stances import Stance
from bralto.store.instants import now_utc
from bralto.ui.document.worked_on import WorkedOn
from bralto.ui.session import answering

__all__ = ["SightingEdits"]


class SightingEdits:
    """A part of `OpenStudy`."""

    def __init__(self, study: WorkedOn, say: Callable[[str], None]) -> None:
        self._study, self._say = study, say

    @property
    def kept(self) -> Sightings:
        """All of them; empty where the study is not from life."""
        return self._study.study.sightings or Sightings()

    def take(self, one: Sighting) -> None:
        """Keep an answer, and go on to the next question."""
        if len(self.kept.items) >= MOST_SIGHTINGS:
            self._say(f"A study has at most {MOST_SIGHTINGS} sightings.")
            return
        with self._study.gesture():
            items = *self.kept.items, replace(one, taken=now_utc())
            self._put(replace(self.kept, items=items), "a sighting")
            self._study.apply(answering.answered)

    def remove(self, row: int) -> None:
        """Take one away."""
        items = self.kept.items
        if 0 <= row < len(items):
            left = items[:row] + items[row + 1 :]
            self._put(replace(self.kept, items=left), "a sighting taken away")

    @property
    def view(self) -> View:
        """The study's view with the model as it is placed, also of one that is sighted for
        practice."""
        return placed(self._study.view, self.kept.stance)

    def place(self, stance: Stance) -> None:
        """Say how the model is placed."""
        if stance is not self.kept.stance:
            changed = otherwise_placed(self._study.view, self.kept, stance)
            self._put(changed, "how the model is placed")

    def stand(self, changed: Sightings) -> None:
        """Say where lengths in mm are read off and where the paper is; with what was carried over
        (`core.sightings.figure.read_off`)."""
        self._put(changed, "where lengths are read off")

    def _put(self, changed: Sightings, words: str) -> None:
        taken = changed.taken or now_utc()
        session = self._study.session
        pair = session.state_name, session.against
        self._study.document.set_sightings(pair, replace(changed, taken=taken), words)
