"""What is said of a study as a whole: school, grade, title, intentions, and the bench's notes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from bralto.core.session.notes import Notes, notes_of, with_notes
from bralto.core.study import SCHOOLS, Guess, Intent
from bralto.store.instants import now_utc
from bralto.ui.state.kept_study import Change, KeptStudy

__all__ = ["StudyHead"]


class StudyHead(KeptStudy):
    """The part of the open study that is kept in one row of the library."""

    _notes: tuple[Mapping[str, object], Notes] | None = None

    @property
    def schools(self) -> tuple[str, ...]:
        """The scale schools that this study can be measured by."""
        pictures = (self.picture("reference"), self.picture("drawing"))
        lacking = set() if len(self.study.scale.marks) == 2 else {"anchors"}
        if any(picture.sheet is None for picture in pictures):
            lacking.add("sight-size")
        return tuple(school for school in SCHOOLS if school not in lacking)

    def set_school(self, school: str) -> None:
        """Put another scale school in force."""
        self.keep_head(replace(self.study, scale=replace(self.study.scale, school=school)))

    def set_grade(self, grade: str) -> None:
        """Change the tolerances."""
        self.keep_head(replace(self.study, grade=grade))

    def set_canon(self, key: str) -> None:
        """Hold an imagined figure against another average."""
        self.keep_head(replace(self.study, canon=key))

    def set_title(self, title: str) -> None:
        """Rename the study."""
        self.keep_head(replace(self.study, title=title))

    # Intentions: what the learner changes on purpose

    def intended(self, measure: str) -> float | None:
        """The factor by which a measure is changed on purpose, or None."""
        return next((one.factor for one in self.study.intents if one.measure == measure), None)

    def intend(self, measures: tuple[str, ...], factor: float | None) -> None:
        """Change measures on purpose by a factor of what is seen; None: as seen again."""
        rest = tuple(one for one in self.study.intents if one.measure not in measures)
        meant = () if factor is None else tuple(Intent(key, factor) for key in measures)
        self.keep_head(replace(self.study, intents=rest + meant))

    # Guesses by eye

    def guess(self, measure: str, value: float) -> None:
        """Keep a guess, in the measure's own unit; nothing is measured anew."""
        rest = tuple(one for one in self.study.guesses if one.measure != measure)
        changed = replace(self.study, guesses=(*rest, Guess(measure, value, now_utc())))
        self.keep_head(changed, Change.NOTES)

    # Notes

    @property
    def notes(self) -> Notes:
        """What was noted on the bench; read anew only where it is another."""
        if self._notes is None or self._notes[0] is not self.study.extra:
            self._notes = (self.study.extra, notes_of(self.study))
        return self._notes[1]

    def note(self, notes: Notes) -> bool:
        """Note something else; nothing is measured anew. Gives whether it is kept."""
        return notes == self.notes or self.keep_head(with_notes(self.study, notes), Change.NOTES)
