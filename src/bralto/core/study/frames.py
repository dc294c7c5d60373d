"""Frames: image (px, y down), sheet (mm, y down) and sight (px or mm, y up, plumb vertical).

A picture's marks enter in its image frame and leave in its sight frame with a covariance each,
so that nothing downstream needs to know how the picture was taken.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable
from bralto.core.study.curled import bent, curls_too_far, flattened
from bralto.core.study.snapped import mark_covariance
from bralto.core.study.values import Picture, Sheet

__all__ = [
    "SightMarks",
    "as_curled",
    "from_sheet",
    "image_points",
    "on_flat_sheet",
    "sheet_homography",
    "sight_marks",
    "sight_points",
    "turn_to_sight",
    "warp",
]


_HORIZON = 1e-6


@dataclass(frozen=True, slots=True)
class SightMarks:
    """Marks of one picture in its sight frame.

    Attributes:
        keys: landmark of each row.
        xy: (n, 2) array, x right and y up, in ``unit``.
        cov: (n, 2, 2) array, covariance of placing each mark, in ``unit`` squared.
        unit: ``px``, or ``mm`` where the picture's sheet of paper is known.
        joint: (2n, 2n) array, covariance of all of them together, x and y side by side, where they
            are not independent of each other: of a figure that sightings imply. Else None.
    """

    keys: tuple[str, ...]
    xy: Floats
    cov: Floats
    unit: str
    joint: Floats | None = None

    @property
    def doubt(self) -> Floats:
        """All that is known of their doubt, for `uncertainty.propagate`."""
        return self.cov if self.joint is None else self.joint

    def picked(self, keys: tuple[str, ...]) -> SightMarks:
        """Some of them, in this order."""
        rows = [self.keys.index(key) for key in keys]
        joint = self.joint
        if joint is not None:
            at = np.ravel([[2 * row, 2 * row + 1] for row in rows]).astype(np.intp)
            joint = joint[np.ix_(at, at)]
        return SightMarks(keys, self.xy[rows], self.cov[rows], self.unit, joint)


def turn_to_sight(plumb_deg: float) -> Floats:
    """The (2, 2) matrix from image axes (y down) to sight axes (y up).

    ``plumb_deg`` is the plumb correction: the picture is turned counter-clockwise by it.
    """
    c, s = np.cos(np.radians(plumb_deg)), np.sin(np.radians(plumb_deg))
    return np.array([[c, -s], [s, c]]) @ np.diag([1.0, -1.0])


def sheet_homography(sheet: Sheet) -> Floats | NotMeasurable:
    """The (3, 3) homography from image px to sheet mm, from the paper's four corners.

    Solves the 8 x 8 system of the direct linear transform (Hartley and Zisserman 2004, 4.1).
    Corners run top-left, top-right, bottom-right, bottom-left.
    """
    width, height = sheet.size_mm
    source = np.asarray(sheet.corners, dtype=np.float64)
    target = np.array([[0.0, 0.0], [width, 0.0], [width, height], [0.0, height]])
    edges = np.roll(source, -1, axis=0) - source
    following = np.roll(edges, -1, axis=0)
    turns = edges[:, 0] * following[:, 1] - edges[:, 1] * following[:, 0]
    if not (np.all(turns > 0.0) or np.all(turns < 0.0)):
        return NotMeasurable("the four corners of the sheet fold over each other")
    # About the middle of the sheet, which is never on its horizon as the picture's corner may be.
    middle = source.mean(axis=0)
    rows = []
    for (x, y), (u, v) in zip(source - middle, target, strict=True):
        rows.append([x, y, 1.0, 0.0, 0.0, 0.0, -u * x, -u * y])
        rows.append([0.0, 0.0, 0.0, x, y, 1.0, -v * x, -v * y])
    solution = np.linalg.solve(np.array(rows), target.reshape(8))
    shift = np.array([[1.0, 0.0, -middle[0]], [0.0, 1.0, -middle[1]], [0.0, 0.0, 1.0]])
    homography: Floats = np.append(solution, 1.0).reshape(3, 3) @ shift
    return homography


def warp(homography: Floats, xy: Floats) -> tuple[Floats, Floats]:
    """Map points and give the local linear part.

    Args:
        homography: (3, 3) array.
        xy: (n, 2) array.

    Returns:
        The mapped points (n, 2) and the Jacobian at each (n, 2, 2), d(mapped) / d(xy).
    """
    lifted = np.column_stack([xy, np.ones(len(xy))]) @ homography.T
    w = lifted[:, 2:3]
    mapped = lifted[:, :2] / w
    jacobian = (homography[None, :2, :2] - mapped[:, :, None] * homography[None, 2:3, :2]) / w[
        :, :, None
    ]
    return mapped, jacobian


def on_flat_sheet(sheet: Sheet, homography: Floats, xy: Floats) -> tuple[Floats, Floats, Floats]:
    """Places of a photo (n, 2), image px, as if its sheet lay flat: see `curled.flattened`.

    Args:
        homography: of `sheet_homography`.
    """
    corners = np.asarray(sheet.corners, dtype=np.float64)
    return flattened(corners, sheet.bends, _to_unit(sheet, homography), xy)


def from_sheet(sheet: Sheet, homography: Floats, xy_mm: Floats) -> Floats:
    """Where places of the sheet (n, 2), mm, lie in its photo, image px, curled as it is."""
    flat = warp(np.asarray(np.linalg.inv(homography), np.float64), xy_mm)[0]
    return as_curled(sheet, homography, flat)


def as_curled(sheet: Sheet, homography: Floats, flat: Floats) -> Floats:
    """Where places of the sheet as if it lay flat (n, 2), image px, lie in its photo: see
    `curled.bent`."""
    corners = np.asarray(sheet.corners, dtype=np.float64)
    return bent(corners, sheet.bends, _to_unit(sheet, homography), flat)


def _to_unit(sheet: Sheet, homography: Floats) -> Floats:
    width, height = sheet.size_mm
    unit: Floats = np.diag([1.0 / width, 1.0 / height, 1.0]) @ homography
    return unit


def sight_marks(
    picture: Picture, keys: Sequence[str], *, in_mm: bool = True
) -> SightMarks | NotMeasurable:
    """The marks ``keys`` of a picture in its sight frame (absent ones must not be asked for).

    Args:
        picture: marks in the image frame, spread in image px.
        keys: which marks, in the order of the rows wanted.
        in_mm: use the sheet frame where the picture has a sheet.
    """
    marks = [picture.marks[key] for key in keys]
    xy = np.array([[mark.x, mark.y] for mark in marks], dtype=np.float64).reshape(-1, 2)
    found = _sight(picture, xy, mark_covariance(marks), in_mm=in_mm)
    return found if isinstance(found, NotMeasurable) else replace(found, keys=tuple(keys))


def image_points(picture: Picture, xy: Floats, *, in_mm: bool = True) -> Floats | NotMeasurable:
    """Places in a picture's sight frame (n, 2) back in its image frame, px.

    The inverse of `sight_points`, whose ``in_mm`` it takes.
    """
    flat: Floats = xy @ np.linalg.inv(turn_to_sight(picture.plumb_deg)).T
    if picture.sheet is None or not in_mm:
        return flat
    homography = sheet_homography(picture.sheet)
    if isinstance(homography, NotMeasurable):
        return homography
    return from_sheet(picture.sheet, homography, flat)


def sight_points(
    picture: Picture, xy: Floats, spread: Floats, *, in_mm: bool = True
) -> SightMarks | NotMeasurable:
    """Any points of a picture in its sight frame, without keys.

    Args:
        xy: (n, 2) array, image px.
        spread: (n,) array, SD of placing each, image px.
        in_mm: use the sheet frame where the picture has a sheet.
    """
    return _sight(picture, xy, np.square(spread)[:, None, None] * np.eye(2)[None], in_mm=in_mm)


def _sight(picture: Picture, xy: Floats, cov: Floats, *, in_mm: bool) -> SightMarks | NotMeasurable:
    """Points (n, 2) with their covariances (n, 2, 2), image px, in the sight frame."""
    sheet, unit = (picture.sheet if in_mm else None), "px"
    if sheet is not None:
        cov = cov + sheet.spread**2 * np.eye(2)[None]
        homography = sheet_homography(sheet)
        if isinstance(homography, NotMeasurable):
            return homography
        if sheet.bends:
            if curls_too_far(np.asarray(sheet.corners, dtype=np.float64), sheet.bends):
                return NotMeasurable("the sheet's edges leave its corners too far to be straight")
            xy, straight, doubt = on_flat_sheet(sheet, homography, xy)
            cov = straight @ cov @ straight.transpose(0, 2, 1)
            cov = cov + np.square(doubt)[:, None, None] * np.eye(2)[None]
        # w is 1 at the middle of the sheet and turns at the horizon of its plane.
        if np.any(xy @ homography[2, :2] + homography[2, 2] <= _HORIZON):
            return NotMeasurable("a mark lies beyond the horizon of the sheet's plane")
        xy, jacobian = warp(homography, xy)
        cov = jacobian @ cov @ jacobian.transpose(0, 2, 1)
        unit = "mm"
    turn = turn_to_sight(picture.plumb_deg)
    return SightMarks((), xy @ turn.T, turn @ cov @ turn.T, unit)
