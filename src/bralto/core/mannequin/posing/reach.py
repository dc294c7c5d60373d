"""Simple inverse kinematics: turn a limb's joints so that its end comes to a place."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import Build
from bralto.core.mannequin.body.joints import turns
from bralto.core.mannequin.body.kinematics import Posed, joints_to, posed
from bralto.core.mannequin.body.pose import Pose

__all__ = ["GRIPS", "OF_HEAD", "Grip", "get_ready", "reached"]


@dataclass(frozen=True, slots=True, eq=False)
class Grip:
    """What can be pulled.

    Attributes:
        part: it lies in, ``at`` (3,) where, in the part's frame, heads.
        turns: the joints that follow.
        label: in words.
    """

    part: str
    at: Floats
    turns: tuple[str, ...]
    label: str


def _grips() -> dict[str, Grip]:
    none = np.zeros(3)
    found = {
        "head": Grip(
            "head", np.array([0.0, 0.30, 0.42]),
            ("neck.bend", "neck.twist", "head.nod", "head.twist"), "head",
        ),
        "crown": Grip(
            "head", np.array([0.0, 0.80, -0.05]),
            ("neck.lean", "neck.bend", "head.lean", "head.nod"), "crown",
        ),
        "chest": Grip(
            "chest", np.array([0.0, 1.15, 0.30]),
            ("waist.bend", "waist.lean", "chest.bend", "chest.lean"), "chest",
        ),
    }  # fmt: skip
    for s, name in (("r", "R"), ("l", "L")):
        shoulder = (f"shoulder_{s}.forward", f"shoulder_{s}.out")
        hip = (f"hip_{s}.forward", f"hip_{s}.out")
        found |= {
            f"elbow_{s}": Grip(f"forearm_{s}", none, shoulder, f"{name} elbow"),
            f"hand_{s}": Grip(
                f"hand_{s}", none, (*shoulder, f"shoulder_{s}.twist", f"elbow_{s}.bend"),
                f"{name} hand",
            ),
            f"knee_{s}": Grip(f"shank_{s}", none, hip, f"{name} knee"),
            f"foot_{s}": Grip(
                f"foot_{s}", none, (*hip, f"hip_{s}.twist", f"knee_{s}.bend"), f"{name} foot"
            ),
        }  # fmt: skip
    return found


GRIPS: dict[str, Grip] = _grips()
"""All grips by name."""

OF_HEAD = ("head", "crown")
"""Grips of the head alone; a figure is not pulled by its crown."""

_STAY = 0.02
"""Heads that a turn of 1 radian is worth: of many ways to reach a place, the least movement."""


def reached(
    build: Build, pose: Pose, limb: str, place: Floats, figure: Posed | None = None
) -> Pose:
    """The pose with one limb's end as near to a place as its joints allow.

    Args:
        limb: one of `GRIPS`.
        place: (3,) world, heads, in the frame of ``figure``.
        figure: where the figure stands now; without it the pelvis is at its standing height.

    Raises:
        UserError: there is no such limb, or the place is no place.
    """
    if limb not in GRIPS:
        raise UserError(f"'{limb}' cannot be pulled; these can: {', '.join(GRIPS)}")
    if not np.isfinite(place).all():
        raise UserError(f"{limb}: a place has three figures in heads")
    grip = GRIPS[limb]
    keys = grip.turns
    off = np.zeros(3)
    if figure is not None:
        # Where it stands is told by the first of its parts that is there: of a bust, the neck.
        first = next(j.part for j in joints_to(grip.part) if j.part in figure.places)
        off = figure.places[first] - posed(build, pose, first).places[first]
    low = np.radians([turns()[k].low for k in keys])
    high = np.radians([turns()[k].high for k in keys])
    start = np.clip(np.radians([pose[k] for k in keys]), low + 1e-6, high - 1e-6)

    # What hangs above the joints that follow stays where it is.
    still: list[str] = []
    for joint in joints_to(grip.part):
        if any(turn.key in keys for turn in joint.turns):
            break
        still.append(joint.part)
    base = posed(build, pose, grip.part).only(still)

    def tried(values: Floats) -> Pose:
        return pose.with_turns(dict(zip(keys, np.degrees(values).tolist(), strict=True)))

    def miss(values: Floats) -> Floats:
        at = posed(build, tried(values), grip.part, base).world(grip.part, grip.at) + off
        return np.concatenate([at - place, _STAY * (values - start)])

    from scipy.optimize import least_squares  # see `get_ready`

    found = least_squares(miss, start, bounds=(low, high), xtol=1e-4, ftol=1e-4, max_nfev=12)
    return tried(found.x)


def get_ready() -> None:
    """Load what the first pull needs; long enough to be seen as a halt."""
    import scipy.optimize  # noqa: F401
