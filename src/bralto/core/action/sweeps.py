"""Which curves are drawn through a picture of a view, and where its marks propose them."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources

import numpy as np

from bralto.core.action.curve import FEWEST_POINTS, MOST_POINTS, curve_through
from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import image_points
from bralto.core.study.values import Picture
from bralto.core.tolerances import GRADES_OF
from bralto.core.views.model import View

__all__ = [
    "WHOLE", "ActionTable", "Pair", "curves_of", "proposed", "sweep_sd", "table_of",
]  # fmt: skip

WHOLE = "action"
"""Name of the curve through the whole."""

_SHARE = 0.4
"""Of the developing grade's tolerance: how surely a hand sets points on a sweep, which is nowhere
to be seen (chosen here, no source): 0.02 head of a figure."""


@dataclass(frozen=True, slots=True)
class Pair:
    """Two curves that are a limb's edges: ``limb``, and the names of the two."""

    limb: str
    one: str
    other: str


@dataclass(frozen=True, slots=True)
class ActionTable:
    """What the action of one view is made of, see ``sweeps.toml``.

    Attributes:
        line: the stops of the proposed sweep.
        ribs, pelvis: right end, left end and middle of each mass, or ().
        legs: names of the curves of single legs.
        pairs: edges of limbs.
    """

    line: tuple[str, ...]
    ribs: tuple[str, ...]
    pelvis: tuple[str, ...]
    legs: tuple[str, ...]
    pairs: tuple[Pair, ...]


@lru_cache
def _all() -> dict[str, dict[str, list[str]]]:
    text = (resources.files(__package__) / "sweeps.toml").read_text("utf-8")
    return tomllib.loads(text)


@lru_cache(maxsize=32)
def table_of(view: View) -> ActionTable:
    """What is known of a view; of a learner's own one, nothing but that it has a sweep."""
    found = _all().get(view.key, {})
    legs = tuple(f"{leg}'s sweep" for leg in found.get("legs", ()))
    pairs = tuple(
        Pair(limb, f"{limb}, outer edge", f"{limb}, inner edge") for limb in found.get("limbs", [])
    )
    return ActionTable(
        tuple(found.get("line", ())),
        tuple(found.get("ribs", ())),
        tuple(found.get("pelvis", ())),
        legs,
        pairs,
    )


def curves_of(view: View) -> tuple[str, ...]:
    """Names of all curves that a view asks for, the whole first."""
    table = table_of(view)
    edges = (name for pair in table.pairs for name in (pair.one, pair.other))
    return (WHOLE, *table.legs, *edges)


def sweep_sd(view: View) -> float:
    """Standard deviation of a point on a sweep as a hand sets it, heads."""
    return _SHARE * GRADES_OF[view.size]["developing"].head


def proposed(figure: Figure, picture: Picture, bearing: str) -> Floats | NotMeasurable:
    """Where a picture's marks let the sweep of the whole run, as points that a hand could have set.

    Args:
        figure: the marks of that picture.
        bearing: ``r`` or ``l``, the leg that bears the weight, or ``both``.

    Returns:
        (n, 2) array, image px, `FEWEST_POINTS` to `MOST_POINTS` of them.
    """
    stops = table_of(figure.view).line
    found = [place for stop in stops if (place := _stop(figure, stop, bearing)) is not None]
    if len(found) < 3:
        return NotMeasurable("too few marks lie along it: draw it as you see it")
    xy = np.array(found[:MOST_POINTS])
    if len(xy) < FEWEST_POINTS:
        xy = _more(xy)
    return image_points(picture, xy)


def _stop(figure: Figure, stop: str, bearing: str) -> Floats | None:
    """A place of the sight frame, or None where a mark of it is missing."""
    keys = [stop]
    if "?" in stop:
        keys = [stop.replace("?", side) for side in ("r", "l") if bearing in (side, "both")]
    keys = [part for key in keys for part in key.split("+")]
    rows = [figure.view.point_rows.get(key) for key in keys]
    at = [row for row in rows if row is not None and figure.points.present[row]]
    if len(at) < len(rows) and "?" in stop and bearing != "both":
        return None
    if not at or (len(at) < len(rows) and "?" not in stop):
        return None
    place: Floats = figure.points.xy[at].mean(axis=0)
    return place


def _more(xy: Floats) -> Floats:
    """Few stops as enough points, halfway between those that lie farthest apart."""
    while len(xy) < FEWEST_POINTS:
        at = int(np.argmax(np.hypot(*np.diff(xy, axis=0).T)))
        xy = np.insert(xy, at + 1, 0.5 * (xy[at] + xy[at + 1]), axis=0)
    found = curve_through(xy, float(np.hypot(*np.ptp(xy, axis=0))) / 200.0)
    if isinstance(found, NotMeasurable):
        return xy
    return np.array([found.place(share) for share in np.linspace(0.0, 1.0, FEWEST_POINTS)])
