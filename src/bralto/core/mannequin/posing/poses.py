"""The named poses, fitted to a figure of any proportions; a pose by chance, more or less hard."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np

from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import Build
from bralto.core.mannequin.body.joints import data_file, joints, turns
from bralto.core.mannequin.body.kinematics import about_plumb, posed
from bralto.core.mannequin.body.pose import STAND, Pose, mirrored
from bralto.core.mannequin.posing.standing import Planted, lowest, planted, stood

__all__ = ["HARDEST", "NamedPose", "named_poses", "pose_by_chance", "pose_named"]

HARDEST = 5


@dataclass(frozen=True, slots=True, eq=False)
class NamedPose:
    """A pose that ships, before it is fitted to a build.

    Attributes:
        hard: 1 to `HARDEST`. ``balanced``: whether it stands on its feet or knees.
        settle: in turn, `turns` that are turned alike until both `parts` touch the ground.
    """

    key: str
    title: str
    hard: int
    balanced: bool
    pose: Pose
    feet: dict[str, Planted]
    height: float | None
    settle: tuple[Mapping[str, tuple[str, ...]], ...] = ()

    def fitted(self, build: Build) -> Pose:
        """The pose with its feet planted by legs of that build."""
        pose = self.pose
        for one in self.settle:
            pose = _settled(build, pose, one["turns"], one["parts"])
        if not self.feet:
            return pose
        # The feet are written down for the legs of joints.toml: others step in proportion.
        k = build.leg * build.heads / float(joints()[0].at[1])
        feet = {
            side: replace(foot, out=k * foot.out, front=k * foot.front)
            for side, foot in self.feet.items()
        }
        if self.balanced:
            return over_its_feet(build, pose, feet, self.height)
        return planted(build, pose, feet, self.height)


def over_its_feet(build: Build, pose: Pose, feet: dict[str, Planted], height: float | None) -> Pose:
    """The pose with its feet planted and moved together until the plumb of its mass is on them."""
    from bralto.core.mannequin.body.mass import weigh  # loads Shapely

    turned = about_plumb(pose[STAND])
    for _ in range(_STEPS):
        stands = planted(build, pose, feet, height)
        weight = weigh(stood(build, stands))
        if weight.margin > _SAFE or not len(weight.support):
            break
        off = weight.centre[[0, 2]] - weight.support.mean(axis=0)
        aside, _, ahead = turned.T @ np.array([off[0], 0.0, off[1]])
        feet = {
            s: replace(
                foot,
                out=foot.out + 0.8 * float(aside) * (1.0 if s == "l" else -1.0),
                front=foot.front + 0.8 * float(ahead),
            )
            for s, foot in feet.items()
        }
    return stands


def _settled(build: Build, pose: Pose, keys: tuple[str, ...], parts: tuple[str, ...]) -> Pose:
    """Turn some joints until two parts are equally low, by halving; else the pose as it is."""

    def turned(by: float) -> Pose:
        return pose.with_turns({key: pose[key] + by for key in keys})

    def uneven(by: float) -> float:
        figure = posed(build, turned(by))
        return lowest(figure, parts[:1]) - lowest(figure, parts[1:])

    low, high = -20.0, 20.0
    at_low = uneven(low)
    if at_low * uneven(high) > 0.0:
        return pose
    for _ in range(16):
        middle = 0.5 * (low + high)
        if (uneven(middle) > 0.0) == (at_low > 0.0):
            low = middle
        else:
            high = middle
    return turned(0.5 * (low + high))


_STEPS, _SAFE = 6, 0.06
"""How often the feet are moved at most; heads that the plumb should fall within their outline."""


@lru_cache(maxsize=1)
def named_poses() -> dict[str, NamedPose]:
    """All named poses by key, in the order of the shelf."""
    found: dict[str, NamedPose] = {}
    for entry in data_file("poses.toml")["pose"]:
        found[entry["key"]] = _read(entry, found)
    return found


def pose_named(key: str) -> NamedPose:
    """The pose of that key.

    Raises:
        UserError: there is none.
    """
    try:
        return named_poses()[key]
    except KeyError:
        raise UserError(f"there is no pose '{key}'; `bralto pose --list` shows them") from None


def _read(entry: dict[str, Any], known: dict[str, NamedPose]) -> NamedPose:
    title, hard, weight = entry["title"], entry["hard"], entry.get("weight", False)
    if "mirror" in entry:
        other = known[entry["mirror"]]
        feet = {"r" if s == "l" else "l": foot for s, foot in other.feet.items()}
        pose = replace(mirrored(other.pose), title=title)
        return NamedPose(entry["key"], title, hard, weight, pose, feet, other.height)
    base = known[entry["of"]] if "of" in entry else None
    values = {} if base is None else dict(base.pose.turns)
    pose = Pose({**values, **entry["turns"]}, title, entry.get("prop", "")).checked()
    aside, ahead = entry.get("shift", (0.0, 0.0))
    planted_feet = {} if base is None else dict(base.feet)
    for side, (out, front, toes_out, heel) in entry.get("feet", {}).items():
        way = 1.0 if side == "l" else -1.0
        planted_feet[side] = Planted(out + way * aside, front - ahead, toes_out, heel)
    height = entry.get("height", None if base is None else base.height)
    settle = tuple({k: tuple(v) for k, v in one.items()} for one in entry.get("settle", ()))
    return NamedPose(entry["key"], title, hard, weight, pose, planted_feet, height, settle)


def pose_by_chance(build: Build, hard: int, seed: int) -> Pose:
    """A balanced standing pose of a difficulty, the same for the same seed.

    1 faces you with its limbs at its sides; with every step it turns, bends and reaches further.

    Raises:
        UserError: there is no such difficulty.
    """
    from bralto.core.mannequin.body.mass import weigh  # loads Shapely

    if hard not in range(1, HARDEST + 1):
        raise UserError(f"difficulty {hard} is none; it goes from 1 to {HARDEST}")
    rng = np.random.default_rng([seed, hard])
    reach = (hard - 0.4) / (HARDEST - 0.4)
    best: tuple[float, Pose] | None = None
    for _ in range(40):
        pose = _thrown(build, reach, rng)
        margin = weigh(stood(build, pose)).margin
        if margin > 0.02:
            return pose
        if best is None or margin > best[0]:
            best = (margin, pose)
    assert best is not None
    return best[1]


_LOOSE: dict[str, float] = {
    "waist.bend": 0.5, "waist.lean": 0.7, "waist.twist": 0.7, "chest.bend": 0.5,
    "chest.lean": 0.6, "chest.twist": 0.7, "neck.bend": 0.6, "neck.lean": 0.5, "head.nod": 0.6,
    "head.lean": 0.5, "head.twist": 0.9, "clavicle.raise": 0.5, "shoulder.forward": 0.60,
    "shoulder.out": 0.50, "shoulder.twist": 0.5, "elbow.bend": 0.8, "elbow.turn": 0.7,
    "wrist.bend": 0.5, "fingers.curl": 0.7,
}  # fmt: skip
"""Share of each joint's range that the hardest pose may use."""


def _thrown(build: Build, reach: float, rng: np.random.Generator) -> Pose:
    values: dict[str, float] = {}
    for key, turn in turns().items():
        joint, name = key.split(".")
        loose = _LOOSE.get(f"{joint.removesuffix('_r').removesuffix('_l')}.{name}")
        if loose is not None:
            share = loose * reach * float(rng.beta(1.6, 1.6))
            values[key] = share * (turn.high if rng.random() < 0.7 else turn.low)
    for side in "rl":
        values[f"shoulder_{side}.out"] = max(8.0, values[f"shoulder_{side}.out"])
    values[STAND] = float(rng.uniform(-1.0, 1.0)) * (15.0 + 165.0 * reach**1.5)
    values["pelvis.list"] = float(rng.uniform(-1.0, 1.0)) * 9.0 * min(1.0, 0.4 + reach)
    values["pelvis.tip"] = float(rng.uniform(-0.3, 1.0)) * 30.0 * reach
    bearing = "r" if values["pelvis.list"] < 0.0 else "l"
    feet = {}
    for side in "rl":
        wide = float(rng.uniform(0.05, 0.15) if side == bearing else rng.uniform(0.3, 0.7))
        ahead = float(rng.uniform(-0.5, 0.8)) * reach * (0.2 if side == bearing else 1.0)
        feet[side] = Planted(wide, ahead, float(rng.uniform(4.0, 24.0)), 0.0)
    bent = Pose(values, "By chance")
    return over_its_feet(build, bent, feet, 1.0 - 0.35 * reach * float(rng.random()))
