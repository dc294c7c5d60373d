"""Marks that were brought to a line: surer across it than along it.

A line of the picture is found to a fraction of a pixel across; where along it the landmark lies
the eye has judged as before. What is known of it stands in the mark's ``extra``.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.study.values import Mark

__all__ = ["ACROSS_PX", "SNAPPED", "mark_covariance", "mirrored", "snapped_to", "unsnapped"]

SNAPPED = "snapped"
"""Key in a mark's ``extra``: ``across_deg``, the direction across the line in the image frame,
degrees from +x towards +y, and ``spread``, the SD in that direction, image px."""

ACROSS_PX = 1.0 / math.sqrt(12.0)
"""SD across a line that a mark was snapped to, image px: known within one px of the picture
(uniform; JCGM 100:2008, F.2.2.1), though the fit of the line is finer where it is clean."""


def snapped_to(mark: Mark, x: float, y: float, across_deg: float) -> Mark:
    """The mark brought to a place on a line, image px; along the line its spread is as it was."""
    line = {"across_deg": round(across_deg, 2), "spread": min(ACROSS_PX, mark.spread)}
    return replace(mark, x=x, y=y, extra={**mark.extra, SNAPPED: line})


def unsnapped(mark: Mark) -> Mark:
    """The mark without its line: it was moved by hand since."""
    if SNAPPED not in mark.extra:
        return mark
    rest = {key: value for key, value in mark.extra.items() if key != SNAPPED}
    return replace(mark, extra=rest)


def mirrored(mark: Mark, width: float) -> Mark:
    """The mark on its picture seen in a mirror; ``width`` of the picture, px."""
    flipped = replace(mark, x=width - mark.x)
    line = _line(mark)
    if line is None:
        return flipped
    turned = {"across_deg": round((180.0 - line[0]) % 360.0, 2), "spread": line[1]}
    return replace(flipped, extra={**mark.extra, SNAPPED: turned})


def mark_covariance(marks: Sequence[Mark]) -> Floats:
    """Covariances of where marks lie, image frame, px squared.

    Returns:
        (n, 2, 2) array: the square of the spread both ways, but across a line that a mark was
        snapped to.
    """
    spread = np.array([mark.spread for mark in marks], dtype=np.float64)
    cov: Floats = np.square(spread)[:, None, None] * np.eye(2)[None]
    for row, mark in enumerate(marks):
        line = _line(mark)
        if line is not None:
            turn = math.radians(line[0])
            normal = np.array([math.cos(turn), math.sin(turn)])
            cov[row] -= (mark.spread**2 - line[1] ** 2) * np.outer(normal, normal)
    return cov


def _line(mark: Mark) -> tuple[float, float] | None:
    """Direction across and SD, or None where there is no line, or none that can be one: the words
    of a file are anybody's."""
    found = mark.extra.get(SNAPPED)
    if not isinstance(found, Mapping):
        return None
    across, spread = _number(found.get("across_deg")), _number(found.get("spread"))
    if across is None or spread is None or not 0.0 <= spread <= mark.spread:
        return None
    return across, spread


def _number(value: object) -> float | None:
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
        return None
    return float(value)
