"""The big shapes of shadow in a picture, as outlines: what half-closed eyes see of it.

The light is evened where it is a sheet of paper, the picture blurred until lines and hatching are
tone, parted where its own tones part best (Otsu 1979) within the figure, islands merged by their
area and outlines simplified (Douglas and Peucker 1973) to a stated number of corners.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from skimage.filters import threshold_multiotsu

from bralto.core.arrays import Bools, Floats, Pixels
from bralto.core.results import NotMeasurable
from bralto.core.study.values import MOST_SHAPES
from bralto.imaging.tones.toned import Toned, brush_of, parted, toned

__all__ = ["MOST_CORNERS", "Shadows", "Values", "find_shadows", "find_values"]

MOST_CORNERS = 120
"""Corners of one shape of shadow at most: big shapes have few (chosen here, no source)."""

_LEAST_SHARE = 0.004  # of the figure's area: a smaller island belongs to what surrounds it
_APART = 0.10  # difference of the two tones, of white, below which there is no light and shadow
_APART_PAPER = 0.03  # the same on paper that was evened
_BROAD = 4.5  # times that blur a brush is wide that a shape of shadow has room for
_ROOM = 0.58  # share of the dark on paper that must have room for it: less, and it is lines
_FEWEST, _MOST = 0.01, 0.97  # share of dark outside which nothing is parted
_VALUES = 3
_LEAST_VALUE = 0.02  # share of the figure: less is a rim and no value
_FINE = 0.9  # px: how near the finest outline follows the pixels


@dataclass(frozen=True, eq=False)
class Shadows:
    """What was found, places in px of the picture as it was given.

    Attributes:
        level: tone below which it is shadow, 0 black to 1 white.
        rings: outlines of shadow, each (n, 2); one that lies within another cuts light out of it.
        outline: (n, 2) of the figure itself where it could be told from what is behind it.
        focus: (2,) where light and dark meet most sharply within the figure.
    """

    level: float
    rings: tuple[Floats, ...]
    outline: Floats | None
    focus: Floats


@dataclass(frozen=True, eq=False)
class Values:
    """A picture in three values.

    Attributes:
        levels: tones, 0 black to 1 white, below which it is dark, and below which half-tone.
        shares: of the figure that is dark, half-tone and light.
        dark, half: outlines (n, 2), px of the picture as it was given: of dark, and of half-tone
            and dark together.
    """

    levels: tuple[float, float]
    shares: tuple[float, float, float]
    dark: tuple[Floats, ...]
    half: tuple[Floats, ...]


def find_values(
    picture: Pixels,
    inside: Floats,
    forms: Sequence[Floats],
    *,
    paper: bool,
    corners: int = MOST_CORNERS,
) -> Values | NotMeasurable:
    """Part one figure's tones into three values (Liao, Chen and Chung 2001); see `find_shadows`."""
    found = toned(picture, inside, forms, paper=paper)
    if isinstance(found, NotMeasurable):
        return found
    tones = found.soft[found.told]
    if len(np.unique(tones)) < _VALUES:
        return NotMeasurable("its tones hardly differ")
    if paper and _lines_alone(found, (found.soft <= parted(tones) + 0.5) & found.mask):
        return NotMeasurable("what is dark in it is no broader than its lines")
    levels = threshold_multiotsu(tones, classes=_VALUES)  # type: ignore[no-untyped-call]
    low, high = (float(level) + 0.5 for level in levels)
    many = float(found.told.sum())
    under = [float(((found.soft <= level) & found.told).sum()) / many for level in (low, high)]
    shares = under[0], under[1] - under[0], 1.0 - under[1]
    apart = float(tones[tones > high].mean()) - float(tones[tones <= low].mean())
    if min(shares) < _LEAST_VALUE or apart < (_APART_PAPER if paper else _APART) * 255.0:
        return NotMeasurable("its tones hardly differ")
    dark, half = (
        tuple(
            ring / found.scale
            for ring in _rings(_merged((found.soft <= level) & found.mask, found.mask), corners)
        )
        for level in (low, high)
    )
    return Values((low / 255.0, high / 255.0), shares, dark, half)


def find_shadows(
    picture: Pixels,
    inside: Floats,
    forms: Sequence[Floats],
    *,
    paper: bool,
    level: float | None = None,
    corners: int = MOST_CORNERS,
) -> Shadows | NotMeasurable:
    """Find the shapes of shadow of one figure.

    Args:
        picture: (h, w, 3) uint8, RGB.
        inside: (n, 2) array, px: about the figure, nothing outside it is looked at.
        forms: polygons, px, that lie on the figure, a little wider than its limbs at most; of a
            photo it is told from its background by them.
        paper: it is a drawing on paper: uneven light is taken away.
        level: in place of the tone at which it parts best.
        corners: of one shape at most.
    """
    found = toned(picture, inside, forms, paper=paper)
    if isinstance(found, NotMeasurable):
        return found
    scale, soft, mask, told = found.scale, found.soft, found.mask, found.told
    of_itself = level is None
    if level is None:
        level = (parted(soft[told]) + 0.5) / 255.0
    dark = (soft <= 255.0 * level) & mask
    share = float((dark & told).sum()) / float(told.sum())
    lines = paper and of_itself and _lines_alone(found, dark)
    if lines or not _FEWEST < share < _MOST:
        return NotMeasurable("it shows no shapes of shadow")
    apart = float(soft[told & ~dark].mean()) - float(soft[told & dark].mean())
    if apart < (_APART_PAPER if paper else _APART) * 255.0:
        return NotMeasurable("light and shadow hardly differ in it")
    dark = _merged(dark, mask)
    rings = tuple(ring / scale for ring in _rings(dark, corners))
    if not rings:
        return NotMeasurable("it shows no shapes of shadow")
    place, outline = _sharpest(found.tone, mask), found.outline
    return Shadows(level, rings, None if outline is None else outline / scale, place / scale)


def _lines_alone(found: Toned, dark: Bools) -> bool:
    """Whether what is dark is as narrow as lines that were blurred, and no shape of shadow."""
    merged = _merged(dark, found.mask).astype(np.uint8)
    brush = brush_of(_BROAD * found.sigma)
    room = float(cv2.morphologyEx(merged, cv2.MORPH_OPEN, brush).sum())
    return room < _ROOM * float(merged.sum())


def _merged(dark: Bools, mask: Bools) -> Bools:
    """Small islands of dark become light and small lights within dark become dark."""
    least = _LEAST_SHARE * float(mask.sum())
    for value in (True, False):
        part = (dark if value else ~dark & mask).astype(np.uint8)
        count, labels, stats, _ = cv2.connectedComponentsWithStats(part, connectivity=4)
        for one in range(1, count):
            if stats[one, cv2.CC_STAT_AREA] < least:
                dark = np.where(labels == one, not value, dark)
    return dark


def _rings(dark: Bools, corners: int) -> list[Floats]:
    """Outlines of dark and of the lights cut out of it, largest first."""
    # Pixels are areas: twice as fine, an outline runs along their edges, not through their middles.
    twice: Pixels = np.kron(dark.astype(np.uint8), np.ones((2, 2), np.uint8))
    contours, _ = cv2.findContours(twice, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    contours = sorted(contours, key=cv2.contourArea, reverse=True)
    out = []
    for contour in contours[:MOST_SHAPES]:
        slack = _FINE
        while True:
            ring = cv2.approxPolyDP(contour, 2.0 * slack, True)[:, 0].astype(np.float64)
            if len(ring) <= max(corners, 3):
                break
            slack *= 1.15
        if len(ring) >= 3:
            out.append(0.5 * ring + 0.25)
    return out


def _sharpest(tone: Pixels, mask: Bools) -> Floats:
    """Where tones spread most within a window, px."""
    wide = max(5, max(tone.shape) // 28) | 1
    values = tone.astype(np.float64)
    mean = cv2.blur(values, (wide, wide))
    spread = cv2.blur(values * values, (wide, wide)) - mean * mean
    core = cv2.erode(mask.astype(np.uint8), np.ones((wide, wide), np.uint8)) > 0
    chosen = np.where(core if core.any() else mask, spread, -1.0)
    y, x = np.unravel_index(
        int(np.argmax(cv2.GaussianBlur(chosen, (0, 0), wide / 4.0))), tone.shape
    )
    return np.array([x + 0.5, y + 0.5])
