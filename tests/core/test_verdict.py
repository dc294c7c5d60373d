"""Verdicts never cry wolf: the table of measurement.md, section 5."""

from __future__ import annotations

import numpy as np
import pytest

from bralto.core.measures.verdict import other_side, steeper, verdicts
from bralto.core.measures.verdict_names import VERDICTS
from bralto.core.tolerances import GRADES


@pytest.mark.parametrize(
    ("error", "u", "more", "said"),
    [
        (0.06, 0.01, True, "over"),
        (-0.06, 0.01, False, "under"),
        (0.06, 0.03, True, "cannot tell"),  # |e| = 2 u exactly is not beyond doubt
        (0.06, 0.04, True, "cannot tell"),
        (0.02, 0.01, True, "within"),
        (0.05, 0.05, True, "within"),  # k u = 2 T exactly is still fine enough
        (0.02, 0.06, True, "cannot tell"),  # k u > 2 T: too coarse to clear it
        (0.0, 0.0, False, "within"),
    ],
)
def test_verdicts_at_a_tolerance_of_a_twentieth(
    error: float, u: float, more: bool, said: str
) -> None:
    one, no = np.ones(1), np.zeros(1, dtype=bool)
    row = verdicts(error * one, u * one, GRADES["developing"].head * one, no | more, no)[0]
    assert VERDICTS[row] == said


@pytest.mark.parametrize(
    ("seen", "drawn", "crosses", "rises"),
    [
        (8.0, 12.0, False, True),
        (8.0, 3.0, False, False),
        (-8.0, -12.0, False, True),
        (8.0, -8.0, True, True),  # leans to the other side: over, and said so
        (-85.0, -80.0, False, False),  # a limb further from plumb is flatter
        (-85.0, -95.0, True, True),  # a limb that crosses plumb leans to the other side
        (0.0, 4.0, False, True),
        (-175.0, 180.0, False, False),  # from behind: level runs to the left
        (175.0, -175.0, True, True),
    ],
)
def test_tilts_are_steeper_or_flatter(
    seen: float, drawn: float, crosses: bool, rises: bool
) -> None:
    assert other_side(np.array([seen]), np.array([drawn])).tolist() == [crosses]
    assert steeper(np.array([seen]), np.array([drawn])).tolist() == [rises]
