"""Marks carried from one picture to another, as proposals: the learner looks at each and confirms.

Between two photos of one sheet the paper itself carries them; from the reference to the drawing the
best fit of the marks that both have. A proposal is `inferred` and says so in its ``extra``.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import from_sheet, image_points, on_flat_sheet, sheet_homography, warp
from bralto.core.study.pairing import Pair, pair_marks
from bralto.core.study.values import Mark, Picture
from bralto.core.terms import Visibility
from bralto.core.tolerances import DEFAULT_SPREAD_PX
from bralto.core.views.model import View

__all__ = [
    "PROPOSED",
    "carry_by_fit",
    "carry_by_sheet",
    "confirmed",
    "is_proposed",
    "plumb_from_line",
]

PROPOSED = "proposed"
"""Key in a mark's ``extra`` that says where it was carried from."""

_SAME_MM = 0.5


def is_proposed(mark: Mark) -> bool:
    """Whether a mark was carried here and has not been looked at yet."""
    return PROPOSED in mark.extra


def confirmed(mark: Mark) -> Mark:
    """The same mark once the learner has looked at it."""
    rest = {key: value for key, value in mark.extra.items() if key != PROPOSED}
    return replace(mark, visibility=Visibility.SEEN, extra=rest)


def carry_by_sheet(old: Picture, new: Picture) -> Mapping[str, Mark] | NotMeasurable:
    """Marks of a photo of a sheet on a later photo of the same sheet.

    Returns:
        The marks in image px of ``new``, spread widened by the doubt of both sheets; or why they
        cannot be carried.
    """
    if old.sheet is None or new.sheet is None:
        return NotMeasurable("both photos need the corners of the sheet")
    if np.abs(np.subtract(old.sheet.size_mm, new.sheet.size_mm)).max() > _SAME_MM:
        return NotMeasurable("the two sheets differ in size")
    there, back = sheet_homography(old.sheet), sheet_homography(new.sheet)
    if isinstance(there, NotMeasurable):
        return there
    if isinstance(back, NotMeasurable):
        return back
    keys = [key for key in old.marks if key in old.placed()]
    places = np.array([[old.marks[k].x, old.marks[k].y] for k in keys]).reshape(-1, 2)
    mm, by_old = warp(there, on_flat_sheet(old.sheet, there, places)[0])
    _, by_new = warp(np.asarray(np.linalg.inv(back), np.float64), mm)
    found, jacobian = from_sheet(new.sheet, back, mm), by_new @ by_old
    sizes = np.sqrt(np.abs(np.linalg.det(jacobian)))
    proposals = {}
    for key, at, size in zip(keys, found, sizes, strict=True):
        if 0.0 <= at[0] <= new.width and 0.0 <= at[1] <= new.height:
            there_px = np.hypot(old.marks[key].spread, old.sheet.spread)
            spread = float(np.hypot(size * there_px, new.sheet.spread))
            proposals[key] = _proposal(at, spread, "state")
    return proposals


def carry_by_fit(
    view: View, reference: Picture, drawing: Picture
) -> Mapping[str, Mark] | NotMeasurable:
    """Marks of the reference that the drawing lacks, where the best fit of the others puts them.

    They lie where a drawing without a fault would have them; that is why each must be looked at.
    """
    pair = pair_marks(view, reference, drawing, in_mm=False)
    if not isinstance(pair, Pair):
        return pair[1]
    fit = pair.best_fit()
    if isinstance(fit, NotMeasurable):
        return fit
    lacking = pair.seen.keys[pair.shared :]
    if not lacking:
        return NotMeasurable("the drawing has all the marks that the reference has")
    xy = fit.scale * pair.seen.xy[pair.shared :] + fit.shift
    places = image_points(drawing, xy, in_mm=False)
    if isinstance(places, NotMeasurable):
        return places
    spread = float(np.sqrt(np.mean(np.sum(np.square(fit.residuals), axis=1))))
    return {
        key: _proposal(at, max(DEFAULT_SPREAD_PX, spread), "reference")
        for key, at in zip(lacking, places, strict=True)
        if 0.0 <= at[0] <= drawing.width and 0.0 <= at[1] <= drawing.height
    }


def _proposal(at: Floats, spread: float, whence: str) -> Mark:
    return Mark(float(at[0]), float(at[1]), Visibility.INFERRED, spread, {PROPOSED: whence})


def plumb_from_line(
    picture: Picture, one: tuple[float, float], two: tuple[float, float], *, level: bool = False
) -> float | NotMeasurable:
    """The plumb correction (degrees) that makes a line of the picture vertical, or level.

    Args:
        one, two: ends of the line, image px, in any order.
        level: the line is truly level, not truly vertical.
    """
    ends = np.array([one, two], dtype=np.float64)
    if picture.sheet is not None:
        homography = sheet_homography(picture.sheet)
        if isinstance(homography, NotMeasurable):
            return homography
        ends, _ = warp(homography, on_flat_sheet(picture.sheet, homography, ends)[0])
    across, up = ends[1, 0] - ends[0, 0], ends[0, 1] - ends[1, 1]
    if max(abs(across), abs(up)) < 1e-6:
        return NotMeasurable("a line needs two ends apart from each other")
    if level:
        sign = 1.0 if across >= 0.0 else -1.0
        return -float(np.degrees(np.arctan2(sign * up, sign * across)))
    sign = 1.0 if up >= 0.0 else -1.0
    return float(np.degrees(np.arctan2(sign * across, sign * up)))
