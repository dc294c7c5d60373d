"""Makes what `MadeAhead` holds of the figure's forms; set-up runs it."""

from __future__ import annotations

import numpy as np

from bralto.core.mannequin.body.sculpt import CAST, HAIR, sculpts
from bralto.core.mannequin.body.skins import SKINS, traced
from bralto.disk.given import write_given
from bralto.stand.demo_heads import CELL
from bralto.stand.model.form.mesh import COARSE, FINE, MESHES, MIDDLE, meshed, named
from bralto.stand.model.stage import BUST_CELLS

__all__ = ["make"]

_OF_A_BUST = ("neck", "head", HAIR, CAST)


def make() -> None:
    """Write both files."""
    for ahead in (SKINS, MESHES):
        ahead.file.parent.mkdir(exist_ok=True)  # there may be no bytecode
    parts = [name for name in sculpts() if not name.endswith("_r")]
    write_given(SKINS.file, SKINS.packed({name: traced(name) for name in parts}))
    wanted = [(name, cell) for name in parts for cell in (FINE, MIDDLE, COARSE)]
    near = [BUST_CELLS * cell for cell in (FINE, CELL, COARSE)]
    wanted += [(name, cell) for name in _OF_A_BUST for cell in near]
    meshes: dict[str, np.ndarray] = {}
    for name, cell in wanted:
        mesh = meshed(name, cell)
        arrays = (mesh.points, mesh.normals, mesh.faces)
        meshes |= dict(zip(named(name, cell), arrays, strict=True))
    write_given(MESHES.file, MESHES.packed(meshes))


if __name__ == "__main__":
    make()
