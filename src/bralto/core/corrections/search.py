"""The shortest list of moves that explains a drawing: several lists grown side by side.

The drawing is q = s (P with all moves composed) + t + noise. Scale s and shift t are free unless
the school holds the scale: where the figure lies and how large it is are no faults. A list is
worth what it explains (likelihood with the scatter of the hand unknown, but never finer than the
placing of marks and a practised hand) less what its moves cost. Each step tries the moves, and at
first the pairs of moves, that promise most in the linear approximation, fits each list anew and
keeps the best few; at last single moves are dropped and exchanged.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.explained import Explained, explained
from bralto.core.corrections.fitting import (
    LAST_ROUNDS,
    Fit,
    covariances,
    hand_of,
    pose_problem,
    refit,
)
from bralto.core.corrections.moves import Candidates, Move
from bralto.core.corrections.savings import Savings, savings_among

__all__ = ["Found", "Search"]

_MOST = 9
"""Moves at most, one a key from 1 to 9: a longer list is no help (common practice, no source)."""

_WIDTH, _TRIED, _PAIRS, _FITTED = 3, 4, 4, 7
"""Lists that are kept at each step, moves that each is tried with, pairs that the search may begin
with, and lists that are fitted at each step: chosen for speed, weighed by `make simulate`."""

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
        self._held = None if held is None else np.split(held, np.cumsum(candidates.sizes)[:-1])
        n = len(problem.p)
        self._free = 2 * n - (2 if problem.whole_scale else 3)
        odds = np.zeros(len(self._moves)) if implied is None else _odds(self._moves)
        gamma = _GAMMA if implied is None else _GAMMA_ODDS if odds.any() else _GAMMA_IMPLIED
        each = math.log(2 * n) + 2.0 * gamma * math.log(max(len(self._moves), 1))
        ranks = np.array([move.rank for move in self._moves]) if self._moves else np.zeros(0)
        # A move of one mark in two directions is one thing to say: its second is not looked for.
        costs = each + (self._savings.sizes - 1) * math.log(2 * n) + odds
        self._costs = costs + _RANKED * ranks / max(1.0, float(ranks.max(initial=1.0)))
        self._closed = np.zeros(len(self._moves), dtype=np.bool_)
        names = {(move.kind, move.part): i for i, move in enumerate(self._moves)}
        self._names = np.array([names[move.kind, move.part] for move in self._moves], np.intp)
        self._fitted: dict[tuple[int, ...], _List] = {}
        self._promised: dict[tuple[int, ...], Floats] = {}
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
        return self._in_full(self._fit(rows, {}))

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
        best = self._fit((), {})
        front = [best]
        while front and len(front[0].rows) < _MOST:
            promised = [
                (score, rows, one)
                for one in front
                if one.fit.worst > self._problem.tolerance
                for score, rows in self._promising(one)
            ]
            # Each list once, from where it promises most.
            promised.sort(key=lambda found: found[0])
            source: dict[tuple[int, ...], _List] = {}
            for _, rows, one in promised:
                source.setdefault(rows, one)
            most = list(source.items())[:_FITTED]
            wider = [self._fit(rows, self._parameters(one)) for rows, one in most]
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
        known = self._parameters(one)
        shorter = [tuple(r for r in one.rows if r != row) for row in one.rows]
        kept = [self._fit(rows, known) for rows in shorter]
        yield from kept
        for without in kept:
            for _, row in self._best_rows(without, 1):
                yield self._fit(tuple(sorted((*without.rows, row))), self._parameters(without))

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
        gains = self._gains(one).copy()
        # One part is said to do one thing once, whichever way of it.
        gains[self._closed] = -np.inf
        for row in one.rows:
            gains[self._names == self._names[row]] = -np.inf
        order = np.argsort(-gains)[:many]
        return [(float(gains[row]), int(row)) for row in order if gains[row] > 0.0]

    def _gains(self, one: _List) -> Floats:
        """(m,) array, by how much each move betters a list."""
        if one.rows not in self._promised:
            squares = one.fit.squares
            left = np.maximum(squares - self._savings.of(one.fit), 0.0)
            gains: Floats = self._worth(squares) - self._worth(left) - self._costs
            self._promised[one.rows] = gains
        return self._promised[one.rows]

    def _best_pairs(self, one: _List) -> list[tuple[float, tuple[int, ...]]]:
        single = self._savings.single
        if len(single) < 2:
            return []
        squares = one.fit.squares
        left = np.maximum(squares - self._savings.of_pairs(one.fit), 0.0)
        costs = self._costs[single]
        gains = self._worth(squares) - self._worth(left) - costs[:, None] - costs[None, :]
        gains[np.tril_indices(len(single))] = -np.inf
        names = self._names[single]
        gains[(names[:, None] == names[None, :])] = -np.inf
        gains[self._closed[single]] = gains[:, self._closed[single]] = -np.inf
        best = np.argpartition(gains.ravel(), -_PAIRS)[-_PAIRS:] if gains.size > _PAIRS else [0]
        pairs = [divmod(int(flat), len(single)) for flat in best if gains.ravel()[flat] > 0.0]
        return [(float(gains[a, b]), (int(single[a]), int(single[b]))) for a, b in pairs]

    def _worth(self, squares: Floats | float) -> Floats:
        """-2 log likelihood of what is left over, the scatter being what is left itself, but no
        less than that of a practised hand and no more than that of the shakiest."""
        each = np.asarray(squares) / self._free
        scatter = np.minimum(np.maximum(each, 1.0), self._most)
        worth: Floats = self._free * (np.log(scatter) + each / scatter)
        return worth

    def _columns_of(self, rows: Iterable[int]) -> list[int]:
        """The columns of the parameters of moves, among those of all."""
        first, sizes = self._savings.first, self._savings.sizes
        return [first[row] + more for row in rows for more in range(sizes[row])]

    def _parameters(self, one: _List) -> dict[int, Floats]:
        return dict(zip(one.rows, one.fit.parameters, strict=True))

    def _fit(self, rows: tuple[int, ...], known: dict[int, Floats]) -> _List:
        if rows not in self._fitted:
            moves = [self._moves[i] for i in rows]
            start = [known.get(i, np.zeros(self._moves[i].size)) for i in rows]
            at_rest = None if known else self._at_rest[self._columns_of(rows)]
            held = None if self._held is None else [self._held[i] for i in rows]
            ridge = np.concatenate(held) if held else None
            fit = refit(self._problem, moves, start, ridge=ridge, at_rest=at_rest)
            score = float(self._worth(fit.squares)) + float(self._costs[list(rows)].sum())
            if ridge is not None:
                score += float(ridge @ np.square(np.concatenate(fit.parameters)))
            back = _TAKEN_BACK * _taken_back(fit, moves)
            self._fitted[rows] = _List(rows, fit, score + back)
        return self._fitted[rows]


def _odds(moves: Sequence[Move]) -> Floats:
    """(m,) array, what moves cost by the trade's odds; nothing where a view knows no usual ones."""
    usual = np.array([move.usual for move in moves], np.bool_)
    if not usual.any():
        return np.zeros(len(moves))
    hangs = np.array([move.of_pair for move in moves], np.bool_)
    return np.asarray(np.where(usual, _USUAL, _UNUSUAL) + _OF_PAIR * hangs)


def _taken_back(fit: Fit, moves: Sequence[Move]) -> int:
    """How many pairs of moves are opposed in what they do to the marks they share."""
    if len(moves) < 2:
        return 0
    first = fit.design.shape[1] - sum(move.size for move in moves)
    begins = np.cumsum([0] + [move.size for move in moves[:-1]])
    by_column = fit.design[:, first:] * np.concatenate(fit.parameters)
    fields = np.add.reduceat(by_column, begins, axis=1)
    products = fields.T @ fields
    squares = products.diagonal()
    opposed = (products < 0.0) & (products * products > _OPPOSED**2 * squares[:, None] * squares)
    return int(opposed.sum()) // 2
