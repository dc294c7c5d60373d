"""Where the body's weight falls, as weights over marks: segment masses along the limbs.

Flat, in the picture plane: the segments lie as the marks do, so a limb that comes forward counts
where it is seen. A first look, no statics.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.views.model import View

__all__ = ["ENOUGH", "FEET", "SEGMENTS", "Segment", "mass_weights", "support"]

FEET = ("heel_r", "heel_l", "toe_r", "toe_l")
"""Marks that bound the base of support."""


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

ENOUGH = 0.9
"""Share of the body's mass whose marks must be there; the rest is left out of the mean."""


@lru_cache(maxsize=64)
def mass_weights(view: View, keys: tuple[str, ...]) -> tuple[Floats, float]:
    """Weights over n marks whose sum with their places is the centre of mass.

    Args:
        keys: the n marks, "" for one that must not be weighed; a segment that lacks one is left
            out of the mean.

    Returns:
        (n,) array that sums to 1 (0 where no segment is there), and the share of the body's mass
        whose marks were there.
    """
    joints = {limb.key: dict(zip(limb.root, limb.weights, strict=True)) for limb in view.limbs}
    weights, mass = np.zeros(len(keys)), 0.0
    for segment in SEGMENTS:
        near, far = (_end(joints, keys, ends) for ends in (segment.proximal, segment.distal))
        if near is not None and far is not None:
            mass += segment.mass
            weights += segment.mass * ((1.0 - segment.centre) * near + segment.centre * far)
    return weights / mass if mass else weights, mass


def _end(
    joints: Mapping[str, Mapping[str, float]], keys: tuple[str, ...], ends: Mapping[str, float]
) -> Floats | None:
    """(n,) weights over marks of a segment's end, or None where a mark is missing."""
    weights = np.zeros(len(keys))
    for name, share in ends.items():
        # No mark has the key of a limb.
        for key, part in joints.get(name, {name: 1.0}).items():
            if key not in keys:
                return None
            weights[keys.index(key)] += share * part
    return weights


def support(xy: Floats, feet: Sequence[int]) -> tuple[int, int]:
    """Rows of the outermost marks of the feet, to the viewer's left and right."""
    across = xy[:, 0]
    return min(feet, key=lambda i: float(across[i])), max(feet, key=lambda i: float(across[i]))
