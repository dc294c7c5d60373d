"""A learner's habits by name: what a pose becomes when they draw it, before a line is drawn.

The habits are those that teachers name first (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import Build
from bralto.core.mannequin.body.joints import joints
from bralto.core.mannequin.body.kinematics import Posed
from bralto.core.mannequin.body.landmarks import landmark_named
from bralto.core.mannequin.body.pose import Pose
from bralto.core.mannequin.camera import View3D
from bralto.core.mannequin.posing.standing import legs_as_before
from bralto.core.views.shipped_views import view_named
from bralto.stand.model.form.mesh import Mesh, figure_mesh

__all__ = [
    "LEARNERS",
    "PARTS",
    "Habits",
    "Resized",
    "lean_and_width",
    "resized",
    "straightened",
]


def _hanging(joint: str) -> tuple[str, ...]:
    """The part at a joint and all that hangs from it."""
    reached, parts = {joint}, []
    for one in joints():  # a parent comes before its children
        if one.key in reached or one.parent in reached:
            reached.add(one.key)
            parts.append(one.part)
    return tuple(parts)


_TREE = "figure-front"
"""The view whose limbs are named."""

PARTS: dict[str, tuple[str, ...]] = {
    "head": ("head",),
    **{
        f"{name}_{s}": _hanging(f"{joint}_{s}")
        for s in "rl"
        for name, joint in (
            ("arm", "shoulder"), ("forearm", "elbow"), ("hand", "wrist"),
            ("leg", "hip"), ("shank", "knee"), ("foot", "ankle"),
        )
    },
}  # fmt: skip
"""What can be drawn too big or small, by the key of its limb: the parts that go with it."""


@dataclass(frozen=True, slots=True)
class Habits:
    """What a learner does to a pose.

    Attributes:
        parts: factor by which each part comes out on the paper, with all that hangs from it
            (`PARTS`).
        taper: factor on every further piece of a limb away from the trunk: forearm and shank once,
            hand and foot twice.
        straight: share of every lean and twist of the trunk that is drawn; below 1 it stiffens.
        width: factor on all widths. lean_deg: of the whole, + to the viewer's right.
        eye_m: how much higher than it is the eye is taken to be, m.
        wobble: SD of the hand's slow wandering, heads.
        marks_mm: SD of placing a mark on the drawing, mm on the sheet.
    """

    parts: Mapping[str, float] = field(default_factory=dict)
    taper: float = 1.0
    straight: float = 1.0
    width: float = 1.0
    lean_deg: float = 0.0
    eye_m: float = 0.0
    wobble: float = 0.0
    marks_mm: float = 0.0

    def document(self) -> dict[str, object]:
        """The habits as plain data, to stand in a study file."""
        return asdict(self)


_CAREFUL = Habits(wobble=0.006, marks_mm=0.3)

LEARNERS: dict[str, Habits] = {
    "careful": _CAREFUL,
    "big-head": replace(_CAREFUL, parts={"head": 1.14}),
    "short-legs": replace(_CAREFUL, parts={"leg_r": 0.92, "leg_l": 0.92}),
    "tapering": replace(_CAREFUL, taper=0.92),
    "stiff": replace(_CAREFUL, straight=0.45),
    "wide": replace(_CAREFUL, width=1.08),
    "leaning": replace(_CAREFUL, lean_deg=3.0),
    "looking-down": replace(_CAREFUL, eye_m=0.5),
    "big-head-short-legs": replace(_CAREFUL, parts={"head": 1.12, "leg_r": 0.93, "leg_l": 0.93}),
    "beginner": Habits(
        {"head": 1.13, "leg_r": 0.94, "leg_l": 0.95}, 0.95, 0.6, 1.04, 1.0, 0.0, 0.015, 0.8
    ),
}
"""Learners by name."""


_LIES = 45.0
"""Degrees that a pelvis is listed, from which on that is how the figure lies."""


def straightened(build: Build, pose: Pose, habits: Habits) -> Pose:
    """The pose with its trunk and head stiffened: the arms go along, the legs stay where they are.
    Who lies on a side stays lying."""
    if habits.straight == 1.0:
        return pose
    stiff = {"pelvis.list"} if abs(pose["pelvis.list"]) < _LIES else set()
    for joint in ("waist", "chest", "neck", "head"):
        stiff |= {f"{joint}.lean", f"{joint}.twist"}
    values = {k: v * habits.straight if k in stiff else v for k, v in pose.turns.items()}
    return legs_as_before(build, replace(pose, turns=values), pose)


@dataclass(frozen=True, slots=True, eq=False)
class Resized:
    """A figure whose parts come out too large or too small on the paper.

    Attributes:
        eye: (3,) place of the lens, heads.
        maps: (3, 3) by part, of places about the eye: they grow about where the part begins *in the
            picture*, and stay as far away as they were. So what hides what does not change, and a
            part that is drawn a tenth too large is so by the ruler, not by a tenth in space that
            perspective makes more or less of.
    """

    figure: Posed
    eye: Floats
    maps: Mapping[str, Floats]

    def world(self, part: str, local: Floats) -> Floats:
        """(..., 3) points of a part as it is written down, to the world, heads."""
        return self._mapped(part, self.figure.world(part, local))

    def mesh(self, cell: float) -> Mesh:
        """All parts; each is shaded as it was."""
        mesh = figure_mesh(self.figure, cell)
        points = mesh.points.copy()
        for row, part in enumerate(mesh.parts):
            if part in self.maps:
                own = np.unique(mesh.faces[mesh.owner == row])
                points[own] = self._mapped(part, points[own].astype(float))
        return replace(mesh, points=points)

    def _mapped(self, part: str, places: Floats) -> Floats:
        if part not in self.maps:
            return places
        moved: Floats = (places - self.eye) @ self.maps[part].T + self.eye
        return moved


def resized(figure: Posed, habits: Habits, view: View3D) -> Resized:
    """The figure with parts larger or smaller, each about where it begins, as a teacher has it."""
    made = Resized(figure, view.eye, {})
    for name, factor in _factors(habits).items():
        if factor != 1.0:
            way = view.rays(_root(made, view, name))
            grown = factor * np.eye(3) + (1.0 - factor) * np.outer(way, view.rotation[2])
            maps = {part: grown @ made.maps.get(part, np.eye(3)) for part in PARTS[name]}
            made = replace(made, maps={**made.maps, **maps})
    return made


def _root(made: Resized, view: View3D, limb: str) -> Floats:
    """(2,) px where a limb begins: the place that the view's limb tree gives it."""
    one = next(one for one in view_named(_TREE).limbs if one.key == limb)
    marks = [landmark_named(_TREE, key, "l").on_figure(made.figure) for key in one.root]
    px = view.project(np.array([made.world(mark.part, mark.at) for mark in marks]))
    root: Floats = np.array(one.weights) @ px
    return root


def _factors(habits: Habits) -> dict[str, float]:
    """Factor by part, the outer ones on top of the inner ones."""
    unknown = set(habits.parts) - set(PARTS)
    if unknown:
        raise UserError(f"'{min(unknown)}' cannot be drawn too big; {', '.join(PARTS)} can")
    out = {name: float(habits.parts.get(name, 1.0)) for name in PARTS}
    for s in "rl":
        for outer in ("forearm", "hand", "shank", "foot"):
            out[f"{outer}_{s}"] *= habits.taper
    return out


def lean_and_width(habits: Habits) -> Floats:
    """(2, 2) matrix from heads of the picture, y down, to heads of the drawing."""
    tilt = np.tan(np.radians(habits.lean_deg))
    return np.array([[habits.width, -tilt], [0.0, 1.0]])
