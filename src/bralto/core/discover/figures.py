"""The points of one picture in heads, with all that finding out needs of them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from bralto.core.arrays import Floats
from bralto.core.measures.points import PointTable, picture_points, point_table
from bralto.core.measures.posture import measured_as, posture
from bralto.core.measures.table import MeasureTable, measure_table
from bralto.core.measures.units import Length, reference_head
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import SightMarks
from bralto.core.study.values import Picture
from bralto.core.views.model import View

__all__ = ["Figure", "figure_of"]


@dataclass(frozen=True, eq=False)
class Figure:
    """One picture's marks, points and measures.

    Attributes:
        marks: in the sight frame.
        points: the view's points in the same frame.
        head: of this picture.
    """

    view: View
    marks: SightMarks
    points: PointTable
    head: Length

    @cached_property
    def table(self) -> MeasureTable:
        """Raw values of all measures."""
        return measure_table(self.view, self.points)

    @property
    def heads(self) -> Floats:
        """(n, 2) array, the marks in heads of this picture, y up."""
        return self.marks.xy / self.head.value

    @property
    def sd(self) -> Floats:
        """(n,) array, SD of placing each mark, heads; the mean of both axes."""
        sd: Floats = np.sqrt(np.einsum("nkk->n", self.marks.cov) / 2.0) / self.head.value
        return sd

    @property
    def tall(self) -> float:
        """Height of the marks' extent in heads, of a figure that lies its length: what is far or
        large is so against the whole."""
        return float(np.ptp(self.heads[:, 0 if self.view.lies else 1]))


def figure_of(view: View, picture: Picture) -> Figure | NotMeasurable:
    """Bring one picture's marks into heads, measured as its posture wants it, or say why that
    cannot be."""
    found = picture_points(view, picture, fewest=2)
    if isinstance(found, NotMeasurable):
        return found
    marks, points = found
    measured = measured_as(view, posture(view, marks), marks, frozenset(marks.keys))
    if measured is not view:
        view, points = measured, point_table(measured, marks, frozenset(marks.keys))
    head = reference_head(view, points)
    if isinstance(head, NotMeasurable):
        return head
    return Figure(view, marks, points, head)
