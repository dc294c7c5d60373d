"""Between core values and table rows; JSON columns hold the words of the study file."""

from __future__ import annotations

import json
import math
import sqlite3
from collections.abc import Mapping
from enum import StrEnum
from typing import Any, TypeVar

from bralto.core.study.curled import Bends
from bralto.core.study.taken import Sighting, Sightings, Sort
from bralto.core.study.values import (
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
from bralto.core.terms import School, StudyKind, Visibility
from bralto.core.tolerances import FARTHEST_PX, GRADES
from bralto.core.views.model import ALONG, Along
from bralto.core.views.stances import Stance

__all__ = [
    "UnreadableError",
    "has_extra",
    "mark_row",
    "mark_value",
    "picture_row",
    "picture_value",
    "state_row",
    "state_value",
    "study_row",
    "study_value",
]

Row = Mapping[str, Any] | sqlite3.Row


class UnreadableError(Exception):
    """A row that does not hold what its column should: which, and what was met there."""

    def __init__(self, place: str, detail: object) -> None:
        super().__init__(f"{place}: {detail}")
        self.place = place


def mark_row(picture_id: int, key: str, value: Mark) -> dict[str, Any]:
    """A row of the table `mark`."""
    return {
        "picture_id": picture_id,
        "key": key,
        "x": value.x,
        "y": value.y,
        "visibility": value.visibility,
        "spread": value.spread,
        "extra": _text(dict(value.extra)),
    }


def mark_value(row: Row) -> Mark:
    """The mark of a row."""
    try:
        return Mark(
            _coordinate(row["x"]),
            _coordinate(row["y"]),
            _member(Visibility, row["visibility"]),
            _coordinate(row["spread"]),
            _table(row["extra"]),
        )
    except _FAULTS as error:
        raise UnreadableError(f"the mark '{row['key']}'", error) from None


def picture_row(value: Picture) -> dict[str, Any]:
    """A row of the table `picture`, but for where its file lies."""
    sheet = value.sheet
    return {
        "file": value.file,
        "width": value.width,
        "height": value.height,
        "plumb_deg": value.plumb_deg,
        "sheet": None
        if sheet is None
        else _text(
            {
                "corners": sheet.corners,
                "size_mm": sheet.size_mm,
                "spread": sheet.spread,
                "bends": sheet.bends,
                "extra": dict(sheet.extra),
            }
        ),
        "polygons": _text({key: list(points) for key, points in value.polygons.items()}),
        "lines": _text(
            {
                "curves": {key: list(points) for key, points in value.curves.items()},
                "shadows": [list(ring) for ring in value.shadows],
            }
        ),
        "permission": value.permission,
        "crop": None if value.crop is None else _text(value.crop),
        "focal_35mm": value.focal_35mm,
        "extra": _text(dict(value.extra)),
    }


def picture_value(row: Row, marks: Mapping[str, Mark]) -> Picture:
    """The picture of a row with its marks."""
    try:
        crop = None if row["crop"] is None else _numbers(json.loads(row["crop"]), 4)
        focal = row["focal_35mm"]
        width, height = int(row["width"]), int(row["height"])
        lines = _table(row["lines"])
        if width <= 0 or height <= 0:
            raise ValueError("it has no size")
        return Picture(
            file=str(row["file"]),
            width=width,
            height=height,
            marks=marks,
            plumb_deg=_number(row["plumb_deg"]),
            sheet=None if row["sheet"] is None else _sheet(_table(row["sheet"])),
            polygons=_named_lines(_table(row["polygons"])),
            curves=_named_lines(lines.get("curves", {})),
            shadows=tuple(_line(ring) for ring in lines.get("shadows", [])),
            permission=row["permission"],
            crop=crop,  # type: ignore[arg-type]
            focal_35mm=None if focal is None else _number(focal),
            extra=_table(row["extra"]),
        )
    except _FAULTS as error:
        raise UnreadableError(f"the picture '{row['file']}'", error) from None


def _line(points: Any) -> tuple[tuple[float, float], ...]:
    return tuple(_pair(point) for point in points)


def _named_lines(kept: Mapping[str, Any]) -> dict[str, tuple[tuple[float, float], ...]]:
    return {str(name): _line(points) for name, points in kept.items()}


def _sheet(kept: Mapping[str, Any]) -> Sheet:
    corners = tuple(_pair(point) for point in kept["corners"])
    if len(corners) != 4:
        raise ValueError("a sheet of other than four corners")
    return Sheet(
        corners,
        _pair(kept["size_mm"]),
        _number(kept.get("spread", 0.0)),
        kept["extra"],
        _bends(kept.get("bends", ())),
    )


def _bends(kept: Any) -> Bends:
    sides = []
    for side in kept:
        a, b, c = _numbers(side, 3)
        sides.append((a, b, c))
    if len(sides) not in {0, 4}:
        raise ValueError("a sheet that bends on other than four sides")
    return tuple(sides)


def state_row(study_id: str, number: int, picture_id: int, value: State) -> dict[str, Any]:
    """A row of the table `state`."""
    return {
        "study_id": study_id,
        "number": number,
        "name": value.name,
        "taken": value.taken,
        "picture_id": picture_id,
        "extra": _text(dict(value.extra)),
    }


def state_value(row: Row, picture: Picture) -> State:
    """The state of a row with its picture."""
    try:
        return State(str(row["name"]), picture, row["taken"], _table(row["extra"]))
    except _FAULTS as error:
        raise UnreadableError(f"the state '{row['name']}'", error) from None


def study_row(value: Study) -> dict[str, Any]:
    """The columns of the table `study` that say what a study is."""
    return {
        "title": value.title,
        "view": value.view,
        "kind": value.kind,
        "school": value.scale.school,
        "grade": value.grade,
        "extra": _text(
            {
                "scale": {"marks": list(value.scale.marks), "extra": dict(value.scale.extra)},
                "anchors": [[a.key, a.label, dict(a.extra)] for a in value.anchors],
                "intents": [[i.measure, i.factor, dict(i.extra)] for i in value.intents],
                "guesses": [[g.measure, g.value, g.at, dict(g.extra)] for g in value.guesses],
                "canon": value.canon,
                "sightings": None if value.sightings is None else _sightings_kept(value.sightings),
                "unknown": dict(value.extra),
            }
        ),
    }


def study_value(row: Row, reference: Picture | None, states: tuple[State, ...]) -> Study:
    """The study of a row with its pictures."""
    try:
        rest = _table(row["extra"])
        return Study(
            title=str(row["title"]),
            view=str(row["view"]),
            reference=reference,
            states=states,
            kind=_member(StudyKind, row["kind"]),
            scale=Scale(
                _member(School, row["school"]),
                tuple(map(str, rest["scale"]["marks"])),
                rest["scale"]["extra"],
            ),
            grade=_one_of(row["grade"], tuple(GRADES)),
            anchors=tuple(Anchor(str(k), str(words), more) for k, words, more in rest["anchors"]),
            intents=tuple(Intent(str(m), _number(f), more) for m, f, more in rest["intents"]),
            guesses=tuple(Guess(str(m), _number(v), at, e) for m, v, at, e in rest["guesses"]),
            canon=rest["canon"],
            sightings=_sightings(rest.get("sightings")),
            extra=rest["unknown"],
        )
    except _FAULTS as error:
        raise UnreadableError("what is said of it", error) from None


def _sightings_kept(found: Sightings) -> dict[str, Any]:
    return {
        "items": [
            [one.sort.value, list(one.points), one.value, one.u, list(one.of), one.along,
             one.of_along, one.in_mm, one.said, one.measure, one.taken, dict(one.extra)]
            for one in found.items
        ],
        "taken": found.taken, "eye_mm": found.eye_mm, "plane_mm": found.plane_mm,
        "stance": found.stance.value, "extra": dict(found.extra),
    }  # fmt: skip


def _along(kept: Any) -> Along:
    return ALONG[ALONG.index(kept)]


def _sightings(kept: Any) -> Sightings | None:
    if kept is None:
        return None
    items = tuple(
        Sighting(
            Sort(sort), tuple(map(str, points)), _number(value), _number(u), tuple(map(str, of)),
            _along(along), _along(of_along), bool(in_mm), str(said), str(measure), taken, extra,
        )
        for sort, points, value, u, of, along, of_along, in_mm, said, measure, taken, extra
        in kept["items"]
    )  # fmt: skip
    eye, plane = (None if kept[k] is None else _number(kept[k]) for k in ("eye_mm", "plane_mm"))
    stance = Stance(kept.get("stance", Stance.STANDING))
    return Sightings(items, kept["taken"], eye, plane, stance, kept["extra"])


# Whatever a damaged row can make of the lines above.
_Term = TypeVar("_Term", bound=StrEnum)

_FAULTS = (ValueError, KeyError, TypeError, AttributeError, RecursionError)


def _text(value: object) -> str:
    # Only ASCII: a study file may hold halves of characters, which no database takes as text.
    return json.dumps(value)


def has_extra(text: Any, key: str) -> bool:
    """Whether the column `extra` of a study's row has a key among the study's extra data; not where
    it cannot be read."""
    try:
        return key in _table(text)["unknown"]
    except _FAULTS:
        return False


def _table(text: Any) -> dict[str, Any]:
    found = json.loads(text)
    if not isinstance(found, dict):
        raise ValueError("not an object")
    return found


def _number(value: Any) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
        raise ValueError(f"{value!r:.40} is no number")
    return float(value)


def _coordinate(value: Any) -> float:
    """As a study file has it: further out sums of squares have no digits left, or no value."""
    if abs(_number(value)) > FARTHEST_PX:
        raise ValueError(f"{value!r:.40} lies beyond any picture")
    return float(value)


def _numbers(values: Any, count: int) -> tuple[float, ...]:
    found = tuple(_number(value) for value in values)
    if len(found) != count:
        raise ValueError(f"not {count} numbers")
    return found


def _pair(values: Any) -> tuple[float, float]:
    x, y = values
    return _coordinate(x), _coordinate(y)


def _member(kind: type[_Term], value: Any) -> _Term:
    try:
        return kind(value)
    except ValueError:
        raise ValueError(f"{value!r:.40} is none of {', '.join(kind)}") from None


def _one_of(value: Any, known: tuple[str, ...]) -> str:
    if value not in known:
        raise ValueError(f"{value!r:.40} is none of {', '.join(known)}")
    return str(value)
