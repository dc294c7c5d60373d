"""What is on the bench at one moment: the study as it is kept, the session, and all figures."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from bralto.core.action.sweeps import WHOLE
from bralto.core.corrections.correction_words import Correction
from bralto.core.discover.common_corners import CommonCorners, common_corners
from bralto.core.discover.lines import SightLine
from bralto.core.examination.assessment import Assessment
from bralto.core.examination.examine import Examination
from bralto.core.examination.kept_advice import measured_by
from bralto.core.marking.carry import is_proposed
from bralto.core.marking.mark_worth import Hanging, told_from, worth_again
from bralto.core.marking.whereabouts import Whereabouts, carried, expected, lying
from bralto.core.measures.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.session.gate import CHECKS, checked
from bralto.core.session.notes import Notes
from bralto.core.session.passes import (
    ENOUGH_SIGHTINGS,
    Progress,
    SessionPass,
    progress_of,
    worth_next,
)
from bralto.core.sightings.next_question import Next
from bralto.core.study.anchored import placed
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.study.values import Picture, Study
from bralto.core.terms import School
from bralto.core.views.pass_keys import PassKey
from bralto.ui.session.prompting import in_sight, question_of
from bralto.ui.session.state import Asked, Ground, SessionState

__all__ = ["Moment"]


@dataclass(frozen=True, eq=False)
class Moment:
    """One of the two that a change is told by: before and after. What is the same object in both
    has not changed.

    Attributes:
        study: as the library has it.
        media: names in the media folder by state, the reference's under "".
        notes: what was noted on the bench, as the study has it.
        session: what is looked at and asked for.
        ground: the pictures on both boards, with a mark that is being dragged where it is now.
        examination: of these pictures; while a mark is dragged, at most a frame behind it.
        listed: the last examination whose corrections are known.
    """

    study: Study
    media: Mapping[str, str]
    notes: Notes
    session: SessionState
    ground: Ground
    examination: Examination
    listed: Examination

    def picture(self, board: Board) -> Picture:
        """The picture on a board; an empty one where there is no drawing yet."""
        return self.ground.picture(board)

    @property
    def dragging(self) -> bool:
        """Whether a mark is in hand that is not kept yet."""
        return self.session.in_hand is not None

    @property
    def behind(self) -> bool:
        """Whether the figures are still those of a dragged mark's place before."""
        found = self.examination
        return found.seen.picture is not self.ground.seen or (
            found.drawn.picture is not self.ground.drawn
        )

    @property
    def advice(self) -> Assessment:
        """The assessment that the list of corrections goes with."""
        return self.listed.advised

    @cached_property
    def corrections(self) -> tuple[Correction, ...]:
        """The list, in the order of work or greatest first."""
        listed = self.listed.corrections
        if not self.session.by_share:
            return listed
        return tuple(sorted(listed, key=lambda one: -one.share))

    def consequences(self, one: Correction) -> tuple[Reading, ...]:
        """The errors that follow from a correction, worst first."""
        listed = self.listed.corrections
        return self.advice.following(listed.index(one) + 1) if one in listed else ()

    @property
    def assessment(self) -> Assessment:
        """Measures and typical miss; with what they follow from, once the list is known."""
        found = self.examination
        return found.advised if found is self.listed else found.assessment

    @property
    def in_doubt(self) -> bool:
        """Whether the whole picture must be looked at before any error is told."""
        return any(one.of_the_whole for one in self.advice.doubts)

    @property
    def line(self) -> SightLine | None:
        """The plumb line that hangs on both boards."""
        return self.examination.both.line(self.notes.line)

    @property
    def drawing_head_mm(self) -> float | None:
        """One reference head on the drawing's sheet, where it is known."""
        unit = self.assessment.unit
        mm = unit if isinstance(unit, NotMeasurable) else unit.drawing_mm
        return None if isinstance(mm, NotMeasurable) else mm

    @property
    def schools(self) -> tuple[str, ...]:
        """The scale schools that this study can be measured by."""
        lacking = set() if len(self.study.scale.marks) == 2 else {School.ANCHORS}
        if any(self.picture(board).sheet is None for board in BOARDS):
            lacking.add(School.SIGHT_SIZE)
        return tuple(school for school in School if school not in lacking)

    @property
    def framed(self) -> bool:
        """Whether both boards have the marks between which the whole lies."""
        view = self.ground.view
        return all(set(view.edges) <= self.ground.picture(board).placed() for board in BOARDS)

    @cached_property
    def corners(self) -> CommonCorners:
        """Corners that both pictures have, as places for points of one's own; none where the
        view's own marks tell enough, or before both pictures were looked at."""
        ground, found = self.ground, self.session.corners
        seen, drawn = (found.get(self.media_of(board)) for board in BOARDS)
        if seen is None or drawn is None or self.dragging:
            return CommonCorners()
        one, other = (np.array(px, dtype=np.float64).reshape(-1, 2) for px in (seen, drawn))
        return common_corners(ground.view, ground.seen, ground.drawn, one, other)

    def media_of(self, board: Board) -> str:
        """Name of a board's picture in the media folder, "" where the study came without it."""
        return self.media.get(self.session.picture_name(board), "")

    # The prompt and the tape

    def in_sight(self, key: str) -> bool:
        """Whether a mark is shown in this pass."""
        return in_sight(self.session, self.ground, key)

    @property
    def alone(self) -> bool:
        """Whether marks are asked for on the reference alone."""
        return self.ground.only(self.session) == Board.REFERENCE

    def proposals(self, board: Board) -> tuple[str, ...]:
        """Marks that were carried to a board and have not been looked at, in placing order."""
        marks = self.picture(board).marks
        return tuple(k for k in self.ground.view.placing if k in marks and is_proposed(marks[k]))

    @cached_property
    def asked_proposal(self) -> tuple[Board, str] | None:
        """Board and key of the carried mark that is to be looked at next."""
        waiting = self.proposals(Board.DRAWING)
        return (Board.DRAWING, waiting[0]) if waiting else None

    @property
    def question(self) -> Asked | None:
        """What is asked about the mark that was set last."""
        return question_of(self.session, self.ground)

    @cached_property
    def worth_again(self) -> tuple[Hanging, ...]:
        """The marks on whose doubt most verdicts hang."""
        if self.ground.imagined:
            return ()  # what stands there was not marked
        unsure = self.assessment.unsure()
        return worth_again(self.ground.view, self.ground.seen, self.ground.drawn, unsure)

    @property
    def told_from(self) -> float | None:
        """Heads from which on an error can be told, as far as the marks go."""
        return told_from(self.assessment.told())

    @cached_property
    def whereabouts(self) -> Mapping[str, Whereabouts]:
        """Where the mark that is asked for may be looked for, by its key: where it lies, if it is
        asked for again; on the reference by the marks there and the view's typical places, on a
        drawing by its reference alone, if that was seen."""
        step, ground = self.session.step, self.ground
        if step is None:
            return {}
        found = {}
        for key in step.keys:
            one: Whereabouts | NotMeasurable
            if key in ground.picture(step.board).placed():
                one = lying(ground.view, ground.picture(step.board), key)
            elif step.board == Board.REFERENCE:
                one = expected(ground.view, ground.seen, key)
            elif ground.imagined:
                continue  # an average, or what is only implied, would pull at the hand
            else:
                one = carried(ground.view, ground.seen, ground.drawn, key)
            if not isinstance(one, NotMeasurable):
                found[key] = one
        return found

    def progress(self) -> tuple[Progress, ...]:
        """How far each pass is."""
        seen, drawn = self.ground.seen, self.ground.drawn
        only = self.ground.only(self.session)
        boards = (seen, drawn) if only is None else (self.ground.picture(only),)
        shapes = set(seen.polygons) | set(drawn.polygons)
        both = set(seen.polygons) & set(drawn.polygons)
        undrawn = self.ground.undrawn
        planned = self.notes.plan is not None if undrawn else drawn.sheet is not None
        others: dict[str, tuple[int, int]] = {
            PassKey.SHEET: (int(planned), 1),
            PassKey.SHAPES: (len(shapes if only else both), max(1, len(shapes))),
            PassKey.SIGHT: self._sighted,
            PassKey.ACTION: (sum(WHOLE in picture.curves for picture in boards), len(boards)),
            PassKey.LIGHT: (sum(bool(picture.shadows) for picture in boards), len(boards)),
            PassKey.VERDICT: (len(checked(self.notes, self.session.state_name)), len(CHECKS)),
        }
        return progress_of(self.ground.passes, seen.marks, drawn.marks, others, only=only)

    @cached_property
    def questions(self) -> tuple[Next, ...]:
        """What is to be sighted next from life, and what may be taken instead."""
        ground, found = self.ground, self.study.sightings
        if found is None:
            return ()
        grade = ground.view.grade(self.study.grade)
        return self.session.asking.questions(placed(ground.view, found.stance), found.items, grade)

    @property
    def _sighted(self) -> tuple[int, int]:
        """Sightings, and how many are worth taking: once there is a drawing, no more."""
        found = self.study.sightings
        taken = 0 if found is None else len(found.items)
        wanted = ENOUGH_SIGHTINGS if self.ground.undrawn else max(1, taken)
        return min(taken, wanted), wanted

    def worth_next(self) -> SessionPass | None:
        """The pass that is worth doing next."""
        return worth_next(self.progress(), self.session.current_pass)

    # What is another than before

    def marks_changed(self, before: Moment) -> bool:
        """Whether a mark is another on either board."""
        return any(
            one is not other and one.marks != other.marks for one, other in self._boards(before)
        )

    def pictures_changed(self, before: Moment) -> bool:
        """Whether what is said of a picture is another: its sheet, plumb, crop, shapes, or where
        it comes from."""
        return any(
            one is not other and _bare(one) != _bare(other) for one, other in self._boards(before)
        )

    def boards_changed(self, before: Moment) -> bool:
        """Whether other pictures lie on the boards."""
        mine, theirs = self.session, before.session
        names = (mine.state_name, mine.against) != (theirs.state_name, theirs.against)
        return names or self.media != before.media

    def measured_otherwise(self, before: Moment) -> bool:
        """Whether school, grade, canon or intentions are others."""
        return measured_by(self.study) != measured_by(before.study)

    def noted(self, before: Moment) -> bool:
        """Whether something else is noted, guessed or laid over."""
        mine, theirs = self.session, before.session
        return (
            self.study.extra is not before.study.extra
            or self.study.guesses is not before.study.guesses
            or (mine.shape, mine.bands, mine.canon) != (theirs.shape, theirs.bands, theirs.canon)
        )

    def pointing_only(self, before: Moment) -> bool:
        """Whether nothing but what is pointed at, held or unfolded is another."""
        if self.study is not before.study or self.ground is not before.ground:
            return False
        if self.examination is not before.examination or self.listed is not before.listed:
            return False
        was, now = before.session, self.session
        return now == replace(
            was, pointed=now.pointed, selected=now.selected, held=now.held, unfolded=now.unfolded,
            forms_on=now.forms_on,
        )  # fmt: skip

    def listed_only(self, before: Moment) -> bool:
        """Whether the list of corrections is another, and nothing else but what is pointed at."""
        if self.listed is before.listed:
            return False
        return replace(self, listed=before.listed).pointing_only(before)

    def _boards(self, before: Moment) -> tuple[tuple[Picture, Picture], tuple[Picture, Picture]]:
        mine, theirs = self.ground, before.ground
        return (mine.seen, theirs.seen), (mine.drawn, theirs.drawn)


def _bare(picture: Picture) -> Picture:
    return replace(picture, marks={})
