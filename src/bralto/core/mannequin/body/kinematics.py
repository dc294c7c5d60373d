"""Where every part of the figure lies: forward kinematics, standing on the ground.

World frame: heads, x to the model's left when it faces the front, y up from the ground, z front.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.mannequin.body.builds import Build
from bralto.core.mannequin.body.face import HEAD_PARTS
from bralto.core.mannequin.body.joints import Joint, joints
from bralto.core.mannequin.body.pose import Pose

__all__ = ["Posed", "about_plumb", "joints_to", "posed", "rotation", "rotation_vector", "turned_by"]


@dataclass(frozen=True, slots=True, eq=False)
class Posed:
    """A figure in a pose.

    Attributes:
        rotations: (3, 3) array by part: from the part's frame to the world.
        places: (3,) array by part: where its joint is, heads.
        scales: (3,) array by part: how much it is stretched in its own frame.
    """

    build: Build
    pose: Pose
    rotations: Mapping[str, Floats]
    places: Mapping[str, Floats]
    scales: Mapping[str, Floats]

    def world(self, part: str, local: Floats) -> Floats:
        """(..., 3) points of a part as it is written down, to the world, heads."""
        if part in HEAD_PARTS:
            local = self.build.face.bent(local)
        placed: Floats = (local * self.scales[part]) @ self.rotations[part].T + self.places[part]
        return placed

    def joint(self, key: str) -> Floats:
        """(3,) place of a joint, heads."""
        return self.places[_PARTS[key]]

    def normals(self, part: str, at: Floats, normals: Floats) -> Floats:
        """(n, 3) unit ways out of a part's surface in the world, of those at its points ``at``."""
        if part in HEAD_PARTS:
            normals = self.build.face.turned(at, normals)
        # A stretched form's normals stretch the other way.
        turned = (normals / self.scales[part]) @ self.rotations[part].T
        unit: Floats = turned / np.sqrt(np.einsum("ij,ij->i", turned, turned))[:, None]
        return unit

    def with_part(self, part: str, on: str) -> Posed:
        """With one more part that lies on another and moves as that does: hair on the head."""
        return replace(
            self,
            rotations={**self.rotations, part: self.rotations[on]},
            places={**self.places, part: self.places[on]},
            scales={**self.scales, part: self.scales[on]},
        )

    def only(self, parts: Iterable[str]) -> Posed:
        """Some of its parts, where they are."""
        kept = tuple(parts)
        return replace(
            self,
            rotations={part: self.rotations[part] for part in kept},
            places={part: self.places[part] for part in kept},
        )

    def moved(self, by: Floats) -> Posed:
        """The same figure elsewhere: shifted by (3,) heads."""
        return replace(self, places={part: at + by for part, at in self.places.items()})


_PARTS = {joint.key: joint.part for joint in joints()}


def posed(build: Build, pose: Pose, part: str | None = None, known: Posed | None = None) -> Posed:
    """Turn every joint; the pelvis stays over the origin at its height when standing.

    Args:
        part: it and what it hangs from alone, where nothing else is asked for.
        known: parts of this build that are placed already; their joints are not turned again.
    """
    scales = build.scales() if known is None else known.scales
    rotations: dict[str, Floats] = {} if known is None else dict(known.rotations)
    places: dict[str, Floats] = {} if known is None else dict(known.places)
    for joint in joints() if part is None else joints_to(part):
        if joint.part in places:
            continue
        own = turned_by(joint, pose)
        if joint.parent is None:
            rotations[joint.part] = own
            places[joint.part] = np.array([0.0, build.leg * build.heads, 0.0])
            continue
        above = _PARTS[joint.parent]
        rotations[joint.part] = rotations[above] @ own
        places[joint.part] = places[above] + rotations[above] @ (joint.at * scales[above])
    return Posed(build, pose, rotations, places, scales)


@lru_cache(maxsize=64)
def joints_to(part: str) -> tuple[Joint, ...]:
    """The joints from the pelvis to a part's own."""
    by_key = {joint.key: joint for joint in joints()}
    chain = [next(joint for joint in joints() if joint.part == part)]
    while chain[0].parent is not None:
        chain.insert(0, by_key[chain[0].parent])
    return tuple(chain)


def turned_by(joint: Joint, pose: Pose) -> Floats:
    """(3, 3) rotation of a joint's part in its parent's frame."""
    if joint.parent is None:
        # The stand turns, then the body tips, then it lists: one after the other.
        turned = np.eye(3)
        for turn in joint.turns:
            turned = turned @ rotation(np.radians(pose[turn.key]) * turn.axis)
        return turned
    swing, twist = np.zeros(3), np.zeros(3)
    for turn in joint.turns:
        if turn.twist:
            twist = np.radians(pose[turn.key]) * turn.axis
        else:
            swing = swing + np.radians(pose[turn.key]) * turn.axis
    return rotation(swing) @ rotation(twist)


def rotation(vector: Floats) -> Floats:
    """(3, 3) rotation about (3,) `vector` by its length in radians (Rodrigues)."""
    angle = float(np.sqrt(vector @ vector))
    if angle < 1e-12:
        return np.eye(3)
    x, y, z = (vector / angle).tolist()
    k = np.array([[0.0, -z, y], [z, 0.0, -x], [-y, x, 0.0]])
    turned: Floats = np.eye(3) + np.sin(angle) * k + (1.0 - np.cos(angle)) * (k @ k)
    return turned


def about_plumb(degrees: float) -> Floats:
    """(3, 3) rotation about the vertical: what faces the front then faces the model's left."""
    return rotation(np.radians(degrees) * np.array([0.0, 1.0, 0.0]))


def rotation_vector(turned: Floats) -> Floats:
    """(3,) vector of a (3, 3) rotation, radians; the inverse of `rotation` below half a turn."""
    skew = 0.5 * np.array(
        [turned[2, 1] - turned[1, 2], turned[0, 2] - turned[2, 0], turned[1, 0] - turned[0, 1]]
    )
    sine = float(np.sqrt(skew @ skew))
    angle = float(np.arctan2(sine, 0.5 * (np.trace(turned) - 1.0)))
    if sine < 1e-9:
        if angle < 1.0:
            return np.zeros(3)
        # Half a turn: the axis is the column of R + I that is longest.
        columns = turned + np.eye(3)
        axis = columns[:, int(np.argmax(np.square(columns).sum(axis=0)))]
        return angle * axis / float(np.sqrt(axis @ axis))
    return angle * skew / sine
