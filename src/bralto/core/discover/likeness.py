"""What makes this person: how a sitter departs from the average, and whether a drawing keeps it.

An average face is nobody's. What departs from it is what a likeness lives of, and a hand that draws
what it knows draws it back towards the average: the slope of drawn departures against seen ones is
below 1 then, as that of tilts is in a straightened pose.
"""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from importlib import resources

import numpy as np

from bralto.core.arrays import Bools, Floats
from bralto.core.canons.shipped_canons import Average, canon_named
from bralto.core.discover.figures import Figure
from bralto.core.discover.life import Life, slope_through_origin
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Intent
from bralto.core.tolerances import COVERAGE
from bralto.core.uncertainty import propagate
from bralto.core.views.model import View
from bralto.core.words.phrases import spread

__all__ = ["Departure", "Likeness", "likeness", "likeness_words", "push_of", "pushed"]

_FEWEST = 3
"""Departures that a slope wants."""

_KEPT, _OVERDONE = 0.7, 1.4
"""Share of a departure below which it is called flattened, and above which it is overdone (common
practice, no source)."""

_NOTHING = 1e-9

_UNSURE = 0.5
"""Of the share of all departures that is kept: with a wider interval it says nothing."""


@dataclass(frozen=True, slots=True)
class Departure:
    """One way in which a sitter is not the average.

    Attributes:
        measure: its id; ``words``, what it is called.
        average, seen: parts of an axis or a ratio; ``drawn`` is None where there is no drawing.
        size: percent by which what is seen departs, of the axis or of the average; ``u`` is its
            standard uncertainty.
        kept: ``kept``, ``flattened``, ``overdone``, ``turned round``, ``cannot tell``, or ''.
    """

    measure: str
    words: str
    average: float
    seen: float
    drawn: float | None
    size: float
    u: float
    kept: str


@dataclass(frozen=True, slots=True)
class Likeness:
    """``departures``, the largest first; ``slope`` of drawn against seen over all that were asked,
    or why there is none."""

    departures: tuple[Departure, ...]
    slope: Life | NotMeasurable


@dataclass(frozen=True, slots=True)
class _Trait:
    measure: str
    canon: str
    more: str
    less: str


@lru_cache(maxsize=1)
def _traits() -> tuple[_Trait, ...]:
    text = (resources.files(__package__) / "likeness.toml").read_text("utf-8")
    return tuple(_Trait(**row) for row in tomllib.loads(text)["trait"])


def likeness(
    view: View, seen: Figure, drawn: Figure | NotMeasurable, percent: float
) -> Likeness | NotMeasurable:
    """How a head departs from the average, and what a drawing makes of it.

    Args:
        percent: what is too small to be called a departure, the grade's tolerance.
    """
    asked = [
        (trait, average)
        for trait in _traits()
        if (average := canon_named(trait.canon).values(view.key).get(trait.measure)) is not None
        and seen.table.ok[view.measure_rows[trait.measure]]
    ]
    if not asked:
        return NotMeasurable("no average speaks of what is marked")
    there = _departing(view, seen, asked)
    drawing = None if isinstance(drawn, NotMeasurable) else _departing(view, drawn, asked)
    out = []
    for i, (trait, average) in enumerate(asked):
        size, u = float(there.size[i]), float(there.u[i])
        among_most = average.low <= float(there.value[i]) <= average.high
        if among_most or abs(size) <= max(percent, COVERAGE * u):
            continue
        value, kept = None, ""
        if drawing is not None and drawing.ok[i]:
            value = float(drawing.value[i])
            kept = _kept(size, u, float(drawing.size[i]), float(drawing.u[i]))
        words = trait.more if size > 0.0 else trait.less
        seen_value = float(there.value[i])
        out.append(
            Departure(trait.measure, words, average.middle, seen_value, value, size, u, kept)
        )
    out.sort(key=lambda one: -abs(one.size))
    slope: Life | NotMeasurable = NotMeasurable("there is no drawing yet")
    if drawing is not None:
        both = there.ok & drawing.ok
        slope = NotMeasurable(f"it wants {_FEWEST} departures that both pictures show")
        if int(both.sum()) >= _FEWEST:
            slope = _slope(there, drawing, both)
    return Likeness(tuple(out), slope)


def pushed(found: Likeness, push: float) -> tuple[Intent, ...]:
    """What is meant where every departure is taken further from the average, as in a caricature.

    Args:
        push: how many times as far; 1 is as seen.
    """
    if push == 1.0:
        return ()
    return tuple(
        Intent(one.measure, (one.average + push * (one.seen - one.average)) / one.seen)
        for one in found.departures
        if abs(one.seen) > _NOTHING
    )


def push_of(found: Likeness, intents: Sequence[Intent]) -> float:
    """How many times as far the departures are meant to be taken, by the largest that is meant."""
    meant = {one.measure: one.factor for one in intents}
    for one in found.departures:
        if one.measure in meant and abs(one.seen - one.average) > _NOTHING:
            return (meant[one.measure] * one.seen - one.average) / (one.seen - one.average)
    return 1.0


def likeness_words(slope: Life) -> str:
    """What a drawing makes of all that departs from the average, in one sentence."""
    low, high = slope.slope - COVERAGE * slope.u, slope.slope + COVERAGE * slope.u
    said = f"Of all that departs the drawing keeps {100.0 * slope.slope:.0f} %"
    said += f" ± {spread(100.0 * COVERAGE * slope.u, 0)}"
    if high < 1.0:
        return f"{said}: it goes back towards the average."
    return f"{said}: it overdoes it." if low > 1.0 else f"{said}: the likeness is kept."


def _slope(there: _Departing, drawing: _Departing, both: Bools) -> Life | NotMeasurable:
    """Drawn departures against seen ones; where they disagree among themselves by more than their
    doubts, the doubt of the slope is widened by that (Birge 1932)."""
    x, y, ux, uy = there.size[both], drawing.size[both], there.u[both], drawing.u[both]
    found = slope_through_origin(x, y, ux, uy)
    if isinstance(found, NotMeasurable):
        return NotMeasurable("this sitter is near the average in all that was asked")
    variance = np.square(uy) + np.square(found.slope * ux)
    squares = float(np.sum(np.square(y - found.slope * x) / np.maximum(variance, 1e-12)))
    u = found.u * float(np.sqrt(max(1.0, squares / (len(x) - 1))))
    if COVERAGE * u > _UNSURE:
        return NotMeasurable("the marks do not tell how much of it is kept")
    return replace(found, u=u)


@dataclass(frozen=True, slots=True, eq=False)
class _Departing:
    """(k,) arrays: value on one picture, departure in percent with its uncertainty, whether it is
    there."""

    value: Floats
    size: Floats
    u: Floats
    ok: Bools


def _departing(view: View, figure: Figure, asked: list[tuple[_Trait, Average]]) -> _Departing:
    rows = [view.measure_rows[trait.measure] for trait, _ in asked]
    averages = np.array([average.middle for _, average in asked])
    # Of a ratio against the average; of a place on an axis in parts of the axis.
    per = np.array([view.measures[row].kind == "fraction" for row in rows])
    scale = 100.0 / np.where(per, 1.0, averages)
    value = figure.table.values[rows]
    u = np.sqrt(propagate(figure.table.gradients[rows], figure.marks.cov))
    return _Departing(value, scale * (value - averages), scale * u, figure.table.ok[rows])


def _kept(seen: float, u_seen: float, drawn: float, u_drawn: float) -> str:
    """What became of a departure, as far as the marks tell."""
    share = drawn / seen
    u = float(np.hypot(u_drawn / seen, share * u_seen / seen))
    if share + COVERAGE * u < 0.0:
        return "turned round"
    if share + COVERAGE * u < _KEPT:
        return "flattened"
    if share - COVERAGE * u > _OVERDONE:
        return "overdone"
    if share - COVERAGE * u >= _KEPT and share + COVERAGE * u <= _OVERDONE:
        return "kept"
    return "kept" if COVERAGE * u < 0.5 * (_OVERDONE - _KEPT) else "cannot tell"
