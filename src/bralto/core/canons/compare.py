"""One picture held against a canon: more or less than the average, within what marks can tell."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from bralto.core.canons.library import Canon
from bralto.core.measures.points import picture_points
from bralto.core.measures.table import MeasureTable, measure_table
from bralto.core.measures.units import Length, Unit, reference_head
from bralto.core.readings import Reading, read_measures
from bralto.core.results import NotMeasurable
from bralto.core.study import Picture
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

__all__ = ["against_canon"]


def against_canon(
    view: View, canon: Canon, picture: Picture, grade: Grade
) -> tuple[Reading, ...] | NotMeasurable:
    """Readings of a picture in which the canon stands in the reference's place, without doubt.

    Args:
        picture: the reference, or a drawing from imagination; it is counted in its own heads.

    Returns:
        One reading for each measure of the view; those of which the canon says nothing are not
        measured. Or why there is none at all.
    """
    if canon.view != view.key:
        return NotMeasurable(f"the canon {canon.key} is one of {canon.view}, not of {view.key}")
    found = picture_points(view, picture)
    if isinstance(found, NotMeasurable):
        return found
    marks, points = found
    head, nothing = reference_head(view, points), np.zeros((len(marks.keys), 2))
    unit: Unit | NotMeasurable
    unit = head if isinstance(head, NotMeasurable) else Unit(head.value, nothing, head.gradient)
    readings = read_measures(
        view,
        _as_table(view, canon, len(marks.keys)),
        measure_table(view, points),
        np.zeros_like(marks.cov),  # a canon is exact
        marks.cov,
        Length(1.0, nothing),  # its head is 1, whatever the marks
        unit,
        grade,
        {},
    )
    return tuple(
        one
        if one.spec.id in canon.values
        else replace(one, reason=f"the canon {canon.key} says nothing of it")
        for one in readings
    )


def _as_table(view: View, canon: Canon, marks: int) -> MeasureTable:
    """The canon's values in the place of a picture's."""
    total = len(view.measures)
    values, ok = np.zeros(total), np.zeros(total, dtype=np.bool_)
    for key, value in canon.values.items():
        row = view.measure_rows.get(key)
        if row is not None:
            values[row], ok[row] = value, True
    missing = tuple("" if found else "a value" for found in ok)
    return MeasureTable(values, np.zeros((total, marks, 2)), ok, missing)
