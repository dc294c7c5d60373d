"""The figure's forms as triangles: each part meshed once at rest, then carried by its pose."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from bralto.core.arrays import Floats
from bralto.core.figure.kinematics import Posed
from bralto.core.figure.sculpt import distance, sculpts, skin

__all__ = ["COARSE", "FINE", "Faces", "Mesh", "Singles", "box_mesh", "figure_mesh", "joined"]

Singles = npt.NDArray[np.float32]
Faces = npt.NDArray[np.int32]

FINE, COARSE = 0.040, 0.130
"""Edge of a cell, heads: for the finished picture, and while something is dragged."""


_SMALL = {"head": 0.45, "hand": 0.6, "fingers": 0.6, "foot": 0.7, "toes": 0.6}
"""Parts whose small forms would be lost, and by how much their cells are smaller."""


@dataclass(frozen=True, slots=True, eq=False)
class Mesh:
    """Triangles.

    Attributes:
        points, normals: (n, 3) world, heads; ``rest`` (n, 3) where they lie in their own part.
        faces: (m, 3) rows of points; ``owner`` (m,) rows of ``parts``.
        parts: names, in order.
    """

    points: Singles
    normals: Singles
    rest: Singles
    faces: Faces
    owner: Faces
    parts: tuple[str, ...]


@dataclass(frozen=True, slots=True, eq=False)
class _Part:
    points: Floats
    normals: Floats
    faces: Faces


@lru_cache(maxsize=128)
def _part(name: str, cell: float) -> _Part:
    """A part's surface at rest in its own frame (marching cubes, Lorensen and Cline 1987)."""
    if name.endswith("_r"):
        twin, flip = _part(name[:-1] + "l", cell), np.array([-1.0, 1.0, 1.0])
        faces = np.ascontiguousarray(twin.faces[:, ::-1])
        return _Part(twin.points * flip, twin.normals * flip, faces)
    from skimage.measure import marching_cubes  # half a second to load

    sculpt = sculpts()[name]
    around = skin(name)
    cell *= _SMALL.get(name.split("_")[0], 1.0)
    low, high = around.min(axis=0) - 2.0 * cell, around.max(axis=0) + 2.0 * cell
    counts = np.ceil((high - low) / cell).astype(int) + 1
    axes = [low[i] + cell * np.arange(counts[i]) for i in range(3)]
    grid = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1)
    points, faces, _, _ = marching_cubes(distance(sculpt, grid), 0.0, spacing=(cell,) * 3)  # type: ignore[no-untyped-call]
    points = points + low
    step = 1e-3
    slope = [
        distance(sculpt, points + step * e) - distance(sculpt, points - step * e) for e in np.eye(3)
    ]
    normals = np.stack(slope, axis=-1)
    normals /= np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-9)
    return _Part(points, normals, np.ascontiguousarray(faces, dtype=np.int32))


def figure_mesh(figure: Posed, cell: float = FINE) -> Mesh:
    """All parts of a posed figure."""
    points, normals, rest, faces, owner = [], [], [], [], []
    start = 0
    names = tuple(figure.places)
    for row, name in enumerate(names):
        part = _part(name, cell)
        points.append(figure.world(name, part.points))
        # A stretched form's normals stretch the other way.
        normals.append((part.normals / figure.scales[name]) @ figure.rotations[name].T)
        rest.append(part.points)
        faces.append(part.faces + start)
        owner.append(np.full(len(part.faces), row, dtype=np.int32))
        start += len(part.points)
    whole = np.vstack(normals)
    whole /= np.linalg.norm(whole, axis=1, keepdims=True)
    return Mesh(
        np.vstack(points).astype(np.float32), whole.astype(np.float32),
        np.vstack(rest).astype(np.float32), np.vstack(faces), np.concatenate(owner), names,
    )  # fmt: skip


def box_mesh(low: Floats, high: Floats, turned: Floats, name: str) -> Mesh:
    """A box between two corners, then turned by (3, 3); every face has its own corners."""
    points: list[Floats] = []
    normals: list[Floats] = []
    faces: list[Floats] = []
    for axis in range(3):
        for end, side in ((low, -1.0), (high, 1.0)):
            a, b = (axis + 1) % 3, (axis + 2) % 3
            square = np.tile(end, (4, 1)).astype(float)
            square[:, a] = np.array([low[a], high[a], high[a], low[a]])
            square[:, b] = np.array([low[b], low[b], high[b], high[b]])
            start = 4 * len(faces)
            turn = [[0, 1, 2], [0, 2, 3]] if side > 0 else [[0, 2, 1], [0, 3, 2]]
            points.append(square)
            normals.append(np.tile(side * np.eye(3)[axis], (4, 1)))
            faces.append(np.array(turn) + start)
    at = np.vstack(points)
    return Mesh(
        (at @ turned.T).astype(np.float32), (np.vstack(normals) @ turned.T).astype(np.float32),
        at.astype(np.float32), np.vstack(faces).astype(np.int32), np.zeros(12, np.int32), (name,),
    )  # fmt: skip


def joined(meshes: list[Mesh]) -> Mesh:
    """Several meshes as one."""
    starts = np.cumsum([0] + [len(mesh.points) for mesh in meshes])
    firsts = np.cumsum([0] + [len(mesh.parts) for mesh in meshes])
    return Mesh(
        np.vstack([m.points for m in meshes]),
        np.vstack([m.normals for m in meshes]),
        np.vstack([m.rest for m in meshes]),
        np.vstack([m.faces + s for m, s in zip(meshes, starts, strict=False)]).astype(np.int32),
        np.concatenate([m.owner + f for m, f in zip(meshes, firsts, strict=False)]).astype(
            np.int32
        ),
        tuple(name for m in meshes for name in m.parts),
    )
