"""Where the landmarks of the model lie before the eye, and where they would lie in the picture
were it seen from another height, or its trunk twisted less."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, Literal, NamedTuple

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.errors import UserError
from bralto.core.mannequin.body.builds import Build
from bralto.core.mannequin.body.kinematics import Posed, posed
from bralto.core.mannequin.body.landmarks import landmark_named
from bralto.core.mannequin.body.pose import Pose
from bralto.core.mannequin.known import MODEL, camera_of
from bralto.core.study.values import Study

__all__ = ["InDepth", "InSpace", "Moved", "heads_in_picture", "in_depth"]

_DAMAGED = (
    KeyError, TypeError, ValueError, IndexError, ArithmeticError, AttributeError, UserError,
)  # fmt: skip
"""What data of a study that are not as the model writes them may raise."""


class InSpace(NamedTuple):
    """A landmark of the model as the eye has it: ``x`` to its right and ``y`` up from the ground
    on the upright picture plane through the stand's middle, heads of the model; ``nearer``, how
    many times as large as there all is that lies where it does."""

    x: float
    y: float
    nearer: float


class Moved(NamedTuple):
    """What one fault does to all marks of a picture.

    Attributes:
        kind: of the move, one of `corrections.moves.MOVES`; ``label``, what it is about.
        field: (2, n, 2) array, where each mark goes, heads of the picture in the sight frame, by
            the fault's amount and by its square.
    """

    kind: Literal["eye", "twist"]
    label: str
    field: Floats


@dataclass(frozen=True, slots=True)
class _Lens:
    """The eye: ``around`` radians that it has walked round to the figure's left; its distance
    ``far`` from the stand's middle and its height ``eye``, heads of the model."""

    around: float
    far: float
    eye: float

    def __call__(self, places: Floats) -> Floats:
        """(n, 3) x, y and how much nearer (`InSpace`) of (n, 3) places in the world."""
        c, s = math.cos(self.around), math.sin(self.around)
        x, y, z = places.T
        nearer = self.far / (self.far - s * x - c * z)
        return np.column_stack(
            [(c * x - s * z) * nearer, self.eye + (y - self.eye) * nearer, nearer]
        )


@dataclass(frozen=True, slots=True)
class _Posed:
    """A study's own data of the model: its places (m, 3) in the world, heads of the model, in the
    order of its landmarks; before which lens, and in which pose it stands."""

    view: str
    setting: Mapping[str, Any]
    build: Build
    lens: _Lens
    places: Floats


@dataclass(frozen=True, slots=True)
class _Twists:
    """Where the landmarks lie with half and with none of the twists of trunk and head: ``laid``
    (2, m, 2) on the picture plane, heads of the model. ``what`` is twisted; ``arms`` (m,), which
    marks are an arm's, below the shoulder."""

    laid: Floats
    what: str
    arms: Bools


@dataclass(frozen=True)
class InDepth:
    """What is known of the landmarks of a study's reference in space; empty where it is no model.

    Attributes:
        marks: by key, of every landmark.
    """

    marks: Mapping[str, InSpace] = field(default_factory=dict)
    _posed: _Posed | None = None

    @cached_property
    def _twists(self) -> _Twists | None:
        """Worked out where a list of corrections asks for it alone; None where nothing is twisted,
        or the pose is damaged."""
        try:
            return None if self._posed is None else _less_twisted(self._posed, tuple(self.marks))
        except _DAMAGED:
            return None

    def moved(self, keys: Sequence[str], heads: Floats) -> tuple[Moved, ...]:
        """What faults in space do to the marks ``keys`` of the reference's picture, whose places
        are (n, 2) ``heads`` of it; nothing where one of them is not known."""
        if not self.marks or not set(keys) <= set(self.marks):
            return ()
        unit = heads_in_picture(self.marks, keys, heads)
        # What is farther away falls less where the eye goes up.
        higher = -unit * np.array([self.marks[key].nearer for key in keys])
        fall = np.outer(higher - higher.mean(), [0.0, 1.0])
        return (Moved("eye", "eye", np.array([fall, np.zeros_like(fall)])), *self._less(keys, unit))

    def _less(self, keys: Sequence[str], unit: float) -> list[Moved]:
        """The twist lost, by the share that is: with the arms along, or with the arms as seen."""
        twists = self._twists
        if twists is None:
            return []
        place = {key: row for row, key in enumerate(self.marks)}
        rows = [place[key] for key in keys]
        seen = np.array([self.marks[key][:2] for key in keys])
        half, none = unit * (twists.laid[:, rows] - seen)
        found = np.array([4.0 * half - none, 2.0 * none - 4.0 * half])
        if float(np.hypot(*none.T).max()) < _LEAST:
            return []
        arms = twists.arms[rows]
        held = np.where(arms[:, None], 0.0, found)
        return [Moved("twist", twists.what, one) for one in (found, held)[: 1 + bool(arms.any())]]


_LEAST = 0.1
"""Heads that the mark which a twist displaces most must go were it lost, for its share to mean
anything (chosen here)."""


def in_depth(study: Study) -> InDepth:
    """Where every landmark of the model lies before the eye; empty where the reference is no model,
    its camera is tilted (no height is seen as it is then), or its data are damaged."""
    model = study.extra.get(MODEL)
    if not isinstance(model, Mapping):
        return InDepth()
    try:
        camera, build = camera_of(model)
        setting = model["setting"]
        if float(camera.get("tilt_deg", 0.0)) != 0.0:
            return InDepth()
        lens = _Lens(
            math.radians(float(camera["around_deg"])),
            float(camera["distance_m"]) / build.head_m,
            float(camera["eye_m"]) / build.head_m,
        )
        keys = tuple(str(key) for key in model["places"])
        places = np.array([[float(v) for v in at] for at in model["places"].values()])
        places = places.reshape(-1, 3)
        laid = lens(places)
    except _DAMAGED:
        return InDepth()
    if not np.isfinite(laid).all() or not (laid[:, 2] > 0.0).all():
        return InDepth()
    marks = {key: InSpace(*row) for key, row in zip(keys, laid.tolist(), strict=True)}
    return InDepth(marks, _Posed(study.view, setting, build, lens, places))


_TOP = "crown"
"""A mark of every view of a figure, on its middle line."""

_TRUNK = ("waist", "chest", "neck", "head")
"""Joints that twist, from the pelvis up; what hangs from each part has its key too."""


def _less_twisted(on: _Posed, keys: tuple[str, ...]) -> _Twists | None:
    if on.setting.get("subject", "figure") != "figure":
        return None
    pose = Pose({key: float(value) for key, value in on.setting["turns"].items()}).checked()
    twists = {key: pose[key] for key in (f"{joint}.twist" for joint in _TRUNK)}
    if not any(twists.values()):
        return None
    named = [landmark_named(on.view, key, "l") for key in keys]  # of either side the same part
    seen = _trunk(on.build, pose)
    # A posed figure stands where its joints put it; the study's was lowered to the ground.
    row = keys.index(_TOP)
    lowered = seen.world(named[row].part, named[row].at) - on.places[row]
    laid = []
    for share in (0.5, 0.0):
        less = Pose({**pose.turns, **{key: share * value for key, value in twists.items()}})
        other = _trunk(on.build, less)
        there = []
        for one, place in zip(named, on.places, strict=True):
            carried = _carrier(one.part)
            turned = other.rotations[carried] @ seen.rotations[carried].T
            own = place + lowered - seen.places[carried]
            there.append(other.places[carried] + turned @ own - lowered)
        laid.append(on.lens(np.array(there))[:, :2])
    ribs = any(twists[f"{joint}.twist"] for joint in _TRUNK[:2])
    head_too = any(twists[f"{joint}.twist"] for joint in _TRUNK[2:])
    what = "ribcage and head" if ribs and head_too else "ribcage" if ribs else "head"
    return _Twists(np.array(laid), what, np.array([one.part[:-2] in _ARM for one in named]))


def _trunk(build: Build, pose: Pose) -> Posed:
    return posed(build, pose, part=_TRUNK[-1])


_ARM = frozenset({"upper_arm", "forearm", "hand", "fingers"})


def _carrier(part: str) -> str:
    """The part of the trunk with which another one goes."""
    if part in _TRUNK:
        return part
    return "chest" if part.startswith("clavicle") or part[:-2] in _ARM else "pelvis"


def heads_in_picture(stand: Mapping[str, InSpace], keys: Sequence[str], heads: Floats) -> float:
    """How many heads of a picture are as long in it as one of the model: its own may be
    foreshortened, as of one who looks up, so all marks tell.

    Args:
        keys, heads: marks of the picture, and their (n, 2) places in its heads; those that
            ``stand`` has count.
    """
    rows = [row for row, key in enumerate(keys) if key in stand]
    places = np.array([(stand[keys[row]].x, stand[keys[row]].y) for row in rows]).reshape(-1, 2)
    extent = float(np.ptp(places, axis=0).max()) if len(rows) > 1 else 0.0
    return float(np.ptp(heads[rows], axis=0).max()) / extent if extent > 0.0 else 1.0
