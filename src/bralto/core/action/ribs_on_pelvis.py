"""Ribcage against pelvis, from marks: how far one is shifted, tilted and turned on the other, and
which side of the trunk is squeezed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.action.bend import Doubted
from bralto.core.action.sweeps import table_of
from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.measures.kinds import FORMULAS
from bralto.core.results import NotMeasurable
from bralto.core.uncertainty import propagate
from bralto.core.views.model import MeasureKind

__all__ = ["Masses", "masses_of"]

_SPOT = 1e-6  # heads
_MIDDLES = np.array([0.5, 0.5, -0.5, -0.5])
"""Weights of the ends in the ribcage's middle less the pelvis's."""


@dataclass(frozen=True, slots=True)
class Masses:
    """How the two big masses of a trunk stand to each other in one picture.

    Attributes:
        tilt: degrees of the ribcage's line against the pelvis's, counter-clockwise positive.
        shift: how far the middle of the ribcage's line stands beside the middle of the pelvis's,
            along level, heads, + to the viewer's right.
        turn: where the middle mark lies between the ends of its line, in percent of that, for the
            ribcage less the pelvis, + further to the viewer's right: a mass that turns about the
            plumb carries its middle with it. None where a middle is not marked.
        sides: the model's right side, from ribcage to pelvis, against the left; below 1 the right
            one is squeezed.
        marks: what it rests on.
    """

    tilt: Doubted
    shift: Doubted
    turn: Doubted | None
    sides: Doubted
    marks: tuple[str, ...]

    @property
    def squeezed(self) -> str:
        """``right`` or ``left``, the model's own, the side that is the shorter."""
        return "right" if self.sides.value < 1.0 else "left"


def masses_of(figure: Figure) -> Masses | NotMeasurable:
    """All of it for one picture."""
    table = table_of(figure.view)
    if not table.ribs:
        return NotMeasurable("this view shows no ribcage on a pelvis")
    keys = (*table.ribs[:2], *table.pelvis[:2], table.ribs[2], table.pelvis[2])
    at = {key: i for i, key in enumerate(figure.marks.keys)}
    lacking = [key for key in keys[:4] if key not in at]
    if lacking:
        names = " and ".join(figure.view.point_label(key) for key in lacking)
        return NotMeasurable(f"ribcage against pelvis wants {names}")
    present = keys if all(key in at for key in keys) else keys[:4]
    xy = figure.heads[[at[key] for key in present]]
    if any(_apart(xy[a], xy[b]) <= _SPOT for a, b in ((0, 1), (2, 3), (0, 2), (1, 3))):
        return NotMeasurable("two ends of a mass lie in one spot")

    def doubted(value: float, gradient: Floats) -> Doubted:
        """A value with the doubt of placing the marks; ``gradient`` (n, 2) over them."""
        variance = propagate(gradient[None], doubt)[0]
        return Doubted(value, float(np.sqrt(variance)))

    def formula(kind: MeasureKind, *points: int) -> tuple[float, Floats]:
        """A value of some of the marks and its gradient over all."""
        values, slopes = FORMULAS[kind, "straight"](xy[None, list(points)])
        gradient = np.zeros(xy.shape)
        np.add.at(gradient, list(points), slopes[0])
        return float(values[0]), gradient

    doubt = figure.marks.picked(present).doubt / figure.head.value**2
    shift = np.zeros(xy.shape)
    shift[:4, 0] = _MIDDLES
    turn = None
    if len(present) == len(keys):
        (ribs, by_ribs), (hips, by_hips) = (
            formula("fraction", *_from_left(xy, a, b, middle))
            for a, b, middle in ((0, 1, 4), (2, 3, 5))
        )
        turn = doubted(100.0 * (ribs - hips), 100.0 * (by_ribs - by_hips))
    return Masses(
        doubted(*formula("angle", 0, 1, 2, 3)),
        doubted(float((shift * xy).sum()), shift),
        turn,
        doubted(*formula("ratio", 0, 2, 1, 3)),
        present,
    )


def _from_left(xy: Floats, a: int, b: int, middle: int) -> tuple[int, int, int]:
    """A line's end on the viewer's left, what lies between, and its other end."""
    return (a, middle, b) if xy[a, 0] <= xy[b, 0] else (b, middle, a)


def _apart(a: Floats, b: Floats) -> float:
    return float(np.hypot(*(a - b)))
