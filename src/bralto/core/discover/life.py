"""Life of the pose: whether the drawn tilts are as strong as the seen, or were straightened."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.measures.kinds import fold_degrees
from bralto.core.results import NotMeasurable
from bralto.core.uncertainty import propagate

__all__ = ["Life", "life_of_pose", "slope_through_origin"]

_ITERATIONS = 100
_FEWEST = 3


@dataclass(frozen=True, slots=True)
class Life:
    """Slope of drawn leans against seen ones: below 1 the pose was straightened.

    Attributes:
        slope: with ``u`` its standard uncertainty.
        lines: how many lines it rests on.
    """

    slope: float
    u: float
    lines: int


def life_of_pose(seen: Figure, drawn: Figure) -> Life | NotMeasurable:
    """From the tilts of the pose that both pictures have.

    A line near level leans from level, one near plumb from plumb, by what is seen.
    """
    chosen = [
        i
        for i, spec in enumerate(seen.view.measures)
        if spec.kind == "tilt" and spec.posed and seen.table.ok[i] and drawn.table.ok[i]
    ]
    if len(chosen) < _FEWEST:
        return NotMeasurable(f"the life of a pose wants at least {_FEWEST} tilts on both pictures")
    x, y = seen.table.values[chosen], drawn.table.values[chosen]
    axis = np.where(np.abs(fold_degrees(x)) <= 45.0, 0.0, 90.0)
    u = [np.sqrt(propagate(one.table.gradients[chosen], one.marks.cov)) for one in (seen, drawn)]
    return slope_through_origin(fold_degrees(x - axis), fold_degrees(y - axis), u[0], u[1])


def slope_through_origin(x: Floats, y: Floats, ux: Floats, uy: Floats) -> Life | NotMeasurable:
    """Least-squares slope b of y = b x with errors in both variables (York 1966, through 0).

    Args:
        x, y: (n,) arrays. ux, uy: (n,) arrays, their standard uncertainties, not both 0.
    """
    if not np.any(np.abs(x) > 3.0 * ux):
        return NotMeasurable("every line is seen level or plumb, so none could be straightened")
    floor = 1e-6 * max(1.0, float(np.abs(x).max()))
    vx, vy = np.square(ux), np.square(np.maximum(uy, floor))
    slope = float(x @ y / (x @ x))
    for _ in range(_ITERATIONS):
        weight = 1.0 / (vy + slope * slope * vx)
        # The point of the line nearest to each datum, in its own uncertainties.
        nearest = weight * (x * vy + slope * y * vx)
        before, slope = slope, float((weight * nearest) @ y / ((weight * nearest) @ x))
        if abs(slope - before) < 1e-12 * max(1.0, abs(slope)):
            break
    weight = 1.0 / (vy + slope * slope * vx)
    nearest = weight * (x * vy + slope * y * vx)
    return Life(slope, float(1.0 / np.sqrt(weight @ np.square(nearest))), len(x))
