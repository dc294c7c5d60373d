"""What must go on the sheet: how far a figure reaches, in one unit, by its marks or by hand."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.errors import UserError
from bralto.core.measures.points import picture_points
from bralto.core.measures.posture import LIES, posture
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture
from bralto.core.views.model import HEAD, View

__all__ = [
    "LARGEST_MM",
    "PRINT",
    "Extent",
    "Station",
    "extent_by_hand",
    "extent_in_heads",
    "extent_of_marks",
    "scaled",
]

LARGEST_MM = 3000.0


@dataclass(frozen=True, slots=True)
class Station:
    """A point of the figure: ``down`` from the top of its extent, ``across`` from plumb, None where
    only its height is known."""

    key: str
    label: str
    down: float
    across: float | None


@dataclass(frozen=True, slots=True)
class Extent:
    """What must go on the sheet, in one unit: reference px or mm, or thumbs on a pencil.

    Attributes:
        height: top to bottom; ``above``, how much of it lies above the highest mark.
        left, right: how far it reaches from the plumb line, both positive outward.
        head: length of the head, or None where it was not measured.
        unit: name of the unit, for the divider setting: px, mm, `PRINT` or one by hand.
        lies: whether the figure does, as its marks tell.
        sized_by, sized_heads: what a drawing is planned by, and how many heads that is (`View`).
    """

    height: float
    left: float
    right: float
    head: float | None
    stations: tuple[Station, ...]
    unit: str
    lies: bool = False
    above: float = 0.0
    sized_by: str = HEAD
    sized_heads: float = 1.0


PRINT = "mm of the print"
"""Unit of a picture that the learner has beside the sheet, printed or on a screen."""


def extent_of_marks(
    view: View, picture: Picture, print_mm: float | None = None
) -> Extent | NotMeasurable:
    """What a reference's marks say of the figure's extent, in its sight frame's unit.

    The plumb line hangs from the view's plumb mark, or else through the middle. The outline lies
    beyond the outermost marks at either side of a body (`View.beyond`): above and below of one that
    lies.

    Args:
        print_mm: how high the whole picture stands beside the sheet, where its own mm are not
            known: the extent is then in mm of that (`PRINT`).

    Raises:
        UserError: that is no height of a picture.
    """
    if print_mm is not None and not 0.0 < print_mm <= LARGEST_MM:
        raise UserError(f"a picture that stands {print_mm:g} mm high is none; give mm above 0")
    found = picture_points(view, picture, fewest=2)
    if isinstance(found, NotMeasurable):
        return found
    marks, points = found
    rows = view.point_rows
    low, high = marks.xy.min(axis=0), marks.xy.max(axis=0)
    plumb = rows[view.plumb]
    middle = points.xy[plumb, 0] if points.present[plumb] else 0.5 * (low[0] + high[0])
    a, b = (rows[key] for key in view.head)
    head = None
    if points.present[a] and points.present[b]:
        away = points.xy[a] - points.xy[b]
        long = abs(away[1]) if view.unit_along == "plumb" else np.hypot(*away)
        head = float(long) / view.heads
    lies = posture(view, marks) == LIES
    beyond = view.beyond * head if head is not None else 0.0
    above, beside = (beyond, 0.0) if lies else (0.0, beyond)
    if not high[1] > low[1]:
        return NotMeasurable("the marks all lie at one height")
    in_print = marks.unit == "px" and print_mm is not None
    per = print_mm / picture.height if in_print and print_mm else 1.0
    shown = [key for key in view.stations if points.present[rows[key]]]
    shown += [key for key in view.rails if points.present[rows[key]] and key not in shown]
    return Extent(
        height=per * (float(high[1] - low[1]) + 2.0 * above),
        left=per * (float(middle - low[0]) + beside),
        right=per * (float(high[0] - middle) + beside),
        head=None if head is None else per * head,
        stations=tuple(
            Station(
                key,
                view.point_label(key),
                per * (float(high[1] - points.xy[rows[key], 1]) + above),
                per * float(points.xy[rows[key], 0] - middle),
            )
            for key in shown
        ),
        unit=PRINT if in_print else marks.unit,
        lies=lies,
        above=per * above,
        sized_by=view.sized_by,
        sized_heads=view.sized_heads,
    )


def scaled(value: float | None, by: float) -> float | None:
    """A length in another unit, None where it is not known."""
    return None if value is None else by * value


def extent_in_heads(view: View, picture: Picture, head_px: float) -> Extent | NotMeasurable:
    """The same of a figure without pixels, counted in heads: of what sightings imply.

    Args:
        head_px: picture px a head.
    """
    found = extent_of_marks(view, picture)
    if isinstance(found, NotMeasurable):
        return found
    by = 1.0 / head_px
    return replace(
        found,
        height=by * found.height,
        left=by * found.left,
        right=by * found.right,
        head=scaled(found.head, by),
        stations=tuple(
            replace(one, down=by * one.down, across=scaled(one.across, by))
            for one in found.stations
        ),
        unit=view.unit,
        above=by * found.above,
    )


def extent_by_hand(
    view: View, height: float, width: float, heights: Mapping[str, float], unit: str = "thumb"
) -> Extent:
    """Measures taken with a pencil at arm's length, or with a rule, in place of marks.

    Args:
        height, width: of the whole, in one unit.
        heights: points of the view by key, each its distance below the top in the same unit.

    Raises:
        UserError: a key is unknown, or a measure is not between 0 and the whole height.
    """
    if not (0.0 < height < 1e6 and 0.0 <= width < 1e6):
        raise UserError("measures by hand want a height above 0 and a width, in one unit")
    for key, down in heights.items():
        if key not in view.point_rows:
            raise UserError(f"measured by hand: the view {view.key} has no point '{key}'")
        if not 0.0 <= down <= height:
            raise UserError(f"measured by hand: {key} at {down:g} is not within 0 to {height:g}")
    top, bottom = view.head
    head = None
    if bottom in heights:
        head = abs(heights[bottom] - heights.get(top, 0.0)) / view.heads or None
    stations = sorted(heights.items(), key=lambda one: one[1])
    return Extent(
        height, 0.5 * width, 0.5 * width, head,
        tuple(Station(key, view.point_label(key), down, 0.0) for key, down in stations), unit,
        sized_by=view.sized_by, sized_heads=view.sized_heads,
    )  # fmt: skip
