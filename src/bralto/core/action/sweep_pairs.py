"""The action of one picture, and of two held against each other."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.action.bend import Bend, bend_of
from bralto.core.action.bend_kept import Kept, kept_of
from bralto.core.action.curve import FEWEST_POINTS, TOO_FEW, Curve, curve_through
from bralto.core.action.limbs import Run, run_of
from bralto.core.action.sweeps import WHOLE, Pair, sweep_sd, table_of
from bralto.core.discover.figures import Figure
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sight_points
from bralto.core.study.values import Picture
from bralto.core.tolerances import DEFAULT_SPREAD_PX
from bralto.core.views.model import View

__all__ = ["Sweep", "SweepPair", "limb_runs", "sweep_pairs", "sweeps_of"]


@dataclass(frozen=True, slots=True)
class Sweep:
    """A curve of one picture in its sight frame.

    Attributes:
        unit: what it is counted in, in units of the picture's sight frame.
        counted: ``head`` where lengths are heads of this picture, ``length`` where no head is
            marked yet and they are parts of the curve's own length.
    """

    name: str
    curve: Curve
    bend: Bend
    unit: float
    counted: str


@dataclass(frozen=True, slots=True)
class SweepPair:
    """One sweep on both pictures; ``kept`` is the share of its bend that was drawn."""

    name: str
    seen: Sweep | NotMeasurable
    drawn: Sweep | NotMeasurable
    kept: Kept | NotMeasurable


def sweeps_of(
    view: View, picture: Picture, figure: Figure | NotMeasurable
) -> Mapping[str, Sweep | NotMeasurable]:
    """Every curve that was drawn through a picture, by name."""
    return {
        name: _sweep(view, picture, figure, name, points) for name, points in picture.curves.items()
    }


def _sweep(
    view: View,
    picture: Picture,
    figure: Figure | NotMeasurable,
    name: str,
    points: tuple[tuple[float, float], ...],
) -> Sweep | NotMeasurable:
    if len(points) < FEWEST_POINTS:
        return NotMeasurable(TOO_FEW)
    px = np.array(points, dtype=np.float64).reshape(-1, 2)
    found = sight_points(picture, px, np.full(len(px), DEFAULT_SPREAD_PX))
    if isinstance(found, NotMeasurable):
        return found
    if isinstance(figure, NotMeasurable):
        counted, unit = "length", float(np.hypot(*np.diff(found.xy, axis=0).T).sum())
        if unit <= 0.0:
            return NotMeasurable("the sweep has no length")
        hand = sweep_sd(view) / view.tall
    else:
        counted, unit, hand = "head", figure.head.value, sweep_sd(view)
    placed = float(np.sqrt(np.einsum("nkk->n", found.cov).mean() / 2.0)) / unit
    curve = curve_through(found.xy / unit, float(np.hypot(hand, placed)))
    if isinstance(curve, NotMeasurable):
        return curve
    return Sweep(name, curve, bend_of(curve), unit, counted)


def sweep_pairs(
    seen: Mapping[str, Sweep | NotMeasurable],
    drawn: Mapping[str, Sweep | NotMeasurable],
    meant: float = 1.0,
) -> tuple[SweepPair, ...]:
    """Each curve of either picture held against the other's, the whole first; ``meant`` is by what
    the bend is pushed."""
    names = sorted({*seen, *drawn}, key=lambda name: (name != WHOLE, name))
    return tuple(_pair(name, seen.get(name), drawn.get(name), meant) for name in names)


def _pair(
    name: str,
    seen: Sweep | NotMeasurable | None,
    drawn: Sweep | NotMeasurable | None,
    meant: float,
) -> SweepPair:
    one = NotMeasurable("it is not drawn on the reference yet") if seen is None else seen
    two = NotMeasurable("it is not drawn on the drawing yet") if drawn is None else drawn
    if isinstance(one, NotMeasurable):
        return SweepPair(name, one, two, one)
    if isinstance(two, NotMeasurable):
        return SweepPair(name, one, two, two)
    two = _same_way(one, two)
    return SweepPair(name, one, two, kept_of(one.curve, two.curve, meant))


def _same_way(one: Sweep, two: Sweep) -> Sweep:
    """The second as if it was drawn from the same end as the first."""
    ways = [sweep.curve.xy[-1] - sweep.curve.xy[0] for sweep in (one, two)]
    if float(ways[0] @ ways[1]) >= 0.0:
        return two
    turned = curve_through(two.curve.points[::-1], two.curve.sd)
    if isinstance(turned, NotMeasurable):
        return two
    return replace(two, curve=turned, bend=bend_of(turned))


def limb_runs(
    view: View, sweeps: Mapping[str, Sweep | NotMeasurable]
) -> Mapping[Pair, Run | NotMeasurable]:
    """The run of every limb of which a picture has both edges."""
    out: dict[Pair, Run | NotMeasurable] = {}
    for pair in table_of(view).pairs:
        one, other = sweeps.get(pair.one), sweeps.get(pair.other)
        if isinstance(one, Sweep) and isinstance(other, Sweep):
            out[pair] = run_of(one.curve, other.curve)
    return out
