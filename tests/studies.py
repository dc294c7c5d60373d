"""Small studies for tests, written by hand."""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.study.frames import turn_to_sight
from bralto.core.study.values import Mark, Picture, Scale, State, Study
from bralto.core.terms import School
from tests.puppet import Pose, landmarks

POSE = Pose(
    hips=8,
    shoulders=-7,
    head=5,
    lean=-2,
    arms={"r": (14, 6, 2), "l": (38, -20, -16)},
    legs={"r": (1, -1), "l": (14, 7)},
)
"""A pose in which nothing is level, plumb or symmetric."""


def figure_marks(pose: Pose = POSE, scale: float = 100.0, spread: float = 1.5) -> dict[str, Mark]:
    """All marks of `figure-front` in image px, crown near the top."""
    body = landmarks(pose)
    return {
        key: Mark(400.0 + scale * float(x), 820.0 - scale * float(y), spread=spread)
        for key, (x, y) in body.items()
        if key not in {"hip_r", "hip_l"}
    }


def study_of(
    reference: dict[str, Mark],
    drawing: dict[str, Mark],
    *,
    view: str = "figure-front",
    school: str = School.HEAD,
    grade: str = "developing",
    plumb_deg: float = 0.0,
) -> Study:
    """A study of two sets of marks on pictures of 4000 x 4000 px."""
    return Study(
        title="by hand",
        view=view,
        reference=Picture("reference.png", 4000, 4000, reference),
        states=(State("first", Picture("drawing.png", 4000, 4000, drawing, plumb_deg)),),
        scale=Scale(School(school)),
        grade=grade,
    )


def moved(
    marks: dict[str, Mark], scale: float, shift: tuple[float, float], clockwise: float = 0.0
) -> dict[str, Mark]:
    """The same marks scaled, turned clockwise as seen, and shifted."""
    c, s = np.cos(np.radians(clockwise)), np.sin(np.radians(clockwise))
    return {
        key: Mark(
            scale * (c * m.x - s * m.y) + shift[0],
            scale * (s * m.x + c * m.y) + shift[1],
            spread=m.spread,
        )
        for key, m in marks.items()
    }


def sight(marks: dict[str, Mark]) -> Floats:
    """(n, 2) marks in a sight frame without plumb correction."""
    return np.asarray(np.array([[m.x, m.y] for m in marks.values()]) @ turn_to_sight(0.0).T)


def seen_from(slant: float, around: float, size: tuple[float, float]) -> Floats:
    """Corners of a sheet through a pinhole of 1,100 px focal length over a 1600 x 1200 photo."""
    a, b = np.radians([slant, around])
    eye = np.array([np.sin(a) * np.sin(b), np.sin(a) * np.cos(b), -np.cos(a)]) * 900.0
    forward = -eye / np.linalg.norm(eye)
    right = np.cross([0.0, 1.0, 0.0], forward)
    right /= np.linalg.norm(right)
    axes = np.array([right, np.cross(forward, right), forward])
    w, h = size
    ends = np.array([[-w, -h, 0], [w, -h, 0], [w, h, 0], [-w, h, 0]]) / 2.0
    seen = (ends - eye) @ axes.T
    found: Floats = 1100.0 * seen[:, :2] / seen[:, 2:] + [800.0, 600.0]
    return found


LEG = {
    "hip": (0.56, 0.12), "heel": (0.47, 1.29), "knee": (0.51, 0.69), "ankle": (0.48, 1.21),
    "toe": (0.56, 1.31), "thigh_out": (0.61, 0.35), "thigh_in": (0.40, 0.33),
    "knee_out": (0.565, 0.69), "knee_in": (0.455, 0.70), "calf_out": (0.575, 0.87),
    "calf_in": (0.43, 0.90), "ankle_out": (0.515, 1.22), "ankle_in": (0.45, 1.20),
}  # fmt: skip
ARM = {
    "shoulder": (0.50, 0.10), "fingertip": (0.52, 1.15), "elbow": (0.48, 0.52),
    "wrist": (0.505, 0.90), "knuckle": (0.512, 1.03), "upper_out": (0.57, 0.25),
    "upper_in": (0.43, 0.30), "elbow_out": (0.53, 0.52), "elbow_in": (0.43, 0.515),
    "forearm_out": (0.56, 0.62), "forearm_in": (0.44, 0.66), "wrist_out": (0.54, 0.895),
    "wrist_in": (0.47, 0.905),
}  # fmt: skip
"""A leg and an arm, 1.17 and 1.05 high, y down; invented."""

HEAD = {
    "crown": (0.0, 0.0), "hairline": (0.0, 0.18), "brow_mid": (0.0, 0.4), "nose_base": (0.0, 0.68),
    "mouth_mid": (0.0, 0.79), "chin": (0.0, 1.0), "brow_r": (-0.17, 0.38), "brow_l": (0.17, 0.38),
    "eye_outer_r": (-0.23, 0.48), "eye_inner_r": (-0.08, 0.49), "eye_inner_l": (0.08, 0.49),
    "eye_outer_l": (0.23, 0.48), "pupil_r": (-0.155, 0.48), "pupil_l": (0.155, 0.48),
    "nostril_r": (-0.08, 0.66), "nostril_l": (0.08, 0.66), "mouth_corner_r": (-0.12, 0.79),
    "mouth_corner_l": (0.12, 0.79), "face_edge_r": (-0.36, 0.5), "face_edge_l": (0.36, 0.5),
    "ear_top_r": (-0.38, 0.44), "ear_top_l": (0.38, 0.44), "ear_base_r": (-0.37, 0.68),
    "ear_base_l": (0.37, 0.68), "neck_r": (-0.24, 0.92), "neck_l": (0.24, 0.92),
    "jaw_r": (-0.27, 0.82), "jaw_l": (0.27, 0.82),
}  # fmt: skip
"""A head in heads, y down from the crown; invented."""
