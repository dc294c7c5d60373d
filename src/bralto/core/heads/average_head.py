"""Where the marks of a head lie in space on the average, and how sitters differ: data, made by a
script.

Made from the model's heads with many faces (`tools/average_head.py`, `make places`). What a picture
does not show, how far each mark stands out towards the eye, is known by this alone.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cached_property, lru_cache
from importlib import resources

import numpy as np

from bralto.core.arrays import Floats

__all__ = ["FOLDER", "AverageHead", "average_head"]

FOLDER = "data"


@dataclass(frozen=True, eq=False)
class AverageHead:
    """Marks of many heads in their own frame: origin at the joint of the neck, x to the sitter's
    left, y up, z out of the face; one unit is one head, crown to chin.

    Attributes:
        keys: the marks; a view from the side has those of the sitter's left. ``hair``, those of
            them that lie on the hair, which is cut as one likes.
        mean: (n, 3) array.
        ways: (k, n, 3) array, how heads differ: each is one standard deviation, and they are not
            correlated.
    """

    keys: tuple[str, ...]
    hair: frozenset[str]
    mean: Floats
    ways: Floats

    @cached_property
    def row(self) -> dict[str, int]:
        """Where a mark stands in ``keys``."""
        return {key: i for i, key in enumerate(self.keys)}


@lru_cache
def average_head(view_key: str) -> AverageHead | None:
    """What is known of a shipped view of the head, or None where it is none."""
    path = resources.files(__package__) / FOLDER / f"{view_key}.json"
    if not path.is_file():
        return None
    found = json.loads(path.read_text("utf-8"))
    n = len(found["marks"])
    mean, ways = np.array(found["mean"]), np.array(found["ways"])
    return AverageHead(
        tuple(found["marks"]), frozenset(found["hair"]), mean.reshape(n, 3), ways.reshape(-1, n, 3)
    )
