"""Parts are meshed on several threads at once: a picture drawn late, the model, a habit shown."""

from __future__ import annotations

import sys
import threading

import numpy as np

from bralto.stand.model.form import mesh
from bralto.stand.model.form.mesh import FINE, PartMesh, part_mesh

TIMES = 60
"""Without the lock some ten of so many came back as the other's, or as none there is."""


def test_two_threads_do_not_get_each_others_meshes():
    parts = [part_mesh(name, FINE) for name in ("head", "foot_l")]

    def fewer(part: PartMesh) -> tuple[np.ndarray, np.ndarray]:
        return mesh.fewer(part.points, part.faces, len(part.faces) // 2)

    alone = [fewer(part) for part in parts]
    wrong = [0, 0]

    def again(which: int) -> None:
        for _ in range(TIMES):
            found = fewer(parts[which])
            same = all(map(np.array_equal, found, alone[which]))
            wrong[which] += not same

    threads = [threading.Thread(target=again, args=(which,)) for which in (0, 1)]
    usual = sys.getswitchinterval()
    sys.setswitchinterval(1e-5)  # s: threads take turns in the middle of everything
    try:
        for one in threads:
            one.start()
        for one in threads:
            one.join()
    finally:
        sys.setswitchinterval(usual)
    assert wrong == [0, 0]
