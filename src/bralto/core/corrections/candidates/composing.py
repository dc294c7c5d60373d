"""Moves composed with the marks of a figure, with how the marks go by each amount.

Several lists of moves are composed side by side, with one array operation for all of them: a search
asks for half a dozen at a time, and on some thirty marks each operation costs more to begin than
to do. A mark is the complex number x + iy; a linear map of the plane is z -> a z + b conj(z), and
b is 0 where it only turns and scales.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import zip_longest

import numpy as np
import numpy.typing as npt

from bralto.core.arrays import Floats, Ints
from bralto.core.corrections.candidates.moves import Move, Step

__all__ = ["Lists", "compose"]

_Complex = npt.NDArray[np.complex128]

_Slot = tuple[Step | None, int, Floats | None, int]
"""A step by one parameter of a list, and a way that is added by another right after it: two of the
stages of its moves in one."""

_IDLE: _Slot = (None, 0, None, 0)


def _chain(moves: Sequence[Move]) -> list[_Slot]:
    """What a list does, one after the other, in as few slots as hold it."""
    out: list[_Slot] = []
    at = 0
    for move in moves:
        for one in move.stages:
            if one.way is None:
                out.append((one.step, at, None, 0))
            elif out and out[-1][2] is None:
                out[-1] = (*out[-1][:2], one.way, at + one.column)
            else:
                out.append((None, 0, one.way, at + one.column))
        at += move.size
    return out


def _complex(xy: Floats) -> _Complex:
    """(..., 2) array as (...) complex numbers."""
    return np.ascontiguousarray(xy).view(np.complex128)[..., 0]


def _plane(z: _Complex) -> Floats:
    """(...) complex numbers as (..., 2)."""
    return np.ascontiguousarray(z)[..., None].view(np.float64)


class Lists:
    """Lists of moves, made ready to be composed with n marks several times.

    Attributes:
        most: parameters of the longest.
    """

    def __init__(self, lists: Sequence[Sequence[Move]], n: int) -> None:
        """``lists`` are of moves bound to the marks (`Candidates.bound`), deepest first."""
        self.most = max((sum(move.size for move in one) for one in lists), default=0)
        self._rows = np.arange(len(lists))
        self._along: list[Floats | None] = []
        self._ways: list[tuple[_Complex, Ints] | None] = []
        still, no_way = Step(np.zeros((n, n)), np.zeros((2, 2)), False, 0.0), np.zeros((2, n, 2))
        steps: list[Step] = []
        by: list[int] = []
        for slot in zip_longest(*map(_chain, lists), fillvalue=_IDLE):
            done, own, ways, columns = zip(*slot, strict=True)
            taken = [still if one is None else one for one in done]
            steps += taken
            by += own
            moving = any(one is not None for one in done)
            self._along.append(np.array([one.along for one in taken]) if moving else None)
            self._ways.append(None)
            if any(way is not None for way in ways):
                fields = np.array([no_way if way is None else way for way in ways])
                self._ways[-1] = _complex(fields), np.array(columns)
        shape = (len(self._along), len(lists))
        self._by = np.array(by, np.intp).reshape(shape)
        self._share = np.array([one.by for one in steps], np.float64).reshape(shape)
        self._turning = np.array([one.turning for one in steps], np.float64).reshape(shape)
        generators = np.array([one.generator for one in steps], np.float64)
        (a, b), (c, d) = generators.reshape(*shape, 2, 2).transpose(2, 3, 0, 1)
        # The map that a generator is, as z -> first z + second conj(z).
        self._first, self._second = 0.5 * (a + d + 1j * (c - b)), 0.5 * (a - d + 1j * (c + b))
        self._skewed = self._second.any(axis=1).tolist()
        # Of which parameter a step is: 1 in its column.
        self._is = (self._by[..., None] == np.arange(self.most + 1)).astype(np.float64)

    def at(self, theta: Floats, start: Floats) -> tuple[Floats, Floats]:
        """Apply the moves of each list in order and differentiate.

        Args:
            theta: (l, k) array, the parameters of each list, in the order of its moves; what a list
                has no parameter for is not looked at.
            start: (n, 2) array of marks.

        Returns:
            The moved marks (l, n, 2) and d(marks) / d(parameter), (l, k, n, 2), 0 for parameters
            that a list has not.
        """
        # Marks and slopes side by side, so that a step takes them all in one product: the last
        # column is the marks, and those of moves yet to come stay 0.
        (n, _), k, many = start.shape, self.most, len(self._rows)
        planes = np.zeros((many, n, k + 1), np.complex128)
        planes[:, :, k] = _complex(start)
        if k:
            first, second, slopes, slopes_too = self._maps(theta)
        for j, (along, added) in enumerate(zip(self._along, self._ways, strict=True)):
            if along is not None:
                moved = (along @ planes.view(np.float64)).view(np.complex128)
                planes += first[j] * moved + moved[:, :, k:] * slopes[j]
                if self._skewed[j]:
                    turned = moved.conj()
                    planes += second[j] * turned + turned[:, :, k:] * slopes_too[j]
            if added is not None:
                ways, columns = added
                amount = theta[self._rows, columns][:, None]
                planes[:, :, k] += amount * (ways[:, 0] + amount * ways[:, 1])
                planes[self._rows, :, columns] += ways[:, 0] + 2.0 * amount * ways[:, 1]
        return _plane(planes[:, :, k]), _plane(planes[:, :, :k].transpose(0, 2, 1))

    def _maps(self, theta: Floats) -> tuple[_Complex, _Complex, _Complex, _Complex]:
        """What each step changes, z -> first z + second conj(z), (steps, l, 1, 1) each, and the
        same of its derivatives, in the columns of their parameters, (steps, l, 1, k + 1)."""
        amounts, turning = self._share * theta[self._rows, self._by], self._turning
        turned = np.exp(1j * amounts)
        first = turning * (turned - 1.0) + (1.0 - turning) * amounts * self._first
        slope = turning * 1j * turned + (1.0 - turning) * self._first
        own = self._is * self._share[..., None]
        return (
            first[..., None, None],
            (amounts * self._second)[..., None, None],
            (own * slope[..., None])[..., None, :],
            (own * self._second[..., None])[..., None, :],
        )


def compose(
    moves: Sequence[Move], parameters: Sequence[Floats], start: Floats
) -> tuple[Floats, Floats]:
    """Apply the moves of one list in order and differentiate.

    Args:
        moves: bound to ``start`` (`Candidates.bound`), deepest first.
        parameters: one (1,) or (2,) array a move.
        start: (n, 2) array of marks.

    Returns:
        The moved marks (n, 2) and d(marks) / d(parameter), (k, n, 2), in the order of the moves.
    """
    theta = np.concatenate([*parameters, np.zeros(0)])
    at, slopes = Lists([moves], len(start)).at(theta[None], start)
    return at[0], slopes[0]
