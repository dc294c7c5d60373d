"""Sightings in a study file: the list that stands in the reference's place from life."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field, FiniteFloat, model_validator

from bralto.core.errors import UserError
from bralto.core.study.taken import (
    MOST_SIGHTINGS,
    USUAL_ALONG,
    Sighting,
    Sightings,
    Sort,
    doubt_of,
    sighting_of,
    unknown_points,
)
from bralto.core.views.model import View
from bralto.core.views.stances import Stance
from bralto.exchange.open_model import OPEN, Positive, Words

__all__ = ["SightingModel", "SightingsModel", "sightings_document", "sightings_of"]

_Along = Literal["straight", "plumb", "level"]
_Two = Annotated[list[Words], Field(min_length=2, max_length=2)]
_Three = Annotated[list[Words], Field(min_length=3, max_length=3)]
_One = Annotated[list[Words], Field(min_length=1, max_length=1)]

_MOST = 100.0
"""Heads, or times as long, that nothing on a body is."""

Heads = Annotated[FiniteFloat, Field(ge=-_MOST, le=_MOST)]
Quotient = Annotated[FiniteFloat, Field(gt=0, le=_MOST)]

_VALUES = ("heads", "ratio", "mm", "degrees", "off_heads", "part", "answer")
_OF = {
    "length": {"heads", "ratio", "mm"}, "tilt": {"degrees"}, "plumb": {"off_heads"},
    "level": {"off_heads"}, "fraction": {"part"}, "longer": {"answer"}, "higher": {"answer"},
    "left": {"answer"}, "measure": {"heads", "ratio", "degrees", "part"},
}  # fmt: skip
"""By what is sighted, the keys under which its value may stand."""

_ANSWERS = {"yes": 1.0, "no": -1.0, "alike": 0.0}


class _Open(BaseModel):
    model_config = OPEN


class SightingModel(_Open):
    """One sighting: what was sighted, its value, and its doubt ``u`` in the same unit."""

    measure: Words | None = None
    length: _Two | None = None
    tilt: _Two | None = None
    plumb: _Two | None = None
    level: _Two | None = None
    fraction: _Three | None = None
    longer: _Two | None = None
    higher: _One | None = None
    left: _One | None = None
    of: _Two | None = None
    than: Annotated[list[Words], Field(min_length=1, max_length=2)] | None = None
    along: _Along | None = None
    of_along: _Along | None = None
    heads: Heads | None = None
    ratio: Quotient | tuple[Quotient, Quotient] | None = None
    mm: Positive | None = None
    degrees: Annotated[FiniteFloat, Field(ge=-360.0, le=360.0)] | None = None
    off_heads: Heads | None = None
    part: Heads | None = None
    answer: Literal["yes", "no", "alike"] | None = None
    u: Annotated[FiniteFloat, Field(ge=0, le=1e6)] | None = None
    u_percent: Annotated[FiniteFloat, Field(ge=0, le=1e3)] | None = None
    said: Words = ""
    taken: Words | None = None

    @model_validator(mode="after")
    def _one_thing(self) -> SightingModel:
        sorts = [name for name in _OF if getattr(self, name) is not None]
        if len(sorts) != 1:
            raise ValueError(f"a sighting is one of {', '.join(_OF)}")
        values = [name for name in _VALUES if getattr(self, name) is not None]
        if len(values) != 1 or values[0] not in _OF[sorts[0]]:
            wanted = " or ".join(sorted(_OF[sorts[0]]))
            raise ValueError(f"a sighting of '{sorts[0]}' has its value under {wanted}")
        if self.longer is not None and (self.than is None or len(self.than) != 2):
            raise ValueError("'longer' is held against two points under 'than'")
        if (self.higher or self.left) and (self.than is None or len(self.than) != 1):
            raise ValueError("'higher' and 'left' are held against one point under 'than'")
        if self.ratio is not None and self.length is not None and self.of is None:
            raise ValueError("a ratio of lengths names the other length under 'of'")
        return self


class SightingsModel(_Open):
    """What was sighted, in its order. ``eye_mm``, ``plane_mm``: from the eye to where lengths in mm
    were read off, and to the plane of the paper. ``stance``: how the model was placed."""

    sightings: Annotated[list[SightingModel], Field(max_length=MOST_SIGHTINGS)]
    taken: Words | None = None
    eye_mm: Positive | None = None
    plane_mm: Positive | None = None
    stance: Stance = Stance.STANDING


def sightings_of(model: SightingsModel, view: View, where: str) -> Sightings:
    """The list in the core's words.

    Args:
        view: with its model as it is placed (`placed`).

    Raises:
        UserError: a point or a measure is none of the view's; ``where`` names the file.
    """
    items = []
    for number, one in enumerate(model.sightings, start=1):
        made = _sighting(one, view)
        if isinstance(made, str):
            raise UserError(f"{where}: sighting {number}: {made}; see bralto measures {view.key}")
        items.append(made)
    return Sightings(
        tuple(items), model.taken, model.eye_mm, model.plane_mm, model.stance,
        dict(model.model_extra or {}),
    )  # fmt: skip


def _sighting(one: SightingModel, view: View) -> Sighting | str:
    """It, or what is wrong with it."""
    extra = dict(one.model_extra or {})
    said: dict[str, Any] = {"said": one.said, "taken": one.taken, "extra": extra}
    value = next(v for name in _VALUES if (v := getattr(one, name)) is not None)
    if isinstance(value, str):
        value = _ANSWERS[value]
    elif isinstance(value, tuple):
        value = value[0] / value[1]
    if one.measure is not None:
        spec = view.measure(one.measure)
        if spec is None:
            return f"the view has no measure '{one.measure}'"
        found = sighting_of(view, spec, float(value))
        if found is None:
            return f"a pencil cannot take '{one.measure}'"
        made = found
    else:
        sort = next(sort for sort in Sort if getattr(one, sort.value) is not None)
        made = Sighting(
            sort, tuple(getattr(one, sort.value)), float(value), 0.0,
            tuple(one.of or one.than or ()), one.along or USUAL_ALONG.get(sort, "straight"),
            one.of_along or "straight", one.mm is not None,
        )  # fmt: skip
        if missing := unknown_points(view, made):
            return f"the view has no point '{missing[0]}'"
        if len(set(made.points)) < len(made.points):
            return "its two ends are one point"
    u = one.u
    if u is None and one.u_percent is not None:
        u = one.u_percent / 100.0 * (abs(made.value) if made.sort is Sort.LENGTH else 1.0)
    return replace(made, u=doubt_of(view, made) if u is None else u, **said)


def sightings_document(found: Sightings) -> dict[str, Any]:
    """The list as the JSON data of a study file."""
    document: dict[str, Any] = {"sightings": [_document(one) for one in found.items]}
    for name in ("taken", "eye_mm", "plane_mm"):
        if (value := getattr(found, name)) is not None:
            document[name] = value
    if found.stance is not Stance.STANDING:
        document["stance"] = found.stance.value
    return document | dict(found.extra)


_UNIT_KEYS = {Sort.TILT: "degrees", Sort.PLUMB: "off_heads", Sort.LEVEL: "off_heads",
              Sort.FRACTION: "part"}  # fmt: skip


def _document(one: Sighting) -> dict[str, Any]:
    out: dict[str, Any] = {}
    if one.measure:
        out["measure"] = one.measure
        if one.sort is Sort.LENGTH:
            out["ratio" if one.of else "heads"] = one.value
        else:  # by a measure every length is in heads
            key = _UNIT_KEYS[one.sort]
            out["heads" if key == "off_heads" else key] = one.value
    else:
        out[one.sort.value] = list(one.points)
        if one.sort is Sort.LENGTH:
            if one.of:
                out["of"] = list(one.of)
            out["mm" if one.in_mm else "ratio" if one.of else "heads"] = one.value
        elif one.sort.is_answer:
            out["than"] = list(one.of)
            out["answer"] = next(name for name, v in _ANSWERS.items() if v == one.value)
        else:
            out[_UNIT_KEYS[one.sort]] = one.value
        if one.sort in {Sort.LENGTH, Sort.FRACTION, Sort.LONGER} and one.along != "straight":
            out["along"] = one.along
        if one.of_along != "straight":
            out["of_along"] = one.of_along
    out["u"] = one.u
    if one.said:
        out["said"] = one.said
    if one.taken is not None:
        out["taken"] = one.taken
    return out | dict(one.extra)
