"""Doubts about how the photo was taken: from aside, so that it is a keystone."""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.scene import Scene
from bralto.core.study.two_boards import Board

__all__ = ["flattened", "how_taken", "projected"]

_TERMS = 0.045
"""Least projective term a whole figure's extent: a twentieth nearer at one end."""

_NARROWS = 0.85
"""Share of what an affine map leaves that a keystone may leave."""

_FEWEST = 10


def how_taken(scene: Scene) -> list[Doubt]:
    """A keystone, of a drawing whose sheet is not marked; to be held against what corrections
    explain (`Listing.score`), for long legs narrow a figure too."""
    if scene.drawn.sheet is not None or len(scene.keys) < _FEWEST:
        return []
    flat, aslant, terms = projected(scene.p, scene.q)
    size = float(np.hypot(*terms))
    if size < _TERMS or aslant > _NARROWS * flat:
        return []
    words = (
        "The drawing was photographed from aside: it narrows towards one end, as no hand draws it."
    )
    return [Doubt("keystone", (), Board.DRAWING, "flatten", words, "Mark the corners of the sheet")]


def flattened(p: Floats, q: Floats) -> Floats:
    """(n, 2) array: the drawing's marks without the projective terms that make them a keystone."""
    _, _, terms = projected(p, q)
    x = (p - p.mean(axis=0)) / float(np.ptp(p, axis=0).max())
    middle = q.mean(axis=0)
    flat: Floats = middle + (q - middle) * (1.0 + x @ terms)[:, None]
    return flat


def projected(p: Floats, q: Floats) -> tuple[float, float, Floats]:
    """Typical misses of an affine and of a projective map of p onto q, and its projective terms.

    The direct linear transform, linearised at the affine map (Hartley and Zisserman 2004, 4.1);
    misses in units of ``p``, the terms a unit of its largest extent.

    Args:
        p, q: (n, 2) arrays of the same marks.
    """
    size = float(np.ptp(p, axis=0).max())
    x = (p - p.mean(axis=0)) / size
    y = (q - q.mean(axis=0)) / max(float(np.ptp(q, axis=0).max()), 1e-12)
    design = np.zeros((2 * len(p), 8))
    design[0::2, :3] = design[1::2, 3:6] = np.column_stack([x, np.ones(len(p))])
    target = y.reshape(-1)
    flat = np.linalg.lstsq(design[:, :6], target, rcond=None)[0]
    at = design[:, :6] @ flat
    # y (1 + c . x) = A x + t, so the terms' columns are -y x.
    design[0::2, 6:] = -at[0::2, None] * x
    design[1::2, 6:] = -at[1::2, None] * x
    aslant = np.linalg.lstsq(design, target, rcond=None)[0]
    scale = float(np.sqrt(abs(np.linalg.det(flat.reshape(2, 3)[:, :2]))))
    left = [
        size / max(scale, 1e-12) * float(np.sqrt(2.0 * np.mean(np.square(target - fitted))))
        for fitted in (at, design @ aslant)
    ]
    return left[0], left[1], aslant[6:]
