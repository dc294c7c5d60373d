"""Balance: where the body's weight falls, and which leg carries it. Flat, in the picture plane.

The segments lie as the marks do, so a limb that comes forward counts where it is seen: a first
look, no statics.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.points import Figure
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE, Grade

__all__ = ["SEGMENTS", "Balance", "Segment", "read_balance"]


@dataclass(frozen=True, slots=True)
class Segment:
    """A segment of the body.

    Attributes:
        mass: share of the whole, the mean of women and men (de Leva 1996, table 4).
        centre: its centre of mass from the proximal to the distal end, 0 to 1 (same table).
        proximal, distal: weights over marks, or joints of limbs, of its ends.
    """

    name: str
    mass: float
    centre: float
    proximal: Mapping[str, float]
    distal: Mapping[str, float]


def _sided(name: str, mass: float, centre: float, a: str, b: str) -> tuple[Segment, ...]:
    return tuple(
        Segment(f"{name}_{s}", mass, centre, {f"{a}_{s}": 1.0}, {f"{b}_{s}": 1.0}) for s in "rl"
    )


# A joint named after a limb lies where the view's limb tree has it.
_LEGS = ("leg_r", "leg_l")

SEGMENTS: tuple[Segment, ...] = (
    # The head's centre is given from the vertex to between the angles of the jaw, which lie about
    # 0.85 of the way to the chin; the hand's to the knuckle, about halfway to the fingertip
    # (both: common practice, no source).
    Segment("head", 0.0681, 0.5935 * 0.85, {"crown": 1.0}, {"chin": 1.0}),
    Segment("trunk", 0.43015, 0.43185, {"pit_of_neck": 1.0}, dict.fromkeys(_LEGS, 0.5)),
    *_sided("upper_arm", 0.0263, 0.5763, "shoulder", "elbow"),
    *_sided("forearm", 0.0150, 0.45665, "elbow", "wrist"),
    *_sided("hand", 0.00585, 0.7687 * 0.5, "wrist", "fingertip"),
    *(
        Segment(f"thigh_{s}", 0.1447, 0.38535, {leg: 1.0}, {f"knee_{s}": 1.0})
        for s, leg in zip("rl", _LEGS, strict=True)
    ),
    *_sided("shank", 0.0457, 0.44375, "knee", "ankle"),
    *_sided("foot", 0.0133, 0.42145, "heel", "toe"),
)
"""Masses and centres of mass after de Leva 1996, J. Biomechanics 29, 1223 (from memory)."""

_ENOUGH = 0.9
"""Share of the body's mass whose marks must be there; the rest is left out of the mean."""


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
    row = {key: i for i, key in enumerate(figure.marks.keys)}
    weights, mass = np.zeros(len(row)), 0.0
    for segment in SEGMENTS:
        near, far = (_end(figure, row, ends) for ends in (segment.proximal, segment.distal))
        if near is not None and far is not None:
            mass += segment.mass
            weights += segment.mass * ((1.0 - segment.centre) * near + segment.centre * far)
    if mass < _ENOUGH:
        return NotMeasurable(
            f"balance wants the marks of {100 * _ENOUGH:.0f} % of the body's mass; "
            f"there are {100 * mass:.0f} %"
        )
    weights /= mass
    feet = [row[key] for key in ("heel_r", "heel_l", "toe_r", "toe_l") if key in row]
    if len(feet) < 2:
        return NotMeasurable("balance wants marks on both feet")
    xy, sd = figure.heads, figure.sd
    left, right = min(feet, key=lambda i: xy[i, 0]), max(feet, key=lambda i: xy[i, 0])
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


def _end(figure: Figure, row: Mapping[str, int], ends: Mapping[str, float]) -> Floats | None:
    """(n,) weights over marks of a segment's end, or None where a mark is missing."""
    joints = {
        limb.key: dict(zip(limb.root, limb.weights, strict=True)) for limb in figure.view.limbs
    }
    weights = np.zeros(len(row))
    for name, share in ends.items():
        # In the figure from the front no mark has the key of a limb.
        for key, part in joints.get(name, {name: 1.0}).items():
            if key not in row:
                return None
            weights[row[key]] += share * part
    return weights


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
