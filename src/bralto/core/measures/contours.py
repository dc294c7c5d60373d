"""How far two outlines lie apart where they lie farthest apart (the Hausdorff distance).

The function that Shapely has for it asks the corners alone; the farthest place may be in the
middle of a side.
"""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Floats, Ints

__all__ = ["contours_apart"]

_PER_SIDE = 32
"""Places that are asked on each side before the farthest is made exact."""

_GOLDEN = 0.6180339887498949
_STEPS = 36
"""Of golden section: they leave 1e-9 of a side."""


def contours_apart(ones: Floats, twos: Floats) -> Floats:
    """The largest distance of each of k pairs of closed outlines.

    Args:
        ones, twos: (k, n, 2) and (k, m, 2) corners, in any unit. The first pair is the one that
            is asked about, the others are the same with a corner moved a little: their farthest
            place lies beside the first's, so it is sought along the first's side alone.

    Returns:
        (k,) in the same unit.
    """
    best, outlines, others, share = -1.0, ones, twos, 0.0
    for whose, other in ((ones, twos), (twos, ones)):
        shares = np.arange(0.0, whose.shape[1], 1.0 / _PER_SIDE)
        rows = np.zeros(len(shares), dtype=np.intp)
        away = _away(_place(whose, rows, shares), other[:1])
        at = int(np.argmax(away))
        if away[at] > best:
            best, outlines, others, share = float(away[at]), whose, other, float(shares[at])
    every = np.arange(len(outlines))

    def away_at(share: Floats) -> Floats:
        return _away(_place(outlines, every, share), others)

    low = np.full(len(every), share - 1.0 / _PER_SIDE)
    wide = 2.0 / _PER_SIDE
    left, right = away_at(low + (1.0 - _GOLDEN) * wide), away_at(low + _GOLDEN * wide)
    for _ in range(_STEPS):
        on, wide = left < right, _GOLDEN * wide
        low = np.where(on, low + (1.0 - _GOLDEN) / _GOLDEN * wide, low)
        kept = np.where(on, right, left)
        asked = away_at(low + np.where(on, _GOLDEN, 1.0 - _GOLDEN) * wide)
        left, right = np.where(on, kept, asked), np.where(on, asked, kept)
    return np.maximum(left, right)


def _place(outlines: Floats, rows: Ints, share: Floats) -> Floats:
    """(p, 2) places on outlines by their share of the corners: 2.5 is halfway along the third
    side."""
    sides, first = outlines.shape[1], np.floor(share).astype(np.intp)
    start, end = outlines[rows, first % sides], outlines[rows, (first + 1) % sides]
    found: Floats = start + (share - first)[:, None] * (end - start)
    return found


def _away(places: Floats, outlines: Floats) -> Floats:
    """(p,) distance of each place (p, 2) from its outline, (p, m, 2), or from the one there is."""
    along = np.roll(outlines, -1, axis=1) - outlines
    to = places[:, None] - outlines
    length = np.maximum((along * along).sum(axis=2), 1e-300)  # two corners may be one
    foot = np.clip((to * along).sum(axis=2) / length, 0.0, 1.0)
    off = to - foot[:, :, None] * along
    found: Floats = np.sqrt((off * off).sum(axis=2).min(axis=1))
    return found
