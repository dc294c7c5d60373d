"""What moves cost a list: that many were looked at, that some are seldom, that two are opposed."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from bralto.core.arrays import Floats, Ints
from bralto.core.corrections.candidates.moves import Move
from bralto.core.corrections.fitting import Fits

__all__ = ["costs", "taken_back"]

_GAMMA = 0.7
"""How dear it is to have looked at many moves: 2 gamma log M for M of them (Chen and Chen 2008,
Biometrika 95, 759), on top of log N for N coordinates (Schwarz 1978)."""

_GAMMA_IMPLIED, _GAMMA_ODDS = 0.55, 0.65
"""The same where sightings imply the reference: what they leave open keeps most moves from being
told by chance; and where the trade's odds make usual ones cheap (weighed by `make sightings`)."""

_USUAL, _UNUSUAL, _OF_PAIR = -3.3, 1.3, 1.5
"""What moves cost besides where sightings imply the reference, as -2 log of the trade's odds: of
what teachers see often (`Move.usual`) and of all else, so that about half of all faults are usual
ones; and that only the shanks and not the legs are wrong, or the forearms and not the arms, which
few sightings do not tell from each other, 2 to 1 (which are usual is common practice, no source;
how much, weighed by `make sightings`)."""

_RANKED = 2.0
"""The most that the fix order of ties may cost: noise alone could have made that difference."""

_OPPOSED, _TAKEN_BACK = -0.5, 12.0
"""Cosine of what two moves do to the marks below which one takes back what the other gave, and
what that costs a list."""


def costs(moves: Sequence[Move], sizes: Ints, n: int, *, implied: bool) -> Floats:
    """(m,) array, what each move costs a list, as -2 log likelihood.

    Args:
        sizes: (m,) array, parameters of each.
        n: how many marks there are.
        implied: whether sightings imply the reference.
    """
    odds = _odds(moves) if implied else np.zeros(len(moves))
    gamma = _GAMMA if not implied else _GAMMA_ODDS if odds.any() else _GAMMA_IMPLIED
    each = math.log(2 * n) + 2.0 * gamma * math.log(max(len(moves), 1))
    ranks = np.array([move.rank for move in moves], np.float64)
    # A move of one mark in two directions is one thing to say: its second is not looked for.
    whole = each + (sizes - 1) * math.log(2 * n) + odds
    return np.asarray(whole + _RANKED * ranks / max(1.0, float(ranks.max(initial=1.0))))


def _odds(moves: Sequence[Move]) -> Floats:
    """(m,) array, what moves cost by the trade's odds; nothing where a view knows no usual ones."""
    usual = np.array([move.usual for move in moves], np.bool_)
    if not usual.any():
        return np.zeros(len(moves))
    hangs = np.array([move.of_pair for move in moves], np.bool_)
    return np.asarray(np.where(usual, _USUAL, _UNUSUAL) + _OF_PAIR * hangs)


def taken_back(fits: Fits) -> Floats:
    """(l,) array: what it costs lists that some of their moves take back from marks what others
    give."""
    many = max((len(sizes) for sizes in fits.sizes), default=0)
    if many < 2:
        return np.zeros(len(fits.sizes))
    own = np.zeros((len(fits.sizes), many, fits.theta.shape[1]))
    for one, sizes in zip(own, fits.sizes, strict=True):
        at = 0
        for move, size in enumerate(sizes):
            one[move, at : at + size] = 1.0
            at += size
    fields = own @ (fits.slopes * fits.theta[:, :, None])
    products = fields @ fields.swapaxes(1, 2)
    squares = np.einsum("lii->li", products)
    most = _OPPOSED**2 * squares[:, :, None] * squares[:, None, :]
    opposed = (products < 0.0) & (products * products > most)
    return np.asarray(_TAKEN_BACK * opposed.sum(axis=(1, 2)) / 2.0)
