"""How long the model's picture takes, beside the rays alone."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import replace

from bench.timing import shown, times
from bralto.core.arrays import Bools
from bralto.core.mannequin.camera import View3D
from bralto.core.mannequin.setting import default_setting
from bralto.stand.model.form.caster import Caster, Hits, Rays
from bralto.stand.model.form.mesh import COARSE, Mesh
from bralto.stand.model.picture import render
from bralto.stand.model.stage import Stage
from bralto.ui.model.drawn import drawn_now

__all__ = ["model_rows"]


class Counting(Caster):
    """Keeps every bundle of rays that is cast, to cast it again alone."""

    def __init__(self, mesh: Mesh) -> None:
        self.cast: list[tuple[Callable[[Rays, Rays], object], Rays, Rays]] = []
        super().__init__(mesh)

    def hits(self, origins: Rays, ways: Rays) -> Hits:
        self.cast.append((super().hits, origins, ways))
        return super().hits(origins, ways)

    def blocked(self, origins: Rays, ways: Rays) -> Bools:
        self.cast.append((super().blocked, origins, ways))
        return super().blocked(origins, ways)


def model_rows() -> list[tuple[str, str, str]]:
    """What is moved at 300x400, the finished picture at 900x1200."""
    setting = default_setting()
    held = Stage.of(setting, COARSE).view(300, 400)
    turn = 0.0

    def frame(key: str, step: float, view: View3D | None) -> None:
        """The pose changes, so mesh, rays and shading are all anew."""
        nonlocal turn
        turn = (turn + step) % 60.0
        pose = setting.pose.with_turns({key: turn})
        drawn_now(replace(setting, pose=pose), 300, 400, finished=False, held=view)

    # What the window does: the camera is held while a joint is pulled; with the stand it is not.
    pulled = times(lambda: frame("shoulder_l.out", 1.0, held), 60)
    turned = times(lambda: frame("pelvis.turn", 3.0, None), 60)
    stage = Stage.of(setting)
    view = stage.view(900, 1200)
    finished = times(lambda: render(stage, view), 7)
    counting = Counting(stage.caster.mesh)
    counting.cast.clear()
    render(replace(stage, caster=counting), view)
    bundles, bare = list(counting.cast), []
    for _ in range(5):
        start = time.perf_counter()
        for act, origins, ways in bundles:
            act(origins, ways)
        bare.append(1e3 * (time.perf_counter() - start))
    rays = sum(len(origins) for _, origins, _ in bundles)
    ratio = statistics.median(finished) / statistics.median(bare)
    least = min(finished) / min(bare)
    return [
        *(
            (
                f"model, {what}, 300x400: a frame, all of it",
                f"{shown(frames)}; {1e3 / statistics.median(frames):.1f} frames/s",
                "15 frames/s",
            )
            for what, frames in (("an arm pulled", pulled), ("stand turned", turned))
        ),
        (
            f"model finished, 900x1200, {rays / 1e6:.1f} million rays",
            f"{shown(finished)}; {ratio:.2f} x (least {least:.2f})",
            "2 x these rays alone",
        ),
        ("those rays alone, one thread", shown(bare), ""),
    ]
