"""Points spread over the surfaces of the figure's parts."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.mannequin.body.joints import data_path
from bralto.core.mannequin.body.made_ahead import MadeAhead
from bralto.core.mannequin.body.sculpt import distance, sculpts

__all__ = ["SKINS", "skin", "traced"]

SKINS = MadeAhead(
    __file__, "skins.npz", [Path(__file__).with_name("sculpt.py"), data_path("sculpt.toml")]
)
"""By part, the right side's left out: `skin`."""

_THERE, _ON = 5e-4, 2e-3
"""Heads from the surface at which a ray has come to it, and at which its point may count still."""


@lru_cache(maxsize=64)
def skin(part: str) -> Floats:
    """(n, 3) points spread over a part's surface, in its frame: what may touch the ground."""
    if part.endswith("_r"):
        return np.asarray(skin(part[:-1] + "l") * np.array([-1.0, 1.0, 1.0]))
    ahead = SKINS.given(part)
    return traced(part) if ahead is None else ahead


def traced(part: str) -> Floats:
    """`skin` of a part, made now."""
    sculpt = sculpts()[part]
    # Rays towards the masses meet what is small and lies on them.
    masses = [form for form in sculpt.forms if not form.cut and form.blend >= sculpt.blend]
    centres = [form.a for form in masses]
    centres += [form.b for form in masses if form.b is not None]
    ways = _spread(110)
    start = np.repeat(np.array(centres), len(ways), axis=0)
    way = np.tile(ways, (len(centres), 1))
    # From well outside inward, by what the distance allows at each step (sphere tracing).
    points = start + 1.3 * way
    going = np.arange(len(points))
    for _ in range(30):
        away = distance(sculpt, points[going])
        points[going] -= 0.9 * away[:, None] * way[going]
        going = going[np.abs(away) > _THERE]
    on = np.ones(len(points), bool)
    on[going] = np.abs(distance(sculpt, points[going])) < _ON
    found: Floats = points[on]
    return found


def _spread(count: int) -> Floats:
    """(count, 3) unit ways, evenly about a sphere (Fibonacci's spiral), and the six axes."""
    i = np.arange(count) + 0.5
    polar, turn = np.arccos(1.0 - 2.0 * i / count), np.pi * (1.0 + np.sqrt(5.0)) * i
    ring = np.sin(polar)
    ways = np.column_stack([ring * np.cos(turn), np.cos(polar), ring * np.sin(turn)])
    return np.vstack([ways, np.eye(3), -np.eye(3)])
