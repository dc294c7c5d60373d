"""A flat jointed puppet seen from the front: pose in, landmarks in heads out.

For simulations that want many figures fast: the pose lies in the picture plane, and nothing is
drawn (`stand.model` has the figure in space). Unit is the head, x to the viewer's right (the
model's left), y up, the lower heel at 0. Proportions are invented (docs/sources.md).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from bralto.core.arrays import Floats

__all__ = ["PARTS_BELOW", "POSES", "Pose", "landmarks", "scale_part"]

Body = dict[str, Floats]


@dataclass(frozen=True, slots=True)
class Pose:
    """Angles in degrees, counter-clockwise in the picture positive.

    Attributes:
        hips, shoulders, head: tilts of pelvis, shoulder girdle and head.
        lean: of the spine from plumb.
        arms, legs: per side ``r`` and ``l``, outward angles from hanging straight down of
            upper arm, forearm and hand; of thigh and shank.
    """

    hips: float = 0.0
    shoulders: float = 0.0
    head: float = 0.0
    lean: float = 0.0
    arms: Mapping[str, tuple[float, float, float]] = field(
        default_factory=lambda: {"r": (12.0, 6.0, 0.0), "l": (12.0, 6.0, 0.0)}
    )
    legs: Mapping[str, tuple[float, float]] = field(
        default_factory=lambda: {"r": (5.0, 2.0), "l": (5.0, 2.0)}
    )


POSES: dict[str, Pose] = {
    "Lamp trimmer": Pose(
        hips=-7, shoulders=6, head=5, lean=-1.5,
        arms={"r": (16, 8, 4), "l": (40, -36, -26)}, legs={"r": (1, -1), "l": (13, 8)},
    ),
    "Rope coiler": Pose(
        hips=5, shoulders=-6, head=-4, lean=2,
        arms={"r": (34, -14, -20), "l": (22, 12, 6)}, legs={"r": (11, 7), "l": (2, 0)},
    ),
    "Waiting for the tide": Pose(
        hips=-9, shoulders=8, head=-6, lean=-2.5,
        arms={"r": (10, 4, 0), "l": (30, 16, 8)}, legs={"r": (0, -2), "l": (16, 6)},
    ),
    "Net mender": Pose(
        hips=3, shoulders=5, head=8, lean=0.5,
        arms={"r": (28, -28, -30), "l": (30, -22, -26)}, legs={"r": (7, 4), "l": (7, 4)},
    ),
    "Oar bearer": Pose(
        hips=-4, shoulders=-9, head=-5, lean=3,
        arms={"r": (18, 8, 2), "l": (58, 30, 10)}, legs={"r": (4, 2), "l": (10, 6)},
    ),
    "Bell ringer": Pose(
        hips=8, shoulders=-7, head=6, lean=1.5,
        arms={"r": (46, 20, 12), "l": (12, 6, 2)}, legs={"r": (15, 8), "l": (1, -1)},
    ),
}  # fmt: skip
"""Poses for simulations and tests, invented."""


def _turn(degrees: float, x: float, y: float) -> Floats:
    c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    return np.array([c * x - s * y, s * x + c * y])


def _hang(side: int, degrees: float, length: float) -> Floats:
    return length * np.array([side * np.sin(np.radians(degrees)), -np.cos(np.radians(degrees))])


def landmarks(pose: Pose) -> Body:
    """All marks of the view `figure-front`, and the joints `hip_*` that only drawing needs."""
    pelvis, waist = np.zeros(2), _turn(pose.lean, 0.0, 0.85)
    neck = waist + _turn(pose.lean + 0.6 * pose.shoulders, 0.0, 1.36)
    body: Body = {
        "crotch": pelvis + _turn(pose.hips, 0.0, -0.22),
        "navel": pelvis + _turn(0.5 * (pose.hips + pose.lean), 0.0, 0.62),
        "pit_of_neck": neck,
        "sternum_end": neck + _turn(pose.lean + 0.6 * pose.shoulders, 0.0, -0.78),
        "ribcage_base": neck + _turn(pose.lean + 0.6 * pose.shoulders, 0.0, -1.25),
        "chin": neck + _turn(pose.head, 0.0, 0.42),
    }
    body["crown"] = body["chin"] + _turn(pose.head, 0.0, 1.0)
    for name, side in (("r", -1), ("l", 1)):
        body[f"shoulder_{name}"] = neck + _turn(pose.shoulders, side * 0.95, -0.14)
        body[f"nipple_{name}"] = neck + _turn(pose.shoulders, side * 0.47, -0.66)
        upper, fore, hand = pose.arms[name]
        bulge = _hang(side, upper, 0.37) + 0.15 * side * np.array(
            [np.cos(np.radians(upper)), side * np.sin(np.radians(upper))]
        )
        body[f"deltoid_{name}"] = body[f"shoulder_{name}"] + bulge
        body[f"elbow_{name}"] = body[f"shoulder_{name}"] + _hang(side, upper, 1.35)
        body[f"wrist_{name}"] = body[f"elbow_{name}"] + _hang(side, fore, 1.10)
        body[f"fingertip_{name}"] = body[f"wrist_{name}"] + _hang(side, hand, 0.77)
        body[f"hip_point_{name}"] = pelvis + _turn(pose.hips, side * 0.46, 0.30)
        body[f"trochanter_{name}"] = pelvis + _turn(pose.hips, side * 0.70, -0.10)
        body[f"hip_{name}"] = pelvis + _turn(pose.hips, side * 0.37, -0.02)
        thigh, shank = pose.legs[name]
        body[f"knee_{name}"] = body[f"hip_{name}"] + _hang(side, thigh, 1.80)
        body[f"ankle_{name}"] = body[f"knee_{name}"] + _hang(side, shank, 1.72)
        body[f"heel_{name}"] = body[f"ankle_{name}"] + np.array([side * 0.02, -0.26])
        body[f"toe_{name}"] = body[f"ankle_{name}"] + np.array([side * 0.20, -0.40])
    floor = min(float(body[f"{foot}_{s}"][1]) for foot in ("heel", "toe") for s in "rl")
    return {key: xy - np.array([0.0, floor]) for key, xy in body.items()}


PARTS_BELOW: dict[str, tuple[str, tuple[str, ...]]] = {
    "head": ("chin", ("crown",)),
    **{
        part.format(s): (root.format(s), tuple(m.format(s) for m in moved))
        for s in "rl"
        for part, root, moved in (
            ("arm_{}", "shoulder_{}", ("deltoid_{}", "elbow_{}", "wrist_{}", "fingertip_{}")),
            ("forearm_{}", "elbow_{}", ("wrist_{}", "fingertip_{}")),
            ("hand_{}", "wrist_{}", ("fingertip_{}",)),
            ("leg_{}", "hip_{}", ("knee_{}", "ankle_{}", "heel_{}", "toe_{}")),
            ("shank_{}", "knee_{}", ("ankle_{}", "heel_{}", "toe_{}")),
        )
    },
}
"""Each part that can be drawn too big or small: its root joint and the marks that go with it."""


def scale_part(body: Body, part: str, factor: float) -> Body:
    """Scale one part about its root joint, with all that hangs from it."""
    root, moved = PARTS_BELOW[part]
    out = dict(body)
    for key in moved:
        out[key] = body[root] + factor * (body[key] - body[root])
    return out
