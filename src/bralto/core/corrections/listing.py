"""The corrections of one drawing: the marks of both pictures in, a list of moves in words out."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.corrections.amounts import usual_amounts
from bralto.core.corrections.borne_out import checks
from bralto.core.corrections.candidates.composing import Lists
from bralto.core.corrections.candidates.moves import MoveKind
from bralto.core.corrections.causes import Again, Causes, find_causes
from bralto.core.corrections.correction_words import Correction, correction
from bralto.core.corrections.explained import Explained
from bralto.core.corrections.laying_out import ABOUT, Laid
from bralto.core.corrections.search import Found, Search
from bralto.core.heads.head_in_space import DEPTH
from bralto.core.measures.readings import Reading
from bralto.core.measures.units import Length
from bralto.core.results import NotMeasurable
from bralto.core.study.pairing import Pair
from bralto.core.study.values import Scale
from bralto.core.tolerances import Grade
from bralto.core.views.limb_tree import WORK
from bralto.core.views.model import MeasureSpec, View

__all__ = ["Listing", "list_corrections"]

_SEEN = 0.01
"""Heads; a mark that a move shifts by less stays where it is."""

_SHAKIEST = 0.8
"""A hand scatters by so much of the middle grade's tolerance at most, as an SD: 0.04 head on a
figure, a third more than the shakiest of `make simulate`."""

_SHIFTED = {"figure": 0.3, "part": 0.1}
"""SD, heads, by which a part or a mark of a figure, and of a head, may be drawn elsewhere (chosen
here, no source)."""


@dataclass(frozen=True, slots=True)
class Listing:
    """The corrections of a drawing, in the order of work, and what follows from each.

    Attributes:
        hand: SD of the hand's own scatter that the list leaves over, heads.
        score: what is left and what the moves cost (`search.Found`): less is better.
    """

    corrections: tuple[Correction, ...]
    causes: Causes
    hand: float
    score: float


def list_corrections(
    view: View,
    pair: Pair,
    laid: Laid,
    head: Length | NotMeasurable,
    scale: Scale,
    grade: Grade,
    readings: Sequence[Reading],
    intents: Mapping[str, float],
) -> Listing:
    """The shortest list of moves that measures bear out (measurement, sections 7 and 7b).

    Args:
        laid: the marks that both pictures of the pair have (`laying_out.lay_out`).
        readings: of every measure of the view.
        intents: by measure, the factor of what is meant.
    """
    shared = pair.shared_only()
    amounts = None
    if laid.implied is not None:  # of a body that was not sighted all over anything might be told
        amounts = usual_amounts(laid.candidates.moves, _SHIFTED[view.size])
    search = Search(
        laid.candidates, laid.seen, laid.drawn, laid.sd, grade.head,
        shakiest=_SHAKIEST * view.grade("developing").head, whole_scale=laid.whole_scale,
        implied=laid.implied, amounts=amounts,
    )  # fmt: skip

    as_read = readings if laid.implied is not None else ()
    again = Again(view, shared, scale, head, intents, as_read)

    def hold(found: Found, moves: Sequence[Explained]) -> _Held:
        ordered, places = sorted(moves, key=_place), _Places(laid, found)
        right, alone = places.away(ordered)
        left_over, *wrong = again.errors(np.concatenate([right[None], alone]))
        kinds = [one.move for one in ordered]
        each = np.array(wrong).reshape(-1, len(left_over))
        borne = checks(view, shared.seen.keys, kinds, left_over, each, readings)
        return _Held(found, ordered, borne, places, right, left_over, grade)

    def held(found: Found) -> _Held:
        return hold(found, found.moves)

    def borne_out(one: _Held) -> _Held:
        while one.unborne:
            kept = [other.move for other in one.moves if other not in one.unborne]
            one = held(search.fitted(kept))
        if one.quiet:  # it stays in the fit, beside which the others were found
            return hold(one.found, [other for other in one.moves if other not in one.quiet])
        return one

    first = held(search.found())
    best, barred = borne_out(first), [one.move for one in first.unborne]
    for _ in range(_AGAIN):
        if not barred:
            break
        without = search.found(barred)
        if without.score >= best.found.score:
            break  # and what of it is not borne out would go, which betters no list
        other = held(without)
        more = [one.move for one in other.unborne]
        best = min(best, borne_out(other), key=lambda one: one.found.score)
        barred = [*barred, *more] if more else []
    found, moves, borne = best.found, best.moves, best.checks
    after = best.places.in_turn(moves)
    causes = find_causes(again, best.left_over, best.right, after, readings)
    mm = laid.unit if shared.drawn.unit == "mm" else None
    greatest = max((one.share for one in moves), default=0.0)
    kept, before = [], np.zeros_like(laid.seen)
    for one, check, there in zip(moves, borne, after, strict=True):
        made = correction(view, _doubted(one, len(moves)), laid.seen, found.scale, mm, check)
        shifts = _shifts(there - before, laid.unit, shared.seen.keys)
        tied = tuple(i for i, other in enumerate(moves, 1) if other.move in one.tied)
        kept.append(replace(made, shifts=shifts, greatest=one.share == greatest, together=tied))
        before = there
    return Listing(tuple(kept), causes, found.hand, found.score)


_OTHERS = 0.1
"""Share of its variance that every other move on a list adds to a move's: which moves they are is
in doubt too, and a wrong one beside it takes some of its amount (chosen; weighed by `make
intervals`, where lists of two and three moves held in 91.9 to 94.4 % without)."""


def _doubted(one: Explained, many: int) -> Explained:
    """With the doubt of what else is on a list of so ``many`` moves; and of how deep a sitter's
    forms lie, where it is a turn of the head."""
    covariance = one.covariance * (1.0 + _OTHERS * (many - 1))
    if one.move.kind in _TURNS:
        covariance = covariance + (DEPTH * one.parameter[0]) ** 2
    return replace(one, covariance=covariance)


_AGAIN = 2
"""Times at most that the search begins anew without the moves that no measure bore out; of the
lists without them the one that explains the drawing best is told."""


@dataclass(frozen=True, slots=True)
class _Held:
    """Moves that were found, in the order of work, held against the measures: ``places``, where
    the marks lie with some of them put right, ``right`` (n, 2), how far they go once all are, and
    ``left_over`` (m,), the errors then."""

    found: Found
    moves: list[Explained]
    checks: tuple[MeasureSpec | None, ...]
    places: _Places
    right: Floats
    left_over: Floats
    grade: Grade

    @property
    def unborne(self) -> list[Explained]:
        """Other moves that no measure bears out. The whole is also borne out by all marks together,
        where it is beyond the tolerance."""
        return [one for one in self._unsaid if not self._stays(one)]

    @property
    def quiet(self) -> list[Explained]:
        """A whole, or a head in space, that is turned by too little to be told, and yet is."""
        return [one for one in self._unsaid if self._stays(one)]

    def _stays(self, one: Explained) -> bool:
        return _aslant(one) or (one.move.kind in _TURNS and self._slight(one))

    @property
    def _unsaid(self) -> list[Explained]:
        return [
            one
            for one, check in zip(self.moves, self.checks, strict=True)
            if (check is None and not self._beyond(one)) or self._slight(one)
        ]

    def _slight(self, one: Explained) -> bool:
        """Whether the whole is leaned or turned by less than a hand can mend; or a head by so
        little beside another turn of it that how deep its marks lie may be all of that."""
        size = abs(float(one.parameter[0]))
        if one.move.kind in _TURNS:
            turns = [abs(float(x.parameter[0])) for x in self.moves if x.move.kind in _TURNS]
            least = max(math.radians(self.grade.degrees / 3.0), _BESIDE * max(turns))
            return size < least
        return _aslant(one) and math.degrees(size) < self.grade.degrees / 3.0

    def _beyond(self, one: Explained) -> bool:
        """Whether the whole is leaned, turned or stretched by more than the grade allows."""
        size = abs(float(one.parameter[0]))
        if one.move.in_space:
            assert one.move.ways is not None
            return size * float(np.ptp(one.move.ways[0], axis=0).max()) > self.grade.head
        if one.move.part is not None or one.move.kind == "straighten":
            return False
        if one.move.kind in {"lean", "turn"}:
            return math.degrees(size) > self.grade.degrees
        return 100.0 * size > self.grade.percent


def _aslant(one: Explained) -> bool:
    return one.move.part is None and one.move.kind in {"lean", "turn"}


_TURNS: frozenset[MoveKind] = frozenset(ABOUT)

_BESIDE = 0.3
"""Of the greatest turn of a head another one is told from that share on (chosen: without one a
second turn was told in a third of `make simulate`'s turned heads)."""

_WHOLE: tuple[MoveKind, ...] = (
    "scale", "eye", "face", "nod", "tip", "turn", "lean", "stretch", "straighten", "twist",
)  # fmt: skip


def _place(one: Explained) -> tuple[int, int, int, bool, float]:
    """Place in the order of work: the whole before the part, from the root outwards, a pair before
    one side of it, the greater first."""
    move = one.move
    whole = _WHOLE.index(move.kind) if move.part is None else 0
    return WORK.index(move.work), whole, move.depth, not move.several, -one.share


class _Places:
    """Where the marks lie with some moves left wrong and the others put right, each worked out
    once."""

    def __init__(self, laid: Laid, found: Found) -> None:
        self._seen, self._scale = laid.seen, found.scale * laid.unit
        self._place = {id(move): at for at, move in enumerate(laid.candidates.moves)}
        self._known: dict[tuple[int, ...], Floats] = {}

    def with_left(self, lists: Sequence[Sequence[Explained]]) -> Floats:
        """(l, n, 2) drawing units, with only the moves of each list left wrong."""
        ordered = [sorted(one, key=lambda other: self._place[id(other.move)]) for one in lists]
        keys = [tuple(self._place[id(one.move)] for one in moves) for moves in ordered]
        new = {
            key: moves for key, moves in zip(keys, ordered, strict=True) if key not in self._known
        }
        if new:
            composed = Lists(
                [[one.move for one in moves] for moves in new.values()], len(self._seen)
            )
            theta = np.zeros((len(new), composed.most))
            for row, moves in zip(theta, new.values(), strict=True):
                by = np.concatenate([*(one.parameter for one in moves), np.zeros(0)])
                row[: len(by)] = by
            places = self._scale * composed.at(theta, self._seen)[0]
            self._known |= zip(new, places, strict=True)
        return np.array([self._known[key] for key in keys]).reshape(-1, *self._seen.shape)

    def away(self, moves: Sequence[Explained]) -> tuple[Floats, Floats]:
        """How far marks go, drawing units: with all moves put right (n, 2) and with each alone left
        wrong (k, n, 2)."""
        now, none, *alone = self.with_left([moves, (), *([one] for one in moves)])
        return none - now, np.array([one - now for one in alone]).reshape(-1, *now.shape)

    def in_turn(self, moves: Sequence[Explained]) -> Floats:
        """(k, n, 2) how far marks go, drawing units, with one move after the other put right."""
        now, *after = self.with_left([moves[i:] for i in range(len(moves) + 1)])
        return np.array([one - now for one in after]).reshape(-1, *now.shape)


def _shifts(away: Floats, unit: float, keys: Sequence[str]) -> dict[str, tuple[float, float]]:
    """By mark how far it goes; those that hardly move are left out."""
    far = np.hypot(away[:, 0], away[:, 1]) > _SEEN * unit
    return {
        key: (float(dx), float(dy))
        for key, (dx, dy), moved in zip(keys, away, far, strict=True)
        if moved
    }
