"""Corners that both pictures have: proposed as points to measure by, never marked."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sight_points
from bralto.core.study.pairing import Pair, pair_marks
from bralto.core.study.values import Picture, Point
from bralto.core.views.model import View

__all__ = ["CommonCorners", "common_corners"]

_FEWEST = 3
"""Marks that both pictures must share: two fit any drawing (chosen here)."""

_REACH = 0.06
"""How far a drawn corner may lie from where the marks put it, parts of the marks' own extent: a
drawing is off by as much (chosen here)."""

_BESIDE = 0.04
"""Parts of that extent within which a corner is a mark that is set already."""

_AROUND = 0.1
"""Parts of that extent by which a corner may lie outside the marks."""


@dataclass(frozen=True, slots=True)
class CommonCorners:
    """Image px on each picture, pair by pair."""

    seen: tuple[Point, ...] = ()
    drawn: tuple[Point, ...] = ()


def common_corners(
    view: View, reference: Picture, drawing: Picture, seen: Floats, drawn: Floats, most: int = 12
) -> CommonCorners:
    """The corners of a reference that have one of the drawing near where the best fit of the marks
    puts them: of two pairs that share a corner the nearer one.

    Args:
        reference, drawing: with three shared marks at least; else there is no fit to go by.
        seen, drawn: (n, 2) and (m, 2) arrays, corners of each picture, image px, the strongest
            first.
        most: pairs that are kept, the strongest of the reference first.
    """
    pair = pair_marks(view, reference, drawing)
    if not isinstance(pair, Pair) or pair.shared < _FEWEST or not len(seen) or not len(drawn):
        return CommonCorners()
    fit = pair.best_fit()
    there, here = (
        sight_points(picture, px, np.zeros(len(px)))
        for picture, px in ((reference, seen), (drawing, drawn))
    )
    if isinstance(fit, NotMeasurable) or isinstance(there, NotMeasurable):
        return CommonCorners()
    if isinstance(here, NotMeasurable):
        return CommonCorners()
    known = pair.seen.xy[: pair.shared]
    low, high = known.min(axis=0), known.max(axis=0)
    extent = float(np.max(high - low))
    room = _AROUND * extent
    fits = np.all((there.xy >= low - room) & (there.xy <= high + room), axis=1)
    fits &= _clear(there.xy, pair.seen.xy, _BESIDE * extent)
    rows = np.flatnonzero(fits)
    reach = _REACH * extent * fit.scale
    expected = fit.scale * there.xy[rows] + fit.shift
    away = np.linalg.norm(expected[:, None] - here.xy[None], axis=2)
    away[:, ~_clear(here.xy, pair.drawn.xy, _BESIDE * extent * fit.scale)] = np.inf
    if not away.size:
        return CommonCorners()
    nearest = away.argmin(axis=1)
    pairs = [
        (int(rows[row]), int(column))
        for row, column in enumerate(nearest)
        if away[row, column] < reach and away[:, column].argmin() == row
    ][:most]
    return CommonCorners(
        tuple((float(seen[a, 0]), float(seen[a, 1])) for a, _ in pairs),
        tuple((float(drawn[b, 0]), float(drawn[b, 1])) for _, b in pairs),
    )


def _clear(places: Floats, marks: Floats, reach: float) -> Bools:
    """Whether each place keeps off all marks."""
    clear: Bools = np.linalg.norm(places[:, None] - marks[None], axis=2).min(axis=1) > reach
    return clear
