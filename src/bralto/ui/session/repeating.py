"""Three blind passes over some marks: the same places set again without seeing where they were."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.marking.repeats import PooledSpread, by_kind, pooled_spread
from bralto.core.results import NotMeasurable
from bralto.core.study.snapped import unsnapped
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark
from bralto.core.terms import Visibility

__all__ = ["PASSES", "Repeating", "repeat"]

PASSES = 3
"""Placings of each mark; two more make little difference to the pooled spread."""

Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Repeating:
    """What has been placed, and what is asked for next.

    Attributes:
        board: where.
        order: every mark `PASSES` times; another order each time, so that the hand learns no path.
        placed: (x, y) image px of the first of them, as far as it has come.
    """

    board: Board
    order: tuple[str, ...]
    placed: tuple[Point, ...] = ()

    @property
    def asked(self) -> str | None:
        """The mark to place, or None when all passes are done."""
        return self.order[len(self.placed)] if self.left else None

    @property
    def left(self) -> int:
        """Placings still to come."""
        return len(self.order) - len(self.placed)

    def with_placing(self, x: float, y: float) -> Repeating:
        """One further placing, image px."""
        return replace(self, placed=(*self.placed, (x, y)))

    def spread(self) -> PooledSpread | NotMeasurable:
        """SD of placing one mark, image px."""
        return pooled_spread(self._placings().values())

    def hand(self, head_px: float) -> dict[str, PooledSpread]:
        """SD of placing a mark of each kind, heads."""
        return by_kind(self._placings(), head_px)

    def settled(self, marks: Mapping[str, Mark], found: PooledSpread) -> dict[str, Mark]:
        """The marks in the mean of their placings; all others get the spread that was found."""
        out, of = {}, self._placings()
        for key, mark in marks.items():
            placings = of.get(key)
            if placings:
                x, y = np.mean(placings, axis=0).tolist()
                out[key] = replace(
                    unsnapped(mark), x=x, y=y, spread=found.spread / len(placings) ** 0.5
                )
            elif mark.visibility == Visibility.SEEN:
                out[key] = replace(mark, spread=found.spread)
        return out

    def _placings(self) -> dict[str, list[Point]]:
        out: dict[str, list[Point]] = {key: [] for key in dict.fromkeys(self.order)}
        for key, at in zip(self.order, self.placed, strict=False):
            out[key].append(at)
        return out


def repeat(board: Board, keys: Sequence[str]) -> Repeating:
    """Ask for marks of a board, each `PASSES` times."""
    rng = np.random.default_rng(len(keys))
    order = [key for _ in range(PASSES) for key in rng.permutation(list(keys)).tolist()]
    return Repeating(board, tuple(order))
