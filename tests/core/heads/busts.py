"""Heads to look at: busts of the model with many faces, projected by the model's own camera."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import replace

import numpy as np

from bralto.core.discover.figures import Figure, figure_of
from bralto.core.mannequin.body.builds import build_named
from bralto.core.mannequin.body.landmarks import landmarks_of
from bralto.core.mannequin.body.sculpt import HAIR
from bralto.core.mannequin.bust import bust
from bralto.core.mannequin.camera import Camera, looking
from bralto.core.mannequin.setting import default_setting
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_named

SIZE = (900, 1200)


def bust_marks(
    view: str,
    around: float,
    turns: Mapping[str, float] | None = None,
    *,
    face: Mapping[str, float] | None = None,
    mirrored: bool = False,
    hand: float = 0.0,
    rng: np.random.Generator | None = None,
) -> dict[str, Mark]:
    """Marks of a bust, px.

    Args:
        around: degrees that the camera has walked round to the sitter's left.
        turns: of its joints, degrees. face: factors on its face (`face.Face`).
        hand: SD of placing each, px.
    """
    build = build_named("seven-and-a-half")
    if face:
        figures = build.figures() | {f"face.{name}": value for name, value in face.items()}
        build = build.with_figures(**figures)
    base = default_setting("head")
    pose = replace(base.pose, turns=dict(base.pose.turns) | dict(turns or {}))
    setting = replace(base, build=build, pose=pose, camera=Camera(2.0, 0.20, around))
    figure = bust(setting).with_part(HAIR, "head")
    keys = tuple(mark.key for mark in view_named(view).landmarks)
    found = [one.on_figure(figure) for one in landmarks_of(view, keys, "l")]
    world = np.array([figure.world(one.part, one.at) for one in found])
    px = looking(setting.camera, build.head_m, world, *SIZE).project(world)
    if mirrored:
        px[:, 0] = SIZE[0] - px[:, 0]
    if rng is not None:
        px = px + rng.normal(0.0, hand, px.shape)
    return {
        key: Mark(float(x), float(y), "seen", max(hand, 0.5))
        for key, (x, y) in zip(keys, px.tolist(), strict=True)
    }


def figure_with(view: str, marks: Mapping[str, Mark], only: Collection[str] = ()) -> Figure:
    """Those marks as a figure; ``only`` some of them."""
    chosen = {key: one for key, one in marks.items() if not only or key in only}
    found = figure_of(view_named(view), Picture("", *SIZE, chosen))
    assert isinstance(found, Figure)
    return found


def short_set(view: str) -> tuple[str, ...]:
    """The keys of a view's short set, of each the first."""
    return tuple(keys[0] for keys in view_named(view).short)
