"""Foreshortening: apparent against full length, and how far a limb comes out of the picture."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bralto.core.discover.figures import Figure
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.core.uncertainty import propagate

__all__ = ["Foreshortened", "foreshortened", "surely_foreshortened"]


@dataclass(frozen=True, slots=True)
class Foreshortened:
    """A span seen at a slant.

    Attributes:
        apparent: as it appears, heads; ``full`` is its length when it lies in the picture plane.
        ratio: apparent : full, 0 to 1, with ``u_ratio`` from the marks alone.
        slant: degrees out of the picture plane, 0 where it lies in it; towards or away from the
            viewer cannot be told. ``u_slant`` is None near 0, where the cosine is flat.
    """

    measure: str
    apparent: float
    full: float
    ratio: float
    u_ratio: float
    slant: float
    u_slant: float | None


def foreshortened(
    figure: Figure, measure: str, full: float | None = None
) -> Foreshortened | NotMeasurable:
    """How much a limb is foreshortened, for a viewer far away (parallel projection).

    Args:
        measure: id of a span.
        full: its full length in heads; without it that of the other side of the body stands in,
            where that one is longer.
    """
    view, table = figure.view, figure.table
    row = view.measure_rows.get(measure)
    if row is None or view.measures[row].kind != "span":
        return NotMeasurable(f"{measure} is not a span of {view.key}")
    if not table.ok[row]:
        return NotMeasurable(f"{measure} lacks a mark")
    value = float(table.values[row]) / figure.head.value
    gradient = (table.gradients[row] - value * figure.head.gradient) / figure.head.value
    if full is None:
        swap = {"_r": "_l", "_l": "_r"}
        twin = view.measure_rows.get(measure[:-2] + swap.get(measure[-2:], ""))
        if twin is None or not table.ok[twin]:
            return NotMeasurable(f"{measure} has no other side here; give its full length")
        full = float(table.values[twin]) / figure.head.value
        own = (table.gradients[twin] - full * figure.head.gradient) / figure.head.value
        gradient = gradient / full - value * own / full**2
    elif not full > 0.0:
        return NotMeasurable("a full length is above 0")
    else:
        gradient = gradient / full
    ratio = value / full
    if ratio > 1.0:
        return NotMeasurable(
            f"{measure} is longer than its full length; it is the other that is foreshortened"
        )
    u = float(np.sqrt(propagate(gradient[None], figure.marks.cov)[0]))
    slant = math.acos(ratio)
    steep = math.sin(slant)
    u_slant = math.degrees(u / steep) if steep > 2.0 * u else None
    return Foreshortened(measure, value, full, ratio, u, math.degrees(slant), u_slant)


_LEAST = 0.15
"""Share by which a limb must look shorter than its other side before that is told: a pose and two
hands make less of it (common practice, no source)."""


def surely_foreshortened(figure: Figure) -> tuple[Foreshortened, ...]:
    """The limbs that look shorter than their other side by more than marks and poses make of it."""
    found = []
    for spec in figure.view.measures:
        if spec.kind == "span" and spec.id[-2:] in {"_r", "_l"}:
            one = foreshortened(figure, spec.id)
            if isinstance(one, Foreshortened):
                short = 1.0 - one.ratio
                if short > _LEAST and short > COVERAGE * one.u_ratio:
                    found.append(one)
    return tuple(found)
