"""The demo: an evening class in the net loft of an invented harbour, ten weeks of one learner.

Everything is made from the seed: the same seed gives the same pictures and marks.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

import numpy as np
from PIL import Image

from bralto.core.study import Picture, Sheet, State, Study
from bralto.core.views.library import view_named
from bralto.stand.learner import Faults, draw_body, place_marks
from bralto.stand.pencil import draw_in_pencil
from bralto.stand.puppet import Pose, landmarks
from bralto.stand.render import Framing, render_figure

__all__ = ["DemoStudy", "demo_studies", "poses", "worked_example"]

_FIRST_EVENING = datetime(2026, 9, 8, 18, 30, tzinfo=UTC)
_PERMISSION = "drawn by Bralto: a wooden lay figure"


@dataclass(frozen=True, slots=True)
class DemoStudy:
    """A study with its pictures still in memory; ``study`` names them by `file`."""

    study: Study
    pictures: dict[str, Image.Image]


_POSES: dict[str, Pose] = {
    "Lamp trimmer": Pose(
        hips=-7, shoulders=6, head=5, lean=-1.5,
        arms={"r": (16, 8, 4), "l": (40, -36, -26)}, legs={"r": (1, -1), "l": (13, 8)},
    ),
    "Rope coiler": Pose(
        hips=5, shoulders=-6, head=-4, lean=2,
        arms={"r": (34, -14, -20), "l": (22, 12, 6)}, legs={"r": (11, 7), "l": (2, 0)},
    ),
    "Waiting for the tide": Pose(
        hips=-9, shoulders=8, head=-6, lean=-2.5,
        arms={"r": (10, 4, 0), "l": (30, 16, 8)}, legs={"r": (0, -2), "l": (16, 6)},
    ),
    "Net mender": Pose(
        hips=3, shoulders=5, head=8, lean=0.5,
        arms={"r": (28, -28, -30), "l": (30, -22, -26)}, legs={"r": (7, 4), "l": (7, 4)},
    ),
    "Oar bearer": Pose(
        hips=-4, shoulders=-9, head=-5, lean=3,
        arms={"r": (18, 8, 2), "l": (58, 30, 10)}, legs={"r": (4, 2), "l": (10, 6)},
    ),
    "Bell ringer": Pose(
        hips=8, shoulders=-7, head=6, lean=1.5,
        arms={"r": (46, 20, 12), "l": (12, 6, 2)}, legs={"r": (15, 8), "l": (1, -1)},
    ),
}  # fmt: skip

# (days after the first evening, pose, which try). The last three are the finished ones.
_COURSE: tuple[tuple[int, str, str], ...] = (
    (0, "Lamp trimmer", "first try"),
    (2, "Rope coiler", "first try"),
    (7, "Net mender", "first try"),
    (14, "Oar bearer", "first try"),
    (16, "Waiting for the tide", "first try"),
    (21, "Bell ringer", "first try"),
    (28, "Lamp trimmer", "second try"),
    (35, "Rope coiler", "second try"),
    (42, "Net mender", "second try"),
    (44, "Oar bearer", "second try"),
    (51, "Bell ringer", "second try"),
    (56, "Waiting for the tide", "second try"),
    (61, "Oar bearer", "third try"),
    (65, "Rope coiler", "third try"),
    (70, "Waiting for the tide", "third try"),
)
_FINISHED = 3
_PHOTOGRAPHED = len(_COURSE) - 3
"""The study whose drawing was photographed on a table, half done and done; the others are scans."""


def poses() -> dict[str, Pose]:
    """The poses of the evening class by name."""
    return dict(_POSES)


def demo_studies(seed: int = 1) -> Iterator[DemoStudy]:
    """Fifteen studies over ten weeks, oldest first; the last three are marked in full."""
    for number in range(len(_COURSE)):
        study = _study(number, seed)
        yield _on_the_table(study, number, seed) if number == _PHOTOGRAPHED else study


def worked_example(seed: int = 1) -> DemoStudy:
    """The last study of the course alone."""
    return _study(len(_COURSE) - 1, seed)


def _faults(progress: float, rng: np.random.Generator) -> Faults:
    """Faults that shrink over the course, with good and bad evenings."""
    size = (1.0 - 0.62 * progress) * float(rng.uniform(0.75, 1.25))
    return Faults(
        parts={
            "head": 1.0 + 0.16 * size,
            "leg_r": 1.0 - 0.06 * size,
            "leg_l": 1.0 - 0.05 * size,
            "forearm_l": 1.0 + 0.14 * size * float(rng.uniform(0.2, 1.2)),
            "hand_r": 1.0 - 0.16 * size,
        },
        tilts=1.0 - 0.45 * size,
        width=1.0 + 0.07 * size * float(rng.uniform(-0.3, 1.2)),
        miss=0.010 + 0.020 * size,
    )


def _study(number: int, seed: int) -> DemoStudy:
    days, name, attempt = _COURSE[number]
    pose, finished = _POSES[name], number >= len(_COURSE) - _FINISHED
    rng = np.random.default_rng([seed, number])
    view = view_named("figure-front")
    placing = view.placing if finished else view.placing[: sum(len(e) for e in view.short)]
    taken = _FIRST_EVENING + timedelta(days=days, minutes=int(rng.integers(0, 50)))
    faults = _faults(days / _COURSE[-1][0], rng)
    seeds = [int(s) for s in rng.integers(0, 2**31, 5)]
    size = (720, 960) if finished else (420, 560)
    seen, drawn = landmarks(pose), draw_body(pose, faults, seeds[0])
    reference = _frame(seen, size, 0.875, rng)
    drawing = _frame(drawn, (840, 1188) if finished else (490, 693), 0.80, rng)
    width, height = drawing.width, drawing.height
    pictures = {
        f"reference-{number:02d}.jpg": render_figure(seen, reference, seeds[1]),
        f"drawing-{number:02d}.jpg": draw_in_pencil(drawn, drawing, seeds[2]),
    }
    files = list(pictures)
    spread = 0.7 * size[1] / 640  # marks set with care, zoomed in to twice the picture's size
    study = Study(
        title=f"{name}, {attempt}",
        view=view.key,
        reference=Picture(
            files[0], *size, place_marks(seen, reference, placing, spread, seeds[3]),
            permission=_PERMISSION,
        ),
        states=(
            State(
                "evening",
                Picture(
                    files[1], width, height,
                    place_marks(drawn, drawing, placing, spread, seeds[4]),
                    sheet=Sheet(((0, 0), (width, 0), (width, height), (0, height)), (297, 420)),
                    permission="my own drawing",
                ),
                taken.isoformat().replace("+00:00", "Z"),
            ),
        ),
        extra={"known_faults": faults.document()},
    )  # fmt: skip
    return DemoStudy(study, pictures)


def _on_the_table(one: DemoStudy, number: int, seed: int) -> DemoStudy:
    """The same study with two photos of its drawing in place of the scan, the first half done."""
    from bralto.stand.demo_photo import photographed  # slow to load

    (scan,) = one.study.states
    assert scan.picture.sheet is not None
    rng = np.random.default_rng([seed, number, 2])
    keys = [key for entry in view_named(one.study.view).short for key in entry]
    # Before it was mended: every mark that the block-in had lay a little further off.
    begun = {}
    for key in keys:
        if key in scan.picture.marks:
            mark, (dx, dy) = scan.picture.marks[key], rng.normal(0.0, 9.0, 2).tolist()
            begun[key] = replace(mark, x=mark.x + dx, y=mark.y + dy)
    size_mm, drawing = scan.picture.sheet.size_mm, one.pictures[scan.picture.file]
    pictures = {k: v for k, v in one.pictures.items() if k != scan.picture.file}
    states = []
    for name, marks in (("block-in", begun), ("evening", scan.picture.marks)):
        flat = replace(scan.picture, marks=marks)
        state, photo = photographed(name, flat, drawing, size_mm, scan.taken)
        states.append(state)
        pictures[state.picture.file] = photo
    return DemoStudy(replace(one.study, states=tuple(states)), pictures)


def _frame(
    body: dict[str, np.ndarray], size: tuple[int, int], fill: float, rng: np.random.Generator
) -> Framing:
    """Place a figure on its page: a little off the middle, with air above and below."""
    points = np.array(list(body.values()))
    tall = float(points[:, 1].max() - min(0.0, float(points[:, 1].min())))
    scale = fill * size[1] / tall * float(rng.uniform(0.97, 1.0))
    middle = 0.5 * size[0] - scale * 0.5 * float(points[:, 0].min() + points[:, 0].max())
    floor = size[1] * (0.5 + 0.5 * fill) + scale * min(0.0, float(points[:, 1].min()))
    return Framing(*size, scale, middle + float(rng.uniform(-0.02, 0.02)) * size[0], floor)
