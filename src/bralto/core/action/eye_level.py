"""How high the eye is above the ground and how far away, as the feet, a click or the photo tell."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from bralto.core.action.bend import Doubted
from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.discover.levels import Standpoint
from bralto.core.mannequin.in_depth import InSpace, heads_in_picture
from bralto.core.marking.whereabouts import about_a_head
from bralto.core.measures.posture import NO_FEET, STANDS, posture
from bralto.core.page.photo import wide_of
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sight_points
from bralto.core.study.values import Picture, Point
from bralto.core.tolerances import COVERAGE
from bralto.core.views.model import View

__all__ = [
    "FOOT",
    "GROWN",
    "TALLEST",
    "TOE",
    "EyeLevel",
    "eye_level",
    "feet_of",
    "feet_under",
    "heads_tall",
    "shows_ground",
]

FOOT = Doubted(1.12, 0.10)
"""From heel to toe of a grown figure, heads: a foot is 0.152 of the height, a head 0.130 (Drillis
and Contini 1966), which makes 1.17; the model's is 1.08. Between the two."""

GROWN, TALLEST = 6.5, 9.0
"""Heads: what is lower is a child, whose feet are shorter in heads, or is bent; what is taller has
its head foreshortened, as one who looks up. How long such feet are is not known."""

TOE = Doubted(0.05, 0.02)
"""How high above the ground the mark of a toe lies, heads (measured on the model)."""

_LEVEL_U = 0.08
"""Standard deviation of a height of the eye that was clicked, heads (chosen, no source)."""

_USUAL = Doubted(22.0, 7.0)
"""Distance of the eye where nothing tells it, heads: about five metres (chosen, no source)."""

_LENS = 0.08
"""Standard deviation of a distance that the focal length tells, as a share: heads differ."""

_TILT = 0.12
"""Standard deviation of the tangent by which the camera of a photo looks up or down (chosen, no
source: seven degrees). Depths come out short by that times the height of the eye, as a share of its
distance; what it does to heads is less."""

_TOLD = 0.35
"""A height of the eye that the feet tell with a larger share of doubt is none (chosen, no
source)."""

_LEAST_EYE = 0.6
"""Heads: from so low the ground is a line, and nothing on it can be told."""


@dataclass(frozen=True, slots=True)
class EyeLevel:
    """From where a picture is seen.

    Attributes:
        height: of the eye above the ground, heads; ``distance`` of it, heads.
        told_by: ``named`` by the learner, ``model``, ``feet``, or ``reference``: as there.
        together: the feet told how steeply one looks down, so that height and distance hold only
            together, and doubt of either says nothing of the ground.
    """

    height: Doubted
    distance: Doubted
    told_by: str
    together: bool = False


def eye_level(
    figure: Figure,
    picture: Picture,
    named: Point | None = None,
    known: Standpoint | None = None,
    stand: Mapping[str, InSpace] | None = None,
) -> EyeLevel | NotMeasurable:
    """How high the eye stands above a figure's ground.

    Args:
        named: any place at the height of the eye, image px, as the learner has it.
        known: from where the model is seen; ``stand``, where its landmarks lie before the eye.
    """
    feet = feet_of(figure)
    if isinstance(feet, NotMeasurable):
        return feet
    if known is not None and stand:
        heads = heads_in_picture(stand, figure.marks.keys, figure.heads)
        known = replace(known, heads=known.heads * heads)
    under, distance = feet_under(figure.heads, feet), _distance(figure, picture, known)
    if named is not None:
        flat = sight_points(picture, np.array([named]), np.zeros(1))
        if isinstance(flat, NotMeasurable):
            return flat
        height = float(flat.xy[0, 1]) / figure.head.value - under[1]
        slope = _slope(figure, feet)
        if distance is _USUAL and not isinstance(slope, NotMeasurable) and height > 0.0:
            # As the feet look, that is how far away such an eye must be.
            far, share = height / slope.value, math.hypot(slope.u / slope.value, _LEVEL_U / height)
            far_away = Doubted(far, share * far)
            return _checked(Doubted(height, _LEVEL_U), far_away, "named", together=True)
        if known is None or known.eye is None:  # the camera may be tilted
            distance = replace(distance, u=math.hypot(distance.u, _TILT * height))
        return _checked(Doubted(height, _LEVEL_U), distance, "named")
    crown, chin = (figure.marks.keys.index(k) if k in figure.marks.keys else -1
                   for k in figure.view.head)  # fmt: skip
    if known is not None and known.eye is not None and min(crown, chin) >= 0:
        top, low = float(figure.heads[crown, 1]), float(figure.heads[chin, 1])
        height = top - known.eye * (top - low) - under[1]
        return _checked(Doubted(height, 0.01), Doubted(known.heads, 0.01 * known.heads), "model")
    slope = _slope(figure, feet)
    if isinstance(slope, NotMeasurable):
        return slope
    share = math.hypot(slope.u / slope.value, distance.u / distance.value)
    height = slope.value * distance.value
    return _checked(Doubted(height, share * height), distance, "feet", together=True)


def _checked(
    height: Doubted, distance: Doubted, told_by: str, *, together: bool = False
) -> EyeLevel | NotMeasurable:
    if height.value < _LEAST_EYE:
        return NotMeasurable("from so low an eye the ground is a line")
    return EyeLevel(height, distance, told_by, together)


def _distance(figure: Figure, picture: Picture, known: Standpoint | None) -> Doubted:
    if known is not None:
        return Doubted(known.heads, _LENS * known.heads)
    wide = wide_of(picture)
    if wide is None or picture.sheet is not None:
        return _USUAL
    focal = wide * max(picture.width, picture.height)
    heads = focal / about_a_head(figure.view, picture)
    return Doubted(heads, _LENS * heads)


def shows_ground(view: View) -> bool:
    """Whether a view has heel and toe of both feet, as that from the front."""
    return all(view.landmark(f"{end}_{side}") for end in ("heel", "toe") for side in ("r", "l"))


def feet_of(figure: Figure) -> dict[str, tuple[int, int]] | NotMeasurable:
    """Rows of heel and toe, by side."""
    if posture(figure.view, figure.marks) != STANDS:
        return NotMeasurable(NO_FEET)
    row = {key: i for i, key in enumerate(figure.marks.keys)}
    feet = {
        side: (row[f"heel_{side}"], row[f"toe_{side}"])
        for side in ("r", "l")
        if {f"heel_{side}", f"toe_{side}"} <= set(row)
    }
    if len(feet) < 2:
        return NotMeasurable("the ground wants heel and toe of both feet")
    return feet


def feet_under(heads: Floats, feet: Mapping[str, tuple[int, int]]) -> Floats:
    """(2,) the middle of both feet on the ground."""
    middles = [0.5 * (heads[heel] + heads[toe] - (0.0, TOE.value)) for heel, toe in feet.values()]
    under: Floats = np.mean(middles, axis=0)
    return under


def heads_tall(figure: Figure, feet: Mapping[str, tuple[int, int]]) -> float:
    """Heads from the ground to the crown; of all marks where that is not there."""
    keys, crown = figure.marks.keys, figure.view.edges[0]
    if crown not in keys:
        return figure.tall
    return float(figure.heads[keys.index(crown), 1] - feet_under(figure.heads, feet)[1])


def _slope(figure: Figure, feet: Mapping[str, tuple[int, int]]) -> Doubted | NotMeasurable:
    """Height of the eye against its distance by which two feet of usual length look as they do:
    how much higher one end lies than the other, against how far it must reach away."""
    if not GROWN <= heads_tall(figure, feet) <= TALLEST:
        return NotMeasurable("how long these feet are is not known: name the height of the eye")
    slopes = []
    for heel, toe in feet.values():
        sd = figure.sd[[heel, toe]]
        across, rise = figure.heads[toe] - figure.heads[heel] - (0.0, TOE.value)
        away = FOOT.value**2 - across**2
        if away <= 0.0:
            continue  # it is seen from the side: it tells nothing
        reach, placed = math.sqrt(away), math.hypot(math.hypot(*sd), TOE.u)
        reach_u = math.hypot(FOOT.value * FOOT.u, across * placed) / reach
        slope = abs(float(rise)) / reach
        slopes.append((slope, math.hypot(placed, slope * reach_u) / reach))
    if len(slopes) < 2:
        return NotMeasurable("feet seen from the side do not tell the height of the eye")
    (one, one_u), (two, two_u) = slopes
    if abs(one - two) > COVERAGE * math.hypot(one_u, two_u):
        return NotMeasurable("a heel is lifted: the feet do not tell the height of the eye")
    weights = np.array([one_u, two_u]) ** -2.0
    slope = float(weights @ (one, two) / weights.sum())
    slope_u = math.sqrt(1.0 / float(weights.sum()))
    if slope_u > _TOLD * slope:
        return NotMeasurable("the feet do not tell the height of the eye")
    return Doubted(slope, slope_u)
