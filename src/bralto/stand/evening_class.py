"""The demo: an evening class in the net loft of an invented harbour, ten weeks of one learner.

Everything is made from the seed: the same seed gives the same pictures and marks.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import numpy as np

from bralto.core.study.values import State
from bralto.core.views.shipped_views import view_named
from bralto.stand.demo_study import DemoStudy
from bralto.stand.half_year import SITTINGS
from bralto.stand.model.habits import Habits

__all__ = ["DemoStudy", "demo_orders", "demo_studies", "demo_study", "pose_of", "worked_example"]

_FIRST_EVENING = datetime(2026, 9, 8, 18, 30, tzinfo=UTC)


_POSES: dict[str, str] = {
    "Lamp trimmer": "reaching-aside",
    "Rope coiler": "carrying",
    "Waiting for the tide": "weight-left",
    "Net mender": "at-rest",
    "Oar bearer": "hand-on-hip",
    "Bell ringer": "weight-right",
}
"""The model's pose in each study of the evening class."""

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


def demo_orders() -> tuple[tuple[str, int], ...]:
    """What `demo_study` can make: fifteen studies of the figure and four heads over ten weeks,
    oldest first; the last three figures are marked in full."""
    # The ray caster takes half a second to load.
    from bralto.stand.demo_heads import HEADS

    orders = [(days, "figure", number) for number, (days, _, _) in enumerate(_COURSE)]
    orders += [(one.days, "head", number) for number, one in enumerate(HEADS)]
    return tuple((kind, number) for _, kind, number in sorted(orders))


def pose_of(kind: str, number: int) -> str:
    """What stands there in one of `demo_orders`, or of `half_year.half_year_orders`: those of one
    pose are made faster one after the other."""
    if kind == "head":
        return kind
    return SITTINGS[number][2] if kind == "half year" else _POSES[_COURSE[number][1]]


def demo_study(kind: str, number: int, seed: int = 1, *, pictures: bool = True) -> DemoStudy:
    """One of `demo_orders`, or of `half_year.half_year_orders`; each is made by itself, so that
    several can be at once. Without ``pictures`` they are made in a tenth of the time, with the same
    marks."""
    if kind == "half year":
        from bralto.stand.half_year import half_year_study

        return half_year_study(number, seed, pictures=pictures)
    from bralto.stand.demo_heads import head_study

    if kind == "head":
        study, made, _ = head_study(number, _FIRST_EVENING, seed, pictures=pictures)
        return DemoStudy(study, made)
    figure = _study(number, seed, pictures=pictures)
    return _on_the_table(figure, number, seed) if number == _PHOTOGRAPHED else figure


def demo_studies(seed: int = 1) -> Iterator[DemoStudy]:
    """All of them, one after the other."""
    for kind, number in demo_orders():
        yield demo_study(kind, number, seed)


def worked_example(seed: int = 1) -> DemoStudy:
    """The last study of the course alone."""
    return _study(len(_COURSE) - 1, seed)


def _habits(progress: float, rng: np.random.Generator) -> Habits:
    """Habits that wear off over the course, with good and bad evenings."""
    size = (1.0 - 0.62 * progress) * float(rng.uniform(0.75, 1.25))
    return Habits(
        parts={
            "head": 1.08 + 0.10 * size,
            "leg_r": 1.0 - 0.04 * size,
            "leg_l": 1.0 - 0.03 * size,
            "forearm_l": 1.0 + 0.14 * size * float(rng.uniform(0.2, 1.2)),
            "hand_r": 1.0 - 0.16 * size,
        },
        straight=1.0 - 0.16 * size,
        width=1.0 + 0.07 * size * float(rng.uniform(-0.3, 1.2)),
        wobble=0.004 + 0.012 * size,
    )


def _study(number: int, seed: int, *, pictures: bool = True) -> DemoStudy:
    # The ray caster and scikit-image take half a second to load.
    from bralto.stand.class_study import Drawn, class_study
    from bralto.stand.model.form.mesh import FINE, MIDDLE
    from bralto.stand.model.pencil_view import Page

    days, name, attempt = _COURSE[number]
    finished = number >= len(_COURSE) - _FINISHED
    rng = np.random.default_rng([seed, number])
    view = view_named("figure-front")
    placing = view.placing if finished else view.placing[: sum(len(e) for e in view.short)]
    taken = _FIRST_EVENING + timedelta(days=days, minutes=int(rng.integers(0, 50)))
    habits = _habits(days / _COURSE[-1][0], rng)
    seeds = [int(s) for s in rng.integers(0, 2**31, 3)]
    return class_study(
        Drawn(
            f"{name}, {attempt}", view, _POSES[name], habits, placing,
            taken.isoformat().replace("+00:00", "Z"),
            (f"reference-{number:02d}.jpg", f"drawing-{number:02d}.jpg"),
            (720, 960) if finished else (360, 480),
            Page(px_mm=8 / 3 if finished else 4 / 3),  # whole pixels on A3
            FINE if finished else MIDDLE,
        ),
        seeds, pictures=pictures,
    )  # fmt: skip


def _on_the_table(one: DemoStudy, number: int, seed: int) -> DemoStudy:
    """The same study with two photos of its drawing in place of the scan, the first half done."""
    from bralto.stand.phone_aim import PhoneShot

    # OpenCV takes half a second to load.
    from bralto.stand.photographed import photo_of, photographed

    common = PhoneShot(size=(1200, 1600), bow=-0.002, uneven=0.2, grain=2.5, quality=92)
    shots = {
        "block-in": replace(
            common, slant_deg=30, around_deg=-28, roll_deg=-3, fill=0.92, table="wood",
            shadow=0.3, uneven=0.25,
        ),
        "evening": replace(
            common, slant_deg=20, around_deg=24, roll_deg=2, fill=0.94, table="cloth"
        ),
    }  # fmt: skip

    (scan,) = one.study.states
    rng = np.random.default_rng([seed, number, 2])
    keys = [key for entry in view_named(one.study.view).short for key in entry]
    # Before it was mended: every mark that the block-in had lay a little further off.
    begun = {}
    for key in keys:
        if key in scan.picture.marks:
            mark, (dx, dy) = scan.picture.marks[key], rng.normal(0.0, 9.0, 2).tolist()
            begun[key] = replace(mark, x=mark.x + dx, y=mark.y + dy)
    pictures = {k: v for k, v in one.pictures.items() if k != scan.picture.file}
    drawing = one.pictures.get(scan.picture.file)
    states = []
    for name, marks in (("block-in", begun), ("evening", scan.picture.marks)):
        flat, file = replace(scan.picture, marks=marks), f"drawing-{name}.jpg"
        states.append(State(name, photographed(flat, shots[name], file), scan.taken))
        if drawing is not None:
            pictures[file] = photo_of(drawing, flat, shots[name], seed=sum(name.encode()))
    return DemoStudy(replace(one.study, states=tuple(states)), pictures)
