"""What a sweep does: how far it bends and turns, where most, and where it turns over."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from bralto.core.action.curve import Curve, directions, lengths, offsets
from bralto.core.arrays import Floats
from bralto.core.tolerances import COVERAGE

__all__ = ["Bend", "Doubted", "Over", "bend_of"]


@dataclass(frozen=True, slots=True)
class Doubted:
    """A value with its standard uncertainty."""

    value: float
    u: float


@dataclass(frozen=True, slots=True)
class Over:
    """Where a curve turns over from one bend to the opposite one.

    Attributes:
        share: of the way along it, 0 to 1.
        below: how far below its upper end, along plumb, in the curve's unit.
    """

    share: Doubted
    below: Doubted


@dataclass(frozen=True, slots=True)
class Bend:
    """A curve's bend, in its own unit, y up.

    Attributes:
        length: along it.
        sagitta: of its largest distance from the straight line between its ends; + bulges to the
            viewer's right of a curve that runs down.
        turning: degrees between its two directions that differ most.
        turns: degrees of each bend in order, counter-clockwise positive.
        over: where it turns over between them.
        sharpest: share of the way at which it is bent most.
        leans: degrees of the line between its ends from plumb, + to the viewer's right at the top.
    """

    length: Doubted
    sagitta: Doubted
    turning: Doubted
    turns: tuple[Doubted, ...]
    over: tuple[Over, ...]
    sharpest: Doubted
    leans: Doubted

    @property
    def bent(self) -> bool:
        """Whether it surely bends at all."""
        return abs(self.sagitta.value) > COVERAGE * self.sagitta.u

    @property
    def bulges(self) -> str:
        """``right`` or ``left``, the viewer's, on which its greatest bulge lies; "" for neither."""
        if not self.bent:
            return ""
        return "right" if self.sagitta.value > 0.0 else "left"


def bend_of(curve: Curve) -> Bend:
    """All of it; doubts are those of the curves that the points allow."""
    draws = curve.draws
    angles, drawn = curve.directions, directions(draws)
    away = offsets(curve.xy[None])[0]
    at = int(np.argmax(np.abs(away)))
    ends = _bends(angles, drawn)
    turns = tuple(
        Doubted(math.degrees(angles[b] - angles[a]), math.degrees(float(_std(drawn, a, b))))
        for a, b in pairwise(ends)
    )
    total = np.ptp(drawn, axis=1)
    most = _sharpest(angles[None])[0]
    return Bend(
        length=Doubted(float(lengths(curve.xy)), float(lengths(draws).std())),
        sagitta=Doubted(float(away[at]), float(offsets(draws)[:, at].std())),
        turning=Doubted(math.degrees(float(np.ptp(angles))), math.degrees(float(total.std()))),
        turns=turns,
        over=tuple(_over(curve, drawn, ends, i) for i in range(1, len(ends) - 1)),
        sharpest=Doubted(float(most), float(_sharpest(drawn).std())),
        leans=Doubted(float(_leans(curve.xy[None])[0]), float(_leans(draws).std())),
    )


def _leans(xy: Floats) -> Floats:
    """(k,) degrees of the line from the last place up to the first, + to the right at the top."""
    up = xy[:, 0] - xy[:, -1]
    found: Floats = np.degrees(np.arctan2(up[:, 0], up[:, 1]))
    return found


def _std(drawn: Floats, a: int, b: int) -> float:
    return float((drawn[:, b] - drawn[:, a]).std())


def _bends(angles: Floats, drawn: Floats) -> list[int]:
    """Places between which the curve bends one way, with every place at which it surely turns over
    between them. What turns by less than its doubt is no bend of its own: within, it belongs to
    the bends beside it, which turn the same way; at an end, the curve counts as straight there."""
    slope = np.sign(np.diff(angles))
    ends = [0, *(np.flatnonzero(slope[1:] * slope[:-1] < 0.0) + 1).tolist(), len(angles) - 1]
    while len(ends) > 2:
        sizes = [
            abs(angles[b] - angles[a]) / max(COVERAGE * _std(drawn, a, b), 1e-12)
            for a, b in pairwise(ends)
        ]
        least = int(np.argmin(sizes))
        if sizes[least] >= 1.0:
            break
        gone = {0} if least == 0 else {least + 1} if least == len(sizes) - 1 else {least, least + 1}
        ends = [end for i, end in enumerate(ends) if i not in gone]
    return ends


def _over(curve: Curve, drawn: Floats, ends: list[int], i: int) -> Over:
    """Where it turns over, and where the curves that the points allow do."""
    low, high = (ends[i - 1] + ends[i]) // 2, (ends[i] + ends[i + 1]) // 2
    sign = 1.0 if curve.directions[ends[i]] > curve.directions[ends[i - 1]] else -1.0
    found = low + np.argmax(sign * drawn[:, low : high + 1], axis=1)
    last = len(curve.xy) - 1
    top = np.maximum(curve.draws[:, 0, 1], curve.draws[:, -1, 1])
    below = top - curve.draws[np.arange(len(found)), found, 1]
    upper = max(curve.xy[0, 1], curve.xy[-1, 1])
    return Over(
        Doubted(ends[i] / last, float(found.std()) / last),
        Doubted(float(upper - curve.xy[ends[i], 1]), float(below.std())),
    )


_WINDOW = 0.2
"""Share of the way within which the sharpest bend turns: over less a curve of so few points says
nothing."""


def _sharpest(angles: Floats) -> Floats:
    """(k,) shares of the way about which each of (k, m) courses of directions turns most."""
    last = angles.shape[1] - 1
    wide = round(_WINDOW * last)
    turned = np.abs(angles[:, wide:] - angles[:, :-wide])
    found: Floats = (np.argmax(turned, axis=1) + 0.5 * wide) / last
    return found
