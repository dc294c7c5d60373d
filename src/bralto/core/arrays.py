"""Array aliases. Shapes are named in the docstring of each function that takes or gives one."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

__all__ = ["Bools", "Floats", "Ints", "Pixels"]

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.intp]
Bools = npt.NDArray[np.bool_]
Pixels = npt.NDArray[Any]
"""Pixels of a picture, (h, w) or (h, w, 3), of the type that the function says."""
