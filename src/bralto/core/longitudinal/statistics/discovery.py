"""Many questions at once: how many of the answers may be chance."""

from __future__ import annotations

import numpy as np

from bralto.core.arrays import Bools, Floats

__all__ = ["FALSE_SHARE", "discoveries"]

FALSE_SHARE = 0.10
"""So large a share of the habits that are told may be chance (chosen here, no source)."""


def discoveries(p: Floats, share: float = FALSE_SHARE) -> Bools:
    """Which of many may be told so that at most that share of them is false.

    Benjamini and Hochberg (1995, JRSS B 57, 289): the largest k with p_(k) <= k share / m, and all
    that are no larger.

    Args:
        p: (m,) array, the chance of each if there were nothing.
    """
    if not len(p):
        return np.zeros(0, dtype=np.bool_)
    ordered = np.sort(p)
    below = np.flatnonzero(ordered <= share * np.arange(1, len(p) + 1) / len(p))
    return np.asarray(p <= ordered[below[-1]]) if len(below) else np.zeros(len(p), dtype=np.bool_)
