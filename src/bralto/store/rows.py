"""Between core values and table rows; JSON columns hold the words of the study file."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from bralto.core.study import (
    Anchor,
    Guess,
    Intent,
    Mark,
    Picture,
    Scale,
    Sheet,
    State,
    Study,
)

__all__ = [
    "mark_row",
    "mark_value",
    "picture_row",
    "picture_value",
    "study_row",
    "study_value",
]


def mark_row(picture_id: int, key: str, value: Mark) -> dict[str, Any]:
    """A row of the table `mark`."""
    return {
        "picture_id": picture_id,
        "key": key,
        "x": value.x,
        "y": value.y,
        "visibility": value.visibility,
        "spread": value.spread,
        "extra": dict(value.extra),
    }


def mark_value(row: Mapping[str, Any]) -> Mark:
    """The mark of a row."""
    return Mark(row["x"], row["y"], row["visibility"], row["spread"], row["extra"])


def picture_row(value: Picture, media_name: str | None) -> dict[str, Any]:
    """A row of the table `picture`."""
    sheet = value.sheet
    return {
        "file": value.file,
        "media": media_name,
        "width": value.width,
        "height": value.height,
        "plumb_deg": value.plumb_deg,
        "sheet": None
        if sheet is None
        else {
            "corners": sheet.corners,
            "size_mm": sheet.size_mm,
            "spread": sheet.spread,
            "extra": dict(sheet.extra),
        },
        "polygons": {key: list(points) for key, points in value.polygons.items()},
        "permission": value.permission,
        "crop": value.crop,
        "focal_35mm": value.focal_35mm,
        "extra": dict(value.extra),
    }


def picture_value(row: Mapping[str, Any], marks: Mapping[str, Mark]) -> Picture:
    """The picture of a row with its marks."""
    sheet = row["sheet"]
    return Picture(
        file=row["file"],
        width=row["width"],
        height=row["height"],
        marks=marks,
        plumb_deg=row["plumb_deg"],
        sheet=None
        if sheet is None
        else Sheet(
            tuple((x, y) for x, y in sheet["corners"]),  # type: ignore[arg-type]
            tuple(sheet["size_mm"]),
            sheet.get("spread", 0.0),
            sheet["extra"],
        ),
        polygons={key: tuple((x, y) for x, y in line) for key, line in row["polygons"].items()},
        permission=row["permission"],
        crop=None if row["crop"] is None else tuple(row["crop"]),
        focal_35mm=row["focal_35mm"],
        extra=row["extra"],
    )


def study_row(value: Study) -> dict[str, Any]:
    """The columns of the table `study` that say what a study is."""
    return {
        "title": value.title,
        "view": value.view,
        "kind": value.kind,
        "school": value.scale.school,
        "grade": value.grade,
        "extra": {
            "scale": {"marks": list(value.scale.marks), "extra": dict(value.scale.extra)},
            "anchors": [[a.key, a.label, dict(a.extra)] for a in value.anchors],
            "intents": [[i.measure, i.factor, dict(i.extra)] for i in value.intents],
            "guesses": [[g.measure, g.value, g.at, dict(g.extra)] for g in value.guesses],
            "canon": value.canon,
            "unknown": dict(value.extra),
        },
    }


def study_value(
    row: Mapping[str, Any], reference: Picture | None, states: tuple[State, ...]
) -> Study:
    """The study of a row with its pictures."""
    rest = row["extra"]
    return Study(
        title=row["title"],
        view=row["view"],
        reference=reference,
        states=states,
        kind=row["kind"],
        scale=Scale(row["school"], tuple(rest["scale"]["marks"]), rest["scale"]["extra"]),
        grade=row["grade"],
        anchors=tuple(Anchor(*one) for one in rest["anchors"]),
        intents=tuple(Intent(*one) for one in rest["intents"]),
        guesses=tuple(Guess(*one) for one in rest["guesses"]),
        canon=rest["canon"],
        extra=rest["unknown"],
    )
