"""One picture held against a canon: more or less than the average, within what marks can tell."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace
from functools import lru_cache

import numpy as np

from bralto.core.canons.figure import canon_averages
from bralto.core.canons.shipped_canons import (
    BY_AGE,
    Average,
    Canon,
    canon_named,
    canons_of,
    general_of,
)
from bralto.core.measures.points import PointTable, picture_points
from bralto.core.measures.posture import STANDS, measured_as, posture, told_of
from bralto.core.measures.readings import Reading, read_measures
from bralto.core.measures.table import LENGTH_KINDS, MeasureTable, measure_table
from bralto.core.measures.units import Length, Unit, reference_head
from bralto.core.measures.verdict import verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

__all__ = ["against_canon", "agreeing", "averages_beside", "completed"]


def completed(view: View, canon: Canon) -> Mapping[str, Average]:
    """What a canon says of a view's measures, completed by what all schools say, and then by the
    proportions that the other schools name: from the least to the most of them.

    Heights are the canon's own, they go with its count of heads; and what it has placed (the mouth
    at a half) no other school places anew (at a third).
    """
    general = general_of(view.key)
    own = dict(canon_averages(view, canon))
    common = dict(canon_averages(view, general)) if general is not None else {}
    placed = {_placed(view, key) for key in (*own, *common)} - {""}
    others: dict[str, Average] = {}
    for other in canons_of(view.key):
        if other.apart or canon.apart:
            continue
        for key, one in canon_averages(view, other).items():
            if not _of_standing(view, key) and _placed(view, key) not in placed:
                last = others.get(key, one)
                others[key] = Average(min(last.low, one.low), max(last.high, one.high))
    return others | common | own


def _placed(view: View, key: str) -> str:
    """The point that a fraction or an alignment places, or ''."""
    spec = view.measure(key)
    named = spec is not None and spec.kind in {"fraction", "alignment"}
    return spec.points[1] if spec is not None and named else ""


@lru_cache(maxsize=32)
def averages_beside(view: View) -> Mapping[str, Mapping[str, Average]]:
    """What each school says, side by side: by measure id and key of the canon."""
    out: dict[str, dict[str, Average]] = {}
    general = general_of(view.key)
    for canon in dict.fromkeys((*canons_of(view.key), *((general,) if general else ()))):
        if canon.key.startswith(BY_AGE):
            continue  # of another age, and of no other school
        for key, value in canon_averages(view, canon).items():
            out.setdefault(key, {})[canon.key] = value
    return out


def agreeing(view: View, reading: Reading) -> tuple[str, ...]:
    """Titles of the schools of which a drawn value is as usual, within its tolerance."""
    value = reading.drawing
    if value is None:
        return ()
    allowed = reading.tolerance * (abs(value) if reading.unit == "ratio" else 1.0)
    beside = averages_beside(view).get(reading.spec.id, {})
    return tuple(
        canon_named(key).title
        for key, one in beside.items()
        if abs(one.nearest(value) - value) <= allowed
    )


def against_canon(
    view: View, canon: Canon, picture: Picture, grade: Grade
) -> tuple[Reading, ...] | NotMeasurable:
    """Readings of a picture in which the canon stands in the reference's place, without doubt.

    What all schools say completes it. Of an average that is a range the nearest value stands, so
    what lies between has no error.

    Args:
        picture: the reference, or a drawing from imagination; it is counted in its own heads.

    Returns:
        One reading for each measure of the view; those of which neither says anything are not
        measured. Or why there is none at all.
    """
    if view.key not in canon.by_view:
        return NotMeasurable(
            f"the canon {canon.key} is one of {', '.join(canon.views)}, not of {view.key}"
        )
    found = picture_points(view, picture)
    if isinstance(found, NotMeasurable):
        return found
    marks, points = found
    how = posture(view, marks)
    averages = every = completed(view, canon)
    if how != STANDS:
        averages = {key: one for key, one in every.items() if not _of_standing(view, key)}
    view = measured_as(view, how, marks, frozenset(marks.keys))
    if _faces_left(view, points):
        averages = {key: _turned(view, key, one) for key, one in averages.items()}
    head, nothing = reference_head(view, points), np.zeros((len(marks.keys), 2))
    unit: Unit | NotMeasurable
    unit = head if isinstance(head, NotMeasurable) else Unit(head.value, nothing, head.gradient)
    drawn = measure_table(view, points)
    readings = read_measures(
        view,
        _as_table(view, averages, drawn, unit),
        drawn,
        np.zeros_like(marks.cov),  # a canon is exact
        marks.cov,
        Length(1.0, nothing),  # its head is 1, whatever the marks
        unit,
        grade,
        {},
    )
    readings = tuple(_with_heads_doubt(view, one) for one in readings)
    return told_of(
        how,
        tuple(
            one
            if one.spec.id in averages
            else replace(one, reason=_unsaid(canon, of_standing=one.spec.id in every))
            for one in readings
        ),
    )


def _of_standing(view: View, key: str) -> bool:
    """Whether an average is that of a figure on its feet: a height, or the whole."""
    spec = view.measure(key)
    return spec is not None and (
        spec.kind == "height" or spec.along == "plumb" or key == "span.figure"
    )


def _unsaid(canon: Canon, *, of_standing: bool) -> str:
    """Why a canon says nothing of a measure."""
    if of_standing:
        return f"the canon {canon.key} speaks of a figure that stands on its feet"
    return f"the canon {canon.key} says nothing of it"


def _as_table(
    view: View, averages: Mapping[str, Average], drawn: MeasureTable, unit: Unit | NotMeasurable
) -> MeasureTable:
    """The canon's values in the place of a picture's, each the nearest to what is drawn."""
    total = len(view.measures)
    values, ok = np.zeros(total), np.zeros(total, dtype=np.bool_)
    for key, average in averages.items():
        row = view.measure_rows.get(key)
        if row is None:
            continue
        value = float(drawn.values[row])
        if view.measures[row].kind in LENGTH_KINDS:
            value = value / unit.value if isinstance(unit, Unit) else average.middle
        values[row] = average.nearest(value) if drawn.ok[row] else average.middle
        ok[row] = True
    missing = tuple("" if found else "a value" for found in ok)
    nothing = np.zeros((total, *drawn.gradients.shape[1:]))
    return MeasureTable(values, ok, nothing, missing)


def _faces_left(view: View, points: PointTable) -> bool:
    """Whether a figure seen from the side faces to the viewer's left."""
    if not view.facing:
        return False
    behind, before = (view.point_rows[key] for key in view.facing)
    if not (points.present[behind] and points.present[before]):
        return False
    return bool(points.xy[before, 0] < points.xy[behind, 0])


def _turned(view: View, key: str, average: Average) -> Average:
    """An average of a figure that faces the other way."""
    spec = view.measure(key)
    aside = spec is not None and (spec.kind, spec.along) in {
        ("alignment", "plumb"),
        ("offset", "level"),
    }
    return average.mirrored() if aside else average


def _with_heads_doubt(view: View, one: Reading) -> Reading:
    """A reading with the doubt of a head that is itself an average (`View.heads_scatter`)."""
    if one.u is None or one.error is None or one.drawing is None or not view.heads_scatter:
        return one
    if one.spec.kind not in LENGTH_KINDS:
        return one
    u = math.hypot(one.u, view.heads_scatter * one.drawing)
    unclear = verdict_on(one.error, u, one.tolerance) == Verdict.CANNOT_TELL
    return replace(one, u=u, verdict=Verdict.CANNOT_TELL if unclear else one.verdict)
