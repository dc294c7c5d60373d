"""Rays against triangles, by Embree; the one place that knows the library."""

from __future__ import annotations

from copy import copy
from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.errors import UserError
from bralto.stand.model.form.mesh import Faces, Mesh, Singles

__all__ = ["Caster", "Hits"]

Rays = Singles | Floats


@dataclass(frozen=True, slots=True, eq=False)
class Hits:
    """Where n rays met the mesh.

    Attributes:
        face: (n,) rows of the mesh's faces, -1 for a ray that meets nothing.
        away: (n,) along each ray, in lengths of its way; ``u``, ``v`` (n,) within the triangle.
    """

    face: Faces
    away: Singles
    u: Singles
    v: Singles


_SAME = 2e-4
"""Heads by which a point may lie elsewhere and the mesh still be the same one turned."""


class Caster:
    """A mesh made ready for rays: sorting it is a quarter of a quick picture."""

    def __init__(self, mesh: Mesh) -> None:
        # A binary of 15 MB, for x86-64 alone.
        try:
            from embreex.mesh_construction import TriangleMesh
            from embreex.rtcore_scene import EmbreeScene
        except ImportError:
            raise UserError(
                "the model needs the package embreex, which this kind of processor lacks"
            ) from None
        self.mesh = self._sorted = mesh
        self._back: Singles | None = None
        self._scene = EmbreeScene()
        # What belongs to the scene must live as long.
        self._held = TriangleMesh(self._scene, mesh.points, mesh.faces)
        # The first ray sorts the mesh; from then on rays may come from several threads at once.
        self.blocked(np.zeros((1, 3)), np.array([[0.0, 1.0, 0.0]]))

    def turned(self, mesh: Mesh) -> Caster | None:
        """The same sorted mesh for one that is it turned about plumb, as on a turntable: rays are
        turned back instead. None where the mesh is another."""
        old = self._sorted
        if old.points.shape != mesh.points.shape or not np.array_equal(old.faces, mesh.faces):
            return None
        x, z = old.points[:, 0], old.points[:, 2]
        new_x, new_z = mesh.points[:, 0], mesh.points[:, 2]
        angle = np.arctan2(float(z @ new_x - x @ new_z), float(x @ new_x + z @ new_z))
        c, s = np.cos(angle), np.sin(angle)
        turn = np.array([[c, 0.0, s], [0.0, 1.0, 0.0], [-s, 0.0, c]], np.float32)
        if not np.allclose(old.points @ turn.T, mesh.points, rtol=0.0, atol=_SAME):
            return None
        found = copy(self)
        found.mesh, found._back = mesh, turn
        return found

    def hits(self, origins: Rays, ways: Rays) -> Hits:
        """The first thing each ray meets; ``origins``, ``ways`` (n, 3)."""
        found = self._scene.run(self._single(origins), self._single(ways), output=1)
        return Hits(found["primID"], found["tfar"], found["u"], found["v"])

    def blocked(self, origins: Rays, ways: Rays) -> Bools:
        """(n,) bool: whether anything stands in a ray's way."""
        free = self._scene.run(self._single(origins), self._single(ways), query="OCCLUDED")
        return np.asarray(free == 0)

    def _single(self, rays: Rays) -> Singles:
        # Embree refuses doubles, and NumPy turns one into them unasked.
        found = np.ascontiguousarray(rays, dtype=np.float32)
        if self._back is None:
            return found
        (c, _, s), *_ = self._back
        back = np.empty_like(found)
        back[:, 0] = c * found[:, 0] - s * found[:, 2]
        back[:, 1] = found[:, 1]
        back[:, 2] = s * found[:, 0] + c * found[:, 2]
        return back
