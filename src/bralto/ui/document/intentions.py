"""What the learner makes of corrections: put right, or meant so."""

from __future__ import annotations

from collections.abc import Callable

from bralto.core.corrections.corrected import name_of
from bralto.core.corrections.correction_words import Correction
from bralto.core.corrections.intent import factor_of, measures_of
from bralto.core.discover.likeness import pushed
from bralto.core.results import NotMeasurable
from bralto.ui.document.worked_on import WorkedOn

__all__ = ["PUSHES", "Intentions"]

PUSHES = (1.0, 1.25, 1.5, 2.0)
"""How far a likeness can be pushed before it is drawn."""


class Intentions:
    """A part of `OpenStudy`."""

    def __init__(self, study: WorkedOn, say: Callable[[str], None]) -> None:
        self._study, self._say = study, say

    def factor(self, measure: str) -> float | None:
        """The factor by which a measure is changed on purpose, or None."""
        intents = self._study.study.intents
        return next((one.factor for one in intents if one.measure == measure), None)

    def is_put_right(self, one: Correction) -> bool:
        """Whether a correction is ticked on this state."""
        return self._study.notes.ticked(self._study.session.state_name, name_of(one))

    def put_right(self, one: Correction) -> None:
        """Tick a correction, or take the tick back; the next state of the drawing checks it."""
        study = self._study
        study.head.note(study.notes.tick(study.session.state_name, name_of(one)))

    def mean_held(self) -> None:
        """The held correction was changed on purpose: it is none."""
        study, one = self._study, self._study.session.held
        if one is None:
            self._say("Hold a correction first, by its number, then say that it is meant.")
            return
        measures = measures_of(study.view, one)
        reading = study.assessment.reading(measures[0]) if measures else None
        factor = factor_of(one, reading)
        if not measures or factor is None or factor <= 0.0:
            self._say("Only a part's length, width or tilt can be meant otherwise.")
            return
        study.head.intend(measures, round(factor, 3))

    def push_further(self) -> None:
        """Mean to take what makes this person further, step by step and back to as seen."""
        found = self._study.examination.both.person
        if isinstance(found, NotMeasurable) or not found.departures:
            return
        now = self._study.examination.both.push
        push = next((one for one in PUSHES if one > now + 1e-6), PUSHES[0])
        about = tuple(one.measure for one in found.departures)
        self._study.head.mean(about, pushed(found, push))
