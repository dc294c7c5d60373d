"""The pose straightened, told by the sweep and by the marks: each beside the other."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from bralto.core.action.bend_and_leans import bend_beside, leans_beside
from bralto.core.action.bend_kept import Kept
from bralto.core.action.sweep_pairs import SweepPair
from bralto.core.action.sweeps import WHOLE
from bralto.core.corrections.correction_words import Correction
from bralto.core.results import NotMeasurable

NONE = NotMeasurable("not drawn")
LEANS = Correction(
    "straighten", None, 40.0, "percent", None, 5.0, 0.9, None, None, None, "Give", "± 10 %", "Give"
)


def sweeps(share: float, reach: float) -> tuple[SweepPair, ...]:
    kept = Kept(share, share - reach, share + reach, 1.0, np.zeros((2, 2)))
    leg = Kept(0.1, 0.0, 0.2, 1.0, np.zeros((2, 2)))
    return SweepPair("leg_r", NONE, NONE, leg), SweepPair(WHOLE, NONE, NONE, kept)


# By hand: 60 % of the leans +- 10, and the bend's half interval r: the same within
# sqrt(10^2 + r^2) %.
@pytest.mark.parametrize(
    ("share", "reach", "same"),
    [(0.70, 0.01, True), (0.72, 0.10, True), (0.72, 0.01, False), (0.45, 0.10, False)],
)
def test_the_sweep_says_the_same_within_both_doubts(share: float, reach: float, same: bool) -> None:
    said = bend_beside(LEANS, lambda: sweeps(share, reach))
    how = "The sweep says the same: " if same else "The sweep from head to foot says: "
    assert said.startswith(how)
    low, high = round(100 * (share - reach)), round(100 * (share + reach))
    assert said.endswith(f"{100 * share:.0f} % of its bend kept, {low} to {high}")


def test_nothing_is_said_where_one_of_both_is_not_known() -> None:
    assert bend_beside(LEANS, tuple) == ""
    assert bend_beside(LEANS, lambda: (SweepPair(WHOLE, NONE, NONE, NONE),)) == ""
    assert bend_beside(replace(LEANS, move="lean"), lambda: pytest.fail("not asked for")) == ""
    assert leans_beside([replace(LEANS, move="lean")]) == ""
    assert leans_beside([replace(LEANS, move="lean"), LEANS]) == (
        "60 % of the leans between marks, ± 10 %"
    )


def test_a_bend_the_other_way_has_its_sign() -> None:
    assert bend_beside(LEANS, lambda: sweeps(-0.2, 0.1)).endswith(
        "−20 % of its bend kept, −30 to −10"
    )
