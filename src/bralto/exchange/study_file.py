"""Read and write `study.json`: text <-> core Study, with one clear sentence for bad input."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from dataclasses import fields, replace
from pathlib import Path
from typing import Any

from pydantic import BaseModel, ValidationError

from bralto.core.errors import UserError
from bralto.core.study.anchored import placed
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
from bralto.core.views.model import View
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.disk.given import write_given
from bralto.disk.regular import read_text
from bralto.exchange.documents import first_fault, no_number, of_format, parse_json
from bralto.exchange.sightings_model import SightingsModel, sightings_document, sightings_of
from bralto.exchange.study_model import FORMAT, PLAIN, TAGS, VERSION, PictureModel, StudyModel
from bralto.exchange.view_file import read_own_view

__all__ = [
    "parse_study",
    "read_study",
    "study_document",
    "study_schema",
    "study_text",
    "write_study",
]

_VIEW_KEY = re.compile(r"[a-z][a-z0-9_-]{0,63}")  # no way out of the folder
_LARGEST = 16 * 1024 * 1024


def read_study(path: Path) -> Study:
    """Read a study file.

    Raises:
        UserError: it cannot be read or is not a study; one sentence with the file's name.
    """
    text = read_text(path, "a study.json", _LARGEST)
    return parse_study(text, str(path), beside=path.parent)


def parse_study(text: str, where: str, *, beside: Path | None = None) -> Study:
    """Build a study from JSON text; ``where`` names it in messages.

    A view that does not ship is looked for ``beside`` the file, as KEY.toml.

    Raises:
        UserError: with the place and the fault of the first thing that is wrong.
    """
    data = of_format(parse_json(text, where), where, FORMAT, VERSION, "study")
    try:
        model = StudyModel.model_validate(data)
    except ValidationError as error:
        raise UserError(f"{where}: {first_fault(error, TAGS)}") from None
    if (place := no_number(data)) is not None:  # in what Bralto keeps and does not know
        raise UserError(f"{where}: {place}: a number must be finite")
    own = _own_view(model.view, beside)
    try:
        view = own or view_named(model.view)
    except UserError as error:
        raise UserError(f"{where}: {error}") from None
    known = {m.key for m in view.landmarks} | {anchor.key for anchor in model.anchors}
    given = model.reference
    taken = given if isinstance(given, SightingsModel) else model.sightings  # beside: practice
    sightings = None if taken is None else sightings_of(taken, placed(view, taken.stance), where)
    reference = given if isinstance(given, PictureModel) else None
    pictures = [("reference", reference)]
    pictures += [(f"state '{state.name}'", state.picture) for state in model.states]
    for whose, picture in pictures:
        for key in picture.marks if picture else ():
            if key not in known:
                raise UserError(
                    f"{where}: {whose} has a mark '{key}' that the view {view.key} does not know; "
                    f"name it among the anchors or see bralto views {view.key}"
                )
    names = [state.name for state in model.states]
    if len(set(names)) != len(names):
        raise UserError(f"{where}: two states have one name; give each its own")
    return replace(
        _study(model), own_view=own, sightings=sightings,
        reference=None if reference is None else _picture(reference),
    )  # fmt: skip


def _own_view(key: str, beside: Path | None) -> View | None:
    """The learner's own view of that key, where its file lies beside the study."""
    if beside is None or key in view_keys() or not _VIEW_KEY.fullmatch(key):
        return None
    path = beside / f"{key}.toml"
    if not path.exists():
        return None
    view = read_own_view(path)
    if view.key != key:
        raise UserError(f"{path}: its key is '{view.key}'; a view's file has the name of its key")
    return view


def _extra(model: BaseModel) -> dict[str, object]:
    return dict(model.model_extra or {})


def _picture(model: PictureModel) -> Picture:
    sheet = model.sheet
    return Picture(
        file=model.file,
        width=model.width,
        height=model.height,
        plumb_deg=model.plumb_deg,
        sheet=None
        if sheet is None
        else Sheet(
            tuple(sheet.corners),  # type: ignore[arg-type]
            sheet.size_mm,
            sheet.spread,
            _extra(sheet),
            tuple(sheet.bends),
        ),
        marks={
            k: Mark(m.x, m.y, m.visibility, m.spread, _extra(m)) for k, m in model.marks.items()
        },
        polygons={k: tuple(points) for k, points in model.polygons.items()},
        curves={k: tuple(points) for k, points in model.curves.items()},
        shadows=tuple(tuple(ring) for ring in model.shadows),
        permission=model.permission,
        crop=model.crop,
        focal_35mm=model.focal_35mm,
        extra=_extra(model),
    )


def _study(model: StudyModel) -> Study:
    return Study(
        title=model.title,
        view=model.view,
        kind=model.kind,
        scale=Scale(model.scale.school, tuple(model.scale.marks), _extra(model.scale)),
        grade=model.grade,
        reference=None,
        states=tuple(State(s.name, _picture(s.picture), s.taken, _extra(s)) for s in model.states),
        anchors=tuple(Anchor(a.key, a.label, _extra(a)) for a in model.anchors),
        intents=tuple(Intent(i.measure, i.factor, _extra(i)) for i in model.intents),
        guesses=tuple(Guess(g.measure, g.value, g.at, _extra(g)) for g in model.guesses),
        canon=model.canon,
        extra=_extra(model),
    )


def _plain(value: Any) -> Any:
    """A frozen value as JSON data: fields in order, then unknown keys; unset ones left out."""
    if isinstance(value, Mapping):
        return {key: _plain(item) for key, item in value.items()}
    if isinstance(value, tuple | list):
        return [_plain(item) for item in value]
    if hasattr(value, "__dataclass_fields__"):
        names = [f.name for f in fields(value) if f.name not in {"extra", "own_view", "sightings"}]
        known = {name: _plain(getattr(value, name)) for name in names}
        unset = {"permission", "canon", "taken", "at", "crop", "focal_35mm"}
        kept = {k: v for k, v in known.items() if not (v is None and k in unset)}
        kept = {k: v for k, v in kept.items() if v or k not in {"curves", "shadows", "bends"}}
        return kept | dict(value.extra)
    return value


def study_document(study: Study) -> dict[str, Any]:
    """The study as the JSON data of its file."""
    document: dict[str, Any] = {"format": FORMAT, "version": PLAIN} | _plain(study)
    if study.from_life and study.sightings is not None:
        document |= {"version": VERSION, "reference": sightings_document(study.sightings)}
    elif study.sightings is not None:
        document["sightings"] = sightings_document(study.sightings)
    return document


def study_text(study: Study) -> str:
    """The study as the text of its file."""
    return json.dumps(study_document(study), ensure_ascii=False, indent=2, allow_nan=False) + "\n"


def write_study(study: Study, path: Path) -> None:
    """Write a study file whole or not at all, with the rights that the learner's files have.

    Raises:
        UserError: it cannot be written there.
    """
    write_given(path, study_text(study).encode("utf-8", "backslashreplace"))


def study_schema() -> dict[str, Any]:
    """The JSON Schema of the study file, as it is published in `study.schema.json`."""
    schema = StudyModel.model_json_schema()
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"Bralto study, version {VERSION}",
    } | {k: v for k, v in schema.items() if k != "title"}
