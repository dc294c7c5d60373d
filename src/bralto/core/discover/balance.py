"""Balance: where the body's weight falls, and which leg carries it. Flat, in the picture plane."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.measures.masses import ENOUGH, FEET, mass_weights, support
from bralto.core.measures.posture import NO_FEET, STANDS, posture
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE, Grade

__all__ = ["Balance", "likely_bearing", "read_balance"]


@dataclass(frozen=True, slots=True)
class Balance:
    """Where the weight falls.

    Attributes:
        centre: (2,) array, the centre of mass, heads from the plumb mark, x right, y up.
        offset: signed distance of its plumb from the middle of the base of support, heads; + is
            to the viewer's right. ``u`` is its standard uncertainty.
        inside: whether that plumb falls between the outermost marks of the feet.
        bearing: ``r`` or ``l``, the leg under the higher hip, or ``both`` where that is not clear.
        mass: share of the body's mass whose marks were there.
    """

    centre: Floats
    offset: float
    u: float
    inside: bool
    bearing: str
    mass: float


def read_balance(figure: Figure, grade: Grade) -> Balance | NotMeasurable:
    """The centre of mass over the feet (measurement, section 8)."""
    if posture(figure.view, figure.marks) != STANDS:
        return NotMeasurable(NO_FEET)
    row = {key: i for i, key in enumerate(figure.marks.keys)}
    weights, mass = mass_weights(figure.view, figure.marks.keys)
    if mass < ENOUGH:
        return NotMeasurable(
            f"balance wants the marks of {100 * ENOUGH:.0f} % of the body's mass; "
            f"there are {100 * mass:.0f} %"
        )
    feet = [row[key] for key in FEET if key in row]
    if len(feet) < 2:
        return NotMeasurable("balance wants marks on both feet")
    xy, sd = figure.heads, figure.sd
    left, right = support(xy, feet)
    base = np.zeros(len(row))
    base[left] += 0.5
    base[right] += 0.5
    centre = weights @ xy
    offset = weights - base
    plumb = figure.view.plumb
    origin = xy[row[plumb]] if plumb in row else np.zeros(2)
    return Balance(
        centre=centre - origin,
        offset=float(offset @ xy[:, 0]),
        u=float(np.sqrt(np.square(offset * sd).sum())),
        inside=bool(xy[left, 0] <= centre[0] <= xy[right, 0]),
        bearing=_bearing(figure, row, grade),
        mass=mass,
    )


_UNDER = 0.5
"""A foot so much nearer to the plumb than the other, as a part of that one's distance, most likely
bears the weight (common practice, no source)."""


def likely_bearing(figure: Figure, grade: Grade) -> str:
    """The leg that most likely bears the weight, ``r``, ``l`` or ``both``: where the hips do not
    tell, the foot that stands under the view's plumb mark."""
    row = {key: i for i, key in enumerate(figure.marks.keys)}
    told, plumb = _bearing(figure, row, grade), figure.view.plumb
    if told != "both" or not {plumb, "heel_r", "heel_l"} <= set(row):
        return told
    r, l = (  # noqa: E741 - the model's left
        abs(float(figure.heads[row[heel], 0] - figure.heads[row[plumb], 0]))
        for heel in ("heel_r", "heel_l")
    )
    if min(r, l) > _UNDER * max(r, l):
        return "both"
    return "r" if r < l else "l"


def _bearing(figure: Figure, row: Mapping[str, int], grade: Grade) -> str:
    """The hip is higher on the side of the leg that bears the weight."""
    if not {"hip_point_r", "hip_point_l"} <= set(row):
        return "both"
    r, l = row["hip_point_r"], row["hip_point_l"]  # noqa: E741 - the model's left
    rise = float(figure.heads[r, 1] - figure.heads[l, 1])
    doubt = COVERAGE * float(np.hypot(figure.sd[r], figure.sd[l]))
    if abs(rise) <= max(doubt, grade.head):
        return "both"
    return "r" if rise > 0.0 else "l"
