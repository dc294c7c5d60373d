"""Where the marks of a view usually lie, and how they scatter together: data, made by a script.

Made from the model (`tools/typical_places.py`, `make places`): bodies of many proportions in poses
by chance. It says where to look for a mark, never where a mark is.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cached_property, lru_cache
from importlib import resources

import numpy as np

from bralto.core.arrays import Floats

__all__ = ["FOLDER", "Typical", "typical_of"]

FOLDER = "data/typical"


@dataclass(frozen=True, eq=False)
class Typical:
    """Marks of many bodies in one view, in heads, y down.

    Attributes:
        keys: the marks.
        mean: (n, 2) array.
        cov: (2 n, 2 n) array, heads squared, x and y of each mark side by side.
    """

    keys: tuple[str, ...]
    mean: Floats
    cov: Floats

    @cached_property
    def row(self) -> dict[str, int]:
        """Where a mark stands in ``keys``."""
        return {key: i for i, key in enumerate(self.keys)}


@lru_cache
def typical_of(view_key: str) -> Typical | None:
    """What is known of a shipped view, or None where nothing is."""
    path = resources.files(__package__) / FOLDER / f"{view_key}.json"
    if not path.is_file():
        return None
    found = json.loads(path.read_text("utf-8"))
    ways, rest = np.array(found["ways"]), np.array(found["rest"])
    cov = ways.T @ ways + np.diag(np.square(rest))
    return Typical(tuple(found["marks"]), np.array(found["mean"]).reshape(-1, 2), cov)
