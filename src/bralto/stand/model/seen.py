"""What each pixel of the picture sees: a part, the ground or the backdrop, and where it lies."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from bralto.core.figure.camera import View3D
from bralto.stand.model.caster import Caster
from bralto.stand.model.mesh import Mesh, Singles

__all__ = ["BACKDROP", "GROUND", "Seen", "along", "look_at", "pixels_of", "together"]

GROUND, BACKDROP = -1, -2
"""Owners of the pixels that see no part."""

_AHEAD = 40.0
"""The ground is looked at as far as this behind the figure, heads; then it is backdrop."""


@dataclass(frozen=True, slots=True, eq=False)
class Seen:
    """n rays and what they met.

    Attributes:
        owner: (n,) row of the mesh's parts, `GROUND` or `BACKDROP`.
        points, normals: (n, 3) world, heads. ``rest`` (n, 3) in the part's own frame.
        depth: (n,) along the camera's way, heads; infinite for the backdrop.
    """

    owner: npt.NDArray[np.int16]
    points: Singles
    normals: Singles
    rest: Singles
    depth: Singles


def together(bands: Sequence[Seen]) -> Seen:
    """Several bands of a picture as one."""
    return Seen(*(np.concatenate([getattr(b, f.name) for b in bands]) for f in fields(Seen)))


@lru_cache(maxsize=2)
def pixels_of(width: int, height: int) -> Singles:
    """(h * w, 2) middles of all pixels, row after row."""
    x, y = np.meshgrid(
        np.arange(width, dtype=np.float32) + 0.5, np.arange(height, dtype=np.float32) + 0.5
    )
    px = np.stack([x.ravel(), y.ravel()], axis=-1)
    px.setflags(write=False)
    return px


def look_at(caster: Caster, view: View3D, px: Singles, *, ground: bool = True) -> Seen:
    """Follow the rays through (n, 2) image px; without ``ground`` what misses is backdrop."""
    mesh = caster.mesh
    ways = _ways(view, px)
    eye = view.eye.astype(np.float32)
    n = len(px)
    owner = np.full(n, BACKDROP, dtype=np.int16)
    points = np.zeros((n, 3), np.float32)
    normals = np.zeros((n, 3), np.float32)
    rest = np.zeros((n, 3), np.float32)
    depth = np.full(n, np.inf, dtype=np.float32)
    normals[:, 1] = 1.0
    may = _near(mesh, view, px)
    hits = caster.hits(np.broadcast_to(eye, (len(may), 3)), ways[may])
    met = hits.face >= 0
    at, face = may[met], hits.face[met]
    corners = mesh.faces[face]
    u, v = hits.u[met, None], hits.v[met, None]
    weights = np.concatenate([1.0 - u - v, u, v], axis=1)
    owner[at] = mesh.owner[face]
    depth[at] = hits.away[met]
    points[at] = eye + hits.away[met, None] * ways[at]
    n_at = np.einsum("nk,nkj->nj", weights, mesh.normals[corners])
    length = np.sqrt(np.einsum("ij,ij->i", n_at, n_at))
    normals[at] = n_at / np.maximum(length, np.float32(1e-9))[:, None]
    rest[at] = np.einsum("nk,nkj->nj", weights, mesh.rest[corners])
    if ground:
        _meet_ground(view, ways, owner, points, depth)
    return Seen(owner, points, normals, rest, depth)


def _meet_ground(
    view: View3D, ways: Singles, owner: npt.NDArray[np.int16], points: Singles, depth: Singles
) -> None:
    """Where the rays that met nothing come down, as far as the ground goes."""
    eye = view.eye.astype(np.float32)
    limit = np.float32(np.hypot(view.eye[0], view.eye[2]) + _AHEAD)
    met = np.nonzero((owner == BACKDROP) & (ways[:, 1] < -eye[1] / limit))[0]
    down = ways[met]
    far = -eye[1] / down[:, 1]
    owner[met] = GROUND
    depth[met] = far
    down *= far[:, None]
    down += eye
    down[:, 1] = 0.0
    points[met] = down


def _ways(view: View3D, px: Singles) -> Singles:
    """`view.rays` for many pixels, in singles."""
    right, down, ahead = view.rotation / np.array([[view.focal], [view.focal], [1.0]])
    axes = np.array([right, down, ahead - view.centre[0] * right - view.centre[1] * down])
    ways = np.empty((len(px), 3), np.float32)
    # Column by column: a product of so thin matrices wakes the threads of BLAS for nothing.
    for k, (a, b, c) in enumerate(axes.T.astype(np.float32)):
        ways[:, k] = px[:, 0] * a + px[:, 1] * b + c
    return ways


def along(vectors: Singles, way: Singles) -> Singles:
    """(n,) how far (n, 3) vectors go along one way."""
    x, y, z = way
    far: Singles = vectors[:, 0] * x + vectors[:, 1] * y + vectors[:, 2] * z
    return far


def _near(mesh: Mesh, view: View3D, px: Singles) -> npt.NDArray[np.intp]:
    """Rows of the pixels within the figure's bounds in the picture; no other ray can meet it."""
    outline = view.project(mesh.points.astype(float))
    pad = 2.0
    low, high = np.nanmin(outline, axis=0) - pad, np.nanmax(outline, axis=0) + pad
    inside = (px[:, 0] > low[0]) & (px[:, 0] < high[0])
    inside &= (px[:, 1] > low[1]) & (px[:, 1] < high[1])
    return np.nonzero(inside)[0]
