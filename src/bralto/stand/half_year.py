"""The half year before the evening class: the same learner in the net loft, from March to July.

Three habits run through it and on into the class: heads come out big, poses stand too straight, and
the whole comes out too wide. The last is overcome by July; then the loft is closed over the summer.
`docs/demo.md` has the truth as a table, so that the record can be held against it.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import numpy as np

from bralto.core.mannequin.known import MODEL
from bralto.core.mannequin.setting import set_up
from bralto.core.session.notes import KEY
from bralto.core.views.shipped_views import view_named
from bralto.stand.demo_study import DemoStudy
from bralto.stand.model.habits import Habits

__all__ = ["SITTINGS", "half_year_habits", "half_year_orders", "half_year_study"]

FIRST_DAY = datetime(2026, 3, 3, 17, 40, tzinfo=UTC)

_WORDS = (
    ("the plumb line held", "measure the head before its features"),
    ("block-in in five minutes, and it stood", "see which shoulder is up, and overdo it"),
    ("feet on one level at last", "width against height before anything inside"),
    ("the gaps between arm and trunk helped", "the head again: hold it against the whole"),
)
"""What went well, what next; every third study has some."""

_FRONT = ("at-rest", "weight-right", "weight-left", "hand-on-hip", "walking", "reaching-aside",
          "carrying")  # fmt: skip
_BACK = ("back-rest", "back-reaching")
_NAMES = ("Sail maker", "Ferryman", "Caulker", "Rope walker", "Lantern bearer", "Tide reader",
          "Lobster keeper")  # fmt: skip


def _sittings() -> tuple[tuple[int, str, str, str], ...]:
    """Days after the first, title, pose, view: twenty-one, every sixth day, a third from behind."""
    out = []
    for number in range(21):
        behind = number % 3 == 2
        poses = _BACK if behind else _FRONT
        pose = poses[(number // 3 if behind else number - number // 3) % len(poses)]
        name = _NAMES[number % len(_NAMES)]
        title = f"{name} from behind" if behind else name
        out.append((6 * number, title, pose, "figure-back" if behind else "figure-front"))
    return tuple(out)


SITTINGS = _sittings()


def half_year_orders() -> tuple[tuple[str, int], ...]:
    """What `evening_class.demo_study` makes of it, oldest first."""
    return tuple(("half year", number) for number in range(len(SITTINGS)))


def half_year_habits(number: int) -> Habits:
    """What the learner is told to do wrong on a day, the true values without that day's mood."""
    progress = number / (len(SITTINGS) - 1)
    return Habits(
        parts={"head": 1.17},
        straight=0.80,
        width=1.0 + 0.09 * max(0.0, 1.0 - 1.25 * progress),
        wobble=0.030 - 0.013 * progress,
    )


def half_year_study(number: int, seed: int = 1, *, pictures: bool = True) -> DemoStudy:
    """One of them; better and worse days scatter about the habits."""
    # The ray caster takes half a second to load.
    from bralto.stand.class_study import Drawn, class_study
    from bralto.stand.model.form.mesh import MIDDLE
    from bralto.stand.model.pencil_view import Page

    days, title, pose, view = SITTINGS[number]
    rng = np.random.default_rng([seed, number, 11])
    true = half_year_habits(number)
    habits = replace(
        true,
        parts={"head": true.parts["head"] + float(rng.normal(0.0, 0.03))},
        straight=true.straight + float(rng.normal(0.0, 0.06)),
        width=true.width + float(rng.normal(0.0, 0.015)),
    )
    setting = set_up(pose)
    # As `exchange.pose_file` would write it, which is not known here.
    document = {"subject": "figure", "title": setting.title, "turns": dict(setting.pose.turns)}
    taken = FIRST_DAY + timedelta(days=days, minutes=int(rng.integers(0, 70)))
    notes: dict[str, object] = {
        "seconds": {
            "heights": float(rng.integers(400, 900)),
            "widths": float(rng.integers(200, 700)),
        }
    }
    if number % 3 == 1:
        well, following = _WORDS[(number // 3) % len(_WORDS)]
        notes["log"] = {"well": well, "next": following}
    return class_study(
        Drawn(
            title, view_named(view), pose, habits, view_named(view).placing,
            taken.isoformat().replace("+00:00", "Z"),
            (f"loft-{number:02d}.jpg", f"loft-drawing-{number:02d}.jpg"), (360, 480),
            Page(px_mm=4 / 3), MIDDLE, {MODEL: {"setting": document}, KEY: notes},
        ),
        [int(one) for one in rng.integers(0, 2**31, 3)], pictures=pictures,
    )  # fmt: skip
