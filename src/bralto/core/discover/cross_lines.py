"""Cross lines of a head: square to the centre line, parallel, or running to a vanishing point."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.discover.figures import Figure
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE
from bralto.core.uncertainty import propagate

__all__ = ["CrossLines", "read_cross_lines"]


@dataclass(frozen=True, slots=True)
class CrossLines:
    """How the brow, eye, nose and mouth lines lie to each other.

    Attributes:
        tilts: measure id -> degrees, ``u`` likewise.
        parallel: whether no two of them differ by more than marks can tell.
        vanishing: (x, y) where they meet, heads from the plumb mark, x right, y up; None where
            they are parallel. ``spread`` is how far from it the lines pass, root mean square.
    """

    tilts: dict[str, float]
    u: dict[str, float]
    parallel: bool
    vanishing: tuple[float, float] | None
    spread: float | None


def read_cross_lines(
    figure: Figure, measures: Sequence[str] = ("tilt.brows", "tilt.eyes", "tilt.nose", "tilt.mouth")
) -> CrossLines | NotMeasurable:
    """Read the cross lines that are marked; at least two are wanted.

    The meeting point is that of least squared distance from the lines (normal equations of
    n . (p - a) = 0), each weighted by how well its own direction is known.
    """
    view, table = figure.view, figure.table
    rows = [view.measure_rows[key] for key in measures if key in view.measure_rows]
    rows = [row for row in rows if table.ok[row] and view.measures[row].kind == "tilt"]
    if len(rows) < 2:
        return NotMeasurable("cross lines want at least two of brows, eyes, nose and mouth")
    degrees = table.values[rows]
    u = np.sqrt(propagate(table.gradients[rows], figure.marks.cov))
    named = [view.measures[row].id for row in rows]
    tilts = dict(zip(named, degrees.tolist(), strict=True))
    doubts = dict(zip(named, u.tolist(), strict=True))
    apart = np.abs(degrees[:, None] - degrees[None, :])
    doubt = COVERAGE * np.hypot(u[:, None], u[None, :])
    if not np.any(apart > np.maximum(doubt, 1e-9)):
        return CrossLines(tilts, doubts, parallel=True, vanishing=None, spread=None)
    ends = [[view.point_rows[key] for key in view.measures[row].points] for row in rows]
    xy = figure.points.xy[np.array(ends)] / figure.head.value
    middle = xy.mean(axis=1)
    along = np.radians(degrees)
    normal = np.column_stack([-np.sin(along), np.cos(along)])
    weight = 1.0 / np.maximum(u, 1e-6)
    goal = np.sum(normal * middle, axis=1)
    point = np.linalg.lstsq(normal * weight[:, None], goal * weight, rcond=None)[0]
    spread = float(np.sqrt(np.mean(np.square(normal @ point - goal))))
    plumb = view.point_rows[view.plumb]
    origin = figure.points.xy[plumb] / figure.head.value if figure.points.present[plumb] else 0.0
    x, y = (point - origin).tolist()
    return CrossLines(tilts, doubts, parallel=False, vanishing=(x, y), spread=spread)
