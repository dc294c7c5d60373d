"""Each skill over time: its figures, one a study, and where they go."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import NamedTuple

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.examination.summary import SKILLS
from bralto.core.longitudinal.selection import Counted
from bralto.core.longitudinal.statistics.trend import (
    LAST,
    Trend,
    middle_of,
    more_studies,
    trend_of,
)
from bralto.core.results import NotMeasurable

__all__ = [
    "COURSES",
    "SKILL_TITLES",
    "Course",
    "Point",
    "SkillColumns",
    "courses",
    "trend_words",
    "units_said",
]

COURSES = ("miss", *SKILLS, "shapes", "bend", "seeing", "hand", "sighting")
"""Typical miss over the short set, then all skills, in the order in which they are shown."""

SKILL_TITLES = {
    "miss": "Typical miss", "heights": "Heights", "widths": "Widths", "tilts": "Tilts",
    "plumb": "Plumb", "halves": "Halves", "thirds": "Thirds", "shapes": "Shapes", "bend": "Bend",
    "seeing": "Seeing", "hand": "Hand", "sighting": "Sighting",
}  # fmt: skip

_NOW = 5
"""Studies whose middle says how it stands now."""

_MOST_MORE = 40


class Point(NamedTuple):
    """A study's figure, with its standard uncertainty and what placing marks alone makes of it."""

    study: str
    when: datetime
    value: float
    u: float
    limit: float


@dataclass(frozen=True, slots=True)
class Course:
    """One skill over the studies that tell it, oldest first, in columns: there may be thousands.

    Attributes:
        unit: what lengths are counted in (head), degree, fraction or tolerance.
        studies, when, values, u, limits: one entry a study (`Point`).
        now: median of the last five; ``trend``, over the last `trend.LAST`, or None.
    """

    skill: str
    unit: str
    studies: tuple[str, ...]
    when: tuple[datetime, ...]
    values: tuple[float, ...]
    u: tuple[float, ...]
    limits: tuple[float, ...]
    now: float | None
    trend: Trend | None

    def __len__(self) -> int:
        return len(self.studies)

    @property
    def points(self) -> tuple[Point, ...]:
        """The same study by study."""
        rows = zip(self.studies, self.when, self.values, self.u, self.limits, strict=True)
        return tuple(map(Point._make, rows))

    def line(self) -> tuple[tuple[float, float, float], ...]:
        """Of the points that the trend is of, the last ones: the line, low and high of its band."""
        if self.trend is None:
            return ()
        columns = self.trend.line(np.arange(self.trend.n, dtype=np.float64))
        return tuple(zip(*(one.tolist() for one in columns), strict=True))


class SkillColumns:
    """The figures of every skill of `COURSES` over some studies, out of which the courses of a
    choice among them are taken."""

    def __init__(self, studies: Sequence[Counted]) -> None:
        made = [(one.when, one.id) for one in studies]
        order = sorted(range(len(made)), key=made.__getitem__)
        self._order = np.array(order, dtype=np.intp)
        self._when, self._ids = np.empty((2, len(made)), dtype=object)
        self._when[:] = [made[row][0] for row in order]
        self._ids[:] = [made[row][1] for row in order]
        units: dict[str, list[str]] = {key: [] for key in COURSES}
        rows: dict[str, list[int]] = {key: [] for key in COURSES}
        flat: dict[str, list[float]] = {key: [] for key in COURSES}
        for row, at in enumerate(order):
            summary = studies[at].summary
            tracked = summary.tracked
            if not isinstance(tracked, NotMeasurable):
                rows["miss"].append(row)
                units["miss"].append(summary.unit)
                flat["miss"] += (tracked.value, tracked.u, tracked.limit)
            for skill, unit, value, u, limit, _ in summary.skills:
                if skill in rows:
                    rows[skill].append(row)
                    units[skill].append(unit)
                    flat[skill] += (value, u, limit)
        self._rows = {key: np.array(told, dtype=np.intp) for key, told in rows.items()}
        self._units = units
        self._figures = {key: np.array(told).reshape(-1, 3) for key, told in flat.items()}
        """Of each skill the rows of its studies (k,), their units, value, u and limit (k, 3)."""

    def courses(self, left: Bools | None = None) -> dict[str, Course]:
        """Every skill over those of a mask, (n,) in the order in which studies were given; over
        all of them where there is none."""
        found = {}
        kept = None if left is None else left[self._order]
        for key, figures in self._figures.items():
            rows, last = self._rows[key], len(figures) - 1
            if kept is not None:
                here = np.flatnonzero(kept[rows])
                rows, figures = rows[here], figures[here]
                last = int(here[-1]) if len(here) else -1
            ids, when = self._ids[rows].tolist(), self._when[rows].tolist()
            unit = self._units[key][last] if len(rows) else ""
            found[key] = _course(key, unit, ids, when, figures)
        return found


def courses(studies: Sequence[Counted]) -> dict[str, Course]:
    """Every skill of `COURSES` over these studies, whatever their order."""
    return SkillColumns(studies).courses()


def _course(skill: str, unit: str, ids: list[str], when: list[datetime], figures: Floats) -> Course:
    """From the figures of its studies, (k, 3)."""
    last = figures[-LAST:, 0]
    now = middle_of(np.sort(last[-_NOW:])) if len(last) else None
    values, u, limits = (tuple(column.tolist()) for column in figures.T)
    return Course(skill, unit, tuple(ids), tuple(when), values, u, limits, now, trend_of(last))


def units_said(unit: str) -> str:
    """A course's unit as it stands behind a figure."""
    return "parts" if unit == "fraction" else f"{unit}s"


def trend_words(course: Course) -> tuple[str, str]:
    """Where a skill goes, in plain words, and in a word: ``closer``, ``further``, ``open`` or
    ``""`` where there are too few studies."""
    trend = course.trend
    if trend is None:
        return "too few studies to tell a course", ""
    low, high = trend.percent
    if trend.told and high < 0.0:
        return f"{-high:.0f} to {-low:.0f} % closer over ten studies", "closer"
    if trend.told:
        return f"{low:.0f} to {high:.0f} % further off over ten studies", "further"
    more = more_studies(trend)
    if more == 0:
        most = max(abs(low), abs(high))
        within = f", or less than {max(1.0, most):.0f} %" if most > 0.0 else ""
        return f"no change over ten studies{within}", "open"
    if more > _MOST_MORE:
        return "no change that can be told", "open"
    many = "one more study" if more == 1 else f"{more} more studies"
    return f"no change told yet; {many} should settle it", "open"
