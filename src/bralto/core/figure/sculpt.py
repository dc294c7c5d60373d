"""The figure's forms as signed distances, and the points of its surface.

Round cones and ellipsoids melt into each other part by part (the polynomial smooth minimum and
the ellipsoid's bound of Quilez, from memory); a part moves as a whole.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.figure.joints import SIDES, data_file, joints

__all__ = ["Form", "Sculpt", "distance", "sculpts", "skin", "surface_point"]


@dataclass(frozen=True, slots=True, eq=False)
class Form:
    """One form: a round cone from ``a`` to ``b`` (radii ``ra``, ``rb``), or an ellipsoid.

    For an ellipsoid ``a`` is the centre and ``radii`` its half axes. ``flat`` (3,) squeezes a cone
    about ``a``. All in heads, in the part's frame.
    """

    a: Floats
    b: Floats | None
    ra: float
    rb: float
    radii: Floats | None
    flat: Floats
    cut: bool
    blend: float


@dataclass(frozen=True, slots=True, eq=False)
class Sculpt:
    """The forms of a part; ``floor`` cuts off what lies below that y."""

    part: str
    forms: tuple[Form, ...]
    floor: float | None


@lru_cache(maxsize=1)
def sculpts() -> dict[str, Sculpt]:
    """The forms of every part, the right side mirrored."""
    data = data_file("sculpt.toml")
    out = {}
    for joint in joints():
        base, _, side = joint.part.rpartition("_")
        name = base if side in SIDES else joint.part
        out[joint.part] = _sculpt(joint.part, data[name], mirror=side == "r")
    return out


def _sculpt(part: str, entry: dict[str, Any], mirror: bool) -> Sculpt:
    forms: list[Form] = []
    for one in entry["forms"]:
        made = _form(one, entry["blend"])
        forms += [made, _mirrored(made)] if one.get("both") else [made]
    if mirror:
        forms = [_mirrored(form) for form in forms]
    return Sculpt(part, tuple(forms), entry.get("floor"))


def _form(one: dict[str, Any], blend: float) -> Form:
    common: dict[str, Any] = {
        "flat": np.array(one.get("flat", [1.0, 1.0, 1.0])),
        "cut": one.get("cut", False),
        "blend": one.get("blend", blend),
    }
    if "egg" in one:
        return Form(np.array(one["egg"]), None, 0.0, 0.0, np.array(one["radii"]), **common)
    ends = np.array(one["cone"])
    return Form(ends[:3], ends[3:], one["ra"], one["rb"], None, **common)


def _mirrored(form: Form) -> Form:
    flip = np.array([-1.0, 1.0, 1.0])
    b = None if form.b is None else form.b * flip
    return Form(form.a * flip, b, form.ra, form.rb, form.radii, form.flat, form.cut, form.blend)


def distance(sculpt: Sculpt, points: Floats) -> Floats:
    """(...) distance of (..., 3) points of the part's frame from its surface; inside is negative.

    Near the surface only: an ellipsoid's is a bound, and blends swell by up to a quarter of theirs.
    """
    whole: Floats | None = None
    for form in sculpt.forms:
        one = _distance(form, points)
        if whole is None:
            whole = one
        elif form.cut:
            whole = -_melt(-whole, one, form.blend)
        else:
            whole = _melt(whole, one, form.blend)
    assert whole is not None
    if sculpt.floor is not None:
        whole = np.maximum(whole, sculpt.floor - points[..., 1])
    return whole


def _melt(d: Floats, e: Floats, k: float) -> Floats:
    h = np.maximum(k - np.abs(d - e), 0.0) / k
    melted: Floats = np.minimum(d, e) - 0.25 * k * h * h
    return melted


def _distance(form: Form, points: Floats) -> Floats:
    if form.radii is not None:
        scaled = (points - form.a) / form.radii
        k0 = np.sqrt(np.square(scaled).sum(axis=-1))
        k1 = np.sqrt(np.square(scaled / form.radii).sum(axis=-1))
        egg: Floats = k0 * (k0 - 1.0) / np.maximum(k1, 1e-9)
        return egg
    assert form.b is not None
    rel, axis = (points - form.a) / form.flat, (form.b - form.a) / form.flat
    t = np.clip((rel @ axis) / float(axis @ axis), 0.0, 1.0)
    off = rel - t[..., None] * axis
    away = np.sqrt(np.square(off).sum(axis=-1)) - (form.ra + t * (form.rb - form.ra))
    cone: Floats = away * float(form.flat.min())
    return cone


def surface_point(part: str, inside: Floats, way: Floats, reach: float = 1.5) -> Floats:
    """(3,) where a ray from (3,) ``inside`` a part along (3,) ``way`` leaves it for good.

    Raises:
        ValueError: it never does within ``reach`` heads, or is outside all along.
    """
    along = np.linspace(0.0, reach, 1501)
    points = inside + along[:, None] * (way / np.sqrt(way @ way))
    within = np.nonzero(distance(sculpts()[part], points) < 0.0)[0]
    if not len(within) or within[-1] == len(along) - 1:
        raise ValueError(f"a ray in {part} from {inside} along {way} does not leave it")
    d = distance(sculpts()[part], points[within[-1] : within[-1] + 2])
    t = float(d[0] / (d[0] - d[1]))
    at: Floats = (1.0 - t) * points[within[-1]] + t * points[within[-1] + 1]
    return at


@lru_cache(maxsize=64)
def skin(part: str) -> Floats:
    """(n, 3) points spread over a part's surface, in its frame: what may touch the ground."""
    if part.endswith("_r"):
        return np.asarray(skin(part[:-1] + "l") * np.array([-1.0, 1.0, 1.0]))
    sculpt = sculpts()[part]
    centres = [form.a for form in sculpt.forms if not form.cut]
    centres += [form.b for form in sculpt.forms if form.b is not None and not form.cut]
    ways = _spread(110)
    start = np.repeat(np.array(centres), len(ways), axis=0)
    way = np.tile(ways, (len(centres), 1))
    # From well outside inward, by what the distance allows at each step (sphere tracing).
    points = start + 1.3 * way
    for _ in range(30):
        points = points - 0.9 * distance(sculpt, points)[:, None] * way
    on = np.abs(distance(sculpt, points)) < 2e-3
    found: Floats = points[on]
    return found


def _spread(count: int) -> Floats:
    """(count, 3) unit ways, evenly about a sphere (Fibonacci's spiral), and the six axes."""
    i = np.arange(count) + 0.5
    polar, turn = np.arccos(1.0 - 2.0 * i / count), np.pi * (1.0 + np.sqrt(5.0)) * i
    ring = np.sin(polar)
    ways = np.column_stack([ring * np.cos(turn), np.cos(polar), ring * np.sin(turn)])
    return np.vstack([ways, np.eye(3), -np.eye(3)])
