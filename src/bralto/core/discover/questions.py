"""Questions to be answered by eye before any figure is shown, made from the reference's own marks.

A question tells most where the eye is least sure of the answer and the marks are sure of it: its
worth is the entropy of a guess by an eye with the noise below, counted for large things more.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations
from statistics import NormalDist

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.discover.figures import Figure
from bralto.core.tolerances import COVERAGE
from bralto.core.uncertainty import propagate
from bralto.core.views.model import MeasureSpec, View
from bralto.core.views.typical import other_side

__all__ = ["EYE_ASIDE", "EYE_DEGREES", "EYE_WEBER", "Question", "ask"]

EYE_WEBER = 0.03
"""Just noticeable difference of two lengths, relative (Teghtsoonian 1971: .029; from memory)."""

EYE_DEGREES = 2.0
"""SD of judging a direction near level or plumb, degrees (Appelle 1972, oblique 1.5 to 3)."""

EYE_ASIDE = 1 / 150
"""SD of judging what lies below what, share of the whole height (common practice, no source)."""

_ALONG = 0.85
"""Cosine between two spans from one place above which they run along each other."""

_ASIDE = ("left", "right")

_FAR, _LARGE = 1 / 8, 1 / 4
"""Shares of the whole height: what a plumb line must bridge, and from where on a thing counts in
full (common practice, no source)."""


@dataclass(frozen=True, slots=True)
class Question:
    """One question with its answer.

    Attributes:
        about: measure ids, or marks, that it is about.
        options: what may be answered; ``answer`` is one of them.
        tells: bits that the eye's answer is worth, at most 1.
    """

    text: str
    about: tuple[str, ...]
    options: tuple[str, ...]
    answer: str
    tells: float


def ask(figure: Figure, most: int = 8) -> tuple[Question, ...]:
    """The most telling questions, at most half of them of one sort; none that only asks of the
    model's other side what one before it asks, to the same answer."""
    ranked = sorted([*_sizes(figure), *_tilts(figure), *_sides(figure)], key=lambda one: -one.tells)
    chosen: list[Question] = []
    counts: dict[tuple[str, ...], int] = {}
    used: dict[str, int] = {}
    for one in ranked:
        if (
            counts.get(one.options, 0) >= max(1, most // 2)
            or any(used.get(name, 0) >= 2 for name in one.about)
            or any(_twins(one, other) for other in chosen)
        ):
            continue
        chosen.append(one)
        counts[one.options] = counts.get(one.options, 0) + 1
        for name in one.about:
            used[name] = used.get(name, 0) + 1
    return tuple(chosen[:most])


def _twins(one: Question, other: Question) -> bool:
    """Whether they ask the same of the model's right and of its left, and are answered alike: as
    one sees it, of what lies aside the other way round."""
    if frozenset(map(other_side, one.about)) != frozenset(other.about):
        return False
    return (one.answer == other.answer) != (one.options == _ASIDE)


def _worth(difference: float, noise: float, size: float) -> float:
    """Entropy in bits of an eye's answer, for things of that share of the whole height."""
    right = NormalDist().cdf(abs(difference) / noise)
    if right >= 1.0:
        return 0.0
    wrong = 1.0 - right
    bits = -(right * math.log2(right) + wrong * math.log2(wrong))
    return bits * min(1.0, size / _LARGE)


def _u(figure: Figure, gradient: Floats) -> float:
    return float(np.sqrt(propagate(gradient[None], figure.marks.cov)[0]))


def _sizes(figure: Figure) -> Iterator[Question]:
    """'Is knee to foot longer or shorter than knee to waist?'"""
    view, table, head = figure.view, figure.table, figure.head.value
    spans = [
        i
        for i, spec in enumerate(view.measures)
        if spec.kind == "span" and spec.telling and table.ok[i] and table.values[i] > 0.1 * head
        if all(view.can_be_shown(key) for key in spec.points)
    ]
    for a, b in combinations(spans, 2):
        value = float(math.log(table.values[a] / table.values[b]))
        gradient = table.gradients[a] / table.values[a] - table.gradients[b] / table.values[b]
        if abs(value) <= COVERAGE * _u(figure, gradient) or abs(value) > 10 * EYE_WEBER:
            continue
        first, second = view.measures[a], view.measures[b]
        if _holds(figure, first, second):
            continue
        yield Question(
            f"Is {_ends(view, first)} longer or shorter than {_ends(view, second)}?",
            (first.id, second.id),
            ("longer", "shorter"),
            "longer" if value > 0.0 else "shorter",
            _worth(value, math.sqrt(2.0) * EYE_WEBER, float(table.values[b]) / head / figure.tall),
        )


def _ends(view: View, spec: MeasureSpec) -> str:
    """A span by the two places it runs between, as a finger would show it."""
    ends = " to ".join(view.point_label(key) for key in spec.points)
    return ends + {"plumb": " straight down", "level": " straight across"}.get(spec.along, "")


def _holds(figure: Figure, first: MeasureSpec, second: MeasureSpec) -> bool:
    """Whether one of two spans lies on the other: which is the longer nobody need ask."""
    shared = set(first.points) & set(second.points)
    if len(shared) != 1:
        return len(shared) > 1
    rows, xy = figure.view.point_rows, figure.points.xy
    (corner,) = shared
    ways = []
    for spec in (first, second):
        (end,) = set(spec.points) - shared
        way = xy[rows[end]] - xy[rows[corner]]
        ways.append(way / max(float(np.hypot(*way)), 1e-12))
    return float(ways[0] @ ways[1]) > _ALONG


def _tilts(figure: Figure) -> Iterator[Question]:
    """'Which side of the shoulders is up?', of lines from the model's right to its left."""
    view, table = figure.view, figure.table
    for i, spec in enumerate(view.measures):
        if spec.kind != "tilt" or not table.ok[i] or not spec.points[0].endswith("_r"):
            continue
        if not spec.points[1].endswith("_l"):
            continue
        # The line's own fall; its direction on the picture depends on the side one looks from.
        xy = figure.points.xy[[view.point_rows[key] for key in spec.points]]
        rise = math.degrees(math.atan2(float(xy[1, 1] - xy[0, 1]), abs(float(xy[1, 0] - xy[0, 0]))))
        if abs(rise) <= COVERAGE * _u(figure, table.gradients[i]) or abs(rise) > 45.0:
            continue
        length = float(np.hypot(*(xy[1] - xy[0]))) / figure.head.value
        yield Question(
            f"Which is higher, the {' or the '.join(view.point_label(k) for k in spec.points)}?",
            (spec.id,),
            ("the model's right", "the model's left"),
            "the model's left" if rise > 0.0 else "the model's right",
            _worth(rise, EYE_DEGREES, length / figure.tall),
        )


def _sides(figure: Figure) -> Iterator[Question]:
    """'Is the heel to the left or to the right of a plumb line from the chin?'"""
    xy, sd, names = figure.heads, figure.sd, figure.marks.keys
    view = figure.view
    for a, b in combinations(range(len(names)), 2):
        across, down = xy[b] - xy[a]
        u = float(np.hypot(sd[a], sd[b]))
        noise = EYE_ASIDE * figure.tall
        far = abs(down) >= _FAR * figure.tall and abs(across) <= 6.0 * noise
        if not far or abs(across) <= COVERAGE * u:
            continue
        upper, lower = (a, b) if down < 0.0 else (b, a)
        right = float(xy[lower, 0] - xy[upper, 0]) > 0.0
        yield Question(
            f"Is the {view.point_label(names[lower])} to your left or your right of a plumb line "
            f"from the {view.point_label(names[upper])}?",
            (names[upper], names[lower]),
            _ASIDE,
            "right" if right else "left",
            _worth(float(across), noise, abs(float(down)) / figure.tall),
        )
