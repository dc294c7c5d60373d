"""The figure's forms as triangles: each part meshed once at rest, then carried by its pose."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from threading import Lock

import numpy as np
import numpy.typing as npt

from bralto.core.arrays import Floats, Ints
from bralto.core.mannequin.body.kinematics import Posed
from bralto.core.mannequin.body.made_ahead import MadeAhead
from bralto.core.mannequin.body.sculpt import distance_on, normals_on, sculpts
from bralto.core.mannequin.body.skins import SKINS, skin

__all__ = [
    "COARSE",
    "FINE",
    "MESHES",
    "MIDDLE",
    "Faces",
    "Mesh",
    "Singles",
    "box_mesh",
    "figure_mesh",
    "joined",
    "meshed",
    "named",
    "one_part",
    "planed",
]

Singles = npt.NDArray[np.float32]
Faces = npt.NDArray[np.int32]

FINE, MIDDLE, COARSE = 0.040, 0.055, 0.130
"""Edge of a cell, heads: for the finished picture, for a small one and for what is drawn of it, and
while something is dragged."""

MESHES = MadeAhead(__file__, "meshes.npz", SKINS.sources)
"""By part, cell and attribute of `PartMesh` (`named`): `part_mesh`, the right side's left out."""


_SMALL = {
    "head": 0.42, "hair": 0.6, "hand": 0.6, "fingers": 0.6, "foot": 0.7, "toes": 0.6, "cast": 0.35,
}  # fmt: skip
"""Parts whose small forms would be lost, and by how much their cells are smaller."""

_THIN = {"head": 0.018, "cast": 0.012}
"""Parts with thin forms, and the largest step that still finds them, heads: the rim of an ear, what
is between two fingers."""

_PLANES, _PLANES_ELSE = {"head": 270, "hair": 60}, 40
"""Planes of half a part where it is shown in planes."""

_PLANED_FROM = 0.5 * FINE
"""Cells of what planes are made from, heads: the same for every picture, or they would change."""

_KEPT, _FEWEST = 0.5, 60
"""Share of the triangles of a cell's size that is kept, and how many a part has at least."""

_ONE_AT_A_TIME = Lock()


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
class PartMesh:
    points: Floats
    normals: Floats
    faces: Faces


@lru_cache(maxsize=128)
def part_mesh(name: str, cell: float) -> PartMesh:
    """A part's surface at rest in its own frame."""
    if name.endswith("_r"):
        twin, flip = part_mesh(name[:-1] + "l", cell), np.array([-1.0, 1.0, 1.0])
        faces = np.ascontiguousarray(twin.faces[:, ::-1])
        return PartMesh(twin.points * flip, twin.normals * flip, faces)
    points, normals, corners = (MESHES.given(one) for one in named(name, cell))
    if points is None or normals is None or corners is None:
        return meshed(name, cell)
    return PartMesh(points, normals, corners)


def named(name: str, cell: float) -> tuple[str, str, str]:
    """What points, normals and faces of a part are called in `MESHES`."""
    points, normals, faces = (f"{name} {cell:.5f} {one}" for one in ("points", "normals", "faces"))
    return points, normals, faces


def meshed(name: str, cell: float) -> PartMesh:
    """`part_mesh` of a part, made now.

    Marching cubes (Lorensen and Cline 1987), then merged where it is flat (quadric errors, Garland
    and Heckbert 1997): a ms for every thousand triangles that Embree is handed.
    """
    cell *= _SMALL.get(name.split("_")[0], 1.0)
    fine = min(max(0.5 * cell, min(cell, FINE)), _THIN.get(name, FINE))
    low, points, faces = _cubes(name, fine)
    kept = max(_FEWEST, round(_KEPT * len(faces) * (fine / cell) ** 2))
    if kept < len(faces):
        # Less eager than it is by itself (7): the rim of an ear would be pinched.
        points, faces = fewer(points, faces, kept, eager=5)
    points = points + low
    normals = normals_on(sculpts()[name], points)
    return PartMesh(points, normals, np.ascontiguousarray(faces, dtype=np.int32))


@lru_cache(maxsize=32)
def _cubes(name: str, fine: float) -> tuple[Floats, Floats, Faces]:
    """A part's surface as marching cubes of ``fine`` heads find it, before any is merged: (3,)
    where it begins, (n, 3) points from there, and faces; cells of several sizes share it."""
    from skimage.measure import marching_cubes  # half a second to load

    around = skin(name)
    low, high = around.min(axis=0) - 2.0 * fine, around.max(axis=0) + 2.0 * fine
    counts = np.ceil((high - low) / fine).astype(int) + 1
    x, y, z = (low[i] + fine * np.arange(counts[i]) for i in range(3))
    field = distance_on(sculpts()[name], (x, y, z), 2.0 * fine)
    points, faces, _, _ = marching_cubes(field, 0.0, spacing=(fine,) * 3)  # type: ignore[no-untyped-call]
    return low, points, faces


def figure_mesh(figure: Posed, cell: float = FINE) -> Mesh:
    """All parts of a posed figure."""
    still = _still(tuple(figure.places), cell)
    points, normals = np.empty_like(still.points), np.empty_like(still.normals)
    last = 0
    for name in still.parts:
        part = part_mesh(name, cell)
        here = slice(last, last := last + len(part.points))
        points[here] = figure.world(name, part.points)
        normals[here] = figure.normals(name, part.points, part.normals)
    return replace(still, points=points, normals=normals)


def planed(figure: Posed) -> Mesh:
    """A posed figure in flat planes: what is big stays, what is small goes; both sides alike."""
    return joined([_planes(figure, name) for name in figure.places])


def _planes(figure: Posed, name: str) -> Mesh:
    part = _planed(name)
    at = figure.world(name, part.points)
    corners = at[part.faces]
    across = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    across /= np.maximum(np.linalg.norm(across, axis=1, keepdims=True), 1e-12)
    # Every plane has corners of its own: its light is even.
    faces = np.arange(3 * len(part.faces), dtype=np.int32).reshape(-1, 3)
    rest = part.points[part.faces].reshape(-1, 3)
    return one_part(corners.reshape(-1, 3), np.repeat(across, 3, axis=0), rest, faces, name)


@lru_cache(maxsize=16)
def _planed(name: str) -> PartMesh:
    """One half of a part in few triangles, and its mirror image; ``normals`` are not kept."""
    whole = part_mesh(name, _PLANED_FROM)
    # The half on the model's left, cut at the middle: what crosses it is drawn onto it.
    points = whole.points.astype(np.float32).copy()
    left = points[whole.faces][:, :, 0].mean(axis=1) > 0.0
    faces = whole.faces[left]
    used, rows = np.unique(faces, return_inverse=True)
    points = points[used]
    points[:, 0] = np.maximum(points[:, 0], 0.0)
    faces = rows.reshape(-1, 3).astype(np.int32)
    ends = _ends(faces)
    points[ends, 0] = 0.0
    half, faces = fewer(points, faces, _PLANES.get(name, _PLANES_ELSE))
    half[_ends(faces), 0] = 0.0
    both = np.vstack([half, half * np.array([-1.0, 1.0, 1.0])])
    mirrored = faces[:, ::-1] + len(half)
    return PartMesh(both, both, np.vstack([faces, mirrored]).astype(np.int32))


def fewer(points: Floats, faces: Faces, kept: int, eager: int = 7) -> tuple[Floats, Faces]:
    """The mesh with so many triangles: (n, 3) points and (m, 3) faces."""
    import fast_simplification  # half a second to load

    # The package keeps the mesh it works on in memory that every thread shares.
    with _ONE_AT_A_TIME:
        found: tuple[Floats, Faces] = fast_simplification.simplify(
            points.astype(np.float32), faces.astype(np.int32), target_count=kept, agg=eager
        )
    return found


def _ends(faces: Faces) -> Ints:
    """Rows of the points on the open edge of a mesh: its edges have one face alone."""
    edges = np.sort(np.concatenate([faces[:, [0, 1]], faces[:, [1, 2]], faces[:, [2, 0]]]), axis=1)
    once, counts = np.unique(edges, axis=0, return_counts=True)
    found: Ints = np.unique(once[counts == 1])
    return found


@lru_cache(maxsize=8)
def _still(names: tuple[str, ...], cell: float) -> Mesh:
    """Parts as they are at rest, each in its own frame."""
    parts = [(name, part_mesh(name, cell)) for name in names]
    return joined([one_part(p.points, p.normals, p.points, p.faces, name) for name, p in parts])


def one_part(points: Floats, normals: Floats, rest: Floats, faces: Faces, name: str) -> Mesh:
    """The mesh of a single part: (n, 3) points, normals, rest and (m, 3) faces."""
    at, ways, still = (one.astype(np.float32) for one in (points, normals, rest))
    return Mesh(at, ways, still, faces, np.zeros(len(faces), np.int32), (name,))


def box_mesh(low: Floats, high: Floats, turned: Floats, name: str) -> Mesh:
    """A box between two corners, then turned by (3, 3); every face has its own corners."""
    points: list[Floats] = []
    normals: list[Floats] = []
    faces: list[Faces] = []
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
            faces.append(np.array(turn, dtype=np.int32) + start)
    at = np.vstack(points)
    return one_part(at @ turned.T, np.vstack(normals) @ turned.T, at, np.vstack(faces), name)


def joined(meshes: list[Mesh]) -> Mesh:
    """Several meshes as one."""
    begin = np.cumsum([0] + [len(mesh.points) for mesh in meshes])
    firsts = np.cumsum([0] + [len(mesh.parts) for mesh in meshes])

    def after(name: str, shifts: Ints) -> Faces:
        rows = [getattr(m, name) + by for m, by in zip(meshes, shifts, strict=False)]
        return np.concatenate(rows).astype(np.int32)

    return Mesh(
        points=np.vstack([m.points for m in meshes]),
        normals=np.vstack([m.normals for m in meshes]),
        rest=np.vstack([m.rest for m in meshes]),
        faces=after("faces", begin),
        owner=after("owner", firsts),
        parts=tuple(name for m in meshes for name in m.parts),
    )
