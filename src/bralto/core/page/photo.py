"""What a photo of a sheet or a person is good for: which paper it shows, how aslant, how near.

Nothing here is a verdict on the photo: what makes it less exact is said, and how much, and goes
into the spread of the marks by itself (through the sheet's homography and `Sheet.spread`).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.page.page_plan import PAPERS
from bralto.core.results import NotMeasurable
from bralto.core.study.curled import worst_doubt
from bralto.core.study.frames import sheet_homography, warp
from bralto.core.study.values import Picture, Sheet
from bralto.core.tolerances import COVERAGE, Grade

__all__ = [
    "HEAD_M",
    "NEAR_M",
    "PaperGuess",
    "SheetPhoto",
    "camera_distance",
    "guess_paper",
    "read_sheet_photo",
    "side_ratio",
    "wide_of",
]

_WIDE = 0.72
"""Focal length by the picture's longer side where perspective does not tell it: a phone's main
camera (26 mm on a picture 36 mm long; common practice, no source)."""

_SHAPE = 0.01
"""Difference of width : height from which on papers are of different shapes."""

_SMALL_PICTURE_MM = 36.0
"""Longer side of the small picture by which focal lengths are said (ISO 1007)."""

HEAD_M = 0.23
"""Crown to chin of a grown person, m (Drillis and Contini 1966: 0.130 of the height)."""

NEAR_M = 1.5
"""From nearer than this a camera draws what is near too large (common practice, no source)."""

_ASLANT = 2.0
"""Foreshortening of a sheet beyond which a photo is called one from the side."""

_FINE = 8.0
"""Photo px that a tolerance (mm on the sheet) should have at least."""


@dataclass(frozen=True, slots=True)
class PaperGuess:
    """Which papers a quadrilateral can be.

    Attributes:
        ratio: width : height of the paper; ``u``, its standard uncertainty.
        papers: names of `PAPERS` whose sides fit, with the size in mm as it lies; nearest first.
        nearest: where none fits, the two that come nearest, and by how many px each corner would
            have to be off for it.
    """

    ratio: float
    u: float
    papers: tuple[tuple[str, tuple[float, float]], ...]
    nearest: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True, slots=True)
class SheetPhoto:
    """What a photo of a sheet is good for.

    Attributes:
        px_per_mm: least scale anywhere on the sheet, in any direction.
        aslant: how many times the sheet is foreshortened in its middle, 1 for a flat scan.
        spread_mm: SD of the sheet frame itself, mm, where it is worst.
        px_per_tolerance: photo px in the grade's tolerance, or None where the head is not known.
        notes: what makes it less exact, a sentence each.
    """

    px_per_mm: float
    aslant: float
    spread_mm: float
    px_per_tolerance: float | None
    notes: tuple[str, ...]


def side_ratio(corners: Floats, size: tuple[int, int], wide: float | None = None) -> float:
    """Width : height of a flat rectangle from its picture (Zhang and He 2007, section 3).

    Args:
        corners: (4, 2) array from the top-left clockwise, image px.
        size: the picture's width and height; the lens looks through its middle.
        wide: focal length by the picture's longer side; where it is None perspective tells it, or
            a phone's is taken where the sides run parallel.
    """
    longer = float(max(size))
    about = (corners - np.array(size) / 2.0) / longer
    lifted = np.column_stack([about, np.ones(4)])
    m1, m2, m4, m3 = lifted  # their order: top-left, top-right, bottom-left, bottom-right
    k2 = np.dot(np.cross(m1, m4), m3) / np.dot(np.cross(m2, m4), m3)
    k3 = np.dot(np.cross(m1, m4), m2) / np.dot(np.cross(m3, m4), m2)
    n2, n3 = k2 * m2 - m1, k3 * m3 - m1
    focal = wide or _WIDE
    if wide is None and abs(n2[2] * n3[2]) > 1e-4:
        squared = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2])
        # Nothing between a fish-eye and a long tele lens would be a fault of the corners.
        if 0.25**2 < squared < 6.0**2:
            focal = math.sqrt(squared)
    weigh = np.array([1.0 / focal, 1.0 / focal, 1.0])
    return float(np.linalg.norm(weigh * n2) / np.linalg.norm(weigh * n3))


def wide_of(picture: Picture) -> float | None:
    """Focal length by the picture's longer side, where the photo said it."""
    return None if picture.focal_35mm is None else picture.focal_35mm / _SMALL_PICTURE_MM


def guess_paper(
    corners: Floats, spread: float, size: tuple[int, int], wide: float | None = None
) -> PaperGuess:
    """The papers whose sides fit four corners within their doubt.

    Args:
        spread: SD of each corner, image px.
    """
    ratio = side_ratio(corners, size, wide)
    variance, step = 0.0, 0.5
    for i in range(4):
        for axis in range(2):
            ends = []
            for sign in (1.0, -1.0):
                moved = corners.copy()
                moved[i, axis] += sign * step
                ends.append(side_ratio(moved, size, wide))
            variance += ((ends[0] - ends[1]) / (2.0 * step) * spread) ** 2
    # The lens may not look through the middle, and may bend: one part in a hundred.
    u = math.hypot(math.sqrt(variance), 0.01 * ratio)
    found, away = [], []
    for usual, (name, (short, long)) in enumerate(PAPERS.items()):
        lying = (short, long) if ratio < 1.0 else (long, short)
        miss = abs(lying[0] / lying[1] - ratio)
        away.append((round(miss, 3), usual, name))
        if miss <= COVERAGE * u:
            found.append((round(miss / u), usual, name, lying))
    fitting = tuple((name, lying) for _, _, name, lying in sorted(found))
    if fitting:
        return PaperGuess(ratio, u, fitting)
    a_px = math.sqrt(variance) / spread if spread > 0.0 else math.inf
    nearest = tuple((name, miss / a_px) for miss, _, name in _of_other_shapes(sorted(away)))
    return PaperGuess(ratio, u, (), nearest)


def _of_other_shapes(away: list[tuple[float, int, str]]) -> list[tuple[float, int, str]]:
    """The nearest paper, and the next whose sides are others."""
    first = away[0]
    second = next(one for one in away if one[0] > first[0] + _SHAPE)
    return [first, second]


def read_sheet_photo(
    sheet: Sheet, grade: Grade, head_mm: float | None = None
) -> SheetPhoto | NotMeasurable:
    """How far a photo of a sheet can be trusted.

    Args:
        head_mm: a head on the sheet, where it is known.
    """
    homography = sheet_homography(sheet)
    if isinstance(homography, NotMeasurable):
        return homography
    corners = np.asarray(sheet.corners, dtype=np.float64)
    _, jacobian = warp(homography, np.vstack([corners, corners.mean(axis=0)]))
    scales = 1.0 / np.linalg.svd(jacobian, compute_uv=False)  # px a mm, (5, 2)
    least, aslant = float(scales.min()), float(scales[-1].max() / scales[-1].min())
    tolerance = None if head_mm is None else least * grade.head * head_mm
    spread_mm = sheet.spread / least
    notes = []
    if aslant > _ASLANT:
        notes.append(
            f"taken from the side: the sheet is foreshortened {aslant:.1f} times, and the marks "
            "are less exact by as much; take the photo from more above"
        )
    if tolerance is not None and tolerance < _FINE:
        notes.append(
            f"small: a tolerance of {grade.head:g} head is {tolerance:.1f} px here, and "
            f"{_FINE:g} are wanted; take the photo from nearer"
        )
    if head_mm is not None and COVERAGE * spread_mm > grade.head * head_mm:
        notes.append(
            f"the corners are known to ± {COVERAGE * spread_mm:.1f} mm only, more than the "
            f"tolerance of {grade.head * head_mm:.1f} mm"
        )
    if sheet.bends:
        unsure = COVERAGE * worst_doubt(sheet.bends) / least
        notes.append(
            f"where it curls a mark is known to ± {unsure:.1f} mm at worst: how far in it does "
            "cannot be seen"
        )
    return SheetPhoto(least, aslant, spread_mm, tolerance, tuple(notes))


def camera_distance(picture: Picture, head_px: float) -> float | None:
    """From how far a person was photographed, m, by the size of the head; None where the lens is
    not known.

    Args:
        head_px: crown to chin, image px.
    """
    wide = wide_of(picture)
    if wide is None or not head_px > 0.0:
        return None
    return wide * max(picture.width, picture.height) * HEAD_M / head_px
