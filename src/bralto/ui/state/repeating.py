"""Three blind passes over some marks: the same places set again without seeing where they were."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from bralto.core.repeats import PooledSpread, pooled_spread
from bralto.core.results import NotMeasurable
from bralto.core.study import Mark

__all__ = ["PASSES", "Repeating"]

PASSES = 3
"""Placings of each mark; two more make little difference to the pooled spread."""


class Repeating:
    """What has been placed, and what is asked for next. Orders differ from pass to pass, so that
    the hand does not learn a path."""

    def __init__(self, board: str, keys: Sequence[str]) -> None:
        self.board = board
        rng = np.random.default_rng(len(keys))
        self._order = [key for _ in range(PASSES) for key in rng.permutation(list(keys)).tolist()]
        self._placings: dict[str, list[tuple[float, float]]] = {key: [] for key in keys}
        self._done = 0

    @property
    def asked(self) -> str | None:
        """The mark to place, or None when all passes are done."""
        return self._order[self._done] if self._done < len(self._order) else None

    @property
    def left(self) -> int:
        """Placings still to come."""
        return len(self._order) - self._done

    def place(self, x: float, y: float) -> str:
        """Take a placing, image px; gives the mark that it was of."""
        key = str(self._order[self._done])
        self._placings[key].append((x, y))
        self._done += 1
        return key

    def spread(self) -> PooledSpread | NotMeasurable:
        """SD of placing one mark, image px."""
        return pooled_spread(self._placings.values())

    def settled(self, marks: Mapping[str, Mark], found: PooledSpread) -> dict[str, Mark]:
        """The marks in the mean of their placings; all others get the spread that was found."""
        out = {}
        for key, mark in marks.items():
            placings = self._placings.get(key)
            if placings:
                x, y = np.mean(placings, axis=0).tolist()
                out[key] = replace(mark, x=x, y=y, spread=found.spread / len(placings) ** 0.5)
            elif mark.visibility == "seen":
                out[key] = replace(mark, spread=found.spread)
        return out
