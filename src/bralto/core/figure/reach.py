"""Simple inverse kinematics: turn a limb's joints so that its end comes to a place."""

from __future__ import annotations

import numpy as np
from scipy.optimize import least_squares

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.figure.builds import Build
from bralto.core.figure.joints import SIDES, turns
from bralto.core.figure.kinematics import Posed, posed
from bralto.core.figure.pose import Pose

__all__ = ["LIMBS", "reached"]

LIMBS: dict[str, tuple[str, tuple[str, ...]]] = {
    **{
        f"hand_{s}": (
            f"wrist_{s}",
            (f"shoulder_{s}.forward", f"shoulder_{s}.out", f"shoulder_{s}.twist", f"elbow_{s}.bend"),
        )
        for s in SIDES
    },
    **{
        f"foot_{s}": (
            f"ankle_{s}",
            (f"hip_{s}.forward", f"hip_{s}.out", f"hip_{s}.twist", f"knee_{s}.bend"),
        )
        for s in SIDES
    },
    "head": ("head", ("waist.bend", "waist.lean", "chest.bend", "chest.lean")),
}
"""What can be pulled: the joint at its end, and the turns that follow."""

_STAY = 0.02
"""Heads that a turn of 1 radian is worth: of many ways to reach a place, the least movement."""


def reached(build: Build, pose: Pose, limb: str, place: Floats, figure: Posed | None = None) -> Pose:
    """The pose with one limb's end as near to a place as its joints allow.

    Args:
        limb: one of `LIMBS`.
        place: (3,) world, heads, in the frame of ``figure``.
        figure: where the figure stands now; without it the pelvis is at its standing height.

    Raises:
        UserError: there is no such limb, or the place is no place.
    """
    if limb not in LIMBS:
        raise UserError(f"'{limb}' cannot be pulled; these can: {', '.join(LIMBS)}")
    if not np.isfinite(place).all():
        raise UserError(f"{limb}: a place has three figures in heads")
    end, keys = LIMBS[limb]
    off = np.zeros(3)
    if figure is not None:
        off = figure.places["pelvis"] - posed(build, Pose()).places["pelvis"]
    low = np.radians([turns()[k].low for k in keys])
    high = np.radians([turns()[k].high for k in keys])
    start = np.clip(np.radians([pose[k] for k in keys]), low + 1e-6, high - 1e-6)

    def tried(values: Floats) -> Pose:
        return pose.with_turns(dict(zip(keys, np.degrees(values).tolist(), strict=True)))

    def miss(values: Floats) -> Floats:
        at = posed(build, tried(values)).joint(end) + off
        return np.concatenate([at - place, _STAY * (values - start)])

    found = least_squares(miss, start, bounds=(low, high), xtol=1e-5, ftol=1e-5, max_nfev=40)
    return tried(found.x)
