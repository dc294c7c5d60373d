"""A head from the front and in profile, tied by level lines.

Crown and chin brought level, every station of one view lies as high as that of the other; where it
does not, one of the two is wrong, or the head was nodded between them. From near by the two are not
quite level in truth: what stands out towards the eye is seen larger, away from the eye's own level.
That is taken off as far as the standpoint is known, and doubted as far as it is not.
"""

from __future__ import annotations

import math
import tomllib
from dataclasses import dataclass
from functools import lru_cache
from importlib import resources
from typing import Any

import numpy as np

from bralto.core.discover.figures import Figure
from bralto.core.measures.verdict import verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import Grade
from bralto.core.uncertainty import propagate

__all__ = ["USUAL", "Standpoint", "Tie", "can_be_tied", "depth_below", "ties"]


@dataclass(frozen=True, slots=True)
class Tie:
    """One station of a head in two views.

    Attributes:
        label: what it is called; ``points`` its point in either view, the one that is asked first.
        here, there: how far down the head it lies, parts from crown to chin along the head itself,
            as it would be seen from far off.
        error: ``here`` less ``there``, heads; ``u`` its standard uncertainty.
        verdict: ``over`` where it lies lower here, ``under`` where higher (`measures.verdict`).
        expected: where this picture would show it if it were level with the other one.
    """

    key: str
    label: str
    points: tuple[str, str]
    here: float
    there: float
    error: float
    u: float
    verdict: Verdict
    expected: float


@dataclass(frozen=True, slots=True)
class Standpoint:
    """From where a head is seen.

    Attributes:
        heads: distance of the eye.
        eye: how far below the crown the eye's own level is, parts from crown to chin; None where
            it is not known.
    """

    heads: float = 2.0 / 0.23
    eye: float | None = None


USUAL = Standpoint()
"""Two metres off, a head of 23 cm (common practice of a portrait class, no source)."""

_ANYWHERE = (0.5, 0.5)
"""Mean and standard deviation of the eye's level where it is not known: between the sitter's crown
and chin, or as much above or below (chosen here, no source)."""

_FORMS = 0.3
"""Standard deviation of how far one head's forms stand out against another's, as a share (chosen
here, no source)."""

_TURNED = {"head-front": 0.0, "head-three-quarter": 45.0, "head-profile": 90.0}
"""Degrees that a head is turned in a view."""


@dataclass(frozen=True, slots=True)
class _Level:
    """A line of levels.toml; ``points`` by view."""

    key: str
    label: str
    forward: float
    aside: float
    points: dict[str, str]

    def out(self, view: str) -> float:
        """How far it stands out towards the eye before the crown in a view, heads."""
        turned = math.radians(_TURNED[view])
        return self.forward * math.cos(turned) + self.aside * math.sin(turned)


@lru_cache(maxsize=1)
def _levels() -> tuple[_Level, ...]:
    made = []
    for row in _data()["level"]:
        points = {view: row[view] for view in _TURNED}
        made.append(_Level(row["key"], row["label"], row["forward"], row["aside"], points))
    return tuple(made)


@lru_cache(maxsize=1)
def _data() -> dict[str, Any]:
    text = (resources.files(__package__) / "levels.toml").read_text("utf-8")
    return tomllib.loads(text)


def can_be_tied(view: str, other: str) -> bool:
    """Whether two views show a head from different sides; two pictures from one side are tries."""
    return view != other and {view, other} <= set(_TURNED)


def ties(
    here: Figure,
    there: Figure,
    grade: Grade,
    standpoints: tuple[Standpoint, Standpoint] = (USUAL, USUAL),
) -> tuple[Tie, ...] | NotMeasurable:
    """The stations that both pictures have, from the top down.

    Args:
        grade: its tolerance for lengths, heads, says how far they may lie apart.
        standpoints: from where either was seen.
    """
    if not can_be_tied(here.view.key, there.view.key):
        return NotMeasurable("level lines tie two views of a head from different sides")
    found = []
    for level in _levels():
        ends, seen = [], []
        for figure, stood in zip((here, there), standpoints, strict=True):
            at = depth_below(figure, level.points[figure.view.key])
            if isinstance(at, NotMeasurable):
                break
            shift, u = _seen_shifted(level, figure.view.key, at[0], stood)
            ends.append((at[0] - shift, math.hypot(at[1], u)))
            seen.append(at[0])
        if len(ends) < 2:
            continue
        (one, u_one), (other, u_other) = ends
        error, u = one - other, math.hypot(u_one, u_other)
        points = (level.points[here.view.key], level.points[there.view.key])
        verdict = verdict_on(error, u, grade.head)
        expected = seen[0] - error
        found.append(Tie(level.key, level.label, points, one, other, error, u, verdict, expected))
    if not found:
        return NotMeasurable("no station is marked on both, with crown and chin")
    return tuple(found)


def _seen_shifted(level: _Level, view: str, at: float, stood: Standpoint) -> tuple[float, float]:
    """By how much lower a station is seen than it is, heads, and the doubt of it.

    To first order in depth over distance: a place is seen larger by that share, away from the
    level of the eye, and so is the chin, which ends the measure.
    """
    out = level.out(view)
    chin = _data()["chin"]["forward"] * math.cos(math.radians(_TURNED[view]))
    mean, sd = (stood.eye, 0.0) if stood.eye is not None else _ANYWHERE
    shift = ((at - mean) * out - at * (1.0 - mean) * chin) / stood.heads
    u_eye = sd * abs(at * chin - out) / stood.heads
    u_forms = _FORMS * math.hypot((at - mean) * out, at * (1.0 - mean) * chin) / stood.heads
    return shift, math.hypot(u_eye, u_forms)


def depth_below(figure: Figure, point: str) -> tuple[float, float] | NotMeasurable:
    """How far down a head a point lies, parts from crown to chin along the head itself, and its
    standard uncertainty."""
    top, bottom = figure.view.edges
    known = figure.view.measure_rows
    rows = [known[key] for key in (f"height.{point}", f"height.{bottom}") if key in known]
    if len(rows) < 2 or not figure.table.ok[rows].all():
        return NotMeasurable(f"{figure.view.point_label(point)}, {top} and {bottom} are wanted")
    a, b = figure.table.values[rows].tolist()
    if abs(b) < 1e-9:
        return NotMeasurable(f"{top} and {bottom} lie in one place")
    slope = figure.table.gradients[rows[0]] / b - figure.table.gradients[rows[1]] * (a / b**2)
    u = float(np.sqrt(propagate(slope[None], figure.marks.cov))[0])
    return a / b, u
