"""Where the figure's weight falls, from its real centre of mass, and what it stands on."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from shapely import MultiPoint, Point

from bralto.core.arrays import Floats
from bralto.core.mannequin.body.kinematics import Posed
from bralto.core.mannequin.body.landmarks import landmark_named
from bralto.core.mannequin.body.skins import skin
from bralto.core.measures.masses import SEGMENTS

__all__ = ["Weight", "centre_of_mass", "weigh"]

_TOUCH = 0.04
"""Skin nearer to the ground than this bears weight, heads."""

_YIELDS = 0.15
"""The same of a trunk that lies or sits there, and of all that lies with it: wood does not yield as
flesh does (chosen here, no source)."""

_TRUNK = ("pelvis", "chest")

_ENDS: Mapping[str, str] = {
    **{
        f"{k}_{s}": f"{k}_{s}"
        for k in ("shoulder", "elbow", "wrist", "knee", "ankle")
        for s in "rl"
    },
    **{f"leg_{s}": f"hip_{s}" for s in "rl"},
}
"""Joint at which a segment's end lies, where it is no landmark."""


@dataclass(frozen=True, slots=True, eq=False)
class Weight:
    """How the figure stands.

    Attributes:
        centre: (3,) its centre of mass, world, heads.
        support: (n, 2) corners x, z of what it stands on, heads, or none where it touches nothing.
        inside: whether the plumb through the centre falls within them.
        margin: how far inside, heads; outside it is negative.
    """

    centre: Floats
    support: Floats
    inside: bool
    margin: float


def centre_of_mass(figure: Posed) -> Floats:
    """(3,) world, heads: segment masses at their centres (`masses.SEGMENTS`, de Leva 1996)."""
    total, mass = np.zeros(3), 0.0
    for segment in SEGMENTS:
        near, far = (_end(figure, ends) for ends in (segment.proximal, segment.distal))
        total += segment.mass * ((1.0 - segment.centre) * near + segment.centre * far)
        mass += segment.mass
    return total / mass


def _end(figure: Posed, ends: Mapping[str, float]) -> Floats:
    place = np.zeros(3)
    for name, share in ends.items():
        if name in _ENDS:
            place += share * figure.joint(_ENDS[name])
        else:
            mark = landmark_named("figure-front", name, "l")
            place += share * figure.world(mark.part, mark.at)
    return place


def weigh(figure: Posed, rests_on: float | None = None) -> Weight:
    """The centre of mass over what the figure touches the ground with.

    Args:
        rests_on: height of a box under the pelvis, heads; what touches its top bears weight too.
    """
    centre = centre_of_mass(figure)
    touching = []
    trunk = [part for part in _TRUNK if part in figure.places]
    lies = any(float(figure.world(one, skin(one))[:, 1].min()) < _YIELDS for one in trunk)
    near = _YIELDS if lies else _TOUCH
    for part in figure.places:
        points = figure.world(part, skin(part))
        bears = points[:, 1] < near
        if rests_on is not None and part in {"pelvis", "thigh_r", "thigh_l"}:
            bears |= points[:, 1] < rests_on + _TOUCH
        touching.append(points[bears][:, [0, 2]])
    ground = np.vstack(touching)
    if len(ground) < 3:
        return Weight(centre, np.zeros((0, 2)), False, -np.inf)
    hull = MultiPoint(ground).convex_hull
    plumb = Point(centre[0], centre[2])
    inside = bool(hull.contains(plumb))
    away = float(plumb.distance(hull.exterior if hasattr(hull, "exterior") else hull))
    corners = np.array(hull.exterior.coords if hasattr(hull, "exterior") else ground)[:, :2]
    return Weight(centre, corners, inside, away if inside else -away)
