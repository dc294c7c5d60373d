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

__all__ = ["BACKDROP", "GROUND", "Seen", "look_at", "pixels_of", "together"]

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
    weights = np.concatenate([1.0 - u - v, u, v], axis=1)[:, None, :]
    owner[at] = mesh.owner[face]
    depth[at] = hits.away[met]
    points[at] = eye + hits.away[met, None] * ways[at]
    n_at = (weights @ mesh.normals[corners])[:, 0]
    length = np.sqrt(np.einsum("ij,ij->i", n_at, n_at))
    normals[at] = n_at / np.maximum(length, np.float32(1e-9))[:, None]
    rest[at] = (weights @ mesh.rest[corners])[:, 0]
    if ground:
        _meet_ground(view, ways, owner, points, depth)
    return Seen(owner, points, normals, rest, depth)


def _meet_ground(
    view: View3D, ways: Singles, owner: npt.NDArray[np.int16], points: Singles, depth: Singles
) -> None:
    """Where the rays that met nothing come down, as far as the ground goes."""
    eye = view.eye.astype(np.float32)
    down = ways[:, 1]
    far = np.where(down < -1e-6, -eye[1] / np.minimum(down, np.float32(-1e-6)), np.inf)
    limit = np.float32(np.hypot(view.eye[0], view.eye[2]) + _AHEAD)
    met = np.nonzero((owner == BACKDROP) & (far < limit))[0]
    owner[met] = GROUND
    depth[met] = far[met]
    points[met] = eye + far[met, None] * ways[met]
    points[met, 1] = 0.0


def _ways(view: View3D, px: Singles) -> Singles:
    """`view.rays` for many pixels: as one product it takes a tenth of the time."""
    right, down, ahead = view.rotation / np.array([[view.focal], [view.focal], [1.0]])
    axes = np.array([right, down, ahead - view.centre[0] * right - view.centre[1] * down])
    whole = np.empty((len(px), 3), np.float32)
    whole[:, :2], whole[:, 2] = px, 1.0
    return whole @ axes.astype(np.float32)


def _near(mesh: Mesh, view: View3D, px: Singles) -> npt.NDArray[np.intp]:
    """Rows of the pixels within the figure's bounds in the picture; no other ray can meet it."""
    outline = view.project(mesh.points.astype(float))
    pad = 2.0
    low, high = np.nanmin(outline, axis=0) - pad, np.nanmax(outline, axis=0) + pad
    inside = (px[:, 0] > low[0]) & (px[:, 0] < high[0])
    inside &= (px[:, 1] > low[1]) & (px[:, 1] < high[1])
    return np.nonzero(inside)[0]
