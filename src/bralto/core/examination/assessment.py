"""One call: Study -> Assessment. Window, command line and record all read their figures here."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from bralto.core.canons.compare import against_canon
from bralto.core.canons.figure import HEAD_PX
from bralto.core.canons.shipped_canons import canon_named, canons_of
from bralto.core.corrections.causes import Causes
from bralto.core.corrections.correction_words import Correction
from bralto.core.corrections.push import pushed_pair, pushes_of
from bralto.core.doubts.doubt import Doubt
from bralto.core.errors import UserError
from bralto.core.examination.advice import Advice, Advised, advise
from bralto.core.examination.part_scales import PartScale, part_scales
from bralto.core.fit.affine import AffineReading, read_affine
from bralto.core.fit.miss import Miss, typical_miss
from bralto.core.fit.similarity import Similarity
from bralto.core.mannequin.in_depth import in_depth
from bralto.core.mannequin.known import standpoint_of
from bralto.core.measures.drawing_unit import DrawingUnit, drawing_unit
from bralto.core.measures.points import point_table
from bralto.core.measures.posture import WHOLE, measured_as, posture, told_of
from bralto.core.measures.readings import Reading, read_measures
from bralto.core.measures.shapes import ShapeReading, read_shapes
from bralto.core.measures.short_set import miss_of, short_miss
from bralto.core.measures.table import measure_tables
from bralto.core.measures.units import (
    Length,
    Unit,
    own_head_px,
    reference_head,
    unit_of_drawing,
)
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.alone import shown_marks
from bralto.core.sightings.figure.implied import Implied
from bralto.core.sightings.figure.stand_in import StandIn, as_sighted, body_marks, stand_in
from bralto.core.study.anchored import view_of
from bralto.core.study.pairing import Pair, pair_marks
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Scale, State, Study
from bralto.core.terms import School
from bralto.core.tolerances import GRADES
from bralto.core.uncertainty import propagate
from bralto.core.views.model import View

__all__ = ["NO_DRAWING", "Assessment", "Measured", "assess", "measured"]

NO_DRAWING = "the study has no drawing yet; add a state with a picture"
"""Why a study cannot be measured that waits to be drawn."""

_NOT_ASKED = NotMeasurable("the corrections were not asked for")


@dataclass(frozen=True, slots=True)
class Assessment:
    """Everything computed about one state of a study.

    ``readings`` has one entry for each measure of the view, in its order. ``unit``, ``fit``,
    ``affine``, ``miss``, ``short_miss`` and ``corrections`` are a value or the reason why there is
    none. ``head`` is the reference's. ``shapes`` are the polygons that both pictures have.
    ``causes`` says what each error comes from and ``doubts`` why marks or pictures may not be
    true, where corrections were asked for. ``canon`` is the key of the one that stands in the
    reference's place, or ''.
    """

    title: str
    view: View
    state: str
    school: School
    grade: str
    unit: DrawingUnit | NotMeasurable
    readings: tuple[Reading, ...]
    fit: Similarity | NotMeasurable
    affine: AffineReading | NotMeasurable
    miss: Miss | NotMeasurable
    short_miss: Miss | NotMeasurable
    parts: tuple[PartScale, ...]
    head: Length | NotMeasurable
    shapes: tuple[ShapeReading | tuple[str, NotMeasurable], ...] = ()
    corrections: tuple[Correction, ...] | NotMeasurable = _NOT_ASKED
    causes: Causes | None = None
    doubts: tuple[Doubt, ...] = ()
    canon: str = ""

    def reading(self, measure_id: str) -> Reading | None:
        """The reading of that measure, or None."""
        row = self.view.measure_rows.get(measure_id)
        return None if row is None else self.readings[row]

    def off(self) -> tuple[Reading, ...]:
        """The telling readings that are over or under, each once, worst first against their
        tolerance."""
        once = self.view.once
        wrong = [r for r in self.readings if r.spec.telling and r.verdict.off and r.spec.id in once]
        return tuple(sorted(wrong, key=lambda r: -r.severity))

    def following(self, cause: int | str) -> tuple[Reading, ...]:
        """Those that follow from a correction by its number, or from the unit, worst first."""
        return tuple(r for r in self.off() if self.cause(r) == cause)

    def left_over(self) -> tuple[Reading, ...]:
        """Those that no correction explains, worst first."""
        return tuple(r for r in self.off() if not isinstance(self.cause(r), int))

    def cause(self, reading: Reading) -> int | str | None:
        """From what an error follows (`Causes.follows_from`)."""
        if self.causes is None:
            return None
        return self.causes.follows_from[self.view.measure_rows[reading.spec.id]]

    def told(self) -> tuple[Reading, ...]:
        """The telling readings that were measured and are not 0 by construction."""
        return tuple(r for r in self.readings if r.spec.telling and r.error is not None and r.u)

    def unsure(self) -> tuple[Reading, ...]:
        """Those of them that cannot be told from what placing the marks scatters."""
        return tuple(r for r in self.told() if r.verdict == Verdict.CANNOT_TELL)


def assess(
    study: Study,
    state: State | None = None,
    *,
    school: School | None = None,
    grade: str | None = None,
    corrections: bool = False,
) -> Assessment:
    """Measure one state of a study against its reference.

    Args:
        study: marks of both pictures, image px.
        state: which state; the latest where none is given.
        school, grade: in place of the study's own.
        corrections: search for the shortest list of moves too; as long as all the rest takes.

    Raises:
        UserError: the view, school, grade or canon is unknown, or there is no picture to compare.
    """
    found = measured(study, state, school=school, grade=grade)
    return found.advised() if corrections else found.assessment


@dataclass(frozen=True, slots=True)
class Measured:
    """An assessment without advice, and what advice is given on; ``on`` is None where a canon
    stands in the reference's place, which nothing is corrected by."""

    assessment: Assessment
    on: Advised | None

    def advised(self) -> Assessment:
        """The same with corrections, causes and doubts."""
        return self.assessment if self.on is None else self.with_advice(advise(self.on))

    def with_advice(self, advice: Advice) -> Assessment:
        """The same with advice that is known already."""
        return replace(
            self.assessment,
            corrections=advice.corrections, causes=advice.causes, doubts=advice.doubts,
        )  # fmt: skip


def measured(
    study: Study,
    state: State | None = None,
    *,
    school: School | None = None,
    grade: str | None = None,
) -> Measured:
    """Measure one state of a study, see `assess`; the corrections are searched for when asked."""
    view = view_of(study)
    state = state or study.state()
    scale = study.scale if school is None else replace(study.scale, school=school)
    grade = grade or study.grade
    if grade not in GRADES:
        raise UserError(f"unknown grade '{grade}'; use one of {', '.join(GRADES)}")
    if scale.school not in tuple(School):
        raise UserError(f"unknown school '{scale.school}'; use one of {', '.join(School)}")
    if state is None:
        raise UserError(NO_DRAWING)
    reference, sighted = study.reference, study.sightings
    implied: Implied | None = None
    pair: Pair | tuple[Board, NotMeasurable]
    if reference is None and sighted is not None:
        stood = stand_in(view, sighted, state.picture, scale)
        if isinstance(stood, StandIn):
            reference, implied, pair = stood.picture, stood.body, stood.pair
            study = replace(study, reference=reference)
        elif stood[0] == Board.REFERENCE:
            raise UserError(stood[1].reason)
        else:
            pair = stood
    elif reference is None:
        return Measured(_imagined(study, view, state, scale.school, grade), None)
    else:
        pair = pair_marks(view, reference, state.picture)
    if not isinstance(pair, Pair):
        whose = "the reference" if pair[0] == Board.REFERENCE else f"state '{state.name}'"
        raise UserError(f"{whose}: {pair[1].reason}; correct its corners")
    assert reference is not None
    pair = pushed_pair(view, pair, pushes_of(study.intents))
    found = _assess(study, view, state, pair, scale, grade, implied)
    on = Advised(
        found.view, (reference, state.picture), pair, scale, found.fit, found.head,
        found.view.grade(grade), found.readings, study.intents, implied=implied,
        stand=in_depth(study), stood=standpoint_of(study),
    )  # fmt: skip
    return Measured(found, on)


def _assess(
    study: Study,
    view: View,
    state: State,
    pair: Pair,
    scale: Scale,
    grade: str,
    implied: Implied | None,
) -> Assessment:
    seen, drawn = pair.seen, pair.drawn
    absent = state.picture.absent()
    if study.reference is not None:
        absent |= study.reference.absent()
    # Before there is a drawing the reference is measured by all that it has.
    common = pair.common if state.picture.marks else frozenset(seen.keys)
    body = seen if implied is None else implied.marks
    how = posture(view, body)
    if implied is None or WHOLE not in {one.measure for one in implied.items}:
        view = measured_as(view, how, body, common)  # else the whole is what was sighted
    reference, drawing = point_table(view, seen, common), point_table(view, drawn, common)
    head = reference_head(view, reference)
    fit = pair.best_fit()
    in_mm = seen.unit == drawn.unit == "mm"
    wide = pair.over_all(fit) if scale.school == School.BEST_FIT else fit
    unit = unit_of_drawing(view, scale, head, reference, drawing, wide, in_mm=in_mm)
    checked = reference
    if implied is not None and isinstance(head, Length):
        checked = point_table(view, body_marks(implied, seen, head.value), common)
    seen_table, drawn_table = measure_tables(view, [checked, drawing])
    if implied is not None and isinstance(head, Length):
        seen_table = as_sighted(view, implied, seen_table, head.value)
    readings = read_measures(
        view,
        seen_table,
        drawn_table,
        seen.doubt,
        drawn.doubt,
        head,
        unit,
        view.grade(grade),
        {intent.measure: intent.factor for intent in study.intents},
    )
    affine: AffineReading | NotMeasurable
    miss: Miss | NotMeasurable
    parts: tuple[PartScale, ...] = ()
    if isinstance(fit, NotMeasurable):
        affine = miss = fit
    else:
        alone = pair.shared_only()
        doubts = (alone.seen.doubt, alone.drawn.doubt)
        affine = read_affine(alone.seen.xy, alone.drawn.xy, fit.weights, *doubts)
        parts = part_scales(
            view,
            point_table(view, alone.seen, common),
            point_table(view, alone.drawn, common),
            *doubts,
            fit,
        )
        miss = (
            head
            if isinstance(head, NotMeasurable)
            else typical_miss(
                fit, alone.seen.xy, seen.doubt, alone.drawn.doubt, head.value, head.gradient
            )
        )
    tracked = short_miss(view, pair, head, absent)
    if implied is not None:  # marks that are only usual would hold the drawing against an average
        told = pair.common & shown_marks(view, implied)
        tracked = short_miss(view, pair, head, absent | (pair.common - told), told)
        miss = miss_of(pair, tuple(key for key in pair.seen.keys if key in told), head)
    return Assessment(
        title=study.title,
        view=view,
        state=state.name,
        school=scale.school,
        grade=grade,
        unit=drawing_unit(study, view, state, scale, head, unit, drawn),
        readings=told_of(how, readings),
        fit=fit,
        affine=affine,
        miss=miss,
        short_miss=tracked,
        parts=parts,
        head=head,
        shapes=_shapes(view, study, state, pair, head, unit),
    )


def _shapes(
    view: View,
    study: Study,
    state: State,
    pair: Pair,
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
) -> tuple[ShapeReading | tuple[str, NotMeasurable], ...]:
    """Polygons of both pictures, counted in the unit in force with its uncertainty."""
    reference, drawing = study.reference, state.picture
    assert reference is not None
    if not set(reference.polygons) & set(drawing.polygons):
        return ()
    doubts = (0.0, 0.0)
    if isinstance(head, Length) and isinstance(unit, Unit):
        seen = propagate(head.gradient[None], pair.seen.doubt)[0]
        drawn = propagate(unit.by_drawing[None], pair.drawn.doubt)[0]
        drawn += propagate(unit.by_reference[None], pair.seen.doubt)[0]
        doubts = (math.sqrt(seen) / head.value, math.sqrt(drawn) / unit.value)
    return read_shapes(reference, drawing, head, unit, doubts, view.plumb)


def _imagined(study: Study, view: View, state: State, school: School, grade: str) -> Assessment:
    """A drawing from imagination: held against a canon alone."""
    if study.canon is None:
        known = ", ".join(one.key for one in canons_of(view.key))
        ways = f"; name one of {known} in it, or" if known else f", and none is of {view.key};"
        raise UserError(
            f"a study without a reference is held against a canon{ways} add a reference"
        )
    canon, picture = canon_named(study.canon), state.picture
    readings = against_canon(view, canon, picture, view.grade(grade))
    if isinstance(readings, NotMeasurable):
        raise UserError(f"state '{state.name}': {readings.reason}")
    nothing = NotMeasurable(f"there is no reference, only the canon {canon.key}")
    head: DrawingUnit | NotMeasurable = nothing
    if set(view.head) <= picture.placed():
        own = own_head_px(view, picture)
        head = DrawingUnit(1.0, own, HEAD_PX, own, nothing)
    return Assessment(
        study.title, view, state.name, school, grade, head, readings,
        fit=nothing, affine=nothing, miss=nothing, short_miss=nothing, parts=(),
        head=nothing, corrections=nothing, canon=canon.key,
    )  # fmt: skip
