"""How long the model's picture takes, beside the rays alone."""

from __future__ import annotations

import statistics
import time
from dataclasses import replace

from bralto.core.figure.setting import default_setting
from bralto.stand.model.caster import Caster
from bralto.stand.model.mesh import COARSE
from bralto.stand.model.picture import preview, render
from bralto.stand.model.stage import Stage
from timing import shown, times

__all__ = ["model_rows"]


class Counting(Caster):
    """Keeps every bundle of rays that is cast, to cast it again alone."""

    def __init__(self, mesh) -> None:
        self.cast: list = []
        super().__init__(mesh)

    def hits(self, origins, ways):
        self.cast.append((super().hits, origins, ways))
        return super().hits(origins, ways)

    def blocked(self, origins, ways):
        self.cast.append((super().blocked, origins, ways))
        return super().blocked(origins, ways)


def model_rows() -> list[tuple[str, str, str]]:
    """Dragging a joint at 300x400, the finished picture at 900x1200."""
    setting = default_setting()
    turn = 0.0

    def dragged() -> None:
        """One frame: the pose changes, so mesh, rays and shading are all anew."""
        nonlocal turn
        turn = (turn + 1.0) % 60.0
        pose = setting.pose.with_turns({"shoulder_l.out": turn})
        stage = Stage.of(replace(setting, pose=pose), COARSE)
        preview(stage, stage.view(300, 400))

    frames = times(dragged, 40)
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
        (
            "model dragged, 300x400: a frame, all of it",
            f"{shown(frames)}; {1e3 / statistics.median(frames):.1f} frames/s",
            "15 frames/s",
        ),
        (
            f"model finished, 900x1200, {rays / 1e6:.1f} million rays",
            f"{shown(finished)}; {ratio:.2f} x (least {least:.2f})",
            "2 x these rays alone",
        ),
        ("those rays alone, one thread", shown(bare), ""),
    ]
