"""The run of a limb between its two edges: how it tapers, and where the edges bulge.

Edges of a limb bulge out and in by turns, and those that lie opposite hardly ever at one height:
learners draw them as pairs of brackets, and the limb as a sausage (common practice, no source).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.action.bend import Doubted
from bralto.core.action.curve import Curve
from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable

__all__ = ["QUARTERS", "Run", "run_of"]

QUARTERS = (0.25, 0.5, 0.75)
"""Shares of the way from the root to the end at which widths are taken."""

_SLIGHT = 1e-9


@dataclass(frozen=True, slots=True)
class Run:
    """A limb between two edges.

    Attributes:
        widths: at `QUARTERS`, square to its axis, in the curves' unit.
        taper: the last of them against the first.
        bulges: share of the way at which each edge lies farthest out from its own ends.
        uneven: the first edge's bulge less the other's: 0 where they lie opposite.
    """

    widths: tuple[Doubted, ...]
    taper: Doubted
    bulges: tuple[Doubted, Doubted]
    uneven: Doubted


def run_of(one: Curve, other: Curve) -> Run | NotMeasurable:
    """Both edges run the same way, from the root of the limb to its end."""
    every = np.concatenate([one.xy[None], one.draws]), np.concatenate([other.xy[None], other.draws])
    start = 0.5 * (every[0][:, 0] + every[1][:, 0])
    axis = 0.5 * (every[0][:, -1] + every[1][:, -1]) - start
    long = np.hypot(axis[:, 0], axis[:, 1])
    if float(one.xy[0] @ axis[0]) > float(one.xy[-1] @ axis[0]) or (
        float(other.xy[0] @ axis[0]) > float(other.xy[-1] @ axis[0])
    ):
        return NotMeasurable("the edges run against each other: draw both from the root outwards")
    if float(long.min()) <= _SLIGHT:
        return NotMeasurable("the limb has no length")
    along = axis / long[:, None]
    aside = np.stack([-along[:, 1], along[:, 0]], axis=1)
    widths, bulges = [], []
    places = [
        (_part(xy - start[:, None], along), _part(xy - start[:, None], aside)) for xy in every
    ]
    for share in QUARTERS:
        at = [_cross(way, out, share * long) for way, out in places]
        widths.append(np.abs(at[0] - at[1]))
    for (way, out), sign in zip(places, _sides(places), strict=True):
        rest = out - _chord(way, out)
        far = np.argmax(sign * rest, axis=1)
        bulges.append(np.take_along_axis(way, far[:, None], axis=1)[:, 0] / long)
    taper = widths[-1] / np.maximum(widths[0], _SLIGHT)
    return Run(
        tuple(_doubted(values) for values in widths),
        _doubted(taper),
        (_doubted(bulges[0]), _doubted(bulges[1])),
        _doubted(bulges[0] - bulges[1]),
    )


def _part(xy: Floats, unit: Floats) -> Floats:
    """(k, m) parts of places (k, m, 2) along unit vectors (k, 2)."""
    found: Floats = np.einsum("kmd,kd->km", xy, unit)
    return found


def _doubted(values: Floats) -> Doubted:
    """The first of them, with the scatter of the rest."""
    return Doubted(float(values[0]), float(values[1:].std()))


def _cross(way: Floats, out: Floats, at: Floats) -> Floats:
    """(k,) how far out each curve runs where it has come so far along the axis."""
    found = [float(np.interp(x, *_rising(w, o))) for w, o, x in zip(way, out, at, strict=True)]
    return np.array(found)


def _rising(way: Floats, out: Floats) -> tuple[Floats, Floats]:
    order = np.argsort(way)
    return way[order], out[order]


def _chord(way: Floats, out: Floats) -> Floats:
    """(k, m) how far out the straight line between a curve's ends runs."""
    first, last = out[:, :1], out[:, -1:]
    span = way[:, -1:] - way[:, :1]
    share = (way - way[:, :1]) / np.where(np.abs(span) > _SLIGHT, span, 1.0)
    chord: Floats = first + share * (last - first)
    return chord


def _sides(places: list[tuple[Floats, Floats]]) -> tuple[float, float]:
    """Which way is out for either edge: away from the other."""
    apart = float(places[0][1][0].mean() - places[1][1][0].mean())
    return (1.0, -1.0) if apart >= 0.0 else (-1.0, 1.0)
