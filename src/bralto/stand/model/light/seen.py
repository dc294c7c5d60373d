"""What each ray of a picture meets of the figure, and where."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from bralto.core.arrays import Ints
from bralto.core.mannequin.camera import View3D
from bralto.stand.model.form.caster import Caster
from bralto.stand.model.form.mesh import Faces, Mesh, Singles

__all__ = ["BACKDROP", "GROUND", "Owners", "Seen", "along", "look_at", "pixels_of", "together"]

Owners = npt.NDArray[np.int16]

GROUND, BACKDROP = -1, -2
"""Owners of the pixels that see no part."""


@dataclass(frozen=True, slots=True, eq=False)
class Seen:
    """What k of n rays met.

    Attributes:
        count: n.
        at: (k,) rows of the rays that met a part, ascending.
        owner: (k,) rows of the mesh's parts.
        points, normals: (k, 3) world, heads.
        depth: (k,) along the camera's way, heads.
        mesh: what was met. ``corners`` (k, 3) rows of its points, the triangle of each;
            ``shares`` (k, 3) how much of each corner is there, their sum 1.
    """

    count: int
    at: Ints
    owner: Owners
    points: Singles
    normals: Singles
    depth: Singles
    mesh: Mesh
    corners: Faces
    shares: Singles

    @property
    def rest(self) -> Singles:
        """(k, 3) where it lies in its part's own frame, heads."""
        return _between(self.mesh.rest, self.corners, self.shares)

    def over(self, values: Singles, missed: float | Singles) -> Singles:
        """(n, ...) of (k, ...) values, with ``missed`` for the rays that met nothing."""
        whole = np.empty((self.count, *values.shape[1:]), np.float32)
        whole[:] = missed
        whole[self.at] = values
        return whole


def together(bands: Sequence[Seen]) -> Seen:
    """Several bands of rays as one."""
    starts = np.cumsum([0] + [band.count for band in bands])
    names = ("owner", "points", "normals", "depth", "corners", "shares")
    return Seen(
        count=int(starts[-1]),
        at=np.concatenate([band.at + start for band, start in zip(bands, starts, strict=False)]),
        mesh=bands[0].mesh,
        **{name: np.concatenate([getattr(band, name) for band in bands]) for name in names},
    )


@lru_cache(maxsize=2)
def pixels_of(width: int, height: int) -> Singles:
    """(h * w, 2) middles of all pixels, row after row."""
    x, y = np.meshgrid(
        np.arange(width, dtype=np.float32) + 0.5, np.arange(height, dtype=np.float32) + 0.5
    )
    px = np.stack([x.ravel(), y.ravel()], axis=-1)
    px.setflags(write=False)
    return px


def look_at(caster: Caster, view: View3D, px: Singles) -> Seen:
    """Follow the rays through (n, 2) image px."""
    mesh = caster.mesh
    may = _near(mesh, view, px)
    ways = _ways(view, px.take(may, axis=0))
    eye = view.eye.astype(np.float32)
    hits = caster.hits(np.broadcast_to(eye, ways.shape), ways)
    met = np.nonzero(hits.face >= 0)[0]
    face, (depth, u, v) = (
        hits.face.take(met),
        (one.take(met) for one in (hits.away, hits.u, hits.v)),
    )
    points = ways.take(met, axis=0)
    points *= depth[:, None]
    points += eye
    corners, shares = mesh.faces.take(face, axis=0), np.stack([1.0 - u - v, u, v], axis=-1)
    normals = _between(mesh.normals, corners, shares)
    length = np.sqrt(along(normals, normals.T))
    normals /= np.maximum(length, np.float32(1e-9))[:, None]
    owner = mesh.owner.take(face).astype(np.int16)
    return Seen(
        len(px), may.take(met), owner, points, normals, depth,
        mesh=mesh, corners=corners, shares=shares,
    )  # fmt: skip


def _between(values: Singles, corners: Faces, shares: Singles) -> Singles:
    """(k, 3) what (n, 3) values at a mesh's points are within its triangles."""
    found: Singles = values.take(corners[:, 0], axis=0) * shares[:, :1]
    for k in (1, 2):
        found += values.take(corners[:, k], axis=0) * shares[:, k : k + 1]
    return found


def _ways(view: View3D, px: Singles) -> Singles:
    """`view.rays` for many pixels, in singles."""
    across, down, start = view.axes.astype(np.float32)
    ways: Singles = px @ np.stack([across, down])
    ways += start
    return ways


def along(vectors: Singles, way: Singles) -> Singles:
    """(n,) how far (n, 3) vectors go along one way."""
    x, y, z = way
    far: Singles = vectors[:, 0] * x + vectors[:, 1] * y + vectors[:, 2] * z
    return far


def _near(mesh: Mesh, view: View3D, px: Singles) -> Ints:
    """Rows of the pixels within the figure's bounds in the picture; no other ray can meet it.

    Closer bounds win nothing: a ray that misses costs next to nothing.
    """
    outline = view.project(mesh.points.astype(float))
    pad = 2.0
    low, high = np.nanmin(outline, axis=0) - pad, np.nanmax(outline, axis=0) + pad
    x, y = px.T
    inside = (x > low[0]) & (x < high[0]) & (y > low[1]) & (y < high[1])
    return np.nonzero(inside)[0]
