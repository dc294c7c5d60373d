"""All that is known of one study as it lies on the two boards; painters, rows and files read it.

`examine` measures at once; everything else is worked out when it is first asked for, once.
"""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import replace
from functools import cached_property

from bralto.core.action.eye_level import EyeLevel, eye_level
from bralto.core.action.ground import StandingGround, ground_of
from bralto.core.action.sweep_pairs import SweepPair, sweep_pairs
from bralto.core.canons.compare import against_canon
from bralto.core.canons.shipped_canons import Canon
from bralto.core.corrections.correction_words import Correction
from bralto.core.corrections.laying_out import FEWEST
from bralto.core.corrections.push import POSE, Pushes, pushed_picture, pushes_of
from bralto.core.errors import UserError
from bralto.core.examination.advice import advise
from bralto.core.examination.assessment import Assessment, Measured, measured
from bralto.core.examination.kept_advice import KeptAdvice, advised_by
from bralto.core.examination.order_of_states import Order, order_of
from bralto.core.examination.side_by_side import SideBySide
from bralto.core.examination.sides import Side
from bralto.core.fit.similarity import Similarity
from bralto.core.mannequin.in_depth import in_depth
from bralto.core.mannequin.known import MODEL, standpoint_of
from bralto.core.measures.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.sightings.held import Held, held_against
from bralto.core.study.anchored import view_of
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture, Point, State, Study
from bralto.core.tolerances import Grade
from bralto.core.views.model import View
from bralto.core.words.lengths import in_force

__all__ = ["KEPT", "Examination", "GroundPair", "examine"]

KEPT = KeptAdvice(64)
"""Of a day's studies with their steps back and forth; each takes some 25 kB."""

GroundPair = tuple[StandingGround | NotMeasurable, StandingGround | NotMeasurable]
"""Of the reference and of the drawing."""

_CANON = "a canon is no picture: it has heights, and nothing to sight at"
_SIGHTED = "the figure is what sightings imply, and nothing on it was seen"


class Examination:
    """One study with one state of its drawing, measured.

    Attributes:
        study: with an earlier state in the reference's place where two states are compared.
        state: the state that is measured.
        view, grade: in force.
        seen, drawn: what is known of either picture alone; ``both``, of one beside the other.
        assessment: readings, fit and typical miss, without advice.
        awaits_list: its list is empty because none is known yet (`without_list`).
    """

    def __init__(
        self, study: Study, state: State, found: Measured, seen: Side, drawn: Side
    ) -> None:
        self.study, self.state, self._measured = study, state, found
        self.view, self.grade = seen.view, seen.grade
        self.seen, self.drawn, self.both = seen, drawn, SideBySide(study, seen, drawn)
        self.assessment: Assessment = found.assessment
        self._advised: Assessment | None = None if found.on is not None else found.assessment
        self._beside: dict[str, tuple[Reading, ...]] = {}
        self._kept_asked = self.awaits_list = False
        self._lengths = in_force()  # some of what it tells is words
        self._grounds: dict[tuple[Point | None, Point | None], GroundPair] = {}

    def is_of(self, study: Study, state: State | None, seen: Picture | None) -> bool:
        """Whether it tells all of a study, a state of its drawing, and what stands in its
        reference's place; whatever else is noted in the study."""
        listless = self._measured.on is not None and self._advised is self.assessment
        if listless or self._lengths != in_force():  # the search may not fail again
            return False
        told = (_bare(self.study), self.state, self.seen.picture)
        return told == (_bare(study), state, seen)

    # Advice

    def advise(self) -> Assessment:
        """Search for corrections, which takes several times as long as all else. It changes
        nothing here, so that it can be done on another thread; see `take_advice`."""
        on = self._measured.on
        if on is None:
            return self.assessment
        advice = KEPT.find(self._advised_by)
        if advice is None:
            advice = advise(on)
            KEPT.keep(self._advised_by, advice)
        return self._measured.with_advice(advice)

    def take_advice(self, advised: Assessment) -> None:
        """Keep what `advise` came to."""
        self._advised = advised

    @property
    def is_advised(self) -> bool:
        """Whether the list is known: searched for here, kept of the very same marks, or none, since
        there are too few."""
        on = self._measured.on
        if self._advised is None and on is not None and on.pair.shared < FEWEST:
            self._advised = self._measured.advised()
        if self._advised is None and not self._kept_asked:
            self._kept_asked = True
            advice = KEPT.find(self._advised_by)
            if advice is not None:
                self._advised = self._measured.with_advice(advice)
        return self._advised is not None

    @cached_property
    def _advised_by(self) -> Hashable:
        return advised_by(self.study, self.state)

    def without_list(self) -> Examination:
        """The same figures with an empty list, to be shown until one is found."""
        bare = Examination(self.study, self.state, self._measured, self.seen, self.drawn)
        bare.take_advice(self.assessment)
        bare.awaits_list = True
        return bare

    @property
    def advised(self) -> Assessment:
        """The assessment with corrections, causes and doubts, searched for where that is not done
        yet."""
        if self._advised is None:
            self._advised = self.advise()
        return self._advised

    @property
    def corrections(self) -> tuple[Correction, ...]:
        """The list, in the order of work; empty where there can be none."""
        found = self.advised.corrections
        return () if isinstance(found, NotMeasurable) else found

    # Both pictures

    @property
    def fit(self) -> Similarity | NotMeasurable:
        """The best fit, from the reference's sight frame to the drawing's."""
        return self.assessment.fit

    @cached_property
    def held(self) -> tuple[Held, ...]:
        """Each sighting from life held against the drawing."""
        study = self.study
        if not study.from_life or study.sightings is None:
            return ()
        return held_against(self.view, study.sightings, self.state.picture, self.grade)

    @cached_property
    def pushes(self) -> Pushes:
        """What was meant otherwise before it was drawn, by the name of its move."""
        return {} if self.seen.unseen else pushes_of(self.study.intents)

    @cached_property
    def meant(self) -> Side:
        """The reference with its marks where they are meant; the very same where nothing is."""
        if not self.pushes:
            return self.seen
        found = pushed_picture(self.view, self.seen.picture, self.pushes)
        return self.seen if isinstance(found, NotMeasurable) else Side(self.view, found, self.grade)

    @cached_property
    def sweeps(self) -> tuple[SweepPair, ...]:
        """Each curve of either picture held against the other's, as it is meant."""
        return sweep_pairs(self.seen.sweeps, self.drawn.sweeps, self.pushes.get(POSE, 1.0))

    def side(self, board: Board) -> Side:
        """What is known of the picture on a board."""
        return self.seen if board == Board.REFERENCE else self.drawn

    def grounds(self, seen: Point | None, drawn: Point | None) -> GroundPair:
        """The ground under the figure on the reference and on the drawing.

        Args:
            seen, drawn: any place at the height of the eye on either picture, image px; a drawing
                that has none is drawn from the same height as the reference.
        """
        if (seen, drawn) not in self._grounds:
            self._grounds = {(seen, drawn): self._ground_pair(seen, drawn)}
        return self._grounds[seen, drawn]

    def _ground_pair(self, named: Point | None, drawn_named: Point | None) -> GroundPair:
        eye, figure, drawn = self._eye(named), self.seen.figure, self.drawn.figure
        seen: StandingGround | NotMeasurable
        if isinstance(figure, NotMeasurable):
            seen = figure
        elif isinstance(eye, NotMeasurable):
            seen = eye
        else:
            seen, eye = ground_of(figure, eye), replace(eye, told_by="reference")
        if isinstance(drawn, NotMeasurable):
            return seen, drawn
        if drawn_named is not None:
            eye = eye_level(drawn, self.drawn.picture, drawn_named)
        return seen, eye if isinstance(eye, NotMeasurable) else ground_of(drawn, eye)

    @cached_property
    def order(self) -> Order:
        """What the states of the drawing tell together of how it was gone about."""
        return order_of(self.study, self.grade)

    def _eye(self, named: Point | None) -> EyeLevel | NotMeasurable:
        seen = self.seen.figure
        if isinstance(seen, NotMeasurable):
            return seen
        known, stand = standpoint_of(self.study), in_depth(self.study).marks
        return eye_level(seen, self.seen.picture, named, known, stand)

    def beside(self, canon: Canon) -> tuple[Reading, ...]:
        """The reference held against an average; nothing where a canon stands in its place."""
        if self.seen.unseen:
            return ()
        if canon.key not in self._beside:
            found = against_canon(self.view, canon, self.seen.picture, self.grade)
            self._beside[canon.key] = () if isinstance(found, NotMeasurable) else found
        return self._beside[canon.key]


def examine(
    study: Study,
    state: State | None = None,
    *,
    reference: Picture | None = None,
    before: Examination | None = None,
) -> Examination:
    """Measure one state of a study, and make ready to tell all else of it.

    Args:
        study: marks of both pictures, image px.
        state: which state; the latest where none is given.
        reference: what stands in the reference's place in a study without one: a canon's figure, or
            what sightings imply.
        before: an examination of the same study, of which is kept what is the same still; it is
            given back where nothing is another.

    Raises:
        UserError: see `assessment.assess`; not where a drawing from imagination has too few marks
            to be held against its canon, which is then shown alone.
    """
    state = state or study.state()
    seen = study.reference or reference
    if before is not None and before.is_of(study, state, seen):
        return before
    view = view_of(study)
    if seen is None or state is None:
        found = measured(study, state)  # says what is lacking
        assert state is not None
        seen = state.picture
    else:
        try:
            found = measured(study, state)
        except UserError:
            if study.reference is not None:
                raise
            alone = replace(state, picture=replace(state.picture, marks={}))
            found = Measured(measured(replace(study, reference=seen), alone).assessment, None)
    grade, unseen = view.grade(study.grade), ""
    if study.reference is None:
        unseen = _SIGHTED if study.from_life else _CANON
    old = (None, None) if before is None else (before.seen, before.drawn)
    return Examination(
        study, state, found,
        _side(view, seen, grade, old[0], unseen=unseen),
        _side(view, state.picture, grade, old[1]),
    )  # fmt: skip


def _bare(study: Study) -> Study:
    """Without what was noted on the bench, which is not measured."""
    return replace(study, extra={MODEL: study.extra.get(MODEL)})


def _side(
    view: View, picture: Picture, grade: Grade, old: Side | None, *, unseen: str = ""
) -> Side:
    """What is known already where the picture is the same, else one to be asked."""
    new = Side(view, picture, grade, unseen=unseen)
    return old if old is not None and old.is_of(new) else new
