"""Array aliases, and a median without overhead. Shapes are named in the docstring of each function
that takes or gives one."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

__all__ = ["Bools", "Floats", "Ints", "Pixels", "median"]

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.intp]
Bools = npt.NDArray[np.bool_]
Pixels = npt.NDArray[Any]
"""Pixels of a picture, (h, w) or (h, w, 3), of the type that the function says."""


def median(values: Floats) -> float:
    """Median of a (n,) array without NaN: `numpy.median` takes seven times as long over sixty, and
    it is asked for a dozen times an assessment."""
    half = len(values) // 2
    if len(values) % 2:
        return float(np.partition(values, half)[half])
    low, high = np.partition(values, (half - 1, half))[half - 1 : half + 1].tolist()
    return 0.5 * float(low + high)
