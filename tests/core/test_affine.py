"""The affine reading: its figures by pencil and paper, its uncertainties by Monte Carlo
(JCGM 101:2008), and its words."""

from __future__ import annotations

from dataclasses import astuple, replace

import numpy as np
import pytest

from bralto.core.arrays import Floats
from bralto.core.fit.affine import AffineReading, read_affine
from bralto.core.results import NotMeasurable
from bralto.core.words.wording import whole_words

CORNERS = np.array([[0.0, 0.0], [2.0, 0.0], [2.0, 8.0], [0.0, 8.0], [1.0, 5.0]])
SURE = np.zeros((len(CORNERS), 2, 2))
ALIKE = np.ones(len(CORNERS))


def read(q: Floats, cov_p: Floats = SURE, cov_q: Floats = SURE) -> AffineReading:
    found = read_affine(CORNERS, q, ALIKE, cov_p, cov_q)
    assert isinstance(found, AffineReading)
    return found


def test_a_box_that_is_stretched_and_slanted_is_read_as_it_was_made() -> None:
    """3 : 2 across and 1 : 2 up: 200 % too wide. A slant of a quarter of the height to the left:
    arctan(1/4) = 14.04 degrees; a rise of a tenth of the width: arctan(1/10) = 5.71."""
    wide = read(CORNERS * [1.5, 0.5] + [7.0, -3.0])
    assert astuple(wide) == pytest.approx((1.5, 0.5, 200.0, 0.0, 0.0, 0.0, 0.0, 0.0), abs=1e-9)
    slanted = read(CORNERS @ np.array([[1.0, 0.0], [-0.25, 1.0]]))
    assert slanted.verticals_lean_deg == pytest.approx(14.04, abs=0.005)
    assert slanted.levels_tilt_deg == pytest.approx(0.0, abs=1e-9)
    risen = read(CORNERS @ np.array([[1.0, 0.1], [0.0, 1.0]]))
    assert risen.levels_tilt_deg == pytest.approx(5.71, abs=0.005)
    assert risen.verticals_lean_deg == pytest.approx(0.0, abs=1e-9)


@pytest.mark.parametrize("joint", [False, True], ids=["each by itself", "all together"])
def test_uncertainties_are_what_repeated_placing_scatters(joint: bool) -> None:
    rng = np.random.default_rng(7)
    n = len(CORNERS)
    q = CORNERS @ np.array([[1.3, 0.1], [-0.2, 0.9]]) + rng.normal(0.0, 0.2, CORNERS.shape)
    if joint:
        half = rng.normal(0.0, 0.01, (2 * n, 2 * n))
        cov_p = half @ half.T
    else:
        halves = rng.normal(0.0, 0.03, (n, 2, 2))
        cov_p = halves @ halves.transpose(0, 2, 1)
    cov_q = np.tile(np.diag([0.02**2, 0.01**2]), (n, 1, 1))
    said = read(q, cov_p, cov_q)
    found = []
    for _ in range(4000):
        off_q = np.array([rng.multivariate_normal([0.0, 0.0], one) for one in cov_q])
        if joint:
            off_p = rng.multivariate_normal(np.zeros(2 * n), cov_p).reshape(n, 2)
        else:
            off_p = np.array([rng.multivariate_normal([0.0, 0.0], one) for one in cov_p])
        again = read_affine(CORNERS + off_p, q + off_q, ALIKE, SURE, SURE)
        assert isinstance(again, AffineReading)
        found.append(astuple(again)[2:5])
    # 4,000 trials tell a standard deviation to 1.1 %, one standard error.
    assert astuple(said)[5:] == pytest.approx(np.std(found, axis=0), rel=0.05)


def test_marks_on_one_line_tell_nothing() -> None:
    line = np.column_stack([np.arange(4.0), 2.0 * np.arange(4.0)])
    sure = np.zeros((4, 2, 2))
    for p, q in ((line, line), (CORNERS[:4], np.zeros((4, 2)))):
        assert isinstance(read_affine(p, q, np.ones(4), sure, sure), NotMeasurable)
    assert isinstance(
        read_affine(line[:2], line[:2], np.ones(2), sure[:2], sure[:2]), NotMeasurable
    )


def test_only_what_stands_out_from_its_doubt_is_said() -> None:
    one = AffineReading(1.0, 1.0, 4.1, 0.6, -1.3, 0.3, 0.4, 0.2)
    assert whole_words(one) == (
        "4.1 ± 0.6 % too wide for its height, its levels rise 1.3 ± 0.4° to your left"
    )
    unsure = replace(one, too_wide_percent_u=2.5, levels_tilt_deg_u=1.0)
    assert whole_words(unsure) == "as wide as it should be (± 5.0 %)"
    exact = AffineReading(1.0, 1.0, -0.02, 0.0, 0.0, 0.0, 0.0, 0.0)
    assert whole_words(exact) == "as wide as it should be"
    assert whole_words(replace(exact, verticals_lean_deg=2.0)) == (
        "as wide as it should be, its verticals lean 2.0° to your left"
    )
