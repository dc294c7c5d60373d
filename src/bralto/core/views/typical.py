"""Where the marks of a view usually lie, and how they scatter together: data, made by a script.

Made from the model (`tools/typical_places.py`, `make places`): bodies of many proportions in poses
by chance. It says where to look for a mark, never where a mark is.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cached_property, lru_cache
from importlib import resources
from importlib.resources.abc import Traversable

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.views.model import View
from bralto.core.views.stances import Stance

__all__ = ["FOLDER", "Typical", "is_known", "other_side", "stances_of", "typical_of"]

FOLDER = "data/typical"


@dataclass(frozen=True, eq=False)
class Typical:
    """Marks of many bodies in one view, in heads, y down.

    Attributes:
        keys: the marks.
        mean: (n, 2) array.
        cov: (2 n, 2 n) array, heads squared, x and y of each mark side by side.
        starts: (k, n, 2) array, kinds of bodies among them, where they differ much; else none.
    """

    keys: tuple[str, ...]
    mean: Floats
    cov: Floats
    starts: Floats

    @cached_property
    def row(self) -> dict[str, int]:
        """Where a mark stands in ``keys``."""
        return {key: i for i, key in enumerate(self.keys)}

    def mirrored(self) -> Typical:
        """As in a looking glass: the model's right and left exchanged, or seen from its other
        side."""
        swapped = [self.row[other_side(key)] for key in self.keys]
        coords = np.ravel([(2 * i, 2 * i + 1) for i in swapped])
        signs = np.tile([-1.0, 1.0], len(self.keys))
        cov = self.cov[np.ix_(coords, coords)] * np.outer(signs, signs)
        flip = [-1.0, 1.0]
        return Typical(self.keys, self.mean[swapped] * flip, cov, self.starts[:, swapped] * flip)


def other_side(key: str) -> str:
    """The mark of the model's other side; itself where it has no side."""
    ends = {"_r": "_l", "_l": "_r"}
    return key[:-2] + ends[key[-2:]] if key[-2:] in ends else key


@lru_cache
def typical_of(
    view_key: str, stance: Stance = Stance.STANDING, *, said: bool = False
) -> Typical | None:
    """What is known of a shipped view, or None where nothing is.

    Args:
        said: that a model stands was said, and is not only what models usually do: then none that
            kneels, sits or lies counts among those of its view.
    """
    if stance.is_right:
        found = typical_of(view_key, stance.facing_left, said=said)
        return None if found is None else found.mirrored()
    name = f"{view_key}-{stance}"
    if stance is Stance.STANDING and not (said and _path(name).is_file()):
        name = view_key
    path = _path(name)
    if not path.is_file():
        return None
    read = json.loads(path.read_text("utf-8"))
    ways, rest = np.array(read["ways"]), np.array(read["rest"])
    cov = ways.T @ ways + np.diag(np.square(rest))
    n = len(read["marks"])
    starts = np.array(read.get("starts", []), np.float64).reshape(-1, n, 2)
    return Typical(tuple(read["marks"]), np.array(read["mean"]).reshape(n, 2), cov, starts)


@lru_cache
def is_known(view_key: str) -> bool:
    """Whether anything is known of a view; nothing is read for it."""
    return _path(view_key).is_file()


def _path(name: str) -> Traversable:
    return resources.files(__package__) / FOLDER / f"{name}.json"


@lru_cache
def stances_of(view: View) -> tuple[Stance, ...]:
    """How a model may be placed in a view, as it is usually first; none of a view of which nothing
    is known.

    From the front and from behind one that stands or sits has no side to face to.
    """
    return tuple(
        one for one in Stance
        if typical_of(view.key, one) is not None
        and (not one.is_right or one.is_lying or view.seen_from == "side")
    )  # fmt: skip
