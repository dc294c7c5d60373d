"""The median, against that of the standard library."""

from __future__ import annotations

import statistics

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bralto.core.arrays import median


@given(st.lists(st.floats(-1e6, 1e6), min_size=1, max_size=80))
def test_it_is_the_one_in_the_middle_or_between_the_two(values: list[float]) -> None:
    given_before = np.array(values)
    kept = given_before.copy()
    assert median(given_before) == pytest.approx(statistics.median(values), rel=1e-12, abs=1e-12)
    assert (given_before == kept).all()
