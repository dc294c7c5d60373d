"""Ribcage against pelvis, from marks: how far one is shifted, tilted and turned on the other, and
which side of the trunk is squeezed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from bralto.core.action.bend import Doubted
from bralto.core.action.sweeps import table_of
from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.measures.kinds import wrap_degrees
from bralto.core.results import NotMeasurable
from bralto.core.uncertainty import propagate

__all__ = ["Masses", "masses_of"]

_STEP = 1e-6


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
    if min(_apart(xy[0], xy[1]), _apart(xy[2], xy[3])) <= _STEP:
        return NotMeasurable("the ends of a mass lie in one spot")
    told = [_doubted(figure, present, xy, of) for of in (_tilt, _shift, _sides)]
    turn = _doubted(figure, present, xy, _turn) if len(present) == len(keys) else None
    tilt, shift, sides = told
    return Masses(tilt, shift, turn, sides, present)


def _apart(a: Floats, b: Floats) -> float:
    return float(np.hypot(*(a - b)))


def _line(a: Floats, b: Floats) -> float:
    """Degrees of a line from the viewer's left to right, by which end lies so."""
    run = b - a if b[0] >= a[0] else a - b
    return float(np.degrees(np.arctan2(run[1], run[0])))


def _tilt(xy: Floats) -> float:
    return float(wrap_degrees(_line(xy[0], xy[1]) - _line(xy[2], xy[3])))


def _shift(xy: Floats) -> float:
    return float(0.5 * (xy[0] + xy[1] - xy[2] - xy[3])[0])


def _sides(xy: Floats) -> float:
    return _apart(xy[0], xy[2]) / max(_apart(xy[1], xy[3]), _STEP)


def _turn(xy: Floats) -> float:
    return 100.0 * (_between(xy[4], xy[0], xy[1]) - _between(xy[5], xy[2], xy[3]))


def _between(at: Floats, a: Floats, b: Floats) -> float:
    """Share of the way from the viewer's left end of a line to the right one."""
    left, right = (a, b) if a[0] <= b[0] else (b, a)
    run = right - left
    return float((at - left) @ run) / float(run @ run)


def _doubted(
    figure: Figure, keys: tuple[str, ...], xy: Floats, of: Callable[[Floats], float]
) -> Doubted:
    """A value of some marks with the doubt of placing them, by central differences."""
    gradient = np.zeros((1, *xy.shape))
    for i in np.ndindex(*xy.shape):
        ahead, behind = xy.copy(), xy.copy()
        ahead[i] += _STEP
        behind[i] -= _STEP
        gradient[0][i] = (of(ahead) - of(behind)) / (2.0 * _STEP)
    doubt = figure.marks.picked(keys).doubt / figure.head.value**2
    return Doubted(of(xy), float(np.sqrt(propagate(gradient, doubt)[0])))
