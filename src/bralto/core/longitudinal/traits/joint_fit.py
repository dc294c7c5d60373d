"""One drawing fitted by all of its traits at once, so that a big head is not a short body besides.

The moves of the search for corrections, all together, each held to 0 weakly: what the marks cannot
tell stays 0 and says so, and what they can tell goes to the move that says it shortest.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.amounts import usual_amounts
from bralto.core.corrections.candidates.moves import Candidates, Move
from bralto.core.corrections.fitting import Fit, hand_of, pose_problem, refit
from bralto.core.corrections.laying_out import Laid
from bralto.core.longitudinal.traits.trait_table import fit_spec, group_of, traits_of
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.views.model import View

__all__ = ["Amount", "JointFit", "fit_jointly"]

_KNOWN = 0.5
"""At least so much of an amount comes from the marks, and not from what it is held with."""

_LOST = 20.0
"""A mark that is so many tolerances from where all moves together put it: marks are exchanged, or
it is a drawing of something else."""


@dataclass(frozen=True, slots=True)
class Amount:
    """A figure with its standard uncertainty."""

    value: float
    u: float


@dataclass(frozen=True, slots=True, eq=False)
class JointFit:
    """All moves of a view fitted to one drawing.

    Attributes:
        laid: both pictures in the reference's heads.
        moves: deepest first; ``fit`` has their parameters.
        cov: (k, k) array of all parameters; ``known``, (k,) share of each that the marks tell.
        first: row of each move's first parameter.
        up: (2,) unit vector from chin to crown on the reference, or up where they do not show.
    """

    laid: Laid
    moves: tuple[Move, ...]
    fit: Fit
    cov: Floats
    known: Floats
    first: tuple[int, ...]
    up: Floats

    def mean(self, wanted: Sequence[tuple[str, str | None]]) -> Amount | None:
        """Mean of the amounts of those moves that there are; None where none can be told."""
        rows = [row for name in wanted if (row := self._row(name)) is not None]
        return self._combined(rows, [1.0 / len(rows)] * len(rows)) if rows else None

    def between(self, one: tuple[str, str | None], other: tuple[str, str | None]) -> Amount | None:
        """One amount less the other; None where either cannot be told."""
        rows = [self._row(one), self._row(other)]
        if rows[0] is None or rows[1] is None:
            return None
        return self._combined([rows[0], rows[1]], [1.0, -1.0])

    def raised(self, wanted: Sequence[tuple[str, str | None]]) -> Amount | None:
        """How much too high those moves together set a part, along the head's own axis, heads; None
        where none can be told."""
        first = [row for name in wanted if (row := self._row(name)) is not None]
        rows = [row + way for row in first for way in (0, 1)]
        return self._combined(rows, self.up.tolist() * len(first)) if rows else None

    def _row(self, name: tuple[str, str | None]) -> int | None:
        for move, row in zip(self.moves, self.first, strict=True):
            if (move.kind, move.part) == name:
                return row if self.known[row] >= _KNOWN else None
        return None

    def _combined(self, rows: Sequence[int], weights: Sequence[float]) -> Amount:
        theta = np.concatenate(self.fit.parameters)
        at = np.array(weights)
        kinds = {row: move.kind for move, row in zip(self.moves, self.first, strict=True)}
        # Relative sizes as logarithms: 10 % more and 10 % less are as far apart then.
        sized = np.array([kinds.get(row) in _SIZES for row in rows])
        found = theta[list(rows)]
        grown = np.maximum(1.0 + found, _LEAST)
        values = np.where(sized, np.log(grown), found)
        slopes = at * np.where(sized, 1.0 / grown, 1.0)
        variance = float(slopes @ self.cov[np.ix_(rows, rows)] @ slopes)
        return Amount(float(at @ values), float(np.sqrt(max(variance, 0.0))))

    @property
    def whole(self) -> Floats:
        """(2, 2) array: what was surely done to the whole figure, about its middle; y up."""
        found = np.eye(2)
        for move, by in self._surely():
            for step in move.steps if move.part is None else ():
                found = (np.eye(2) + step.change(by)) @ found
        return found

    @property
    def in_space(self) -> Floats:
        """(n, 2) array: where the marks went because a head was surely turned, raised or tipped in
        space, heads; zeros of anything else."""
        found = np.zeros_like(self.laid.seen)
        for move, by in self._surely():
            if move.in_space and move.ways is not None:
                found += by * (move.ways[0] + by * move.ways[1])
        return found

    def _surely(self) -> Iterator[tuple[Move, float]]:
        """Moves of one amount that is surely not 0, and that amount."""
        for move, theta, row in zip(self.moves, self.fit.parameters, self.first, strict=True):
            by = float(theta[0])
            surely = abs(by) >= COVERAGE * float(np.sqrt(self.cov[row, row]))
            if move.size == 1 and surely and self.known[row] >= _KNOWN:
                yield move, by


_LEAST = 0.05
_ROUNDS = 3
"""Three rounds agree with six within an eighth of the uncertainty, on `make learners`' drawings."""

_SIZES = frozenset({"scale", "lengthen", "widen", "stretch"})


def fit_jointly(
    view: View, laid: Laid, keys: Sequence[str], grade: Grade
) -> JointFit | NotMeasurable:
    """Fit all traits of a view's group at once, see `Laid`.

    Args:
        keys: the marks that both pictures have, in the order of the rows.
    """
    spec = fit_spec(group_of(view.key))
    if spec is None:
        return NotMeasurable("no traits are asked of this view")
    moves = _chosen(group_of(view.key), laid.candidates)
    if not moves:
        return NotMeasurable("too few marks for any trait")
    ridge = usual_amounts(moves, spec.shift) ** -2.0
    problem = pose_problem(
        laid.seen, laid.drawn, laid.sd, grade.head,
        whole_scale=laid.whole_scale, implied=laid.implied,
    )  # fmt: skip
    start = [np.zeros(move.size) for move in moves]
    fit = refit(problem, moves, start, _ROUNDS, ridge)
    # Of a body that was sighted marks may be as far away as they are in doubt.
    lost = problem.joint is None and fit.worst > _LOST * grade.head
    if lost or not np.isfinite(fit.worst):
        return NotMeasurable("the marks are further apart than any drawing of the figure")
    hand = hand_of(problem, fit)
    first = fit.design.shape[1] - len(ridge)
    square = fit.design.T @ fit.design
    square[first:, first:] += np.diag(ridge)
    inverse = np.linalg.pinv(square)
    spread = inverse @ fit.design.T * problem.spread(hand)
    cov = (spread @ spread.T)[first:, first:]
    known = 1.0 - np.diag(inverse)[first:] * ridge
    starts = np.cumsum([0, *(move.size for move in moves)])[:-1]
    return JointFit(laid, moves, fit, cov, known, tuple(starts.tolist()), _up(view, laid, keys))


def _up(view: View, laid: Laid, keys: Sequence[str]) -> Floats:
    rows = [keys.index(key) for key in view.head if key in keys]
    line = laid.seen[rows[0]] - laid.seen[rows[1]] if len(rows) == 2 else np.array([0.0, 1.0])
    long = float(np.hypot(*line))
    return line / long if long > 0.0 else np.array([0.0, 1.0])


def _chosen(group: str, candidates: Candidates) -> tuple[Move, ...]:
    found: dict[tuple[str, str | None], Move] = {}
    for move in candidates.moves:
        name = (move.kind, move.part)
        if name not in found and not move.both and _asked(group, *name):
            found[name] = move
    return tuple(found.values())


@lru_cache(maxsize=2048)
def _asked(group: str, kind: str, part: str | None) -> bool:
    """Whether a move is a trait's, stands beside the traits, or is of the whole."""
    if part is None:
        return kind in {"stretch", "lean", "turn", "face", "nod", "tip"}
    spec = fit_spec(group)
    assert spec is not None
    if any((kind, part) in trait.moves for trait in traits_of(group)):
        return True
    return any(
        one == kind and (part.startswith(of[:-1]) if of.endswith("*") else part == of)
        for one, of in spec.beside
    )
