"""Edges of a picture: how much of a line is one, and where exactly an edge runs."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from bralto.core.arrays import Floats, Pixels

__all__ = ["EdgeMap", "Side", "curled_side", "fit_side"]

_SAMPLES = 60
_NOISE = 3.0
"""Grey levels a pixel that paper, grain and JPEG make by themselves."""

_PLAIN = 0.62
"""Share of the steepness about a line that must lie on it for a plain edge: white paper on white
paper is as plain as on a dark table."""


class EdgeMap:
    """The steepest change of colour at every pixel of a small picture."""

    def __init__(self, picture: Pixels) -> None:
        lab = cv2.cvtColor(picture, cv2.COLOR_RGB2LAB).astype(np.float32)
        lab = np.asarray(cv2.GaussianBlur(lab, (0, 0), 0.8))
        gx = cv2.Sobel(lab, cv2.CV_32F, 1, 0, scale=0.125)
        gy = cv2.Sobel(lab, cv2.CV_32F, 0, 1, scale=0.125)
        strongest = np.argmax(gx * gx + gy * gy, axis=2)[..., None]
        self._x = np.take_along_axis(gx, strongest, axis=2)[..., 0]
        self._y = np.take_along_axis(gy, strongest, axis=2)[..., 0]
        self.height, self.width = picture.shape[:2]

    def along(self, quads: Floats) -> Floats:
        """How much each sample of each side of (q, 4, 2) quadrilaterals is an edge, 0 to 1.

        An edge is steep across itself where it runs, and not a few pixels beside it: texture is
        steep everywhere.

        Returns:
            (q, 4, s) array.
        """
        start, end = quads, np.roll(quads, -1, axis=1)
        share = np.linspace(0.015, 0.985, _SAMPLES)
        delta = end - start
        at = start[:, :, None] + share[None, None, :, None] * delta[:, :, None]
        length = np.maximum(np.linalg.norm(delta, axis=2, keepdims=True), 1e-9)
        normal = np.stack([-delta[..., 1], delta[..., 0]], axis=2) / length

        def steep(offset: float) -> Floats:
            place = at + offset * normal[:, :, None]
            x = np.clip(np.round(place[..., 0] - 0.5), 0, self.width - 1).astype(np.intp)
            y = np.clip(np.round(place[..., 1] - 0.5), 0, self.height - 1).astype(np.intp)
            gx, gy = self._x[y, x], self._y[y, x]
            found: Floats = np.abs(gx * normal[..., None, 0] + gy * normal[..., None, 1])
            return found

        on = np.maximum(np.maximum(steep(0.0), steep(-1.0)), steep(1.0))
        beside = 0.25 * (steep(-5.0) + steep(5.0) + steep(-8.0) + steep(8.0))
        found: Floats = np.minimum(1.0, on / (on + beside + _NOISE) / _PLAIN)
        return found


@dataclass(frozen=True, slots=True)
class Side:
    """One side of a sheet as a low polynomial over its chord.

    Attributes:
        origin, along, across: (2,) arrays, the chord's start and unit vectors.
        curve: coefficients of the distance across over t = distance along / length: 1, t, t^2 ...
        length: of the chord, px.
        scatter: SD of the side's place at its ends, px.
        bow: how far its middle leaves the line through its ends, px.
        seen: share of it that was found.
    """

    origin: Floats
    along: Floats
    across: Floats
    curve: Floats
    length: float
    scatter: float
    bow: float
    seen: float

    def at(self, t: float) -> Floats:
        """(2,) point of the curve."""
        offset = float(self.curve @ t ** np.arange(len(self.curve)))
        place: Floats = self.origin + t * self.length * self.along + offset * self.across
        return place

    def bend(self, start: Floats, end: Floats) -> tuple[float, float, float]:
        """How far the curve lies to the left of the line between two places, (2,) px, seen along
        it with y down, at a quarter, half and three quarters of the way, px."""
        places = np.array([self.at(float(t)) for t in np.linspace(-0.05, 1.05, 111)]) - start
        along = (end - start) / np.linalg.norm(end - start)
        way = places @ along / float(np.linalg.norm(end - start))
        left = places @ np.array([along[1], -along[0]])
        a, b, c = np.interp((0.25, 0.5, 0.75), way, left).tolist()
        return a, b, c

    def _slope(self, t: float) -> float:
        powers = np.arange(1, len(self.curve))
        return float((powers * self.curve[1:]) @ t ** (powers - 1))

    def crossing(self, following: Side) -> Floats:
        """(2,) point near this side's end where the next side begins (Newton's method)."""
        s, t = 1.0, 0.0
        for _ in range(12):
            gap = following.at(t) - self.at(s)
            one = self.length * self.along + self._slope(s) * self.across
            two = following.length * following.along + following._slope(t) * following.across
            matrix = np.column_stack([one, -two])
            if abs(np.linalg.det(matrix)) < 1e-9:
                return np.array([np.nan, np.nan])
            step = np.linalg.solve(matrix, gap)
            s, t = s + step[0], t + step[1]
        return self.at(s)


def fit_side(grey: Pixels, start: Floats, end: Floats, reach: float) -> Side:
    """Follow the edge near a line, to a fraction of a pixel.

    Args:
        grey: (h, w) uint8.
        start, end: (2,) px, roughly; reach: px to each side within which the edge lies.
    """
    chord = _Chord.between(start, end)
    count = int(np.clip(chord.length / 4.0, 40, 400))
    t = np.linspace(0.02, 0.98, count)
    step = 0.5
    offsets = np.arange(-reach, reach + 0.5 * step, step)
    steep = _steepness(grey, chord, t, offsets)
    found, middle = _fine(steep, np.argmax(steep, axis=1), offsets)
    curve, kept = _robust_parabola(t, found, np.sqrt(middle), reach)
    left_over = found - np.vander(t, 3, increasing=True) @ curve
    noise = float(np.sqrt(np.mean(np.square(left_over[kept])))) if kept.any() else reach
    # The fit's own doubt at its ends: about three parameters from neighbours that share a blur.
    scatter = noise * np.sqrt(9.0 / max(3.0, kept.sum() / 4.0))
    seen = float(np.mean(np.abs(left_over) < 1.5 + 2.0 * noise))
    bow = abs(float(curve[2])) / 4.0
    return chord.side(curve, float(scatter), bow, seen)


@dataclass(frozen=True, slots=True)
class _Chord:
    """The line from corner to corner along which a side is looked for."""

    start: Floats
    along: Floats
    across: Floats
    length: float

    @classmethod
    def between(cls, start: Floats, end: Floats) -> _Chord:
        delta = end - start
        length = float(np.hypot(*delta))
        along = delta / length
        return cls(start, along, np.array([-along[1], along[0]]), length)

    def side(self, curve: Floats, scatter: float, bow: float, seen: float) -> Side:
        return Side(self.start, self.along, self.across, curve, self.length, scatter, bow, seen)


def _steepness(grey: Pixels, chord: _Chord, t: Floats, offsets: Floats) -> Pixels:
    """(count, offsets): how much the picture changes across the chord, grey levels a px."""
    places = (
        chord.start
        + t[:, None, None] * chord.length * chord.along
        + offsets[None, :, None] * chord.across
    )
    profile = cv2.remap(
        grey,
        (places[..., 0] - 0.5).astype(np.float32),
        (places[..., 1] - 0.5).astype(np.float32),
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REPLICATE,
    ).astype(np.float32)
    # Neighbouring profiles together: an edge runs on, grain and hatching do not.
    profile = np.asarray(cv2.GaussianBlur(profile, (0, 0), sigmaX=1.6, sigmaY=2.0))
    steep = np.abs(np.gradient(profile, float(offsets[1] - offsets[0]), axis=1))
    steep[:, [0, -1]] = 0.0
    return np.asarray(steep)


def _fine(steep: Pixels, columns: Pixels, offsets: Floats) -> tuple[Floats, Floats]:
    """Where the edge is to a fraction of a column, and how steep there, by row (a parabola)."""
    rows, step = np.arange(len(steep)), float(offsets[1] - offsets[0])
    inner = np.clip(columns, 1, len(offsets) - 2)
    left, middle, right = (steep[rows, inner + k] for k in (-1, 0, 1))
    bend = left - 2 * middle + right
    fraction = np.where(np.abs(bend) > 1e-9, 0.5 * (left - right) / np.where(bend, bend, 1.0), 0.0)
    return offsets[inner] + step * np.clip(fraction, -1.0, 1.0), middle


def curled_side(grey: Pixels, start: Floats, end: Floats, plain: Side) -> Side:
    """The side once more, also where it curls far away from its chord: the path between the corners
    along which the picture changes most (dynamic programming; Amini and others 1990, from memory).

    Args:
        start, end: (2,) px, the corners so far.
        plain: the side as it was followed near its chord; given back where it tells as much.
    """
    chord = _Chord.between(start, end)
    reach = round(_CURL * chord.length)
    count = int(np.clip(chord.length / 3.0, 60, 500))
    t = np.linspace(0.01, 0.99, count)
    offsets = np.arange(-reach, reach + 1, dtype=np.float64)
    steep = _steepness(grey, chord, t, offsets)
    capped = np.minimum(steep, np.percentile(steep.max(axis=1), 60))  # all that is plainly an edge
    path = _strongest_path(capped, reach)
    found, _ = _fine(steep, path, offsets)
    beside = np.array([(plain.at(float(one)) - start) @ chord.across for one in t])
    near = np.clip(beside.round().astype(np.intp) + reach, 0, len(offsets) - 1)
    rows = np.arange(count)
    apart = float(np.percentile(np.abs(found - beside), 75))
    gathered, there = float(capped[rows, path].mean()), float(capped[rows, near].mean())
    if apart < _APART or gathered < _PLAINER * there:
        return plain
    curve: Floats = np.polynomial.polynomial.polyfit(t, found, _DEGREE).astype(np.float64)
    left_over = found - np.polynomial.polynomial.polyval(t, curve)
    noise = float(np.median(np.abs(left_over))) * 1.4826
    if noise > _ROUGH:
        return plain  # no smooth edge: a hand, a shadow, a pattern
    ends = np.polynomial.polynomial.polyval(np.array([0.0, 1.0]), curve)
    bow = float(np.abs(np.polynomial.polynomial.polyval(t, curve) - ends @ [1 - t, t]).max())
    if bow < _HUMP * np.abs(ends).max():
        return plain  # paper curls between its corners; another sheet's edge misses them
    scatter = noise * np.sqrt(9.0 / max(3.0, count / 4.0))
    seen = float(np.mean(np.abs(left_over) < 1.5 + 2.0 * noise))
    return chord.side(curve, float(scatter), bow, seen)


_CURL = 0.05
"""Share of a side's length by which it is looked for beside its chord."""

_APART, _PLAINER, _ROUGH, _HUMP, _DEGREE = 3.0, 1.25, 0.8, 2.0, 4
"""px that a curled side must leave the one that was followed; by how much it must be plainer; px of
scatter that an edge has at most; how many times more it must leave its chord in between than at the
corners as they were found on that; degree of its polynomial (chosen here, no source)."""


def _strongest_path(strength: Floats, middle: int) -> Pixels:
    """(n,) columns of the path through (n, m) strengths that gathers most, by at most two columns a
    row, begun and ended near ``middle``."""
    rows, columns = strength.shape
    toll = 0.02 * float(strength.max())
    best = strength[0] - toll * np.abs(np.arange(columns) - middle)
    came = np.zeros((rows, columns), dtype=np.intp)
    for row in range(1, rows):
        ways = []
        for step in (-2, -1, 0, 1, 2):
            moved = np.roll(best, step) - toll * abs(step)
            if step > 0:
                moved[:step] = -np.inf
            elif step < 0:
                moved[step:] = -np.inf
            ways.append(moved)
        choice = np.argmax(ways, axis=0)
        came[row] = np.arange(columns) - (choice - 2)
        best = np.max(ways, axis=0) + strength[row]
    at = int(np.argmax(best - toll * np.abs(np.arange(columns) - middle)))
    path = np.zeros(rows, dtype=np.intp)
    for row in range(rows - 1, -1, -1):
        path[row] = at
        at = int(came[row, at])
    return path


def _robust_parabola(
    t: Floats, found: Floats, weight: Floats, reach: float
) -> tuple[Floats, Pixels]:
    """Coefficients by least squares on the largest set that agrees with a line, then refined."""
    rng = np.random.default_rng(5)  # the same picture gives the same corners
    tolerance = max(1.2, 0.08 * reach)
    best, most = np.ones(len(t), dtype=bool), -1.0
    for _ in range(160):
        i, j = rng.choice(len(t), 2, replace=False)
        if abs(t[i] - t[j]) < 0.15:
            continue
        slope = (found[j] - found[i]) / (t[j] - t[i])
        agreeing = np.abs(found - found[i] - slope * (t - t[i])) < 2.0 * tolerance
        total = float(weight[agreeing].sum())
        if total > most:
            best, most = agreeing, total
    kept = best
    curve = np.zeros(3)
    for width in (2.0 * tolerance, tolerance, tolerance, tolerance):
        if kept.sum() < 8:
            break
        # A bend is believed only where most of the side was seen.
        degree = 3 if np.ptp(t[kept]) > 0.6 and kept.mean() > 0.4 else 2
        basis = np.vander(t[kept], degree, increasing=True) * weight[kept, None]
        solution = np.linalg.lstsq(basis, found[kept] * weight[kept], rcond=None)[0]
        curve = np.concatenate([solution, np.zeros(3 - degree)])
        kept = np.abs(found - np.vander(t, 3, increasing=True) @ curve) < width
    return curve, kept
