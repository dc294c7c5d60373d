"""Where the landmarks of a view lie on the figure."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.errors import UserError
from bralto.core.mannequin.body.joints import SIDES, data_file, joints
from bralto.core.mannequin.body.kinematics import Posed, rotation, rotation_vector
from bralto.core.mannequin.body.sculpt import sculpts, surface_point

__all__ = ["Landmark3D", "landmark_named", "landmarks_of", "viewed"]

_LAYERS = {
    "figure-front": ("figure",),
    "figure-back": ("figure",),
    "figure-side": ("side", "figure"),
    "head-front": ("head", "figure"),
    "head-three-quarter": ("head", "figure"),
    "head-profile": ("profile", "head", "figure"),
    "hand": ("hand",),
}
"""Tables of landmarks.toml a view's marks are looked up in, one after the other."""


@dataclass(frozen=True, slots=True, eq=False)
class Landmark3D:
    """A landmark on the figure.

    Attributes:
        part: that carries it; ``at`` (3,) where in the part's frame, heads.
        on: parts through whose surface it is seen.
        far: heads of wood that may lie over it while it still counts as seen: a joint's middle lies
            deep, and a place of the surface may be seen edge-on.
        halfway: the part above, where the mark lies on the joint between both and turns by half of
            its bend, as a kneecap does; or "".
        inside: whether it is the middle of a joint, which no surface shows.
    """

    key: str
    part: str
    at: Floats
    on: tuple[str, ...]
    far: float
    halfway: str = ""
    inside: bool = False

    def on_figure(self, figure: Posed) -> Landmark3D:
        """The same mark with its place in the part's frame as that figure is bent."""
        if not self.halfway or self.halfway not in figure.rotations:
            return self
        bend = rotation_vector(figure.rotations[self.halfway].T @ figure.rotations[self.part])
        if float(bend @ bend) < _STRAIGHT:
            return self
        way = self.at / float(np.sqrt(self.at @ self.at))
        back, out = rotation(-0.5 * bend) @ way, rotation(0.5 * bend) @ way
        joint = next(one.at for one in joints() if one.part == self.part)
        # The wood of both parts: what of them reaches farther is the knee.
        reach = max(_away(self.part, np.zeros(3), back), _away(self.halfway, joint, out))
        return replace(self, at=reach * back)


_STRAIGHT = 1e-12


def _away(part: str, start: Floats, way: Floats) -> float:
    """Heads from a joint to where a part's surface is left, 0 where it is not met."""
    try:
        found = surface_point(part, start, way) - start
    except ValueError:
        return 0.0
    return float(np.sqrt(found @ found))


def viewed() -> tuple[str, ...]:
    """Keys of the views whose landmarks the figure has."""
    return tuple(_LAYERS)


def landmarks_of(view: str, keys: tuple[str, ...], near: str) -> tuple[Landmark3D, ...]:
    """The landmarks of a view.

    Args:
        view: its key. keys: of its marks.
        near: `r` or `l`, the model's side that is turned towards the eye; a side view has one of
            each pair, of that side.

    Raises:
        UserError: the figure lacks a mark of the view.
    """
    return tuple(landmark_named(view, key, near) for key in keys)


_BEYOND = 0.2
"""Heads of wood over a mark of the other leg or arm: more, and it is the near one's (chosen
here)."""


@lru_cache(maxsize=1024)
def landmark_named(view: str, key: str, near: str) -> Landmark3D:
    """One landmark of a view (`landmarks_of`)."""
    if view not in _LAYERS:
        raise UserError(f"the model has no landmarks for the view '{view}'; {', '.join(_LAYERS)}")
    name, side = _side_of(key, near)
    for layer in _LAYERS[view]:
        entry = _tables()[layer].get(name)
        if entry is not None:
            found = _made(key, entry, side if entry.get("paired") else None)
            beyond = view.startswith("figure") and key.startswith("far_")
            return replace(found, far=min(found.far, _BEYOND)) if beyond else found
    raise UserError(f"the model has no landmark '{key}' of the view '{view}'")


@lru_cache(maxsize=1)
def _tables() -> dict[str, dict[str, Any]]:
    return data_file("landmarks.toml")


def _side_of(key: str, near: str) -> tuple[str, str]:
    far = "l" if near == "r" else "r"
    for start, side in (("near_", near), ("far_", far)):
        if key.startswith(start):
            return key.removeprefix(start), side
    if key[-2:] in {f"_{s}" for s in SIDES}:
        return key[:-2], key[-1]
    return key, near


@lru_cache(maxsize=1024)
def _left(part: str, inside: tuple[float, ...], way: tuple[float, ...]) -> Floats:
    """`surface_point`, of which views have many in common."""
    return surface_point(part, np.array(inside), np.array(way))


def _made(key: str, entry: dict[str, Any], side: str | None) -> Landmark3D:
    at, way = np.array(entry["at"]), entry.get("way")
    part, end = entry["part"], f"_{side}" if side else ""
    own = part if part in sculpts() else part + end  # the middle line's parts have no side
    flip = np.array([-1.0 if side == "r" else 1.0, 1.0, 1.0])
    place = at * flip
    if way is not None:
        place = _left(own, tuple(place), tuple(np.array(way) * flip))
    on = tuple(name.replace("_*", end) for name in entry.get("on", (own,)))
    halfway = entry.get("halfway", "").replace("_*", end)
    return Landmark3D(key, own, place, on, entry.get("far", 0.06), halfway, inside=way is None)
