"""What is found out of each picture of the open study; asked for by the passes that show it."""

from __future__ import annotations

import math
from dataclasses import replace

from PyQt6.QtCore import QObject

from bralto.core.canons.compare import against_canon
from bralto.core.canons.library import Canon, canons_of
from bralto.core.discover.levels import Tie
from bralto.core.discover.likeness import Likeness, likeness, push_of, pushed
from bralto.core.discover.lines import Alignment, SightLine, find_alignments, sight_lines
from bralto.core.discover.points import Figure, figure_of
from bralto.core.errors import UserError
from bralto.core.measures.own_frame import own_frames
from bralto.core.phrases import sentence
from bralto.core.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.session.notes import PlanNote
from bralto.core.sheet import SheetPlan, extent_of_marks, paper_size, plan_sheet
from bralto.core.study import Picture, Study
from bralto.core.tolerances import Grade
from bralto.store.library import Library, StoredStudy
from bralto.store.summaries import ShelfRow
from bralto.ui.state.kept_study import Change
from bralto.ui.state.study_head import StudyHead
from bralto.ui.state.tied_head import TiedHead

__all__ = ["BANDS", "FoundStudy"]

BANDS = ("halves", "thirds", "both")
"""How a face is divided."""

PUSHES = (1.0, 1.25, 1.5, 2.0)
"""How far a likeness can be pushed before it is drawn."""

Lines = tuple[tuple[SightLine, ...], tuple[Alignment, ...]]


class FoundStudy(StudyHead):
    """Computed when it is asked for, kept until the picture or the grade is another."""

    def __init__(
        self, library: Library, stored: StoredStudy, parent: QObject | None = None
    ) -> None:
        super().__init__(library, stored, parent)
        self.shape: str | None = None
        self.forms_on = False
        self.canon: Canon | None = None
        self.bands = BANDS[0]
        self._figures: dict[str, tuple[Picture, Figure | NotMeasurable]] = {}
        self._beside: tuple[tuple[Picture, Canon, Grade], tuple[Reading, ...]] | None = None
        self._tied = TiedHead(library)
        self._person: (
            tuple[Figure, Figure | NotMeasurable, Grade, Likeness | NotMeasurable] | None
        ) = None
        self._found: tuple[Figure | NotMeasurable, Grade, Lines] | None = None

    def figure(self, board: str) -> Figure | NotMeasurable:
        """A board's marks in heads of their own picture."""
        if board == "reference" and self.imagined and not self.against:
            return NotMeasurable("a canon is no picture: it has heights, and nothing to sight at")
        picture = self.picture(board)
        kept = self._figures.get(board)
        if kept is None or kept[0] is not picture:
            kept = self._figures[board] = (picture, figure_of(self.view, picture))
        return kept[1]

    def tilt_deg(self, board: str) -> float:
        """How far the head on a board is tilted, counter-clockwise; 0 where it is no head, or its
        centre line is not marked."""
        found = self.figure(board)
        if isinstance(found, NotMeasurable):
            return 0.0
        frames = own_frames(self.view, [found.points])
        return 0.0 if frames is None else math.degrees(frames[0].radians)

    # What makes this person

    def person(self) -> Likeness | NotMeasurable:
        """How the sitter of a head departs from the average, and what the drawing makes of it."""
        seen, drawn, grade = self.figure("reference"), self.figure("drawing"), self.grade
        if not self.view.axis:
            return NotMeasurable("it is no head")
        if isinstance(seen, NotMeasurable):
            return seen
        kept = self._person
        if kept is None or kept[0] is not seen or kept[1] is not drawn or kept[2] is not grade:
            found = likeness(self.view, seen, drawn, grade.percent)
            kept = self._person = (seen, drawn, grade, found)
        return kept[3]

    def push(self) -> float:
        """How many times as far the sitter's departures are meant to be taken."""
        found = self.person()
        return 1.0 if isinstance(found, NotMeasurable) else push_of(found, self.study.intents)

    def push_further(self) -> None:
        """Mean to take what makes this person further, step by step and back to as seen."""
        found = self.person()
        if isinstance(found, NotMeasurable) or not found.departures:
            return
        push = next((one for one in PUSHES if one > self.push() + 1e-6), PUSHES[0])
        about = {one.measure for one in found.departures}
        rest = tuple(one for one in self.study.intents if one.measure not in about)
        self.keep_head(replace(self.study, intents=rest + pushed(found, push)))

    # The same head from another side

    @property
    def level_study(self) -> Study | None:
        """The study that shows the same head from another side, where one was chosen."""
        chosen = self.notes.level_with
        return self._tied.study(chosen) if chosen else None

    def others_of_head(self) -> tuple[ShelfRow, ...]:
        """Studies that could show it."""
        return self._tied.others(self.study)

    def level_with(self, study_id: str) -> None:
        """Hold this head level with that of another study; "" lets go."""
        self._tied.forget()
        self.note(replace(self.notes, level_with=study_id))

    def ties(self, board: str) -> tuple[Tie, ...] | NotMeasurable:
        """What of a board's head is level with the same picture of the other study."""
        return self._tied.ties(self.study, self.figure(board), board, self.notes.level_with)

    def band(self, bands: str) -> None:
        """Divide a face in halves, in thirds or in both."""
        self.bands = bands
        self.changed.emit(Change.NOTES)

    def _found_in_reference(self) -> Lines:
        seen, grade = self.figure("reference"), self.grade
        if self._found is None or self._found[0] is not seen or self._found[1] is not grade:
            lines: tuple[SightLine, ...] = ()
            alignments: tuple[Alignment, ...] = ()
            if not isinstance(seen, NotMeasurable):
                lines = sight_lines(seen, "plumb", grade)
                alignments = find_alignments(seen, grade, most=8)
            self._found = (seen, grade, (lines, alignments))
        return self._found[2]

    @property
    def lines(self) -> tuple[SightLine, ...]:
        """The plumb lines that cross most marks of the reference, fullest first."""
        return self._found_in_reference()[0]

    @property
    def alignments(self) -> tuple[Alignment, ...]:
        """Marks of the reference that stand below or level with each other."""
        return self._found_in_reference()[1]

    @property
    def line(self) -> SightLine | None:
        """The plumb line that hangs on both boards: the chosen one, or else the fullest."""
        chosen = set(self.notes.line)
        best = max(self.lines, key=lambda one: len(chosen & set(one.keys)), default=None)
        return best if best and chosen & set(best.keys) else next(iter(self.lines), None)

    def choose_line(self, keys: tuple[str, ...]) -> None:
        """Hang another of the lines."""
        self.note(replace(self.notes, line=keys))

    def choose_shape(self, name: str | None) -> None:
        """Light up one shape on both boards."""
        if name != self.shape:
            self.shape = name
            self.changed.emit(Change.NOTES)

    # Laid over both pictures

    def toggle_forms(self) -> None:
        """The big forms over both pictures, or none."""
        self.forms_on = not self.forms_on
        self.changed.emit(Change.POINTED)

    @property
    def canons(self) -> tuple[Canon, ...]:
        """The canons of this view."""
        return canons_of(self.view.key)

    def turn_canon(self) -> None:
        """The stations of the next canon, and none behind the last."""
        grown = [one for one in self.canons if not one.apart]
        order: tuple[Canon | None, ...] = (None, *grown)
        at = order.index(self.canon) if self.canon in order else 0
        self.hold_beside(order[(at + 1) % len(order)])
        if len(order) == 1:
            self.trouble.emit("No canon speaks of this view.")

    def hold_beside(self, canon: Canon | None) -> None:
        """Show the reference beside an average, before or after it is drawn; or beside none."""
        self.canon = canon
        self.changed.emit(Change.NOTES)
        if canon is not None:
            self.told.emit(f"{canon.title}: {canon.note}.")

    @property
    def beside_canon(self) -> tuple[Reading, ...]:
        """The reference held against the average that is shown; of a drawing from imagination the
        canon in force stands in its place already."""
        picture, grade = self.picture("reference"), self.grade
        if self.canon is None or (self.imagined and not self.against):
            return ()
        asked = (picture, self.canon, grade)
        if self._beside is None or any(
            one is not other for one, other in zip(self._beside[0], asked, strict=True)
        ):
            found = against_canon(self.view, self.canon, picture, grade)
            self._beside = (asked, () if isinstance(found, NotMeasurable) else found)
        return self._beside[1]

    # The sheet before a line is drawn

    @property
    def plan_note(self) -> PlanNote:
        """How the sheet is planned, or would be at first."""
        return self.notes.plan or PlanNote()

    def note_plan(self, plan: PlanNote) -> None:
        """Plan the sheet in another way."""
        self.note(replace(self.notes, plan=plan))

    def plan(self, note: PlanNote) -> SheetPlan | str:
        """The sheet planned so, or in words why it cannot be."""
        try:
            extent = extent_of_marks(self.view, self.picture("reference"), note.print_mm)
            if isinstance(extent, NotMeasurable):
                return f"Mark the reference's top and bottom first: {extent.reason}."
            return plan_sheet(
                extent,
                paper_size(note.paper),
                note.margin,
                head_mm=note.head_mm,
                landscape=note.landscape,
            )
        except UserError as error:
            return sentence(str(error))
