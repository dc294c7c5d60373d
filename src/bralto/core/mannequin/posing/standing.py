"""A figure on the ground: its lowest point at height 0, its feet where they were planted."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.mannequin.body.builds import Build
from bralto.core.mannequin.body.joints import SIDES, Joint, joints
from bralto.core.mannequin.body.kinematics import (
    Posed,
    about_plumb,
    posed,
    rotation,
    rotation_vector,
)
from bralto.core.mannequin.body.pose import STAND, Pose
from bralto.core.mannequin.body.skins import skin

__all__ = ["Planted", "legs_as_before", "lowest", "planted", "seat", "stood"]

_REACH = 0.995
"""Share of a leg's length that it may be stretched to: a knee locked straight jumps."""


def stood(build: Build, pose: Pose) -> Posed:
    """The figure in a pose with its lowest point on the ground, the pelvis over the origin."""
    figure = posed(build, pose)
    return figure.moved(np.array([0.0, -lowest(figure, figure.places), 0.0]))


def lowest(figure: Posed, parts: Iterable[str]) -> float:
    """Least height of some parts, heads."""
    return min(float(figure.world(part, skin(part))[:, 1].min()) for part in parts)


def seat(figure: Posed) -> tuple[Floats, Floats] | None:
    """Low and high corner, (3,) heads each, of the box that the pelvis rests on, or None.

    In the frame that turns with the figure about the vertical.
    """
    if figure.pose.prop != "box":
        return None
    top = lowest(figure, ["pelvis"])
    wide, deep = 0.95, 0.70
    back = np.array([0.0, 0.0, -0.05])
    low, high = back + np.array([-wide, -top, -deep]), back + np.array([wide, 0.0, deep])
    lift = np.array([0.0, top, 0.0])
    return low + lift, high + lift


@dataclass(frozen=True, slots=True)
class Planted:
    """Where a foot stands, heads, in the frame that turns with the figure.

    Attributes:
        out: sideways from the pelvis's middle, + away from the body; ``front`` towards the front.
        toes_out: degrees that the foot turns outward.
        heel: degrees that the heel is lifted, the ball of the foot staying on the ground.
    """

    out: float
    front: float = 0.0
    toes_out: float = 8.0
    heel: float = 0.0


def planted(
    build: Build, pose: Pose, feet: Mapping[str, Planted], height: float | None = None
) -> Pose:
    """The pose with its legs bent so that the feet stand where they should.

    Args:
        feet: by side, `r` and `l`; the other leg keeps its own joints.
        height: of the pelvis's joint above the ground, as a share of its height when standing;
            without it as high as the legs reach. It is lowered where they reach less.
    """
    figure = posed(build, pose)
    turned = about_plumb(pose[STAND])
    ankles = {s: _ankle(figure, foot, s) for s, foot in feet.items()}
    stand = float(figure.places["pelvis"][1])
    top = stand * (height if height is not None else 1.0)
    for side, (ankle, _) in ankles.items():
        hip = turned.T @ (figure.joint(f"hip_{side}") - figure.places["pelvis"])
        reach = _REACH * sum(_lengths(figure, side))
        flat = float(np.hypot(ankle[0] - hip[0], ankle[2] - hip[2]))
        most = ankle[1] + np.sqrt(max(reach**2 - flat**2, 0.01)) - hip[1]
        top = min(top, float(most))
    values: dict[str, float] = {}
    for side, (ankle, foot_turned) in ankles.items():
        hip = figure.joint(f"hip_{side}") + np.array([0.0, top - stand, 0.0])
        values |= _leg(figure, side, hip, turned @ ankle, turned @ foot_turned)
        values[f"toes_{side}.raise"] = feet[side].heel
    return pose.with_turns(values)


def legs_as_before(build: Build, pose: Pose, before: Pose) -> Pose:
    """The pose with its thighs pointing as in another one, however its pelvis is turned: the legs
    stay where they are."""
    now, then = (posed(build, one) for one in (pose, before))
    values: dict[str, float] = {}
    for side in SIDES:
        turned = now.rotations["pelvis"].T @ then.rotations[f"thigh_{side}"]
        values |= _swung(_joint(f"hip_{side}"), turned)
    return pose.with_turns(values)


def _lengths(figure: Posed, side: str) -> tuple[float, float]:
    hip, knee, ankle = (figure.joint(f"{key}_{side}") for key in ("hip", "knee", "ankle"))
    return float(np.linalg.norm(knee - hip)), float(np.linalg.norm(ankle - knee))


def _ankle(figure: Posed, foot: Planted, side: str) -> tuple[Floats, Floats]:
    """Place of the ankle and (3, 3) rotation of the foot, in the figure's turned frame."""
    way = 1.0 if side == "l" else -1.0
    flat = about_plumb(way * foot.toes_out)
    turned = flat @ rotation(np.radians(foot.heel) * np.array([1.0, 0.0, 0.0]))
    scale = figure.scales[f"foot_{side}"]
    ball = _joint(f"toes_{side}").at * scale
    sole = -float(skin(f"foot_{side}")[:, 1].min()) * float(scale[1])
    # Flat on the ground the ankle is over its place; a lifted heel turns about the ball.
    ankle = np.array([way * foot.out, sole, foot.front])
    return ankle + flat @ ball - turned @ ball, turned


def _leg(figure: Posed, side: str, hip: Floats, ankle: Floats, foot: Floats) -> dict[str, float]:
    """Turns of hip, knee and ankle that bring a foot to its place; the knee looks over it."""
    upper, lower = _lengths(figure, side)
    way = ankle - hip
    span = float(np.linalg.norm(way))
    span = min(max(span, abs(upper - lower) + 1e-3), _REACH * (upper + lower))
    way = way / float(np.linalg.norm(way))
    cos_knee = (upper**2 + lower**2 - span**2) / (2.0 * upper * lower)
    bend = np.pi - float(np.arccos(np.clip(cos_knee, -1.0, 1.0)))
    at_hip = float(np.arccos(np.clip((upper**2 + span**2 - lower**2) / (2 * upper * span), -1, 1)))
    front = foot @ np.array([0.0, 0.0, 1.0])
    ahead = front - way * float(front @ way)
    if float(ahead @ ahead) < 1e-6:  # the foot points along the leg: bend towards its sole's back
        ahead = foot @ np.array([0.0, 1.0, 0.0])
        ahead = ahead - way * float(ahead @ way)
    ahead = ahead / float(np.linalg.norm(ahead))
    down = np.cos(at_hip) * way + np.sin(at_hip) * ahead
    hinge = np.cross(-down, ahead - down * float(ahead @ down))
    hinge = hinge / float(np.linalg.norm(hinge))
    thigh = np.column_stack([hinge, -down, np.cross(hinge, -down)])
    pelvis = figure.rotations["pelvis"]
    shank = thigh @ rotation(np.array([bend, 0.0, 0.0]))
    return {
        **_swung(_joint(f"hip_{side}"), pelvis.T @ thigh),
        f"knee_{side}.bend": float(np.degrees(bend)),
        **_turned(_joint(f"ankle_{side}"), shank.T @ foot),
    }


def _joint(key: str) -> Joint:
    return next(joint for joint in joints() if joint.key == key)


def _swung(joint: Joint, turned: Floats) -> dict[str, float]:
    """Swing and twist of a limb's joint from its (3, 3) rotation."""
    down = turned @ np.array([0.0, -1.0, 0.0])
    rest = np.array([0.0, -1.0, 0.0])
    axis = np.cross(rest, down)
    sine = float(np.linalg.norm(axis))
    angle = float(np.arctan2(sine, rest @ down))
    swing = axis / sine * angle if sine > 1e-9 else np.zeros(3)
    twist = rotation_vector(rotation(swing).T @ turned)
    return {
        turn.key: float(np.degrees((twist if turn.twist else swing) @ turn.axis))
        for turn in joint.turns
    }


def _turned(joint: Joint, turned: Floats) -> dict[str, float]:
    """Turns of a joint whose axes act as one rotation vector."""
    vector = rotation_vector(turned)
    return {turn.key: float(np.degrees(vector @ turn.axis)) for turn in joint.turns}
