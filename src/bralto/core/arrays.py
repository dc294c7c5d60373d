"""Array aliases. Shapes are named in the docstring of each function that takes or gives one."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

__all__ = ["Bools", "Floats", "Ints"]

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.intp]
Bools = npt.NDArray[np.bool_]
