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

__all__ = ["MOST_CORNERS", "Shadows", "Values", "find_shadows", "find_values"]

MOST_CORNERS = 120
"""Corners of one shape of shadow at most: big shapes have few (chosen here, no source)."""

_LONG = 640  # px of the longer side at which shadows are looked for
_SQUINT = 0.008  # blur as a part of the longer side: grain becomes tone, edges of shapes stay
_HATCHED = (0.005, 0.014)  # the same on paper, where hatching becomes tone: fine, or coarse
_LINE = 3.0  # times that: a blurred outline is narrower, a shape of shadow is not
_SHREDS = 5.0  # times as many pieces of dark make hatching too coarse for the finer
_LEAST_SHARE = 0.004  # of the figure's area: a smaller island belongs to what surrounds it
_APART = 0.10  # difference of the two tones, of white, below which there is no light and shadow
_APART_PAPER = 0.03  # the same on paper that was evened
_BROAD = 4.5  # times that blur a brush is wide that a shape of shadow has room for
_ROOM = 0.58  # share of the dark on paper that must have room for it: less, and it is lines
_FEWEST, _MOST = 0.01, 0.97  # share of dark outside which nothing is parted
_BLOCKS = 24  # along the longer side, for the light on paper
_SAFE = 0.004  # of the longer side: rims where a pixel is of both tell no tone
_CORE = 0.020  # of the longer side: how far within its rough forms a figure surely is
_FAINT = 1e-3
_VALUES = 3
_LEAST_VALUE = 0.02  # share of the figure: less is a rim and no value
_FINE = 0.9  # px: how near the finest outline follows the pixels
_ROUNDS = 3


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


@dataclass(frozen=True, eq=False)
class _Toned:
    """A figure's tones made ready to be parted: ``soft`` blurred by ``sigma`` px, ``told`` where a
    tone is sure."""

    scale: float
    tone: Pixels
    soft: Pixels
    mask: Bools
    told: Bools
    outline: Floats | None
    sigma: float


def find_values(
    picture: Pixels,
    inside: Floats,
    forms: Sequence[Floats],
    *,
    paper: bool,
    corners: int = MOST_CORNERS,
) -> Values | NotMeasurable:
    """Part one figure's tones into three values (Liao, Chen and Chung 2001); see `find_shadows`."""
    found = _toned(picture, inside, forms, paper=paper)
    if isinstance(found, NotMeasurable):
        return found
    tones = found.soft[found.told]
    if len(np.unique(tones)) < _VALUES:
        return NotMeasurable("its tones hardly differ")
    if paper and _lines_alone(found, (found.soft <= _parted(tones) + 0.5) & found.mask):
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
    found = _toned(picture, inside, forms, paper=paper)
    if isinstance(found, NotMeasurable):
        return found
    scale, soft, mask, told = found.scale, found.soft, found.mask, found.told
    of_itself = level is None
    if level is None:
        level = (_parted(soft[told]) + 0.5) / 255.0
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


def _toned(
    picture: Pixels, inside: Floats, forms: Sequence[Floats], *, paper: bool
) -> _Toned | NotMeasurable:
    scale = min(1.0, _LONG / max(picture.shape[:2]))
    small = cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    tone: Pixels = cv2.cvtColor(small, cv2.COLOR_RGB2LAB)[..., 0]
    mask = _filled(tone.shape, [inside * scale])
    if not mask.any():
        return NotMeasurable("the figure lies outside the picture")
    outline = None
    if paper:
        tone = _evened(tone, mask)
    else:
        found = _figure(small, mask, _filled(tone.shape, [form * scale for form in forms]))
        if found is not None:
            mask, outline = found
    longer = max(tone.shape)
    well_within = cv2.erode(mask.astype(np.uint8), _brush(_SAFE * longer)) > 0
    told = well_within if well_within.any() else mask
    if paper:
        soft, sigma = _hatched(tone, told)
    else:
        sigma = _SQUINT * longer
        soft = _within(tone, told, sigma)
    return _Toned(scale, tone, soft, mask, told, outline, sigma)


def _filled(shape: tuple[int, ...], polygons: Sequence[Floats]) -> Bools:
    drawn = np.zeros(shape[:2], dtype=np.uint8)
    for polygon in polygons:
        cv2.fillPoly(drawn, [np.round(polygon).astype(np.int32)], 1)
    return drawn > 0


def _within(tone: Pixels, figure: Bools, sigma: float) -> Pixels:
    """Tones blurred among themselves: what is behind the figure does not shine into it."""
    weight = figure.astype(np.float32)
    blurred = cv2.GaussianBlur(tone.astype(np.float32) * weight, (0, 0), sigma)
    much = cv2.GaussianBlur(weight, (0, 0), sigma)
    soft: Pixels = np.where(much > _FAINT, blurred / np.maximum(much, _FAINT), tone)
    return soft.astype(np.uint8)


def _parted(values: Pixels) -> float:
    """The tone at which values part best (Otsu 1979)."""
    at, _ = cv2.threshold(values.reshape(1, -1), 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    return float(at)


def _hatched(tone: Pixels, told: Bools) -> tuple[Pixels, float]:
    """Hatching as tone and lines gone, fine or coarse as it parts better; and by which blur, px."""
    tones, pieces = [], []
    for size in _HATCHED:
        sigma = size * max(tone.shape)
        soft: Pixels = cv2.morphologyEx(
            cv2.GaussianBlur(tone, (0, 0), sigma), cv2.MORPH_CLOSE, _brush(_LINE * sigma)
        )
        dark = (soft <= _parted(soft[told])) & told
        pieces.append(cv2.connectedComponents(dark.astype(np.uint8))[0])
        tones.append((soft, sigma))
    return tones[int(pieces[0] > _SHREDS * pieces[1])]


def _lines_alone(found: _Toned, dark: Bools) -> bool:
    """Whether what is dark is as narrow as lines that were blurred, and no shape of shadow."""
    merged = _merged(dark, found.mask).astype(np.uint8)
    brush = _brush(_BROAD * found.sigma)
    room = float(cv2.morphologyEx(merged, cv2.MORPH_OPEN, brush).sum())
    return room < _ROOM * float(merged.sum())


def _brush(wide: float) -> Pixels:
    size = max(3, round(wide)) | 1
    brush: Pixels = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    return brush


def _evened(tone: Pixels, figure: Bools) -> Pixels:
    """Paper made equally light: a quadratic surface through what is lightest beside the figure,
    since a broad shadow within it would pass for paper."""
    height, width = tone.shape
    size = max(4, max(height, width) // _BLOCKS)
    rows, lights = [], []
    for top in range(0, height - size + 1, size):
        for left in range(0, width - size + 1, size):
            free = ~figure[top : top + size, left : left + size]
            if free.sum() < size * size // 2:
                continue
            x, y = (left + 0.5 * size) / width - 0.5, (top + 0.5 * size) / height - 0.5
            rows.append([1.0, x, y, x * x, x * y, y * y])
            lights.append(np.percentile(tone[top : top + size, left : left + size][free], 85.0))
    if len(rows) < 12:
        return tone
    terms, light = np.array(rows), np.array(lights)
    weights = np.ones(len(light))
    for _ in range(5):  # a table's edge or a hand beside the sheet is no paper
        root = np.sqrt(weights)[:, None]
        surface, *_ = np.linalg.lstsq(terms * root, light * root[:, 0], rcond=None)
        off = terms @ surface - light
        spread = max(1.0, 1.4826 * float(np.median(np.abs(off))))
        weights = 1.0 / (1.0 + np.square(np.maximum(off, 0.0) / (2.0 * spread)))
    y, x = np.mgrid[0:height, 0:width]
    u, v = (x + 0.5) / width - 0.5, (y + 0.5) / height - 0.5
    a, b, c, d, e, f = surface
    paper = np.clip(a + b * u + c * v + d * u * u + e * u * v + f * v * v, 32.0, 255.0)
    even: Pixels = np.clip(tone * (250.0 / paper), 0.0, 255.0).astype(np.uint8)
    return even


def _figure(small: Pixels, inside: Bools, sure: Bools) -> tuple[Bools, Floats] | None:
    """The figure parted from what is behind it (Rother, Kolmogorov and Blake 2004), and its
    outline; None where that comes to something that no figure of these forms can be."""
    if not sure.any():
        return None
    labels = np.full(inside.shape, cv2.GC_BGD, dtype=np.uint8)
    labels[inside] = cv2.GC_PR_BGD
    labels[sure & inside] = cv2.GC_PR_FGD
    core = cv2.erode(sure.astype(np.uint8), _brush(2.0 * _CORE * max(inside.shape))) > 0
    labels[core & inside] = cv2.GC_FGD
    if not (labels == cv2.GC_BGD).any() or not core.any():
        return None
    cv2.setRNGSeed(20)  # its mixtures begin by chance
    behind, before = np.zeros((1, 65)), np.zeros((1, 65))
    cv2.grabCut(small, labels, (0, 0, 1, 1), behind, before, _ROUNDS, cv2.GC_INIT_WITH_MASK)
    found = ((labels == cv2.GC_FGD) | (labels == cv2.GC_PR_FGD)).astype(np.uint8)
    found = cv2.morphologyEx(found, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    contours, _ = cv2.findContours(found, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not contours:
        return None
    whole = max(contours, key=cv2.contourArea)
    if not 0.7 < cv2.contourArea(whole) / float(sure.sum()) < 4.0:
        return None
    mask = _filled(inside.shape, [whole[:, 0].astype(np.float64)]) & (found > 0)
    outline: Floats = cv2.approxPolyDP(whole, 1.0, True)[:, 0].astype(np.float64) + 0.5
    return mask, outline


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
