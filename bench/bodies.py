"""Bodies to draw with faults: the figure in six views, its marks in heads, and its own skeleton.

What hangs from what is taken from the figure's joints, not from the view's limb tree that the
search for corrections uses: a fault is made on the one and looked for on the other.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.mannequin.body.joints import joints
from bralto.core.mannequin.body.kinematics import Posed
from bralto.core.mannequin.body.landmarks import Landmark3D, landmarks_of
from bralto.core.mannequin.body.sculpt import HAIR
from bralto.core.mannequin.camera import Camera, looking
from bralto.core.mannequin.posing.standing import stood
from bralto.core.mannequin.setting import Setting, set_up
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_named

Places = dict[str, np.ndarray]

SIZE = (900, 1200)
_STANDING = ("at-rest", "weight-right", "weight-left", "hand-on-hip", "walking", "carrying")
_BACKS = ("back-rest", "back-reaching", "at-rest", "weight-left", "weight-right")
_HEADS = ((0.0, 0.0), (6.0, -4.0), (-5.0, 8.0), (3.0, 10.0))
"""Degrees that neck and head lean aside."""
_AROUND = {"figure-front": 0.0, "figure-back": 180.0, "figure-side": 90.0,
           "head-front": 0.0, "head-three-quarter": 40.0, "head-profile": 88.0}  # fmt: skip

VIEWS = tuple(_AROUND)


@dataclass(frozen=True, eq=False)
class Body:
    """One pose in one view.

    Attributes:
        marks: (2,) heads by key, y up; ``joints`` likewise.
        below: by joint, the marks of all parts that hang from it.
        setting: what stands there, to be posed otherwise.
    """

    view: View
    marks: Places
    joints: Places
    below: Mapping[str, frozenset[str]]
    setting: Setting

    @property
    def keys(self) -> tuple[str, ...]:
        """The marks, in order."""
        return tuple(self.marks)


def _hanging() -> dict[str, frozenset[str]]:
    """Of each joint, the parts that hang from it."""
    out: dict[str, set[str]] = {joint.key: {joint.part} for joint in joints()}
    for joint in reversed(joints()):
        if joint.parent is not None:
            out[joint.parent] |= out[joint.key]
    return {
        key: frozenset(parts | {HAIR} if "head" in parts else parts) for key, parts in out.items()
    }


def _stood(view: View, setting: Setting) -> tuple[Posed, tuple[Landmark3D, ...], np.ndarray]:
    """The figure, its marks, and where they are, (n, 3) heads."""
    figure: Posed = stood(setting.build, setting.pose).with_part(HAIR, "head")
    keys = tuple(mark.key for mark in view.landmarks)
    found = tuple(one.on_figure(figure) for one in landmarks_of(view.key, keys, _near(setting)))
    return figure, found, np.array([figure.world(one.part, one.at) for one in found])


def _near(setting: Setting) -> str:
    return "l" if setting.camera.around_deg >= 0.0 else "r"


def posed_otherwise(body: Body, turns: Mapping[str, float]) -> Places:
    """The marks of the same body from the same place, some joints turned on by so many degrees."""
    setting = body.setting
    more = {key: setting.pose[key] + by for key, by in turns.items()}
    pose = replace(setting.pose, turns=dict(setting.pose.turns) | more)
    world = _stood(body.view, setting)[2]
    other = _stood(body.view, replace(setting, pose=pose))[2]
    camera = looking(setting.camera, setting.build.head_m, world, *SIZE)
    px, there = camera.project(world), camera.project(other)
    flip = np.array([1.0, -1.0]) / _head_px(body.view, body.keys, px)
    return dict(zip(body.keys, there * flip, strict=True))


def _head_px(view: View, keys: Sequence[str], px: np.ndarray) -> float:
    crown, chin = (keys.index(key) for key in view.head)
    return float(np.linalg.norm(px[crown] - px[chin])) / view.heads


def seen(view: View, setting: Setting) -> Body:
    """The figure as the camera of that view has it."""
    figure, found, world = _stood(view, setting)
    near = _near(setting)
    keys = tuple(one.key for one in found)
    camera = looking(setting.camera, setting.build.head_m, world, *SIZE)
    px = camera.project(world)
    hinges = [joint.key for joint in joints()]
    at = camera.project(np.array([figure.joint(key) for key in hinges]))
    flip = np.array([1.0, -1.0]) / _head_px(view, keys, px)
    parts = {one.key: one.part for one in found}
    below = {
        key: frozenset(mark for mark in keys if parts[mark] in hanging)
        for key, hanging in _hanging().items()
    }
    marks = dict(zip(keys, px * flip, strict=True))
    places = dict(zip(hinges, at * flip, strict=True))
    # Who draws a forearm long begins it at the elbow's mark, not at the joint inside; a leg, where
    # the front of the pelvis does not show, at the trochanter, which itself is of the hips.
    for key in places:
        places[key] = marks.get(key, marks.get(key.removesuffix(f"_{near}"), places[key]))
    hips = [key for key in marks if key.startswith("trochanter")]
    below = {
        key: hanging - set(hips) if "hip" in key else hanging for key, hanging in below.items()
    }
    if view.size == "figure":  # the knob at the nape is the trunk's
        below["neck"] = below["neck"] - {"nape"}
    if "hip_point_r" not in marks:
        for key in hips:
            sides = (key[-1],) if key[-2:] in {"_r", "_l"} else ("r", "l")
            places |= {f"hip_{side}": marks[key] for side in sides}
    return Body(view, marks, places, below, setting)


def at_eye_level(view: View, setting: Setting, above_m: float = 0.0) -> Setting:
    """The same, seen from as high as the middle of the head, or so much higher, m."""
    _, found, world = _stood(view, setting)
    high = np.mean([at[1] for one, at in zip(found, world, strict=True) if one.part == "head"])
    eye = float(high) * setting.build.head_m + above_m
    return replace(setting, camera=replace(setting.camera, eye_m=eye))


def skull_upright(body: Body) -> Floats:
    """(2,) array, heads, y up: the way up the skull as the camera has it."""
    figure, found, world = _stood(body.view, body.setting)
    camera = looking(body.setting.camera, body.setting.build.head_m, world, *SIZE)
    middle = np.mean([one.at for one in found if one.part == "head"], axis=0)
    ends = [figure.world("head", middle + np.array([0.0, up, 0.0])) for up in (-_SKULL, _SKULL)]
    low, high = camera.project(np.array(ends))
    way: Floats = (high - low) * np.array([1.0, -1.0])
    return way


_SKULL = 0.3
"""Heads above and below the middle of the head."""


@cache
def bodies(view_key: str) -> tuple[Body, ...]:
    """Some poses of a view."""
    view, around = view_named(view_key), _AROUND[view_key]
    settings = []
    if view_key.startswith("head"):
        bust = set_up("at-rest")
        for neck, head in _HEADS:
            turns = dict(bust.pose.turns) | {"neck.lean": neck, "head.lean": head}
            pose = replace(bust.pose, turns=turns)
            settings.append(replace(bust, pose=pose, camera=Camera(1.6, 1.6, around)))
    else:
        names = _BACKS if view_key == "figure-back" else _STANDING
        for name in names:
            turned = 0.0 if name.startswith("back-") else around
            settings.append(replace(set_up(name), camera=Camera(around_deg=turned)))
    return tuple(seen(view, setting) for setting in settings)
