"""A curve through some points as a path to be painted."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainterPath, QPolygonF

from bralto.core.action.curve import curve_through
from bralto.core.arrays import Floats
from bralto.core.results import NotMeasurable

__all__ = ["path_of", "swept"]

_SLACK = 200.0
"""The part of its extent by which a curve may miss a point that is being set."""


def path_of(xy: Floats) -> QPainterPath:
    """Straight from place to place of (n, 2), board px."""
    path = QPainterPath()
    path.addPolygon(QPolygonF([QPointF(float(x), float(y)) for x, y in xy]))
    return path


def swept(places: Sequence[QPointF]) -> QPainterPath:
    """The curve through places, board px; straight from one to the next while they are few."""
    xy = np.array([[at.x(), at.y()] for at in places])
    found = curve_through(xy, max(float(np.ptp(xy, axis=0).max()), 1.0) / _SLACK)
    return path_of(xy if isinstance(found, NotMeasurable) else found.xy)
