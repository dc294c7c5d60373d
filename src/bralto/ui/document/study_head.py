"""What is said of a study as a whole: school, grade, title, intentions, and the bench's notes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from bralto.core.corrections.push import push_intent, pushes_of
from bralto.core.session.notes import Notes, PlanNote, notes_of, with_notes
from bralto.core.sightings.how_sighted import for_practice
from bralto.core.study.values import Guess, Intent, Study
from bralto.core.terms import School, StudyKind
from bralto.store.instants import now_utc
from bralto.ui.document.study_document import StudyDocument

__all__ = ["StudyHead"]


class StudyHead:
    """Edits of the study's own row; they are not undone by steps, each has its own way back."""

    def __init__(self, document: StudyDocument) -> None:
        self._document = document
        self._notes: tuple[Mapping[str, object], Notes] | None = None

    @property
    def _study(self) -> Study:
        return self._document.study

    def set_school(self, school: School) -> None:
        """Put another scale school in force."""
        self._put(replace(self._study, scale=replace(self._study.scale, school=school)))

    def set_trusted(self, one: str, two: str) -> None:
        """Bring both pictures to one scale by the distance of two marks."""
        scale = replace(self._study.scale, school=School.ANCHORS, marks=(one, two))
        self._put(replace(self._study, scale=scale))

    def set_grade(self, grade: str) -> None:
        """Change the tolerances."""
        self._put(replace(self._study, grade=grade))

    def set_canon(self, key: str) -> None:
        """Hold an imagined figure against another average."""
        self._put(replace(self._study, canon=key))

    def set_title(self, title: str) -> None:
        """Rename the study."""
        self._put(replace(self._study, title=title))

    def begin_practice(self) -> bool:
        """Sight the reference for practice; gives whether it is kept."""
        study = self._study
        if study.reference is None:
            return False
        return self._put(for_practice(study))

    # Intentions: what the learner changes on purpose

    def intend(self, measures: tuple[str, ...], factor: float | None) -> None:
        """Change measures on purpose by a factor of what is seen; None: as seen again."""
        meant = () if factor is None else tuple(Intent(key, factor) for key in measures)
        self.mean(measures, meant)

    def mean(self, measures: tuple[str, ...], meant: tuple[Intent, ...]) -> None:
        """Put intentions in the place of those of some measures."""
        rest = tuple(one for one in self._study.intents if one.measure not in measures)
        self._put(replace(self._study, intents=rest + meant))

    def push(self, name: str, factor: float | None) -> None:
        """Push a move (`core.corrections.push`) by a factor; None: as seen again. What is pushed
        counts as exaggerated, so that the record does not take it for an error of the eye."""
        intent = push_intent(name, 1.0 if factor is None else factor)
        kept = tuple(one for one in self._study.intents if one.measure != intent.measure)
        kept += () if factor is None else (intent,)
        kind, pushed = self._study.kind, bool(pushes_of(kept))
        if pushed and kind == StudyKind.OBSERVED:
            kind = StudyKind.EXAGGERATED
        elif not pushed and kind == StudyKind.EXAGGERATED:
            kind = StudyKind.OBSERVED
        self._put(replace(self._study, intents=kept, kind=kind))

    # Guesses by eye

    def guess(self, measure: str, value: float) -> None:
        """Keep a guess, in the measure's own unit; nothing is measured anew."""
        rest = tuple(one for one in self._study.guesses if one.measure != measure)
        self._put(replace(self._study, guesses=(*rest, Guess(measure, value, now_utc()))))

    # Notes

    @property
    def notes(self) -> Notes:
        """What was noted on the bench; read anew only where it is another."""
        extra = self._study.extra
        if self._notes is None or self._notes[0] is not extra:
            self._notes = (extra, notes_of(self._study))
        return self._notes[1]

    def note(self, notes: Notes) -> bool:
        """Note something else; nothing is measured anew. Gives whether it is kept."""
        return notes == self.notes or self._put(with_notes(self._study, notes))

    def choose_line(self, keys: tuple[str, ...]) -> None:
        """Hang another of the plumb lines."""
        self.note(replace(self.notes, line=keys))

    @property
    def plan_note(self) -> PlanNote:
        """How the sheet is planned, or would be at first."""
        return self.notes.plan or PlanNote()

    def note_plan(self, plan: PlanNote) -> None:
        """Plan the sheet in another way."""
        self.note(replace(self.notes, plan=plan))

    def _put(self, changed: Study) -> bool:
        return self._document.put_head(changed)
