"""The shortest list of moves that explains a drawing: several lists grown side by side.

The drawing is q = s (P with all moves composed) + t + noise. Scale s and shift t are free unless
the school holds the scale: where the figure lies and how large it is are no faults. A list is
worth what it explains (likelihood with the scatter of the hand unknown, but never finer than the
placing of marks and a practised hand) less what its moves cost. Each step tries the moves, and at
first the pairs of moves, that promise most in the linear approximation, fits each list anew and
keeps the best few; at last single moves are dropped and exchanged.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.candidates.moves import Candidates, Move
from bralto.core.corrections.costs import costs, taken_back
from bralto.core.corrections.explained import Explained, explained
from bralto.core.corrections.fitting import (
    LAST_ROUNDS,
    Fit,
    covariances,
    hand_of,
    pose_problem,
    refit,
    refit_lists,
)
from bralto.core.corrections.savings import Savings, savings_among

__all__ = ["Found", "Search"]

_MOST = 9
"""Moves at most, one a key from 1 to 9: a longer list is no help (common practice, no source)."""

_WIDTH, _TRIED, _PAIRS, _FITTED = 3, 4, 4, 7
"""Lists that are kept at each step, moves that each is tried with, pairs that the search may begin
with, and lists that are fitted at each step: chosen for speed, weighed by `make simulate`."""


@dataclass(frozen=True, slots=True)
class Found:
    """What a drawing's faults are.

    Attributes:
        scale: drawing heads a reference head, beside the moves.
        hand: SD of the hand's own scatter that the list leaves over, heads.
        moves: greatest first.
        score: what is left and what the moves cost, as -2 log likelihood: less is better.
    """

    scale: float
    hand: float
    moves: tuple[Explained, ...]
    score: float


@dataclass(frozen=True, slots=True)
class _List:
    """Rows of the chosen moves, deepest first, with their fit and what it is worth (less is
    better)."""

    rows: tuple[int, ...]
    fit: Fit
    score: float


class Search:
    """Lists of moves that make the reference into the drawing.

    What does not depend on which moves are looked for is worked out once: a listing searches
    several times, each time without moves that no measure bore out.
    """

    def __init__(
        self,
        candidates: Candidates,
        p: Floats,
        q: Floats,
        sd: Floats,
        tolerance: float,
        *,
        shakiest: float,
        whole_scale: bool = False,
        implied: Floats | None = None,
        amounts: Floats | None = None,
    ) -> None:
        """Get ready to search.

        Args:
            candidates: moves of the n marks, bound to ``p``.
            p: (n, 2) array, the reference in its own heads, sight frame (y up).
            q: (n, 2) array, the drawing in the same heads, so that its scale is near 1.
            sd: (n,) array, SD of placing each mark, both pictures together, heads.
            tolerance: heads; where every mark lies nearer than this to its place, nothing is named.
            shakiest: heads; what a hand may scatter at most, as an SD: more than that is a fault.
            whole_scale: the scale is held at 1, and the size of the whole may be wrong.
            implied: (2n, 2n) array, covariance of a reference that sightings imply; else None.
            amounts: (k,) array, SD about 0 of every parameter of the candidates, where marks may
                tell so little of it that any amount would do; None where they need no holding.
        """
        problem = self._problem = pose_problem(
            p, q, sd, tolerance, whole_scale=whole_scale, implied=implied
        )
        self._most = max(1.0, problem.scattered(shakiest))
        self._moves = candidates.moves
        held = None if amounts is None else amounts**-2.0
        self._savings: Savings = savings_among(candidates, problem, held)
        self._at_rest = candidates.tangents(problem.p)
        n = len(problem.p)
        self._free = 2 * n - (2 if problem.whole_scale else 3)
        self._costs = costs(self._moves, self._savings.sizes, n, implied=implied is not None)
        self._closed = np.zeros(len(self._moves), dtype=np.bool_)
        names = {(move.kind, move.part): i for i, move in enumerate(self._moves)}
        self._names = np.array([names[move.kind, move.part] for move in self._moves], np.intp)
        self._fitted: dict[tuple[int, ...], _List] = {}
        self._promised: dict[tuple[int, ...], Floats] = {}
        self._promised_pairs: Floats | None = None
        self._told: dict[tuple[int, ...], Found] = {}

    def found(self, barred: Collection[Move] = ()) -> Found:
        """The best list without the barred moves."""
        kept_out = {id(move) for move in barred}
        self._closed = np.array([id(move) in kept_out for move in self._moves], dtype=np.bool_)
        return self._in_full(self._polished(self._grown()))

    def fitted(self, only: Collection[Move]) -> Found:
        """The very moves given."""
        wanted = {id(move) for move in only}
        rows = tuple(i for i, one in enumerate(self._moves) if id(one) in wanted)
        return self._in_full(self._fit([(rows, None)])[0])

    def _in_full(self, found: _List) -> Found:
        """A list fitted to the last digit, with its doubts."""
        if found.rows not in self._told:
            self._told[found.rows] = self._worked_out(found)
        return self._told[found.rows]

    def _worked_out(self, found: _List) -> Found:
        picked = [self._moves[i] for i in found.rows]
        fit = refit(self._problem, picked, found.fit.parameters, rounds=LAST_ROUNDS)
        hand = hand_of(self._problem, fit)
        doubts, tied = covariances(self._problem, fit, picked, hand)
        moves = explained(picked, fit, doubts, tied)
        return Found(fit.scale, hand, moves, found.score)

    def _grown(self) -> _List:
        """The best list that growing comes upon."""
        best = self._fit([((), None)])[0]
        front = [best]
        while front and len(front[0].rows) < _MOST:
            wanting = [one for one in front if one.fit.worst > self._problem.tolerance]
            self._look_on(wanting)
            promised = [
                (score, rows, one) for one in wanting for score, rows in self._promising(one)
            ]
            # Each list once, from where it promises most.
            promised.sort(key=lambda found: found[0])
            source: dict[tuple[int, ...], _List] = {}
            for _, rows, one in promised:
                source.setdefault(rows, one)
            wider = self._fit(list(source.items())[:_FITTED])
            front = sorted(wider, key=lambda one: one.score)[:_WIDTH]
            if not front or front[0].score >= best.score:
                break
            best = front[0]
        return best

    def _polished(self, best: _List) -> _List:
        """The list with single moves dropped or exchanged as long as that makes it better."""
        for _ in range(2 * _MOST):
            better = next((one for one in self._near(best) if one.score < best.score - 1e-9), None)
            if better is None:
                break
            best = better
        return best

    def _near(self, one: _List) -> Iterable[_List]:
        shorter = [tuple(r for r in one.rows if r != row) for row in one.rows]
        kept = self._fit([(rows, one) for rows in shorter])
        yield from kept
        self._look_on(kept)
        yield from self._fit(
            [
                (tuple(sorted((*without.rows, row))), without)
                for without in kept
                for _, row in self._best_rows(without, 1)
            ]
        )

    def _promising(self, one: _List) -> list[tuple[float, tuple[int, ...]]]:
        """Lists that are one move longer, and the first of all two, with what they promise."""
        more: list[tuple[float, tuple[int, ...]]] = [
            (gain, (row,)) for gain, row in self._best_rows(one, _TRIED)
        ]
        if not one.rows:
            more += self._best_pairs(one)
        return [(one.score - gain, tuple(sorted((*one.rows, *rows)))) for gain, rows in more]

    def _best_rows(self, one: _List, many: int) -> list[tuple[float, int]]:
        """The moves that promise most, with by how much they better the list."""
        self._look_on([one])
        gains = np.where(self._closed, -np.inf, self._promised[one.rows])
        order = np.argsort(-gains)[:many]
        return [(float(gains[row]), int(row)) for row in order if gains[row] > 0.0]

    def _look_on(self, lists: Iterable[_List]) -> None:
        """Work out by how much each move betters each of some lists, side by side."""
        new = [one for one in lists if one.rows not in self._promised]
        if not new:
            return
        squares = np.array([one.fit.squares for one in new])[:, None]
        left = np.maximum(squares - self._savings.of([one.fit for one in new]), 0.0)
        gains = self._worth(squares) - self._worth(left) - self._costs
        # One part is said to do one thing once, whichever way of it.
        for one, row in zip(new, gains, strict=True):
            for chosen in one.rows:
                row[self._names == self._names[chosen]] = -np.inf
            self._promised[one.rows] = row

    def _best_pairs(self, empty: _List) -> list[tuple[float, tuple[int, ...]]]:
        single = self._savings.single
        if len(single) < 2:
            return []
        if self._promised_pairs is None:
            self._promised_pairs = self._gains_of_pairs(empty)
        gains = self._promised_pairs.copy()
        gains[self._closed[single]] = gains[:, self._closed[single]] = -np.inf
        best = np.argpartition(gains.ravel(), -_PAIRS)[-_PAIRS:] if gains.size > _PAIRS else [0]
        pairs = [divmod(int(flat), len(single)) for flat in best if gains.ravel()[flat] > 0.0]
        return [(float(gains[a, b]), (int(single[a]), int(single[b]))) for a, b in pairs]

    def _gains_of_pairs(self, empty: _List) -> Floats:
        """(m1, m1) array, by how much each two moves of one parameter better the empty list."""
        single, squares = self._savings.single, empty.fit.squares
        left = np.maximum(squares - self._savings.of_pairs(empty.fit), 0.0)
        costs = self._costs[single]
        gains: Floats = self._worth(squares) - self._worth(left) - costs[:, None] - costs[None, :]
        gains[np.tril_indices(len(single))] = -np.inf
        names = self._names[single]
        gains[(names[:, None] == names[None, :])] = -np.inf
        return gains

    def _worth(self, squares: Floats | float) -> Floats:
        """-2 log likelihood of what is left over, the scatter being what is left itself, but no
        less than that of a practised hand and no more than that of the shakiest."""
        each = np.asarray(squares) / self._free
        scatter = np.minimum(np.maximum(each, 1.0), self._most)
        worth: Floats = self._free * (np.log(scatter) + each / scatter)
        return worth

    def _fit(self, wanted: Sequence[tuple[tuple[int, ...], _List | None]]) -> list[_List]:
        """Lists of moves, each from the parameters of another or from rest; those that were not
        fitted yet are fitted side by side."""
        new = {rows: near for rows, near in wanted if rows not in self._fitted}
        if new:
            self._fit_anew(new)
        return [self._fitted[rows] for rows, _ in wanted]

    def _fit_anew(self, new: Mapping[tuple[int, ...], _List | None]) -> None:
        lists = [[self._moves[i] for i in rows] for rows in new]
        columns = [self._columns_of(rows) for rows in new]
        own = np.array([len(one) for one in columns])
        has = np.arange(own.max())[None, :] < own[:, None]
        start, held = np.zeros(has.shape), np.zeros(has.shape)
        flat = np.array([column for one in columns for column in one], np.intp)
        held[has] = self._savings.held[flat]
        start[has] = [
            by for rows, near in new.items() for row in rows for by in self._known(near, row)
        ]
        at_rest = None
        if not start.any():
            at_rest = np.zeros((*has.shape, *self._at_rest.shape[1:]))
            at_rest[has] = self._at_rest[flat]
        fits = refit_lists(self._problem, lists, start, ridges=held, at_rest=at_rest)
        scores = self._worth(np.square(fits.residual).sum(axis=1))
        scores = scores + (held * np.square(fits.theta)).sum(axis=1)
        scores = scores + taken_back(fits)
        for i, rows in enumerate(new):
            score = float(scores[i]) + float(self._costs[list(rows)].sum())
            self._fitted[rows] = _List(rows, fits.one(i), score)

    def _known(self, near: _List | None, row: int) -> list[float]:
        """The parameters of a move in a list, at rest where it has it not."""
        if near is None or row not in near.rows:
            return [0.0] * self._moves[row].size
        known: list[float] = near.fit.parameters[near.rows.index(row)].tolist()
        return known

    def _columns_of(self, rows: Iterable[int]) -> list[int]:
        """The columns of the parameters of moves, among those of all."""
        first, sizes = self._savings.first, self._savings.sizes
        return [first[row] + more for row in rows for more in range(sizes[row])]
