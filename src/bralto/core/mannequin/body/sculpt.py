"""The figure's forms as signed distances, and the points of its surface.

Round cones and ellipsoids melt into each other part by part (the polynomial smooth minimum and
the ellipsoid's bound of Quilez, from memory); a part moves as a whole.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.mannequin.body.joints import SIDES, data_file, joints

__all__ = [
    "CAST",
    "HAIR",
    "Form",
    "Sculpt",
    "distance",
    "distance_on",
    "normals_on",
    "sculpts",
    "surface_point",
]

HAIR = "hair"
"""The part that may lie on the head; written in the head's frame."""

CAST = "cast"
"""A hand as a plaster cast, with all of its fingers: no part of the figure."""

_OFF = 0.05
"""Heads that a point which stands for the surface may lie off it: meshes are coarse."""

_Places = tuple[Floats, Floats, Floats]
"""Coordinates x, y, z, heads."""

_ROUND = 0.010
"""How far the edge of half a form is rounded, heads."""

_REACH = 2.0
"""Blends beyond a form's box at which it has no say near the surface: an egg's distance is a bound,
so it is more than one (at 1 seams of 0.001 head showed)."""


@dataclass(frozen=True, slots=True, eq=False)
class Form:
    """One form: a round cone from ``a`` to ``b`` (radii ``ra``, ``rb``), or an ellipsoid.

    For an ellipsoid ``a`` is the centre and ``radii`` its half axes; ``turned`` (3, 3) turns it
    from its own axes to the part's, ``half`` (3,) keeps what lies on that side of its centre: a
    lid. ``flat`` (3,) squeezes a cone about ``a``. All in heads, in the part's frame.
    """

    a: Floats
    b: Floats | None
    ra: float
    rb: float
    radii: Floats | None
    flat: Floats
    cut: bool
    blend: float
    turned: Floats | None = None
    half: Floats | None = None


@dataclass(frozen=True, slots=True, eq=False)
class Sculpt:
    """The forms of a part.

    ``blend`` is how far they melt into each other where a form does not say it itself, heads;
    ``floor`` cuts off what lies below that y.
    """

    part: str
    forms: tuple[Form, ...]
    blend: float
    floor: float | None


@lru_cache(maxsize=1)
def sculpts() -> dict[str, Sculpt]:
    """The forms of every part, the right side mirrored, of the hair, which lies on the head, and of
    the cast of a hand."""
    data = data_file("sculpt.toml")
    out = {}
    for joint in joints():
        base, _, side = joint.part.rpartition("_")
        name = base if side in SIDES else joint.part
        out[joint.part] = _sculpt(joint.part, data[name], mirror=side == "r")
    for name in (HAIR, CAST):
        out[name] = _sculpt(name, data[name], mirror=False)
    return out


def _sculpt(part: str, entry: dict[str, Any], mirror: bool) -> Sculpt:
    forms: list[Form] = []
    for one in entry["forms"]:
        made = _form(one, entry["blend"])
        forms += [made, _mirrored(made)] if one.get("both") else [made]
    if mirror:
        forms = [_mirrored(form) for form in forms]
    return Sculpt(part, tuple(forms), entry["blend"], entry.get("floor"))


def _form(one: dict[str, Any], blend: float) -> Form:
    common: dict[str, Any] = {
        "flat": np.array(one.get("flat", [1.0, 1.0, 1.0])),
        "cut": one.get("cut", False),
        "blend": one.get("blend", blend),
    }
    if "egg" in one:
        turned, half = one.get("turn"), one.get("half")
        return Form(
            np.array(one["egg"]), None, 0.0, 0.0, np.array(one["radii"]), **common,
            turned=None if turned is None else _turn(*np.radians(turned)),
            half=None if half is None else np.array(half) / np.linalg.norm(half),
        )  # fmt: skip
    ends = np.array(one["cone"])
    return Form(ends[:3], ends[3:], one["ra"], one["rb"], None, **common)


def _turn(x: float, y: float, z: float) -> Floats:
    """(3, 3) rotation about x, then y, then z, radians."""
    cx, sx, cy, sy, cz, sz = np.cos(x), np.sin(x), np.cos(y), np.sin(y), np.cos(z), np.sin(z)
    about_x = np.array([[1.0, 0.0, 0.0], [0.0, cx, -sx], [0.0, sx, cx]])
    about_y = np.array([[cy, 0.0, sy], [0.0, 1.0, 0.0], [-sy, 0.0, cy]])
    about_z = np.array([[cz, -sz, 0.0], [sz, cz, 0.0], [0.0, 0.0, 1.0]])
    turned: Floats = about_z @ about_y @ about_x
    return turned


def _mirrored(form: Form) -> Form:
    flip = np.array([-1.0, 1.0, 1.0])
    return replace(
        form,
        a=form.a * flip,
        b=None if form.b is None else form.b * flip,
        turned=None if form.turned is None else form.turned * np.outer(flip, flip),
        half=None if form.half is None else form.half * flip,
    )


def distance(sculpt: Sculpt, points: Floats) -> Floats:
    """(...) distance of (..., 3) points of the part's frame from its surface; inside is negative.

    Near the surface only: an ellipsoid's is a bound, and blends swell by up to a quarter of theirs.
    """
    whole: Floats | None = None
    across = _across(points)
    for form in sculpt.forms:
        one = _distance(form, across)
        whole = one if whole is None else _joined(whole, one, form)
    assert whole is not None
    if sculpt.floor is not None:
        whole = np.maximum(whole, sculpt.floor - points[..., 1])
    return whole


def distance_on(sculpt: Sculpt, axes: tuple[Floats, Floats, Floats], near: float) -> Floats:
    """(i, j, k) `distance` at the places of a grid where it is below half of ``near``, heads.

    Elsewhere its sign alone holds: a form is looked at only where it can reach.

    Args:
        axes: (i,) x, (j,) y, (k,) z of the grid, rising, heads.
    """
    whole = np.full(tuple(len(axis) for axis in axes), 1e3)
    for form in sculpt.forms:
        low, high = _bounds(form)
        reach = near + _REACH * form.blend
        ends = [
            slice(*np.searchsorted(axis, (low[i] - reach, high[i] + reach)))
            for i, axis in enumerate(axes)
        ]
        here = (ends[0], ends[1], ends[2])
        x, y, z = (axis[end] for axis, end in zip(axes, ends, strict=True))
        one = _distance(form, (x[:, None, None], y[None, :, None], z[None, None, :]))
        whole[here] = _joined(whole[here], one, form)
    if sculpt.floor is not None:
        whole = np.maximum(whole, sculpt.floor - axes[1][None, :, None])
    return whole


def normals_on(sculpt: Sculpt, points: Floats) -> Floats:
    """(n, 3) unit ways out of the surface at (n, 3) points of it, in the part's frame."""
    # The corners of a tetrahedron about each: four looks tell a slope in space.
    corners = np.array([[1.0, 1.0, 1.0], [1.0, -1.0, -1.0], [-1.0, 1.0, -1.0], [-1.0, -1.0, 1.0]])
    slope = sum(_near(sculpt, points + 1e-4 * way, _OFF)[:, None] * way for way in corners)
    out: Floats = slope / np.maximum(np.linalg.norm(slope, axis=1, keepdims=True), 1e-9)
    return out


def _near(sculpt: Sculpt, points: Floats, near: float) -> Floats:
    """(n,) `distance` of (n, 3) points, where it is below ``near``; else its sign alone holds."""
    whole = np.full(len(points), 1e3)
    lows, highs = _boxes(sculpt)
    lows, highs = lows - near, highs + near
    met = (lows < points.max(axis=0)) & (highs > points.min(axis=0))
    across = x, y, z = _across(points)
    for row in np.nonzero(met.all(axis=1))[0]:
        form, low, high = sculpt.forms[row], lows[row], highs[row]
        within = [(p > low[i]) & (p < high[i]) for i, p in enumerate(across)]
        at = np.nonzero(within[0] & within[1] & within[2])[0]
        if len(at):
            whole[at] = _joined(whole[at], _distance(form, (x[at], y[at], z[at])), form)
    return whole if sculpt.floor is None else np.maximum(whole, sculpt.floor - points[:, 1])


@lru_cache(maxsize=64)
def _boxes(sculpt: Sculpt) -> tuple[Floats, Floats]:
    """Two (n, 3) corners of the boxes beyond which each form has no say near the surface."""
    bounds = [_bounds(form) for form in sculpt.forms]
    reach = np.array([[_REACH * form.blend] for form in sculpt.forms])
    return np.array([low for low, _ in bounds]) - reach, np.array([hi for _, hi in bounds]) + reach


def _bounds(form: Form) -> tuple[Floats, Floats]:
    """Two (3,) corners of the box that holds a form, heads."""
    if form.radii is not None:
        turned = np.eye(3) if form.turned is None else form.turned
        half = np.sqrt(np.square(turned * form.radii).sum(axis=1))
        return form.a - half, form.a + half
    assert form.b is not None
    a, b = form.ra * form.flat, form.rb * form.flat
    return np.minimum(form.a - a, form.b - b), np.maximum(form.a + a, form.b + b)


def _joined(whole: Floats, one: Floats, form: Form) -> Floats:
    """Distances of what there is, with one more form melted to it or cut out of it."""
    return -_melt(-whole, one, form.blend) if form.cut else _melt(whole, one, form.blend)


def _melt(d: Floats, e: Floats, k: float) -> Floats:
    h = np.maximum(k - np.abs(d - e), 0.0) / k
    melted: Floats = np.minimum(d, e) - 0.25 * k * h * h
    return melted


def _across(points: Floats) -> _Places:
    """The three coordinates of (..., 3) points, each on its own."""
    x, y, z = (np.ascontiguousarray(points[..., i]) for i in range(3))
    return x, y, z


def _distance(form: Form, at: _Places) -> Floats:
    """Distances of places; a coordinate has one entry along an axis on which it does not change."""
    if form.radii is not None:
        off = tuple(p - a for p, a in zip(at, form.a, strict=True))
        own = off if form.turned is None else tuple(_along(off, way) for way in form.turned.T)
        scaled = tuple(one / radius for one, radius in zip(own, form.radii, strict=True))
        k0 = _length(scaled)
        k1 = _length(tuple(one / radius for one, radius in zip(scaled, form.radii, strict=True)))
        egg: Floats = k0 * (k0 - 1.0) / np.maximum(k1, 1e-9)
        if form.half is None:
            return egg
        half: Floats = -_melt(-egg, _along(off, form.half), _ROUND)  # the larger of both, rounded
        return half
    assert form.b is not None
    rel = tuple((p - a) / f for p, a, f in zip(at, form.a, form.flat, strict=True))
    axis = (form.b - form.a) / form.flat
    t = np.clip(_along(rel, axis) / float(axis @ axis), 0.0, 1.0)
    aside = tuple(one - t * step for one, step in zip(rel, axis, strict=True))
    away = _length(aside) - (form.ra + t * (form.rb - form.ra))
    cone: Floats = away * float(form.flat.min())
    return cone


def _along(at: tuple[Floats, ...], way: Floats) -> Floats:
    """How far places lie along a way (3,)."""
    x, y, z = at
    along: Floats = x * way[0] + y * way[1] + z * way[2]
    return along


def _length(at: tuple[Floats, ...]) -> Floats:
    x, y, z = at
    lengths: Floats = np.sqrt(x * x + y * y + z * z)
    return lengths


def surface_point(part: str, inside: Floats, way: Floats, reach: float = 1.5) -> Floats:
    """(3,) where a ray from (3,) ``inside`` a part along (3,) ``way`` leaves it for good.

    Raises:
        ValueError: it never does within ``reach`` heads, or is outside all along.
    """
    along = np.linspace(0.0, reach, 1501)
    points = inside + along[:, None] * (way / np.sqrt(way @ way))
    away = _near(sculpts()[part], points, _OFF)
    within = np.nonzero(away < 0.0)[0]
    if not len(within) or within[-1] == len(along) - 1:
        raise ValueError(f"a ray in {part} from {inside} along {way} does not leave it")
    d = away[within[-1] : within[-1] + 2]
    t = float(d[0] / (d[0] - d[1]))
    at: Floats = (1.0 - t) * points[within[-1]] + t * points[within[-1] + 1]
    return at
