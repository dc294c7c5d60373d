"""A drawing with what is wrong with the whole taken out: its size, width, lean and turn, and of a
head how it is turned in space.

A drawing that is 8 % too wide has every width wrong, and one fault. What is left says how well
heights, widths and tilts were seen, and means the same in every study and under every scale school.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.examination.advice import Advised
from bralto.core.examination.assessment import Assessment
from bralto.core.longitudinal.traits.joint_fit import JointFit
from bralto.core.measures.points import point_table
from bralto.core.measures.readings import Reading, error_slopes, read_measures
from bralto.core.measures.table import MeasureTable, measure_tables
from bralto.core.measures.units import Length, Unit
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.stand_in import as_sighted, body_marks
from bralto.core.study.frames import SightMarks
from bralto.core.uncertainty import propagate

__all__ = ["Levelled", "level_out"]


@dataclass(frozen=True, slots=True, eq=False)
class Levelled:
    """A levelled drawing held against its reference, in the reference's heads.

    Attributes:
        readings: of every measure of the view.
        told: (m,) array, which of them were measured and may be told in this pose.
        tables: of the reference and of the drawing; ``covs``, of their marks, as for
            `uncertainty.propagate`.
        slopes: (m, n, 2) arrays, d(error) / d(mark), over either picture.
        head: of the reference, its frame's unit.
        misses: by mark, how far it lies from where it belongs, heads, x right and y up.
    """

    readings: tuple[Reading, ...]
    told: Bools
    tables: tuple[MeasureTable, MeasureTable]
    covs: tuple[Floats, Floats]
    slopes: tuple[Floats, Floats]
    head: float
    misses: Mapping[str, tuple[float, float]]

    def by_id(self) -> Mapping[str, Reading]:
        """The readings that may be told, by measure."""
        return {
            one.spec.id: one for one, told in zip(self.readings, self.told, strict=True) if told
        }

    def doubts(self) -> Mapping[str, tuple[float, float]]:
        """By measure, the standard uncertainties of the value seen and of the value drawn, in the
        unit of the reading."""
        sides = [
            np.sqrt(propagate(table.gradients, cov))
            for table, cov in zip(self.tables, self.covs, strict=True)
        ]
        per = [self.head if one.unit == "head" else 1.0 for one in self.readings]
        return {
            one.spec.id: (float(a) / by, float(b) / by)
            for one, a, b, by in zip(self.readings, *sides, per, strict=True)
        }


def level_out(
    on: Advised, head: Length, found: JointFit, assessment: Assessment, *, leaning: bool = False
) -> Levelled | NotMeasurable:
    """Measure a drawing again once the whole is put right: turn, lean and width, in the picture and
    in space, by the joint fit where they are surely there, then place and size by the best fit.
    That what was taken out has a doubt of its own is not counted: every mark of the figure bears on
    it.

    Args:
        head: of the reference.
        leaning: leave turn, lean and width in the picture as they were drawn.
    """
    view, seen = on.view, on.pair.seen
    whole = np.eye(2) if leaning else found.whole
    upright = _mapped(on.pair.drawn, np.asarray(np.linalg.inv(whole)))
    away = np.zeros_like(upright.xy)
    away[: on.pair.shared] = found.laid.unit * found.fit.scale * found.in_space
    upright = replace(upright, xy=upright.xy - away)
    fit = replace(on.pair, drawn=upright).best_fit()
    if isinstance(fit, NotMeasurable):
        return fit
    drawn = _mapped(upright, np.eye(2) / fit.scale)
    checked = seen if on.implied is None else body_marks(on.implied, seen, head.value)
    points = [point_table(view, one, on.pair.common) for one in (checked, drawn)]
    first, second = measure_tables(view, points)
    if on.implied is not None:
        first = as_sighted(view, on.implied, first, head.value)
    unit = Unit(head.value, head.gradient, np.zeros((len(drawn.keys), 2)))
    intents = {one.measure: one.factor for one in on.intents}
    readings = read_measures(
        view, first, second, seen.doubt, drawn.cov, head, unit, on.grade, intents
    )
    told = np.array(
        [
            one.error is not None and bool(one.u) and before.verdict != Verdict.NOT_MEASURED
            for one, before in zip(readings, assessment.readings, strict=True)
        ],
        dtype=np.bool_,
    )
    misses = fit.residuals / (fit.scale * head.value)
    return Levelled(
        readings, told, (first, second), (seen.doubt, drawn.cov),
        error_slopes(view, first, second, head, unit, intents), head.value,
        dict(zip(seen.keys, map(tuple, misses.tolist()), strict=False)),
    )  # fmt: skip


def _mapped(marks: SightMarks, by: Floats) -> SightMarks:
    return replace(marks, xy=marks.xy @ by.T, cov=by @ marks.cov @ by.T)
