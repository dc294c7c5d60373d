"""Which errors follow from which correction.

The drawing is measured again as it would be with corrections put right: with all of them, with each
alone left wrong, and one after the other in the order of the list. What a measure loses at a step
is that correction's share of its error; what remains at the end is left over.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.borne_out import stands_out
from bralto.core.fit.similarity import Similarity
from bralto.core.measures.points import PointTable, point_table
from bralto.core.measures.readings import Reading, errors_alone
from bralto.core.measures.table import MeasureValues, measure_values
from bralto.core.measures.units import Length, Unit, unit_of_drawing
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import SightMarks
from bralto.core.study.pairing import Pair
from bralto.core.study.values import Scale
from bralto.core.terms import School
from bralto.core.views.model import View

__all__ = ["UNIT", "Again", "Causes", "find_causes"]

UNIT = "unit"
"""What an error follows from where the head that all is counted in makes it."""


@dataclass(frozen=True, slots=True)
class Causes:
    """What each measure's error comes from, in the order of the view's measures.

    Attributes:
        left_over: the error once the list is done; NaN where it was not measured.
        follows_from: number of the correction from 1, `UNIT`, or None.
        unit_percent: by how much the drawn head differs from what all other marks say, + is long;
            None where it does not matter.
    """

    left_over: Floats
    follows_from: tuple[int | str | None, ...]
    unit_percent: float | None

    def of(self, listed: Sequence[object], kept: Sequence[object]) -> Causes:
        """The same where of the corrections listed only some are kept: numbered anew."""
        numbers = {listed.index(one) + 1: at for at, one in enumerate(kept, start=1)}
        follows = tuple(
            numbers.get(one) if isinstance(one, int) else one for one in self.follows_from
        )
        return replace(self, follows_from=follows)


class Again:
    """A drawing measured again as it would be with some of its marks moved.

    What stays is worked out once: a list of corrections is held against the measures many times.
    """

    def __init__(
        self,
        view: View,
        pair: Pair,
        scale: Scale,
        head: Length | NotMeasurable,
        intents: Mapping[str, float],
        as_read: Sequence[Reading] = (),
    ) -> None:
        """Get ready.

        Args:
            pair: its shared marks alone (`Pair.shared_only`).
            as_read: of every measure, where the reference's values are those that were read and
                not what its marks make: of a body that was sighted.
        """
        if isinstance(head, Length):  # its gradient is over marks that may not be shared
            head = Length(head.value, np.zeros_like(pair.seen.xy))
        self._view, self._pair, self._scale = view, pair, scale
        self._head, self._intents = head, intents
        self._reference = point_table(view, pair.seen, pair.common)
        self._seen = measure_values(view, [self._reference])[0]
        if as_read and isinstance(head, Length):
            long = [head.value if one.unit == "head" else 1.0 for one in as_read]
            read = [one.reference for one in as_read]
            self._seen = MeasureValues(
                np.array([(at or 0.0) * by for at, by in zip(read, long, strict=True)]),
                np.array([at is not None for at in read], dtype=np.bool_),
            )

    def errors(self, away: Floats) -> Floats:
        """(k, m) array, NaN where not measured, of every measure once the marks went (k, n, 2)
        away, drawing units."""
        if not len(away):
            return np.zeros((0, len(self._view.measures)))
        pictures, points = self._moved(away)
        return self._read(points, self._units(pictures, points, self._scale))

    def by_best_fit(self, away: Floats) -> tuple[Floats, float]:
        """Once the marks went (n, 2) away: the (m,) errors by the best fit, and by how much the
        head in force is longer than the one that it has, percent; 0 where either is not known."""
        pictures, points = self._moved(away[None])
        (own,) = self._units(pictures, points, self._scale)
        (fitted,) = self._units(pictures, points, replace(self._scale, school=School.BEST_FIT))
        (errors,) = self._read(points, [fitted])
        long = 0.0
        if isinstance(own, Unit) and isinstance(fitted, Unit):
            long = 100.0 * (own.value / fitted.value - 1.0)
        return errors, long

    def _read(self, points: Sequence[PointTable], units: Sequence[Unit | NotMeasurable]) -> Floats:
        drawn = measure_values(self._view, points)
        rows = [
            errors_alone(self._view, self._seen, values, self._head, unit, self._intents)
            for values, unit in zip(drawn, units, strict=True)
        ]
        return np.array(rows)

    def _moved(self, away: Floats) -> tuple[list[SightMarks], list[PointTable]]:
        drawn = self._pair.drawn
        pictures = [replace(drawn, xy=xy) for xy in drawn.xy + away]
        return pictures, [point_table(self._view, one, self._pair.common) for one in pictures]

    def _units(
        self, pictures: Sequence[SightMarks], points: Sequence[PointTable], scale: Scale
    ) -> list[Unit | NotMeasurable]:
        pair, out = self._pair, []
        in_mm = pair.seen.unit == pair.drawn.unit == "mm"
        for picture, drawing in zip(pictures, points, strict=True):
            fit: Similarity | NotMeasurable = NotMeasurable("not asked")
            if scale.school == School.BEST_FIT:
                fit = Pair(pair.seen, picture, pair.shared).best_fit(gradients=False)
            out.append(
                unit_of_drawing(
                    self._view, scale, self._head, self._reference, drawing, fit, in_mm=in_mm
                )
            )
        return out


def find_causes(
    again: Again, left_over: Floats, right: Floats, after: Floats, readings: Sequence[Reading]
) -> Causes:
    """Split every error that is off among the corrections, in the order of the list.

    Args:
        left_over: (m,) array, errors with all moves put right.
        right: (n, 2), how far the marks go then, drawing units; ``after`` (k, n, 2), with one
            correction after the other put right.
    """
    off = np.array([one.verdict.off for one in readings])
    unexplained = off & stands_out(left_over, readings)
    of_unit, long = np.zeros_like(off), None
    if unexplained.any():
        errors, percent = again.by_best_fit(right)
        of_unit = unexplained & ~stands_out(errors, readings)
        long = percent if of_unit.any() else None
    drawn = np.array([np.nan if one.error is None else one.error for one in readings])
    steps = np.vstack([drawn, again.errors(after[:-1]), left_over])
    shares = (steps[:-1] - steps[1:]) * np.sign(drawn)
    most = np.argmax(shares, axis=0).tolist() if len(after) else []
    follows: list[int | str | None] = []
    for at in range(len(readings)):
        if not off[at]:
            follows.append(None)
        elif unexplained[at]:
            follows.append(UNIT if of_unit[at] else None)
        else:
            follows.append(most[at] + 1 if len(after) else None)
    return Causes(left_over, tuple(follows), long)
