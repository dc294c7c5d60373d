"""A head as a learner draws it: features out of place by habit, lines and marks with them.

The model's head keeps its form; what the learner misplaces moves on the paper, and what lies
between goes along smoothly. The habits are those that teachers name first (common practice, no
source).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace

import numpy as np
from scipy.interpolate import RBFInterpolator
from scipy.ndimage import map_coordinates

from bralto.core.arrays import Floats
from bralto.core.mannequin.body.face import PLAIN, Face
from bralto.core.mannequin.camera import View3D
from bralto.core.views.model import View
from bralto.stand.model.answer import AnswerKey, answer_key
from bralto.stand.model.form.mesh import COARSE
from bralto.stand.model.habits import Habits
from bralto.stand.model.pencil_view import Hand, Lines, Page, PageDrawing, pencilled
from bralto.stand.model.stage import Stage

__all__ = ["HEAD_LEARNERS", "Astray", "HeadHabits", "misplaced", "portrait_by", "portrait_marks"]

_FALLS_BACK, _CREASES = 0.025, 0.90
"""A face is looked at from nearer, and its forms are low."""

_GRID = 96
"""Places a side at which it is found how far the paper's lines go astray."""

_AIR = 0.6
"""Heads around the marks beyond which nothing goes astray."""

_STEPS = 4
"""Of going back from the paper to the model: each is a tenth of the one before."""

_EYES = ("eye_", "pupil", "lid_", "iris_")
_BROWS = ("brow", "nose_root")
_EARS = ("ear", "lobe_root")
_SIDES = (
    "face_edge_", "ear_top_", "ear_base_", "ear_root_", "lobe_root_", "cheek_", "jaw_",
    "hair_side_",
)  # fmt: skip
"""Of a head from the front; in other views the ear is far from the outline."""

_MOUTH = ("mouth", "bow_", "lip_")
_NOSE = ("nose_base", "nose_tip", "nostril")
"""What the names of marks begin with, but for which side of a turned head they are on."""


@dataclass(frozen=True, slots=True)
class HeadHabits:
    """What a learner does to a head, lengths in heads.

    Attributes:
        eyes_high: by how much eyes and brows stand too high.
        face_wide: factor on the width of the outline, ears with it.
        features: factor on the features about their middle.
        mask_aside: by how much all features stand off the centre line, + to the viewer's right.
        mouth_deg: tilt of the mouth, counter-clockwise.
        ears_low: by how much the ears hang too low.
        upright: share of the head's tilt that is drawn.
        likeness: share of what makes this sitter's face another than the plain one that is drawn.
        to_front: by how many degrees a head that is turned away is drawn turned back to the eye.
        hand: the hand itself: wandering and care in marking.
    """

    eyes_high: float = 0.0
    face_wide: float = 1.0
    features: float = 1.0
    mask_aside: float = 0.0
    mouth_deg: float = 0.0
    ears_low: float = 0.0
    upright: float = 1.0
    likeness: float = 1.0
    to_front: float = 0.0
    hand: Habits = field(default_factory=Habits)

    def document(self) -> dict[str, object]:
        """As plain data."""
        return asdict(self)


_CAREFUL = HeadHabits(hand=Habits(wobble=0.002, marks_mm=0.3))

HEAD_LEARNERS: dict[str, HeadHabits] = {
    "careful": _CAREFUL,
    "eyes-high": replace(_CAREFUL, eyes_high=0.05),
    "face-wide": replace(_CAREFUL, face_wide=1.12),
    "features-large": replace(_CAREFUL, features=1.15),
    "mask-aside": replace(_CAREFUL, mask_aside=0.05),
    "mouth-tilted": replace(_CAREFUL, mouth_deg=9.0),
    "ears-low": replace(_CAREFUL, ears_low=0.07),
    "upright": replace(_CAREFUL, upright=0.4),
    "flattening": replace(_CAREFUL, likeness=0.3),
    "too-frontal": replace(_CAREFUL, to_front=9.0),
    "beginner": HeadHabits(
        eyes_high=0.06, face_wide=1.08, features=1.06, ears_low=0.04, likeness=0.6,
        hand=Habits(wobble=0.005, marks_mm=0.6),
    ),
}  # fmt: skip
"""Learners who draw heads, by name."""


def misplaced(places: Mapping[str, Floats], habits: HeadHabits) -> dict[str, Floats]:
    """Where the marks of a head come out.

    Args:
        places: (2,) px by mark, y down; crown and chin are there.
    """
    top, bottom = places["crown"], places["chin"]
    head = float(np.hypot(*(bottom - top)))
    down = _upright(places)
    aside = np.array([down[1], -down[0]])
    middle = _mean(places, (*_EYES, *_BROWS, *_MOUTH, *_NOSE))
    lips = _mean(places, _MOUTH)
    out = {}
    for key, at in places.items():
        name = _bare(key)
        eye, brow = name.startswith(_EYES), name.startswith(_BROWS)
        mouth, nose = name.startswith(_MOUTH), name.startswith(_NOSE)
        to = np.array(at, dtype=np.float64)
        if mouth and habits.mouth_deg:
            to = lips + _turn(-habits.mouth_deg) @ (to - lips)
        if eye or brow or mouth or nose:
            to = middle + habits.features * (to - middle) + habits.mask_aside * head * aside
        if eye or brow:
            to = to - habits.eyes_high * head * down
        if key.startswith(_SIDES):
            to = to + (habits.face_wide - 1.0) * float((to - middle) @ aside) * aside
        if name.startswith(_EARS):
            to = to + habits.ears_low * head * down
        out[key] = to
    tilt = float(np.degrees(np.arctan2(down[0], down[1])))
    back = _turn((1.0 - habits.upright) * tilt)
    return {key: bottom + back @ (to - bottom) for key, to in out.items()}


def _upright(places: Mapping[str, Floats]) -> Floats:
    """(2,) unit vector down the face: from the brow to the chin where it is marked."""
    top = next(places[key] for key in ("hairline", "brow_mid", "crown") if key in places)
    way = places["chin"] - top
    found: Floats = way / np.hypot(*way)
    return found


def _bare(key: str) -> str:
    """A mark's name without the side of a turned head."""
    return key.removeprefix("near_").removeprefix("far_")


def _mean(places: Mapping[str, Floats], starts: tuple[str, ...]) -> Floats:
    """(2,) px of the corners, centres and tips; what is only a turn of an outline has no weight."""
    of = [at for key, at in places.items() if _bare(key).startswith(starts) and not _fine(key)]
    found: Floats = np.mean(of, axis=0)
    return found


def _fine(key: str) -> bool:
    return _bare(key).startswith(("lid_", "iris_", "brow_start", "brow_end", "bow_", "lip_"))


def _turn(degrees: float) -> Floats:
    """Of y down: counter-clockwise as it is seen is against the axes."""
    c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    return np.array([[c, -s], [s, c]])


class Astray(Hand):
    """A hand that misplaces what it draws, smoothly between the marks."""

    def __init__(
        self, view: View3D, seen: Floats, habits: HeadHabits, places: Mapping[str, Floats],
        known: Mapping[str, Floats], page: Page, seed: int,
    ) -> None:  # fmt: skip
        """``known`` (2,) px by mark: where the face that the learner knows would have them."""
        super().__init__(view, seen, habits.hand, page, seed)
        wrong = misplaced(known, habits)
        at = np.array(list(places.values()))
        by = np.array([wrong[key] - places[key] for key in places])
        head = float(np.hypot(*(places["chin"] - places["crown"])))
        low, high = at.min(axis=0) - _AIR * head, at.max(axis=0) + _AIR * head
        edge = np.array([
            [x, y]
            for x in np.linspace(low[0], high[0], 5) for y in np.linspace(low[1], high[1], 5)
            if x in {low[0], high[0]} or y in {low[1], high[1]}
        ])  # fmt: skip
        # Beyond, the paper is as it was; where two marks are one, the field would be torn.
        field = RBFInterpolator(
            np.vstack([at, edge]), np.vstack([by, np.zeros_like(edge)]), smoothing=1e-6
        )
        x, y = (np.linspace(low[i], high[i], _GRID) for i in (0, 1))
        grid = field(np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)).reshape(_GRID, _GRID, 2)
        self._field, self._box = grid, (low, high)

    def _by(self, px: Floats) -> Floats:
        """(n, 2) how far places of the camera's picture go astray."""
        low, high = self._box
        at = (np.clip(px, low, high) - low) / (high - low) * (_GRID - 1)
        found: Floats = np.stack(
            [map_coordinates(self._field[..., i], at.T[::-1], order=1) for i in (0, 1)], axis=-1
        )
        return found

    def to_sheet(self, px: Floats) -> Floats:
        """(n, 2) px of the sheet of (n, 2) px of the camera's picture, astray."""
        return super().to_sheet(px + self._by(px))

    def to_camera(self, x: Floats, y: Floats) -> Floats:
        """The way back, (n, 2) px of the camera's picture; reckoned again until it fits."""
        wrong = super().to_camera(x, y)
        px = wrong
        for _ in range(_STEPS):
            px = wrong - self._by(px)
        return px


def portrait_by(
    stage: Stage, view: View3D, marked: View, key: AnswerKey, habits: HeadHabits, page: Page,
    seed: int,
) -> PageDrawing:  # fmt: skip
    """Draw what a camera sees of the model's head, as a learner with these habits would.

    Args:
        key: where the marks of ``marked`` truly are in the camera's picture.
    """
    outline, hand, marks = _astray_on_sheet(stage, view, marked, key, habits, page, seed)
    lines = Lines(_FALLS_BACK, _CREASES, _features(marks))
    look = stage.setting.look
    image = pencilled(stage.caster, view, hand, outline, look, page, marks, seed, lines)
    return PageDrawing(image, marks, hand.head_px)


def portrait_marks(
    stage: Stage, view: View3D, marked: View, key: AnswerKey, habits: HeadHabits, page: Page,
    seed: int,
) -> dict[str, Floats]:  # fmt: skip
    """The marks of `portrait_by` alone, without the drawing: (2,) px by landmark."""
    return _astray_on_sheet(stage, view, marked, key, habits, page, seed)[-1]


def _astray_on_sheet(
    stage: Stage, view: View3D, marked: View, key: AnswerKey, habits: HeadHabits, page: Page,
    seed: int,
) -> tuple[Floats, Astray, dict[str, Floats]]:  # fmt: skip
    """Before the first line: (n, 2) px of the outline, the hand, and where marks come out."""
    names = {mark.key for mark in marked.landmarks}
    places = {one.key: np.asarray(one.px, np.float64) for one in key.marks if one.key in names}
    outline = view.project(stage.points)
    known = places | _as_known(stage, view, marked, habits)
    hand = Astray(view, outline, habits, places, known, page, seed)
    marks = dict(zip(places, hand.to_sheet(np.array(list(places.values()))), strict=True))
    return outline, hand, marks


def _as_known(stage: Stage, view: View3D, marked: View, habits: HeadHabits) -> dict[str, Floats]:
    """(2,) px by mark: of the same head with a face that is nearer to the plain one, and turned
    back to the eye."""
    setting = stage.setting
    if habits.likeness == 1.0 and habits.to_front == 0.0:
        return {}
    plain = PLAIN.figures()
    face = {
        k: plain[k] + habits.likeness * (v - plain[k])
        for k, v in setting.build.face.figures().items()
    }
    build = replace(setting.build, face=Face(**face))
    # Seen from its left, it turns to its left to face the eye.
    seen_from = (setting.camera.around_deg - setting.turn_deg + 180.0) % 360.0 - 180.0
    back = float(np.copysign(min(habits.to_front, abs(seen_from)), seen_from))
    twist = {"head.twist": setting.pose["head.twist"] + back}
    pose = replace(setting.pose, turns=dict(setting.pose.turns) | twist)
    other = Stage.of(replace(setting, build=build, pose=pose), COARSE)
    key = answer_key(other, view, marked)
    return {one.key: np.asarray(one.px, np.float64) for one in key.marks}


_FEATURES = (
    ("eye_outer_r", "eye_inner_r"), ("eye_inner_l", "eye_outer_l"),
    ("near_eye_outer", "near_eye_inner"), ("far_eye_inner", "far_eye_outer"),
    ("eye_outer", "eye_front"),
    ("mouth_corner_r", "mouth_mid", "mouth_corner_l"),
    ("near_mouth_corner", "mouth_mid", "far_mouth_corner"), ("mouth_corner", "mouth"),
    ("nostril_r", "nose_base", "nostril_l"), ("near_nostril", "nose_base"),
)  # fmt: skip
"""What a pencil draws of the features, from mark to mark."""


def _features(marks: Mapping[str, Floats]) -> tuple[Floats, ...]:
    """(n, 2) px: lids above and below, mouth, wings of the nose, and the brows over the eyes."""
    out = []
    for keys in _FEATURES:
        if not all(key in marks for key in keys):
            continue
        line = np.array([marks[key] for key in keys])
        if len(keys) > 2 or "mouth" in keys[0] or "nostril" in keys[0]:
            out.append(_through(line))
            continue
        ends, bulge = np.linspace(line[0], line[1], 24), np.sin(np.linspace(0.0, np.pi, 24))
        along = line[1] - line[0]
        across = np.array([-along[1], along[0]])
        out += [ends + 0.22 * bulge[:, None] * across, ends - 0.18 * bulge[:, None] * across]
    for inner, peak, outer in (
        ("eye_inner_r", "brow_r", "eye_outer_r"), ("eye_inner_l", "brow_l", "eye_outer_l"),
        ("near_eye_inner", "near_brow", "near_eye_outer"),
        ("far_eye_inner", "far_brow", "far_eye_outer"),
    ):  # fmt: skip
        if {inner, peak, outer} <= marks.keys():
            lift = 0.85 * (marks[peak] - 0.5 * (marks[inner] + marks[outer]))
            out.append(_through(np.array([marks[inner] + lift, marks[peak], marks[outer] + lift])))
    return tuple(out)


def _through(corners: Floats) -> Floats:
    """(24, 2) px along straight lines through some places."""
    t, own = np.linspace(0.0, len(corners) - 1.0, 24), np.arange(len(corners))
    line: Floats = np.stack([np.interp(t, own, corners[:, i]) for i in (0, 1)], axis=1)
    return line
