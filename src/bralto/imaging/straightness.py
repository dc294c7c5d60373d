"""How much of a drawing's lines is straight: big shapes are blocked in with straight lines first.

The light on the paper is evened and lines are thinned to their middle (Zhang and Suen 1984, by
scikit-image); each run between ends and crossings is cut where it turns at once, and what lies
between two cuts is a straight line or a curve by how far it leaves its chord.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np
from skimage.morphology import skeletonize

from bralto.core.arrays import Bools, Floats, Pixels
from bralto.core.results import NotMeasurable

__all__ = ["Straightness", "straight_lines"]

_LONG = 1000  # px of the longer side at which lines are looked at
_BLOCK = 31  # px about each place within which a line must be darker than its paper
_DARKER = 12.0  # by how much, of 255
_SHORT = 0.02  # of the area's longer side: shorter pieces are hatching, letters, crumbs
_ARM = 0.008  # of it: along either side of a place, what its turn is told by
_CORNER_DEG = 28.0  # a turn within two arms that is a corner and no curve
_BOWED = 0.028  # of its length that a line may leave its chord: an arc of 13 degrees
_TRACED = 1.0  # px by which a traced line of one pixel leaves itself
_FEWEST = 6  # pieces, fewer tell nothing

_AROUND = ((-1, 0), (0, -1), (0, 1), (1, 0), (-1, -1), (-1, 1), (1, -1), (1, 1))


@dataclass(frozen=True, slots=True)
class Straightness:
    """Of all lines that were found.

    Attributes:
        share: of their length that is straight, 0 to 1; ``u``, its standard uncertainty by which
            pieces happen to be there (as of a weighted mean).
        pieces: how many there are.
    """

    share: float
    u: float
    pieces: int


def straight_lines(picture: Pixels, inside: Floats) -> Straightness | NotMeasurable:
    """Trace the lines of a drawing.

    Args:
        picture: (h, w, 3) uint8, RGB.
        inside: (n, 2) polygon, px, about the drawing on its sheet.
    """
    scale = min(1.0, _LONG / max(picture.shape[:2]))
    small = cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    area = np.zeros(small.shape[:2], dtype=np.uint8)
    cv2.fillPoly(area, [np.round(inside * scale).astype(np.int32)], 1)
    wide = float(np.ptp(inside * scale, axis=0).max())
    lines = _lines(small) & (area > 0)
    thin: Bools = skeletonize(lines)  # type: ignore[no-untyped-call]
    found = [piece for run in _runs(thin) for piece in _cut(run, max(3, round(_ARM * wide)))]
    found = [piece for piece in found if _length(piece) >= _SHORT * wide]
    if len(found) < _FEWEST:
        return NotMeasurable("there are too few lines")
    lengths = np.array([_length(piece) for piece in found])
    straight = np.array([_is_straight(piece) for piece in found], dtype=np.float64)
    weights = lengths / lengths.sum()
    share = float(weights @ straight)
    # A piece more or less either way: no share of so few is surer.
    even = (share * len(found) + 1.0) / (len(found) + 2.0)
    u = float(np.sqrt(np.square(weights).sum() * even * (1.0 - even)))
    return Straightness(share, u, len(found))


def _lines(small: Pixels) -> Bools:
    """Where it is darker than the paper about it."""
    tone = cv2.cvtColor(small, cv2.COLOR_RGB2GRAY)
    soft = cv2.GaussianBlur(tone, (0, 0), 1.0)
    paper = cv2.medianBlur(soft, _BLOCK)
    dark = (paper.astype(np.float64) - soft > _DARKER).astype(np.uint8)
    joined = cv2.morphologyEx(dark, cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8))
    lines: Bools = joined > 0
    return lines


def _runs(thin: Bools) -> list[Floats]:
    """Runs of pixels, (n, 2) x and y, between ends and crossings of a thinned picture."""
    beside = cv2.filter2D(thin.astype(np.uint8), -1, np.ones((3, 3), np.uint8)) - 1
    free: Bools = thin & (beside <= 2)  # crossings are taken away
    ends = free & (cv2.filter2D(free.astype(np.uint8), -1, np.ones((3, 3), np.uint8)) <= 2)
    left = {(int(y), int(x)) for y, x in zip(*np.nonzero(free), strict=True)}
    runs = []
    starts = [(int(y), int(x)) for y, x in zip(*np.nonzero(ends), strict=True)]
    for start in (*starts, *sorted(left)):  # closed runs have no end
        if start not in left:
            continue
        run, at = [start], start
        left.discard(start)
        while True:
            near = ((at[0] + dy, at[1] + dx) for dy, dx in _AROUND)
            following = next((one for one in near if one in left), None)
            if following is None:
                break
            run.append(following)
            left.discard(following)
            at = following
        runs.append(np.array(run, dtype=np.float64)[:, ::-1])
    return runs


def _cut(run: Floats, arm: int) -> list[Floats]:
    """A run cut at its corners, where it turns within two arms."""
    if len(run) < 2 * arm + 2:
        return [run]
    middle = run[arm:-arm]
    before, after = middle - run[: -2 * arm], run[2 * arm :] - middle
    cross = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    turn = np.abs(np.degrees(np.arctan2(cross, np.einsum("ij,ij->i", before, after))))
    cuts: list[int] = []
    for i in np.argsort(-turn):
        if turn[i] < _CORNER_DEG:
            break
        if all(abs(int(i) - other) > arm for other in cuts):
            cuts.append(int(i))
    edges = [0, *(i + arm for i in sorted(cuts)), len(run)]
    return [run[a:b] for a, b in pairwise(edges) if b - a >= 2]


def _length(piece: Floats) -> float:
    """Along it, px."""
    return float(np.hypot(*np.diff(piece, axis=0).T).sum())


def _is_straight(piece: Floats) -> bool:
    chord = piece[-1] - piece[0]
    long = float(np.hypot(*chord))
    away = piece - piece[0]
    off = np.abs(chord[0] * away[:, 1] - chord[1] * away[:, 0]) / max(long, 1e-9)
    return float(off.max()) <= _TRACED + _BOWED * long
