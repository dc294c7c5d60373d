"""One call: Study -> Assessment. Window, command line and record all read their figures here."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.fit.affine import AffineReading, read_affine
from bralto.core.fit.miss import Miss, typical_miss
from bralto.core.fit.parts import PartScale, part_scales
from bralto.core.fit.similarity import Similarity, fit_similarity
from bralto.core.frames import SightMarks, sight_marks
from bralto.core.measures.points import point_table
from bralto.core.measures.table import measure_table
from bralto.core.measures.units import Length, Unit, reference_head, unit_of_drawing
from bralto.core.readings import Reading, read_measures
from bralto.core.results import NotMeasurable
from bralto.core.study import Picture, State, Study
from bralto.core.tolerances import GRADES
from bralto.core.views.library import view_named
from bralto.core.views.model import View

__all__ = ["Assessment", "DrawingUnit", "assess", "short_set_of"]


@dataclass(frozen=True, slots=True)
class DrawingUnit:
    """The unit in force: one head, in each picture's own lengths.

    Attributes:
        reference: reference head in the reference's frame unit.
        drawing: one reference head on the drawing, in the drawing's frame unit.
        reference_px: the same on the reference, image px.
        drawing_px: the same on the drawing, image px.
        drawing_mm: the same on the drawing's sheet in mm, or why it is not known.
    """

    reference: float
    drawing: float
    reference_px: float
    drawing_px: float | NotMeasurable
    drawing_mm: float | NotMeasurable


@dataclass(frozen=True, slots=True)
class Assessment:
    """Everything computed about one state of a study.

    ``readings`` has one entry for each measure of the view, in its order. ``unit``, ``fit``,
    ``affine``, ``miss`` and ``short_miss`` are a value or the reason why there is none.
    """

    title: str
    view: str
    state: str
    school: str
    grade: str
    unit: DrawingUnit | NotMeasurable
    readings: tuple[Reading, ...]
    fit: Similarity | NotMeasurable
    affine: AffineReading | NotMeasurable
    miss: Miss | NotMeasurable
    short_miss: Miss | NotMeasurable
    parts: tuple[PartScale, ...]

    def reading(self, measure_id: str) -> Reading | None:
        """The reading of that measure, or None."""
        row = view_named(self.view).measure_rows.get(measure_id)
        return None if row is None else self.readings[row]

    def off(self) -> tuple[Reading, ...]:
        """The telling readings that are over or under, worst first against their tolerance."""
        wrong = [r for r in self.readings if r.spec.telling and r.verdict in {"over", "under"}]
        return tuple(sorted(wrong, key=lambda r: -r.severity))


def assess(
    study: Study,
    state: State | None = None,
    *,
    school: str | None = None,
    grade: str | None = None,
) -> Assessment:
    """Measure one state of a study against its reference.

    Args:
        study: marks of both pictures, image px.
        state: which state; the latest where none is given.
        school, grade: in place of the study's own.

    Raises:
        UserError: the view, school or grade is unknown, or there is no picture to compare.
    """
    view = view_named(study.view)
    state = state or study.state()
    school, grade = school or study.scale.school, grade or study.grade
    if grade not in GRADES:
        raise UserError(f"unknown grade '{grade}'; use one of {', '.join(GRADES)}")
    if study.reference is None:
        raise UserError(
            "a study without a reference cannot be measured yet; add a reference picture"
        )
    if state is None:
        raise UserError("the study has no drawing yet; add a state with a picture")
    seen, drawn = _ordered_marks(view, study.reference, state.picture)
    for whose, marks in (("the reference", seen), (f"state '{state.name}'", drawn)):
        if isinstance(marks, NotMeasurable):
            raise UserError(f"{whose}: {marks.reason}; correct its corners")
    assert isinstance(seen, SightMarks)
    assert isinstance(drawn, SightMarks)
    return _assess(study, view, state, seen, drawn, school, grade)


def _ordered_marks(
    view: View, reference: Picture, drawing: Picture, *, in_mm: bool = True
) -> tuple[SightMarks | NotMeasurable, SightMarks | NotMeasurable]:
    """Sight marks of both pictures, those they share first and in the same order."""
    known = [mark.key for mark in view.landmarks]
    on_seen, on_drawn = reference.placed(), drawing.placed()
    shared = [key for key in known if key in on_seen and key in on_drawn]
    return (
        sight_marks(reference, shared + [k for k in known if k in on_seen - on_drawn], in_mm=in_mm),
        sight_marks(drawing, shared + [k for k in known if k in on_drawn - on_seen], in_mm=in_mm),
    )


def _assess(
    study: Study,
    view: View,
    state: State,
    seen: SightMarks,
    drawn: SightMarks,
    school: str,
    grade: str,
) -> Assessment:
    common = frozenset(seen.keys) & frozenset(drawn.keys)
    reference, drawing = point_table(view, seen, common), point_table(view, drawn, common)
    head = reference_head(view, reference)
    fit = _fit(seen, drawn, len(common))
    unit = unit_of_drawing(view, school, reference, drawing, _padded(fit, seen, drawn))
    readings = read_measures(
        view,
        measure_table(view, reference),
        measure_table(view, drawing),
        seen.cov,
        drawn.cov,
        head,
        unit,
        GRADES[grade],
        {intent.measure: intent.factor for intent in study.intents},
    )
    affine: AffineReading | NotMeasurable
    miss: Miss | NotMeasurable
    parts: tuple[PartScale, ...] = ()
    n = len(common)
    if isinstance(fit, NotMeasurable):
        affine = miss = fit
    else:
        affine = read_affine(seen.xy[:n], drawn.xy[:n], fit.weights)
        parts = part_scales(
            view,
            point_table(view, _first(seen, n), common),
            point_table(view, _first(drawn, n), common),
            seen.cov[:n],
            drawn.cov[:n],
            fit,
        )
        miss = (
            head
            if isinstance(head, NotMeasurable)
            else typical_miss(fit, seen.xy[:n], seen.cov, drawn.cov[:n], head.value, head.gradient)
        )
    return Assessment(
        title=study.title,
        view=view.key,
        state=state.name,
        school=school,
        grade=grade,
        unit=_drawing_unit(study, view, state, school, head, unit, drawn),
        readings=readings,
        fit=fit,
        affine=affine,
        miss=miss,
        short_miss=_short_miss(view, seen, drawn, head),
        parts=parts,
    )


def _first(marks: SightMarks, n: int) -> SightMarks:
    return SightMarks(marks.keys[:n], marks.xy[:n], marks.cov[:n], marks.unit)


def _placing_sd(seen: SightMarks, drawn: SightMarks) -> Floats:
    """(n,) placing SD of each shared mark in drawing units; weights of the best fit."""
    extent = [np.ptp(marks.xy, axis=0).max() if len(marks.xy) else 0.0 for marks in (seen, drawn)]
    ratio = extent[1] / extent[0] if extent[0] > 0.0 else 1.0
    variance = np.einsum("nkk->n", drawn.cov) + ratio**2 * np.einsum("nkk->n", seen.cov)
    # A mark given without spread is exact; it must not take all the weight.
    sd = np.sqrt(variance / 2.0)
    floor = 1e-3 * float(sd.max(initial=0.0))
    guarded: Floats = np.maximum(sd, floor if floor > 0.0 else 1.0)
    return guarded


def _fit(seen: SightMarks, drawn: SightMarks, n: int) -> Similarity | NotMeasurable:
    p, q = _first(seen, n), _first(drawn, n)
    return fit_similarity(p.xy, q.xy, _placing_sd(p, q))


def _padded(
    fit: Similarity | NotMeasurable, seen: SightMarks, drawn: SightMarks
) -> Similarity | NotMeasurable:
    """The fit with its gradients widened to all marks of each picture."""
    if isinstance(fit, NotMeasurable):
        return fit

    def widen(gradient: Floats, n: int) -> Floats:
        widened: Floats = np.pad(gradient, ((0, 0), (0, n - gradient.shape[1]), (0, 0)))
        return widened

    return replace(
        fit,
        by_reference=widen(fit.by_reference, len(seen.keys)),
        by_drawing=widen(fit.by_drawing, len(drawn.keys)),
    )


def short_set_of(view: View, placed: Iterable[str]) -> tuple[str, ...] | NotMeasurable:
    """The short set's marks among those placed, or which one is lacking."""
    have = frozenset(placed)
    chosen = []
    for alternatives in view.short:
        key = next((k for k in alternatives if k in have), None)
        if key is None:
            lacking = " or ".join(view.point_label(k) for k in alternatives)
            return NotMeasurable(f"the short set lacks {lacking}")
        chosen.append(key)
    return tuple(chosen)


def _short_miss(
    view: View, seen: SightMarks, drawn: SightMarks, head: Length | NotMeasurable
) -> Miss | NotMeasurable:
    """Typical miss over the short set alone, with a best fit of its own."""
    keys = short_set_of(view, frozenset(seen.keys) & frozenset(drawn.keys))
    if isinstance(keys, NotMeasurable):
        return keys
    if isinstance(head, NotMeasurable):
        return head
    p, q = _pick(seen, keys), _pick(drawn, keys)
    fit = fit_similarity(p.xy, q.xy, _placing_sd(p, q))
    if isinstance(fit, NotMeasurable):
        return fit
    # The short set holds crown and chin, on which alone the head depends.
    rows = [seen.keys.index(key) for key in keys]
    return typical_miss(fit, p.xy, p.cov, q.cov, head.value, head.gradient[rows])


def _pick(marks: SightMarks, keys: tuple[str, ...]) -> SightMarks:
    rows = [marks.keys.index(key) for key in keys]
    return SightMarks(keys, marks.xy[rows], marks.cov[rows], marks.unit)


def _drawing_unit(
    study: Study,
    view: View,
    state: State,
    school: str,
    head: Length | NotMeasurable,
    unit: Unit | NotMeasurable,
    drawn: SightMarks,
) -> DrawingUnit | NotMeasurable:
    """The unit in both pictures' px and in mm; the px are worked out without the sheets."""
    if isinstance(unit, NotMeasurable):
        return unit
    if isinstance(head, NotMeasurable):
        return head
    assert study.reference is not None
    drawing_px: float | NotMeasurable
    if school == "head":
        drawing_px = _head_px(view, state.picture)
    elif study.reference.sheet is None and state.picture.sheet is None:
        drawing_px = unit.value
    else:
        drawing_px = _unit_px(view, school, study.reference, state.picture)
    mm = unit.value if drawn.unit == "mm" else NotMeasurable("the drawing's sheet is not known")
    return DrawingUnit(head.value, unit.value, _head_px(view, study.reference), drawing_px, mm)


def _head_px(view: View, picture: Picture) -> float:
    """Crown to chin in image px, whatever the sheet and the plumb correction."""
    top, bottom = (picture.marks[key] for key in view.head)
    return math.hypot(top.x - bottom.x, top.y - bottom.y)


def _unit_px(
    view: View, school: str, reference: Picture, drawing: Picture
) -> float | NotMeasurable:
    """One reference head on the drawing in image px, by a school that looks at more marks."""
    seen, drawn = _ordered_marks(view, reference, drawing, in_mm=False)
    assert isinstance(seen, SightMarks)
    assert isinstance(drawn, SightMarks)
    common = frozenset(seen.keys) & frozenset(drawn.keys)
    fit = _padded(_fit(seen, drawn, len(common)), seen, drawn)
    points = point_table(view, seen, common), point_table(view, drawn, common)
    unit = unit_of_drawing(view, school, *points, fit)
    return unit if isinstance(unit, NotMeasurable) else unit.value
