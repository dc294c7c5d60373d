"""Rays against triangles, by Embree; the one place that knows the library."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.errors import UserError
from bralto.stand.model.mesh import Faces, Mesh, Singles

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


class Caster:
    """A mesh made ready for rays."""

    def __init__(self, mesh: Mesh) -> None:
        # A binary of 15 MB, for x86-64 alone.
        try:
            from embreex.mesh_construction import TriangleMesh
            from embreex.rtcore_scene import EmbreeScene
        except ImportError:
            raise UserError(
                "the model needs the package embreex, which this kind of processor lacks"
            ) from None
        self.mesh = mesh
        self._scene = EmbreeScene()
        # What belongs to the scene must live as long.
        self._held = TriangleMesh(self._scene, mesh.points, mesh.faces)
        # The first ray sorts the mesh; from then on rays may come from several threads at once.
        self.blocked(np.zeros((1, 3)), np.array([[0.0, 1.0, 0.0]]))

    def hits(self, origins: Rays, ways: Rays) -> Hits:
        """The first thing each ray meets; ``origins``, ``ways`` (n, 3)."""
        found = self._scene.run(_single(origins), _single(ways), output=1)
        return Hits(found["primID"], found["tfar"], found["u"], found["v"])

    def blocked(self, origins: Rays, ways: Rays) -> Bools:
        """(n,) bool: whether anything stands in a ray's way."""
        free = self._scene.run(_single(origins), _single(ways), query="OCCLUDED")
        return np.asarray(free == 0)


def _single(rays: Rays) -> Singles:
    # Embree refuses doubles, and NumPy turns one into them unasked.
    return np.ascontiguousarray(rays, dtype=np.float32)
