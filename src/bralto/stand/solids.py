"""The puppet's body as solids in picture space, shared by the renderer and the pencil.

Each solid is a round cone (two centres with radii) or an ellipse-based ball, in heads, with a
depth: larger is nearer to the viewer.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Floats

__all__ = ["Solid", "outline", "solids"]


@dataclass(frozen=True, slots=True)
class Solid:
    """A round cone from ``a`` (radius ``ra``) to ``b`` (radius ``rb``), or a ball.

    For a ball, ``a`` is the centre, ``b`` ends its first half axis, ``ra`` is its other one.
    """

    kind: str
    a: Floats
    b: Floats
    ra: float
    rb: float
    depth: float


def _cone(body: dict[str, Floats], a: str, b: str, ra: float, rb: float, depth: float) -> Solid:
    return Solid("cone", body[a], body[b], ra, rb, depth)


def _ball(centre: Floats, axis: Floats, across: float, depth: float) -> Solid:
    return Solid("ball", centre, centre + axis, across, across, depth)


def solids(body: dict[str, Floats], girth: float = 1.0) -> tuple[Solid, ...]:
    """All solids of a body from back to front; ``girth`` multiplies every thickness."""
    g = girth
    neck, chin, crown = body["pit_of_neck"], body["chin"], body["crown"]
    up = (crown - chin) / max(1e-9, float(np.hypot(*(crown - chin))))
    head = float(np.hypot(*(crown - chin)))
    hips = 0.5 * (body["hip_r"] + body["hip_l"])
    chest_up = neck - body["ribcage_base"]
    chest = body["ribcage_base"] + 0.52 * chest_up
    waist = 0.45 * body["ribcage_base"] + 0.55 * hips
    out: list[Solid] = []
    for s in "lr":
        out += [
            _cone(body, f"hip_{s}", f"knee_{s}", 0.37 * g, 0.21 * g, 0.1),
            _cone(body, f"knee_{s}", f"ankle_{s}", 0.22 * g, 0.11 * g, 0.12),
            _cone(body, f"ankle_{s}", f"toe_{s}", 0.13 * g, 0.12 * g, 0.2),
            _ball(body[f"knee_{s}"], np.array([0.0, 0.2]), 0.19 * g, 0.17),
        ]
    out += [
        Solid("cone", neck - 0.1 * up, chin + 0.2 * head * up, 0.24 * g, 0.22 * g, 0.0),
        _cone(body, "shoulder_r", "pit_of_neck", 0.17 * g, 0.20 * g, 0.12),
        _cone(body, "shoulder_l", "pit_of_neck", 0.17 * g, 0.20 * g, 0.12),
        _ball(waist, 0.46 * (neck - hips) / 2.0, 0.50 * g, 0.05),
        _ball(hips + np.array([0.0, 0.12]), np.array([0.0, 0.46]), 0.70 * g, 0.15),
        _ball(chest, 0.66 * chest_up, 0.74 * g, 0.25),
        _ball(0.5 * (chin + crown), 0.5 * (crown - chin), 0.36 * head, 0.35),
    ]
    for s in "lr":
        out += [
            _ball(body[f"shoulder_{s}"], np.array([0.0, 0.24]), 0.24 * g, 0.3),
            _cone(body, f"shoulder_{s}", f"elbow_{s}", 0.21 * g, 0.14 * g, 0.35),
            _cone(body, f"elbow_{s}", f"wrist_{s}", 0.15 * g, 0.09 * g, 0.4),
            _cone(body, f"wrist_{s}", f"fingertip_{s}", 0.12 * g, 0.05 * g, 0.45),
        ]
    return tuple(out)


def outline(solid: Solid, points: int = 48) -> Floats:
    """(n, 2) closed outline of a solid, counter-clockwise, in heads."""
    if solid.kind == "ball":
        axis = solid.b - solid.a
        turn = np.linspace(0.0, 2.0 * np.pi, points, endpoint=False)
        length = float(np.hypot(*axis))
        across = solid.ra * np.array([axis[1], -axis[0]]) / length
        return solid.a + np.cos(turn)[:, None] * axis + np.sin(turn)[:, None] * across
    along = solid.b - solid.a
    length = max(1e-9, float(np.hypot(*along)))
    direction = np.arctan2(along[1], along[0])
    # The tangents of two circles leave the axis by this angle.
    opening = np.arccos(np.clip((solid.ra - solid.rb) / length, -1.0, 1.0))
    half = points // 2
    far = direction + np.linspace(-opening, opening, half)
    near = direction + np.linspace(opening, 2.0 * np.pi - opening, half)
    ring_b = solid.b + solid.rb * np.column_stack([np.cos(far), np.sin(far)])
    ring_a = solid.a + solid.ra * np.column_stack([np.cos(near), np.sin(near)])
    return np.vstack([ring_b, ring_a])
