"""Constructions from marks, as geometry that a view can draw and two pictures can compare.

The big forms that are found before any detail: ribcage egg, pelvis block, head ball with jaw, limb
cylinders, centre line, rhythm lines, envelope. All in heads in the sight frame, y up. How wide a
form is where no mark says so stands in `PROPORTIONS`, common practice.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.measures.kinds import fold_degrees

__all__ = ["PROPORTIONS", "Difference", "Form", "compare_forms", "construct", "convex_hull"]

PROPORTIONS: Mapping[str, float] = {
    "ribcage width : shoulder width": 0.75,
    "head width : height": 0.72,
    "jaw : head height": 0.45,
    "jaw : head width": 0.70,
    "egg's broad end": 0.18,
    "limb width : length, upper": 0.30,
    "limb width : length, lower": 0.24,
    "pelvis height : width": 0.85,
}
"""Where no mark tells (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Form:
    """One construction.

    Attributes:
        name: what it stands for, with its side where it has one.
        kind: ``egg``, ``block``, ``ball``, ``jaw``, ``cylinder``, ``line`` or ``envelope``.
        outline: (n, 2) array, closed but for a line, heads.
        centre: (2,) array.
        axis: degrees, direction of its long axis, counter-clockwise from level, in (-90, 90].
        length, width: along and across that axis, heads.
    """

    name: str
    kind: str
    outline: Floats
    centre: Floats
    axis: float
    length: float
    width: float


@dataclass(frozen=True, slots=True)
class Difference:
    """A form on the drawing against the same on the reference.

    Attributes:
        length, width: ratios drawing : reference, less 1.
        axis: degrees, wrapped into (-90, 90].
        across, up: how far its centre is from where it belongs, heads from the plumb mark.
    """

    name: str
    length: float
    width: float
    axis: float
    across: float
    up: float


def _round(name: str, kind: str, a: Floats, b: Floats, width: float, taper: float = 0.0) -> Form:
    """An ellipse on the axis a to b; ``taper`` above 0 makes its b end the broader: an egg."""
    centre, axis = 0.5 * (a + b), b - a
    length = float(np.hypot(*axis))
    along = axis / length
    across = np.array([-along[1], along[0]])
    turn = np.linspace(0.0, 2.0 * np.pi, 48, endpoint=False)
    broad = 0.5 * width * np.sin(turn) * (1.0 + taper * np.cos(turn))
    outline = centre + 0.5 * length * np.cos(turn)[:, None] * along + broad[:, None] * across
    direction = fold_degrees(math.degrees(math.atan2(along[1], along[0])))
    return Form(name, kind, outline, centre, direction, length, width)


def _box(name: str, kind: str, a: Floats, b: Floats, width: float) -> Form:
    """A rectangle on the axis a to b."""
    axis = b - a
    length = float(np.hypot(*axis))
    along = axis / length
    side = 0.5 * width * np.array([-along[1], along[0]])
    outline = np.array([a - side, b - side, b + side, a + side])
    direction = fold_degrees(math.degrees(math.atan2(along[1], along[0])))
    return Form(name, kind, outline, 0.5 * (a + b), direction, length, width)


_LIMBS = (
    ("upper arm", "shoulder", "elbow", "upper"),
    ("forearm", "elbow", "wrist", "lower"),
    ("thigh", "hip_point", "knee", "upper"),
    ("shank", "knee", "ankle", "lower"),
)


class _Places:
    """Points of a figure by key, None where one is missing or two lie together."""

    def __init__(self, figure: Figure) -> None:
        self._xy = figure.points.xy / figure.head.value
        self._rows, self._present = figure.view.point_rows, figure.points.present

    def __call__(self, *keys: str) -> tuple[Floats, ...] | None:
        rows = [self._rows.get(key) for key in keys]
        if any(row is None or not self._present[row] for row in rows):
            return None
        found = tuple(self._xy[row] for row in rows if row is not None)
        apart = all(float(np.hypot(*(a - found[0]))) > 1e-9 for a in found[1:])
        return found if apart else None


def construct(figure: Figure) -> tuple[Form, ...]:
    """Every construction that the marks of a figure allow; none for what they lack."""
    at, share = _Places(figure), PROPORTIONS
    forms: list[Form] = []
    if chest := at("pit_of_neck", "ribcage_base", "shoulder_r", "shoulder_l"):
        wide = share["ribcage width : shoulder width"] * float(np.hypot(*(chest[3] - chest[2])))
        # The egg stands on its broad end.
        forms.append(
            _round("ribcage", "egg", chest[0], chest[1], wide, taper=share["egg's broad end"])
        )
    if hips := at("hip_point_r", "hip_point_l", "crotch"):
        across = hips[1] - hips[0]
        wide = float(np.hypot(*across))
        high = share["pelvis height : width"] * wide
        middle = 0.5 * (hips[0] + hips[1])
        down = np.array([across[1], -across[0]]) / wide
        if float(down @ (hips[2] - middle)) < 0.0:
            down = -down
        forms.append(_box("pelvis", "block", middle, middle + high * down, wide))
    if head := at("crown", "chin"):
        axis = head[1] - head[0]
        tall = float(np.hypot(*axis))
        wide = share["head width : height"] * tall
        ball = head[0] + axis * (wide / tall)
        forms.append(_round("head", "ball", head[0], ball, wide))
        start = head[1] - share["jaw : head height"] * axis
        forms.append(_box("jaw", "jaw", start, head[1], share["jaw : head width"] * wide))
    for name, a, b, part in _LIMBS:
        for side in ("r", "l"):
            if ends := at(f"{a}_{side}", f"{b}_{side}"):
                length = float(np.hypot(*(ends[1] - ends[0])))
                wide = share[f"limb width : length, {part}"] * length
                forms.append(_box(f"{name}_{side}", "cylinder", ends[0], ends[1], wide))
    if centre := at("pit_of_neck", "navel", "crotch"):
        forms.append(_line("centre line", centre))
    for side, other in (("r", "l"), ("l", "r")):
        # The long curve of a standing body: from a shoulder through the middle down the other leg.
        if rhythm := at(f"shoulder_{other}", "navel", f"knee_{side}", f"ankle_{side}"):
            forms.append(_line(f"rhythm_{side}", rhythm))
    envelope = convex_hull(figure.heads)
    if len(envelope) > 2:
        low, high_ = envelope.min(axis=0), envelope.max(axis=0)
        forms.append(
            Form("envelope", "envelope", envelope, 0.5 * (low + high_), 90.0,
                 float(high_[1] - low[1]), float(high_[0] - low[0]))
        )  # fmt: skip
    return tuple(forms)


def _line(name: str, points: tuple[Floats, ...]) -> Form:
    outline = np.array(points)
    axis = outline[-1] - outline[0]
    direction = fold_degrees(math.degrees(math.atan2(axis[1], axis[0])))
    return Form(name, "line", outline, outline.mean(axis=0), direction, float(np.hypot(*axis)), 0.0)


def convex_hull(xy: Floats) -> Floats:
    """(m, 2) corners of the convex hull of (n, 2) points, counter-clockwise (Andrew 1979)."""
    points = sorted({(float(x), float(y)) for x, y in xy})
    if len(points) < 3:
        return np.array(points).reshape(-1, 2)

    def half(order: list[tuple[float, float]]) -> list[tuple[float, float]]:
        chain: list[tuple[float, float]] = []
        for p in order:
            while len(chain) > 1 and _left(chain[-2], chain[-1], p) <= 0.0:
                chain.pop()
            chain.append(p)
        return chain[:-1]

    return np.array(half(points) + half(points[::-1]))


def _left(a: tuple[float, float], b: tuple[float, float], c: tuple[float, float]) -> float:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


def compare_forms(reference: Figure, drawing: Figure) -> tuple[Difference, ...]:
    """Size, tilt and centre of every form that both pictures have, each in its own heads."""
    drawn = {form.name: form for form in construct(drawing)}
    origins = [_origin(figure) for figure in (reference, drawing)]
    out = []
    for seen in construct(reference):
        other = drawn.get(seen.name)
        if other is None:
            continue
        moved = (other.centre - origins[1]) - (seen.centre - origins[0])
        out.append(
            Difference(
                name=seen.name,
                length=other.length / seen.length - 1.0,
                width=other.width / seen.width - 1.0 if seen.width > 0.0 else 0.0,
                axis=fold_degrees(other.axis - seen.axis),
                across=float(moved[0]),
                up=float(moved[1]),
            )
        )
    return tuple(out)


def _origin(figure: Figure) -> Floats:
    row = figure.view.point_rows[figure.view.plumb]
    if figure.points.present[row]:
        place: Floats = figure.points.xy[row] / figure.head.value
        return place
    middle: Floats = figure.heads.mean(axis=0)
    return middle
