"""How much a sighting would do for what a drawing is told: whether the faults that teachers see
most would be named, if the drawing had them.

A drawing with a fault differs from what is known of the body along the marks' way of that move. In
the metric of all that is doubtful (the body's covariance, the hand's scatter; place and size are
free) the length of that way is its distance from a sound drawing in standard deviations, and what
of it is square to the way of another move is its distance from all drawings with that other fault.
One more sighting adds h h^T / e to the products of the ways (linear-Gaussian, exact; Chaloner and
Verdinelli 1995, Statistical Science 10, 273).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Bools, Floats, Ints
from bralto.core.corrections.candidates.moves import Candidates, MoveKind
from bralto.core.corrections.candidates.tree import moves_for
from bralto.core.corrections.fitting import practised_hand
from bralto.core.sightings.figure.implied import Implied
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

__all__ = ["faults_told"]

_DRAWN: dict[MoveKind, float] = {"scale": 0.15, "tilt": math.radians(8.0)}
"""How much of a fault a drawing has that should be named (relative size, radians)."""

_OF_POSE: frozenset[MoveKind] = frozenset({"straighten", "swing", "shift"})
"""What else the same drawing may be said to have: sizes and turns, but not these, for speed."""

_NAMED, _VARIES = 3.0, 2.0
"""Standard deviations at which every second fault of a size would be named, and by how many that
differs: faults are smaller and larger, too (chosen here, weighed by `make sightings`)."""

_SMALL = 0.1
"""A chance of being named that is well under this counts as none: what is far from being told is
worth no sighting yet (chosen here, weighed by `make sightings`)."""

_LEAST = 1e-12
"""Of a variance, heads squared or without unit; never quite nothing."""


@dataclass(frozen=True, slots=True, eq=False)
class _Faults:
    """What may be wrong with the drawing of a view.

    Attributes:
        rows: x and y of the marks that are drawn, among all that are implied.
        moves: of one amount. ``usual`` (j,), those among them that teachers see most; ``drawn``
            (j,), how much of each a drawing has; ``alike`` (j, m), which are about the same part.
    """

    rows: Ints
    moves: Candidates
    usual: Ints
    drawn: Floats
    alike: Bools


@lru_cache(maxsize=64)
def _faults(view: View, keys: tuple[str, ...]) -> _Faults:
    """Of a view whose marks ``keys`` are implied, without what is often out of sight and need not
    be drawn."""
    at = [i for i, key in enumerate(keys) if not view.is_beyond((key,))]
    shown = tuple(keys[i] for i in at)
    moves = [
        one for one in moves_for(view, shown).moves if one.size == 1 and one.kind not in _OF_POSE
    ]
    usual = [
        i for i, one in enumerate(moves) if one.usual and not one.of_pair and one.kind in _DRAWN
    ]
    alike = np.array([[one.part == moves[i].part for one in moves] for i in usual], np.bool_)
    rows = np.ravel([[2 * i, 2 * i + 1] for i in at]).astype(np.intp)
    drawn = np.array([_DRAWN[moves[i].kind] for i in usual])
    return _Faults(rows, Candidates(moves), np.array(usual, np.intp), drawn, alike)


def faults_told(
    view: View, implied: Implied, grade: Grade, cov: Floats, spread: Floats, own: Floats
) -> Floats:
    """(k,) array, by how much each sighting betters the log of the chances that the usual faults
    are named, of all of them together; zeros where a view knows no usual ones.

    Args:
        implied: what is known. cov: (2n, 2n) array, of its marks, heads squared.
        spread: (k, 2n) array, covariance of each sighting with the marks. own: (k,) its variance
            as it would be taken.
    """
    faults = _faults(view, implied.marks.keys)
    if not len(faults.usual) or not len(spread):
        return np.zeros(len(spread))
    marks = implied.marks.xy.reshape(-1)[faults.rows].reshape(-1, 2)
    ways = faults.moves.bound(marks).tangents(marks).reshape(len(faults.moves.moves), -1)
    free = _size_and_place(marks)
    hand = np.eye(len(faults.rows)) * practised_hand(grade.head) ** 2
    weight = np.linalg.inv(cov[np.ix_(faults.rows, faults.rows)] + hand)
    # What each sighting tells of the marks, beside which so much of it is its own.
    drawn = spread.T[faults.rows]
    weighed = weight @ drawn
    own = own - (drawn * weighed).sum(axis=0)
    # The size and place of the whole, which are free, take their part of the ways and of that.
    held = free @ weight
    taken = np.linalg.solve(held @ free.T, np.hstack([held @ ways.T, held @ drawn]))
    ways_taken, drawn_taken = taken[:, : len(ways)], taken[:, len(ways) :]
    products = ways @ weight @ ways.T - (held @ ways.T).T @ ways_taken
    more = ways @ weighed - (held @ ways.T).T @ drawn_taken
    own = own + ((held @ drawn) * drawn_taken).sum(axis=0)
    more = more / np.sqrt(np.maximum(own, _LEAST))
    now = _worth(faults, products, np.zeros((len(ways), 1)))
    return np.asarray(_worth(faults, products, more) - now, np.float64)


def _size_and_place(marks: Floats) -> Floats:
    """(3, 2n) array, how (n, 2) marks go with the place of the whole and its size."""
    n = len(marks)
    return np.array([np.tile([1.0, 0.0], n), np.tile([0.0, 1.0], n), marks.ravel()])


def _worth(faults: _Faults, products: Floats, more: Floats) -> Floats:
    """(k,) array, the log of all chances of being named.

    Args:
        products: (m, m) array, of the ways of all moves with each other.
        more: (m, k) array, square roots of what each sighting adds to that.
    """
    from scipy.special import ndtr  # SciPy is loaded when it is first needed

    usual = faults.usual
    squares = products.diagonal()[:, None] + np.square(more)
    crossed = products[usual][:, :, None] + more[usual][:, None, :] * more[None]
    square_to = squares[usual][:, None, :] - np.square(crossed) / np.maximum(squares, _LEAST)
    square_to[faults.alike] = np.inf
    apart = np.sqrt(np.maximum(square_to.min(axis=1), 0.0)) * faults.drawn[:, None]
    far = np.sqrt(squares[usual]) * faults.drawn[:, None]
    chances = ndtr((far - _NAMED) / _VARIES) * ndtr(0.5 * apart)
    return np.asarray(np.log(_SMALL + chances).sum(axis=0), np.float64)
