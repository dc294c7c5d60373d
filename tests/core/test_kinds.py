"""Each formula's gradient against finite differences, and its degenerate cases."""

from __future__ import annotations

import numpy as np
import pytest

from bralto.core.measures.kinds import FORMULAS, degenerate, wrap_degrees

POINTS = np.array([[3.0, 9.0], [1.0, 6.5], [4.0, 2.0], [-2.0, 1.0]])


def rows_for(kind: str, along: str) -> np.ndarray:
    if along == "both":
        return np.array([[0, 1, 2, 3, 1, 2], [1, 2, 0, 1, 3, 0]])
    if kind in {"ratio", "angle"}:
        return np.array([[0, 1, 2, 3], [1, 0, 1, 2]])  # the second is the angle at a joint
    return np.array([[0, 1, 2], [0, 2, 3]]) if kind == "fraction" else np.array([[0, 2], [1, 3]])


@pytest.mark.parametrize(("kind", "along"), list(FORMULAS))
def test_gradients_are_exact(kind: str, along: str) -> None:
    """Central differences of step 1e-6 agree to 1e-6 (truncation error is far below)."""
    at, step = POINTS[rows_for(kind, along)], 1e-6
    _, gradient = FORMULAS[kind, along](at)
    assert gradient.shape == at.shape
    for p in range(at.shape[1]):
        for axis in range(2):
            ahead, behind = at.copy(), at.copy()
            ahead[:, p, axis] += step
            behind[:, p, axis] -= step
            slope = (FORMULAS[kind, along](ahead)[0] - FORMULAS[kind, along](behind)[0]) / (
                2 * step
            )
            assert gradient[:, p, axis] == pytest.approx(slope, abs=1e-6)


def test_a_ratio_against_both_eyes_takes_their_mean() -> None:
    """Face of 10, eyes of 2 and 3: 10 / 2.5 = 4, whichever eye is the wider."""
    face, narrow, wide = (
        [[0.0, 0.0], [10.0, 0.0]],
        [[1.0, 1.0], [3.0, 1.0]],
        [[5.0, 1.0], [5.0, 4.0]],
    )
    value, _ = FORMULAS["ratio", "both"](np.array([face + narrow + wide, face + wide + narrow]))
    assert value == pytest.approx([4.0, 4.0])


def test_coincident_points_are_seen_before_they_divide() -> None:
    same = np.array([[5.0, 5.0], [5.0, 5.0], [7.0, 5.0]])
    assert degenerate("span", "straight", same, np.array([[0, 1], [0, 2]])).tolist() == [
        True,
        False,
    ]
    assert degenerate("tilt", "straight", same, np.array([[0, 1]])).all()
    assert degenerate("fraction", "plumb", same, np.array([[0, 1, 2]])).all()  # one height
    assert not degenerate("fraction", "straight", same, np.array([[0, 1, 2]])).any()
    joints = np.array([[0, 2, 0, 1], [0, 1, 0, 2]])
    assert degenerate("ratio", "straight", same, joints).all()  # above or below, neither can be
    assert degenerate("angle", "straight", same, joints).all()
    assert degenerate("ratio", "level", same, np.array([[0, 2, 2, 1]])).tolist() == [False]


def test_angles_wrap_into_a_half_open_circle() -> None:
    assert wrap_degrees(np.array([190.0, -190.0, 180.0, -180.0, 360.0])).tolist() == [
        -170.0,
        170.0,
        180.0,
        180.0,
        0.0,
    ]
