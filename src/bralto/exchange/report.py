"""An assessment as the JSON, CSV and text that `bralto measure` prints."""

from __future__ import annotations

import csv
import io
import math
from dataclasses import asdict
from typing import Any

from bralto.core.canons.compare import averages_beside
from bralto.core.examination.assessment import Assessment
from bralto.core.measures.readings import Reading
from bralto.core.measures.shapes import ShapeReading
from bralto.core.results import NotMeasurable

__all__ = ["assessment_csv", "assessment_document", "reading_document"]


def assessment_document(assessment: Assessment) -> dict[str, Any]:
    """The whole assessment as JSON data; missing figures are None and carry a reason."""
    unit = assessment.unit
    head: dict[str, Any] = {"name": assessment.view.unit}
    if isinstance(unit, NotMeasurable):
        head |= {"reference_px": None, "drawing_px": None, "drawing_mm": None}
        head["reason"] = unit.reason
    else:
        head |= {"reference_px": unit.reference_px}
        reasons = []
        for key, value in (("drawing_px", unit.drawing_px), ("drawing_mm", unit.drawing_mm)):
            missing = isinstance(value, NotMeasurable)
            head[key] = None if missing else value
            if isinstance(value, NotMeasurable):
                reasons.append(value.reason)
        if reasons:
            head["reason"] = "; ".join(reasons)
    return {
        "study": assessment.title,
        "view": assessment.view.key,
        "state": assessment.state,
        "school": assessment.school,
        "grade": assessment.grade,
        "unit": head,
        "measures": _measures(assessment),
        "fit": _fit(assessment),
        "parts": [{"part": p.part, "scale": p.scale, "u": p.u} for p in assessment.parts],
        "shapes": [_shape(one) for one in assessment.shapes],
    } | _corrections(assessment)


def _measures(assessment: Assessment) -> list[dict[str, Any]]:
    """Every reading, with what is left of its error once the corrections are done, and from which
    of them it follows."""
    rows = [reading_document(reading) for reading in assessment.readings]
    causes = assessment.causes
    if causes is not None:
        for row, left, follows in zip(rows, causes.left_over, causes.follows_from, strict=True):
            row["left_over"] = None if math.isnan(left) else float(left)
            row["follows_from"] = follows
    if assessment.canon:
        beside = averages_beside(assessment.view)
        for row in rows:
            row["averages"] = [
                {"canon": canon, "low": one.low, "high": one.high}
                for canon, one in beside.get(row["id"], {}).items()
            ]
    return rows


def reading_document(reading: Reading) -> dict[str, Any]:
    """One reading as JSON data."""
    spec = reading.spec
    row: dict[str, Any] = {
        "id": spec.id,
        "label": spec.label,
        "kind": spec.kind,
        "unit": spec.counted if reading.unit == "head" else reading.unit,
        "reference": reading.reference,
        "drawing": reading.drawing,
        "error": reading.error,
        "percent": reading.percent,
        "u": reading.u,
        "verdict": reading.verdict,
    }
    if reading.reason:
        row["reason"] = reading.reason
    if reading.note:
        row["note"] = reading.note
    return row


def _shape(shape: ShapeReading | tuple[str, NotMeasurable]) -> dict[str, Any]:
    if isinstance(shape, ShapeReading):
        return {"id": f"shape.{shape.name}"} | asdict(shape)
    name, missing = shape
    return {"id": f"shape.{name}", "name": name, "area": None, "reason": missing.reason}


def _corrections(assessment: Assessment) -> dict[str, Any]:
    """The shortest list of moves; what a move does not have is left out."""
    found = assessment.corrections
    doubts = {
        "doubts": [
            {"kind": one.kind, "marks": list(one.marks), "board": one.board,
             "remedy": one.remedy, "text": one.words}
            for one in assessment.doubts
        ]
    }  # fmt: skip
    if isinstance(found, NotMeasurable):
        return doubts | {"corrections": None, "corrections_reason": found.reason}
    always = {"move", "part", "amount", "unit", "mm", "u", "share", "text", "check", "greatest"}
    sometimes = {"divider_mm", "across", "up", "together"}
    return doubts | {
        "corrections": [
            {
                key: value
                for key, value in asdict(one).items()
                if key in always or (key in sometimes and value not in (None, ()))
            }
            for one in found
        ]
    }


def _fit(assessment: Assessment) -> dict[str, Any]:
    """Best fit, affine reading and typical miss in one table."""
    figures: dict[str, Any] = {}
    reasons: dict[str, None] = {}

    def put(names: tuple[str, ...], source: Any, values: tuple[Any, ...] | None) -> None:
        for i, name in enumerate(names):
            figures[name] = None if values is None else values[i]
        if isinstance(source, NotMeasurable):
            reasons[source.reason] = None

    fit, affine, miss, short = (
        assessment.fit,
        assessment.affine,
        assessment.miss,
        assessment.short_miss,
    )
    put(("scale",), fit, None if isinstance(fit, NotMeasurable) else (fit.scale,))
    names = (
        "width_scale",
        "height_scale",
        "too_wide_percent",
        "verticals_lean_deg",
        "levels_tilt_deg",
        "too_wide_percent_u",
        "verticals_lean_deg_u",
        "levels_tilt_deg_u",
    )
    put(
        names, affine, None if isinstance(affine, NotMeasurable) else tuple(asdict(affine).values())
    )
    put(
        ("typical_miss", "typical_miss_u", "mark_limit"),
        miss,
        None if isinstance(miss, NotMeasurable) else (miss.value, miss.u, miss.limit),
    )
    put(
        ("short_set_miss", "short_set_miss_u"),
        short,
        None if isinstance(short, NotMeasurable) else (short.value, short.u),
    )
    figures["marks"] = 0 if isinstance(fit, NotMeasurable) else len(fit.residuals)
    if reasons:
        figures["reason"] = "; ".join(reasons)
    return figures


def assessment_csv(assessment: Assessment) -> str:
    """One row a measure, full precision, the unit beside each figure (RFC 4180)."""
    rows = [reading_document(reading) for reading in assessment.readings]
    out = io.StringIO()
    header = ["study", "state", "school", "grade", *rows[0], "reason", "note"]
    writer = csv.DictWriter(out, list(dict.fromkeys(header)), restval="")
    writer.writeheader()
    fixed = {
        "study": assessment.title,
        "state": assessment.state,
        "school": assessment.school,
        "grade": assessment.grade,
    }
    for row in rows:
        writer.writerow(fixed | {k: "" if v is None else v for k, v in row.items()})
    return out.getvalue()
