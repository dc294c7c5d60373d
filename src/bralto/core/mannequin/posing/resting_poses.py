"""Poses by chance of a figure that sits, kneels, crouches or lies, the same for the same chance.

They are made from the named poses: legs of one, arms of another, all of it loosened. What a life
class calls a long pose is mostly one of these (common practice, no source).
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bralto.core.mannequin.body.builds import Build
from bralto.core.mannequin.body.joints import turns
from bralto.core.mannequin.body.kinematics import posed
from bralto.core.mannequin.body.pose import STAND, Pose, mirrored
from bralto.core.mannequin.posing.poses import pose_named
from bralto.core.mannequin.posing.standing import Planted, lowest, planted

__all__ = ["lying_by_chance", "seated_by_chance"]

_ARMS = (
    "at-rest", "hand-on-hip", "sitting", "sitting-forward", "sitting-ground", "kneeling",
    "one-knee", "crouching", "carrying", "lying-back",
)  # fmt: skip
"""Named poses whose arms a figure that sits may have."""

_LYING_ARMS = ("at-rest", "lying-back", "hand-on-hip", "reaching-up", "sitting")
_LOW = ("sitting-ground", "kneeling", "one-knee", "crouching")
"""Named poses of a figure that sits lower than on a box."""

_ON_A_BOX = 0.6
"""How often it sits on something."""

_LOOSE = 8.0
"""SD by which a joint with a range of 90 degrees and more is turned further, degrees (chosen here,
no source); legs that bear or rest on something by `_LEGS` of it."""

_LEGS = 0.4
_OF_ARMS = ("clavicle", "shoulder", "elbow", "wrist", "fingers")
_OF_LEGS = ("hip", "knee", "ankle", "toes")


def seated_by_chance(build: Build, rng: np.random.Generator) -> Pose:
    """Sitting on something, on the ground, kneeling or crouching; it faces about the front."""
    if rng.random() < _ON_A_BOX:
        pose = _on_a_box(build, rng)
    else:
        pose = pose_named(_LOW[int(rng.integers(len(_LOW)))]).fitted(build)
    return _either_way(_loosened(_with_arms(pose, _ARMS, rng), rng), rng)


def lying_by_chance(build: Build, rng: np.random.Generator) -> Pose:
    """On the back, on the side or on the front, along a line across the front; the head may be at
    either end."""
    for _ in range(_TRIES):
        pose = _lying(build, rng)
        figure = posed(build, pose)
        if lowest(figure, figure.places) > lowest(figure, _TRUNK) - _THROUGH:
            break
    return pose


_TRIES, _THROUGH = 20, 0.5
"""How often a pose is thrown at most until no limb reaches through the ground, by more heads than
what is under the body gives."""

_TRUNK = ("pelvis", "waist", "chest", "thigh_r", "thigh_l")


def _lying(build: Build, rng: np.random.Generator) -> Pose:
    lie = float(rng.random())
    if lie < _ON_ITS_SIDE:
        pose = pose_named("lying-side").fitted(build)
    else:
        pose = pose_named("lying-back").fitted(build)
        tip = 90.0 if lie > 1.0 - _ON_ITS_FRONT else pose["pelvis.tip"]
        values = {"pelvis.tip": tip}
        for side in "rl":
            drawn_up = float(rng.random()) < _DRAWN_UP and tip < 0.0
            values |= {
                f"hip_{side}.forward": float(rng.uniform(35.0, 75.0) if drawn_up else 4.0),
                f"knee_{side}.bend": float(rng.uniform(70.0, 115.0) if drawn_up else 8.0),
                f"hip_{side}.out": float(rng.uniform(0.0, 25.0)),
            }
        pose = _with_arms(pose.with_turns(values), _LYING_ARMS, rng)
    return _either_way(_loosened(pose, rng), rng)


_ON_ITS_SIDE, _ON_ITS_FRONT, _DRAWN_UP = 0.4, 0.15, 0.45
"""How often it lies on its side, on its front, and of one leg how often the knee is drawn up."""


def _on_a_box(build: Build, rng: np.random.Generator) -> Pose:
    """Sitting as high as a stool or as low as a crate, the feet before it, apart or together."""
    pose = Pose(
        {
            "pelvis.tip": float(rng.uniform(-12.0, 22.0)),
            "waist.bend": float(rng.uniform(0.0, 24.0)),
            "chest.bend": float(rng.uniform(0.0, 20.0)),
            "waist.twist": float(rng.normal(0.0, 5.0)),
            "chest.twist": float(rng.normal(0.0, 10.0)),
            "head.twist": float(rng.normal(0.0, 14.0)),
            "head.nod": float(rng.normal(2.0, 8.0)),
        },
        "By chance", "box",
    )  # fmt: skip
    k = build.leg * build.heads / _LEG_HEADS
    feet = {
        side: Planted(
            k * float(rng.uniform(0.1, 0.8)), k * float(rng.uniform(1.1, 2.2)),
            float(rng.uniform(0.0, 24.0)), 0.0,
        )
        for side in "rl"
    }  # fmt: skip
    return planted(build, pose, feet, float(rng.uniform(0.42, 0.72)))


_LEG_HEADS = 4.0
"""Heads from the ground to the joints of the hips, for which the places of the feet are written."""


def _with_arms(pose: Pose, of: tuple[str, ...], rng: np.random.Generator) -> Pose:
    """The pose with each arm of some named pose, a right one on the left as often as not."""
    values = {key: v for key, v in pose.turns.items() if not _is_of(key, _OF_ARMS)}
    for side in "rl":
        taken = pose_named(of[int(rng.integers(len(of)))]).pose
        from_side = "rl"[int(rng.integers(2))]
        for key, value in taken.turns.items():
            joint, name = key.split(".")
            if _is_of(key, _OF_ARMS) and joint.endswith(f"_{from_side}"):
                values[f"{joint[:-1]}{side}.{name}"] = value
    return replace(pose, turns=values)


def _loosened(pose: Pose, rng: np.random.Generator) -> Pose:
    """All joints turned a little further or less."""
    values = {}
    for key, turn in turns().items():
        share = min(1.0, (turn.high - turn.low) / 90.0)
        legs = _LEGS if _is_of(key, (*_OF_LEGS, "pelvis")) else 1.0
        by = _LOOSE * share * legs * float(rng.normal())
        if key != STAND:
            values[key] = pose[key] + by
    return pose.with_turns(values)


def _either_way(pose: Pose, rng: np.random.Generator) -> Pose:
    return mirrored(pose) if rng.random() < 0.5 else pose


def _is_of(key: str, joints: tuple[str, ...]) -> bool:
    return key.split(".")[0].removesuffix("_r").removesuffix("_l") in joints
