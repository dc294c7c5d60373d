"""The implied figure in the reference's place: as a picture without pixels, paired with a drawing.

A figure check is held against what the sightings alone say of it. The typical figure is only a
means of reckoning: what it adds to a check is taken out again, and a check of which the sightings
alone say little is not read at all. An average is a question, never a verdict on a body.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.canons.figure import HEAD_PX
from bralto.core.measures.table import LENGTH_KINDS, MeasureTable
from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.alone import sighted_checks
from bralto.core.sightings.figure.beside import beside_drawing
from bralto.core.sightings.figure.formulas import sights_itself
from bralto.core.sightings.figure.implied import Implied, checks_of, imply
from bralto.core.sightings.figure.known_before import EXACT
from bralto.core.sightings.figure.read_off import on_paper
from bralto.core.study.frames import SightMarks
from bralto.core.study.pairing import Pair, pair_marks
from bralto.core.study.taken import Sightings, Sort
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture, Scale
from bralto.core.terms import School, Visibility
from bralto.core.uncertainty import variances_of
from bralto.core.views.model import View

__all__ = ["NOT_SIGHTED", "StandIn", "as_sighted", "body_marks", "implied_picture", "stand_in"]

_AIR = 0.7
"""Heads left free about the figure."""

_MOST_LEFT = 0.98
"""Share of its first variance beyond which a check tells nothing that can be reckoned with."""

NOT_SIGHTED = "a sighting of it"
"""What the reference lacks of a check that has no figure."""


@dataclass(frozen=True, slots=True, eq=False)
class StandIn:
    """What stands in the reference's place.

    Attributes:
        picture: without pixels, `HEAD_PX` px a head.
        pair: the marks that are known, linear about the body, beside a drawing's; in mm where
            sight-size was sighted.
        body: the one beside this drawing (`beside_drawing`).
    """

    picture: Picture
    pair: Pair
    body: Implied


@lru_cache(maxsize=16)
def implied_picture(implied: Implied) -> Picture:
    """The marks as a picture without pixels; their spread is the mean of both axes."""
    xy = implied.marks.xy
    low, high = xy.min(axis=0) - _AIR, xy.max(axis=0) + _AIR
    spread = np.sqrt(np.einsum("nkk->n", implied.marks.cov) / 2.0)
    marks = {}
    for key, (x, y), sd in zip(implied.marks.keys, xy, spread, strict=True):
        at = HEAD_PX * float(x - low[0]), HEAD_PX * float(high[1] - y)
        marks[key] = Mark(*at, visibility=Visibility.INFERRED, spread=HEAD_PX * float(sd))
    wide, tall = np.ceil((high - low) * HEAD_PX)
    return Picture("", int(wide), int(tall), marks)


def stand_in(
    view: View, sightings: Sightings, drawing: Picture, scale: Scale
) -> StandIn | tuple[Board, NotMeasurable]:
    """The implied figure beside a drawing, or whose fault it is that there is none, and why.

    Args:
        scale: how lengths of the drawing are counted.
    """
    implied = imply(view, sightings.items)
    if isinstance(implied, NotMeasurable):
        return Board.REFERENCE, implied
    picture = implied_picture(implied)
    pair = pair_marks(view, picture, drawing)
    if not isinstance(pair, Pair):
        return pair
    held = scale.school == School.SIGHT_SIZE
    size = _lengths(implied, sightings)[0] if held else None
    body = beside_drawing(view, implied, pair, size=size)
    seen = _in_lengths(body, sightings).picked(pair.seen.keys)
    return StandIn(picture, replace(pair, seen=seen), body)


def _in_lengths(implied: Implied, sightings: Sightings) -> SightMarks:
    """All marks in px of the stand-in; in mm on the paper where sight-size was sighted, the doubt
    of how many mm a head is among the rest."""
    marks = implied.marks
    factor, unit = _lengths(implied, sightings)
    joint = implied.cov
    if unit == "mm":
        slopes = np.column_stack([np.eye(len(implied.cov)), marks.xy.ravel()])
        joint = slopes @ implied.whole @ slopes.T
    n = len(marks.keys)
    blocks = joint.reshape(n, 2, n, 2)[np.arange(n), :, np.arange(n), :]
    xy = marks.xy + implied.away.reshape(n, 2)
    return SightMarks(marks.keys, factor * xy, factor**2 * blocks, unit, factor**2 * joint)


def _lengths(implied: Implied, sightings: Sightings) -> tuple[float, str]:
    """How long a head is, and in which unit."""
    mm, times = implied.mm_per_head, on_paper(sightings)
    return (HEAD_PX, "px") if mm is None or times is None else (mm * times, "mm")


def body_marks(body: Implied, seen: SightMarks, head: float) -> SightMarks:
    """The marks of the body itself, of which the checks are read (`as_sighted`).

    Args:
        seen: those that stand in the reference's place (`StandIn.pair`), in units of which ``head``
            are one head.
    """
    return replace(seen, xy=seen.xy - head * body.away_of(seen.keys))


def as_sighted(view: View, implied: Implied, seen: MeasureTable, head: float) -> MeasureTable:
    """The figure checks as the sightings alone have them.

    A check that is normal with variance P before and V after its sightings was told by them with
    variance 1 / (1/V - 1/P), whatever else they told; its value follows likewise. One that is only
    told because bodies are usually alike has none (`alone.sighted_checks`). All that is linear, and
    a body that sits or lies is not: one that was sighted itself is what was sighted, where this
    would be further from it than its doubt.

    Args:
        seen: the checks of the implied marks, in units of which ``head`` are one head.
    """
    table = checks_of(view, implied)
    slopes = table.gradients.reshape(len(table.values), -1)
    after = variances_of(slopes, implied.cov)
    before = variances_of(slopes, implied.prior.cov)
    # The head itself has no doubt, before or after.
    sure = before <= _NOTHING
    left = np.where(sure, 0.0, after / np.where(sure, 1.0, before))
    itself = list(_itself(view, implied, slopes))
    told = sighted_checks(implied, slopes)
    told[[row for row, _, _ in itself]] = True
    told &= left <= _MOST_LEFT
    left = np.where(told, left, 0.0)
    beside = slopes @ implied.away
    usual = slopes @ (implied.prior.mean - implied.marks.xy.ravel()) - beside
    lengths = np.array([spec.kind in LENGTH_KINDS for spec in view.measures])
    per = np.where(lengths, head, 1.0)
    more, wider = beside - usual * left / (1.0 - left), 1.0 / np.sqrt(1.0 - left)
    for row, away, u in itself:
        if abs(away - more[row]) > u and after[row] > _NOTHING:
            more[row], wider[row] = away, u / math.sqrt(after[row])
    values = seen.values + per * more
    gradients = seen.gradients * wider[:, None, None]
    missing = tuple(
        lacks or ("" if one else NOT_SIGHTED) for lacks, one in zip(seen.missing, told, strict=True)
    )
    return MeasureTable(values, seen.ok & told, gradients, missing)


def _itself(view: View, implied: Implied, slopes: Floats) -> Iterator[tuple[int, float, float]]:
    """Rows of the checks that were sighted themselves: by how much more than the implied marks have
    it, in heads where it is a length, and its doubt; of several the weighted mean.

    Args:
        slopes: (m, 2n) array, how the checks go with the marks.
    """
    found: dict[int, list[tuple[float, float]]] = {}
    turned = _turned(view, implied)
    for one, away, slope in zip(
        implied.items, implied.residuals.tolist(), implied.slopes[:, :-1], strict=True
    ):
        row = view.measure_rows.get(one.measure)
        if row is None or one.in_mm or one.sort.is_answer:
            continue
        u = max(one.u, EXACT)
        if not sights_itself(view, view.measures[row]):
            if turned is None:
                continue
            # What is true becomes what is along the head as far as it goes with the head's tilt.
            which, off, doubt = turned
            by = float((slopes[row] - slope) @ slopes[which] / (slopes[which] @ slopes[which]))
            away, u = away + by * off, math.hypot(u, by * doubt)
        found.setdefault(row, []).append((away, u**-2))
    for row, each in found.items():
        total = sum(weight for _, weight in each)
        yield row, sum(away * weight for away, weight in each) / total, total**-0.5


def _turned(view: View, implied: Implied) -> tuple[int, float, float] | None:
    """Row of the tilt of a head as a whole that was sighted, by how much more, and its doubt."""
    for one, away in zip(implied.items, implied.residuals.tolist(), strict=True):
        row = view.measure_rows.get(one.measure)
        if row is not None and one.sort is Sort.TILT and view.measures[row].against_plumb:
            return row, away, max(one.u, EXACT)
    return None


_NOTHING = 1e-6
"""Variance of a check (its own unit squared) that is as good as none."""
