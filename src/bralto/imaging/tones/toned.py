"""One figure's tones, made ready to be parted into light and dark.

The light is evened where it is a sheet of paper, and the picture blurred until lines and hatching
are tone; a photo's figure is told from what is behind it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from bralto.core.arrays import Bools, Floats, Pixels
from bralto.core.results import NotMeasurable

__all__ = ["Toned", "brush_of", "parted", "toned"]

_LONG = 640  # px of the longer side at which shadows are looked for
_SQUINT = 0.008  # blur as a part of the longer side: grain becomes tone, edges of shapes stay
_HATCHED = (0.005, 0.014)  # the same on paper, where hatching becomes tone: fine, or coarse
_LINE = 3.0  # times that: a blurred outline is narrower, a shape of shadow is not
_SHREDS = 5.0  # times as many pieces of dark make hatching too coarse for the finer
_BLOCKS = 24  # along the longer side, for the light on paper
_SAFE = 0.004  # of the longer side: rims where a pixel is of both tell no tone
_CORE = 0.020  # of the longer side: how far within its rough forms a figure surely is
_FAINT = 1e-3
_ROUNDS = 3


@dataclass(frozen=True, eq=False)
class Toned:
    """A figure's tones at ``scale`` of its picture, (h, w) uint8, 0 black to 255 white.

    Attributes:
        tone, soft: as they are, evened on paper; and blurred by ``sigma`` px.
        mask, told: (h, w), where the figure is; and where a tone is surely its own.
        outline: (n, 2) px at that scale, where it could be told from what is behind it.
    """

    scale: float
    tone: Pixels
    soft: Pixels
    mask: Bools
    told: Bools
    outline: Floats | None
    sigma: float


def toned(
    picture: Pixels, inside: Floats, forms: Sequence[Floats], *, paper: bool
) -> Toned | NotMeasurable:
    """Make a figure's tones ready; see `shadows.find_shadows` for what is given."""
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
    well_within = cv2.erode(mask.astype(np.uint8), brush_of(_SAFE * longer)) > 0
    told = well_within if well_within.any() else mask
    if paper:
        soft, sigma = _hatched(tone, told)
    else:
        sigma = _SQUINT * longer
        soft = _within(tone, told, sigma)
    return Toned(scale, tone, soft, mask, told, outline, sigma)


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


def parted(values: Pixels) -> float:
    """The tone at which values part best (Otsu 1979)."""
    at, _ = cv2.threshold(values.reshape(1, -1), 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    return float(at)


def _hatched(tone: Pixels, told: Bools) -> tuple[Pixels, float]:
    """Hatching as tone and lines gone, fine or coarse as it parts better; and by which blur, px."""
    tones, pieces = [], []
    for size in _HATCHED:
        sigma = size * max(tone.shape)
        soft: Pixels = cv2.morphologyEx(
            cv2.GaussianBlur(tone, (0, 0), sigma), cv2.MORPH_CLOSE, brush_of(_LINE * sigma)
        )
        dark = (soft <= parted(soft[told])) & told
        pieces.append(cv2.connectedComponents(dark.astype(np.uint8))[0])
        tones.append((soft, sigma))
    return tones[int(pieces[0] > _SHREDS * pieces[1])]


def brush_of(wide: float) -> Pixels:
    """A round brush, (n, n) uint8, so many px wide: an odd number, 3 at least."""
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
    core = cv2.erode(sure.astype(np.uint8), brush_of(2.0 * _CORE * max(inside.shape))) > 0
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
