"""Solids for practice in measuring, as meshes: heads, standing on the ground about the origin."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.stand.model.form.mesh import Mesh, box_mesh, joined, one_part

__all__ = ["solid_mesh"]

_ROUND = 72


def solid_mesh(subject: str, turned: Floats) -> Mesh:
    """The solid of that name, turned about the plumb by (3, 3)."""
    return _MAKERS[subject](turned)


def _box(turned: Floats) -> Mesh:
    return box_mesh(np.array([-1.0, 0.0, -0.65]), np.array([1.0, 1.25, 0.65]), turned, "box")


def _cylinder(turned: Floats) -> Mesh:
    """Upright, closed above and below."""
    side = _turned_form(np.array([[0.75, 0.0], [0.75, 2.1]]), np.array([[1.0, 0.0], [1.0, 0.0]]))
    lids = [
        _turned_form(np.array([[0.75, y], [1e-4, y]]), np.array([[0.0, n], [0.0, n]]))
        for y, n in ((2.1, 1.0), (0.0, -1.0))
    ]
    return _as_mesh([side, *lids], turned, "cylinder")


def _egg(turned: Floats) -> Mesh:
    """Standing on its blunt end."""
    t = np.linspace(1e-3, np.pi - 1e-3, 48)
    radius, height = 0.78 * np.sin(t) * (1.0 + 0.16 * np.cos(t)), 1.0 - np.cos(t)
    profile = np.column_stack([radius, height])
    slope = np.gradient(profile, axis=0)
    normals = np.column_stack([slope[:, 1], -slope[:, 0]])
    return _as_mesh([_turned_form(profile, normals)], turned, "egg")


def _chair(turned: Floats) -> Mesh:
    """Four legs, seat, two posts and a rail."""
    pieces = []
    for x in (-0.85, 0.85):
        for z in (-0.85, 0.85):
            tall = 3.9 if z < 0.0 else 1.9
            leg = np.array([x - 0.09, 0.0, z - 0.09]), np.array([x + 0.09, tall, z + 0.09])
            pieces.append(box_mesh(*leg, turned, "chair"))
    for low, high in (
        ([-1.0, 1.85, -1.0], [1.0, 2.02, 1.0]),
        ([-0.80, 3.35, -0.92], [0.80, 3.80, -0.80]),
        ([-0.80, 2.65, -0.92], [0.80, 2.85, -0.80]),
    ):
        pieces.append(box_mesh(np.array(low), np.array(high), turned, "chair"))
    return joined(pieces)


def _group(turned: Floats) -> Mesh:
    """Box, cylinder and egg side by side."""
    placed = []
    for maker, at, angle in (
        (_box, [-0.9, 0.0, -0.5], 0.35),
        (_cylinder, [1.35, 0.0, -0.9], 0.0),
        (_egg, [0.75, 0.0, 1.1], 0.0),
    ):
        c, s = np.cos(angle), np.sin(angle)
        own = np.array([[c, 0.0, s], [0.0, 1.0, 0.0], [-s, 0.0, c]])
        mesh = maker(turned @ own)
        shift = (turned @ np.array(at)).astype(np.float32)
        placed.append(replace(mesh, points=mesh.points + shift))
    return joined(placed)


_MAKERS: dict[str, Callable[[Floats], Mesh]] = {
    "box": _box,
    "cylinder": _cylinder,
    "egg": _egg,
    "chair": _chair,
    "solids": _group,
}


def _turned_form(profile: Floats, normals: Floats) -> tuple[Floats, Floats, Floats]:
    """Points, normals and faces of a profile (n, 2) of radius and height, turned on a lathe."""
    turn = np.linspace(0.0, 2.0 * np.pi, _ROUND, endpoint=False)
    ring = np.column_stack([np.sin(turn), np.cos(turn)])
    n = len(profile)

    def spun(flat: Floats) -> Floats:
        out = flat[:, None, :1] * ring[None]
        up = np.broadcast_to(flat[:, None, 1:], (n, _ROUND, 1))
        return np.concatenate([out[..., :1], up, out[..., 1:]], axis=-1).reshape(-1, 3)

    row, column = np.meshgrid(np.arange(n - 1), np.arange(_ROUND), indexing="ij")
    a = (row * _ROUND + column).ravel()
    b = (row * _ROUND + (column + 1) % _ROUND).ravel()
    faces = np.vstack(
        [np.column_stack([a, b, b + _ROUND]), np.column_stack([a, b + _ROUND, a + _ROUND])]
    )
    return spun(profile), spun(normals), faces


def _as_mesh(forms: list[tuple[Floats, Floats, Floats]], turned: Floats, name: str) -> Mesh:
    points = np.vstack([form[0] for form in forms])
    normals = np.vstack([form[1] for form in forms])
    normals = normals / np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-9)
    starts = np.cumsum([0] + [len(form[0]) for form in forms])
    faces = np.vstack([form[2] + s for form, s in zip(forms, starts, strict=False)]).astype(
        np.int32
    )
    return one_part(points @ turned.T, normals @ turned.T, points, faces, name)
