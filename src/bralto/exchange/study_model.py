"""The study file as pydantic models: the one description of `study.json`, versions 1 and 2.

In version 2 a reference may be a list of sightings; a study without any is still written as 1.

Unknown keys are kept; what cannot be measured (NaN, two marks in one spot) is refused here.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import (
    BaseModel,
    Discriminator,
    Field,
    FiniteFloat,
    Tag,
    field_validator,
    model_validator,
)

from bralto.core.study.values import MOST_ANCHORS, MOST_SHAPES
from bralto.core.terms import School, StudyKind, Visibility
from bralto.core.tolerances import DEFAULT_SPREAD_PX, FARTHEST_PX, GRADES, SAME_SPOT_PX
from bralto.exchange.open_model import OPEN, Coordinate, Point, Positive, Words
from bralto.exchange.sightings_model import SightingsModel

__all__ = [
    "FORMAT", "PLAIN", "TAGS", "VERSION", "MarkModel", "PictureModel", "StateModel", "StudyModel",
]  # fmt: skip

FORMAT = "bralto-study"
PLAIN, VERSION = 1, 2
"""The version of a file with pictures alone, and the newest."""

# More than any study has, and little enough that nothing made of it takes long
# (common practice, no source).
_MOST_STATES, _MOST_NOTES = 100, 1000
_MOST_CORNERS, _MOST_MARKS = 500, 200


class _Open(BaseModel):
    model_config = OPEN


class MarkModel(_Open):
    """One mark in image px; `[x, y]` is accepted for it."""

    x: Coordinate
    y: Coordinate
    visibility: Visibility = Visibility.SEEN
    spread: Annotated[FiniteFloat, Field(ge=0, le=FARTHEST_PX)] = DEFAULT_SPREAD_PX

    @model_validator(mode="before")
    @classmethod
    def _from_pair(cls, value: Any) -> Any:
        if isinstance(value, list | tuple):
            if len(value) != 2:
                raise ValueError("a mark is [x, y] or a table with x and y")
            return {"x": value[0], "y": value[1]}
        return value


class SheetModel(_Open):
    """The sheet's corners from the top-left clockwise (image px), its size in mm and its doubt;
    how far each side lies outside the line between its corners at three places (image px)."""

    corners: Annotated[list[Point], Field(min_length=4, max_length=4)]
    size_mm: tuple[Positive, Positive]
    spread: Annotated[FiniteFloat, Field(ge=0, le=FARTHEST_PX)] = 0.0
    bends: Annotated[list[tuple[Coordinate, Coordinate, Coordinate]], Field(max_length=4)] = []

    @field_validator("bends")
    @classmethod
    def _of_four_sides(cls, value: list[Any]) -> list[Any]:
        if len(value) not in {0, 4}:
            raise ValueError("a sheet has four sides, or none that bends")
        return value


class PictureModel(_Open):
    """A picture with its marks."""

    file: Words
    width: Annotated[int, Field(gt=0)]
    height: Annotated[int, Field(gt=0)]
    plumb_deg: FiniteFloat = 0.0
    sheet: SheetModel | None = None
    marks: Annotated[dict[str, MarkModel], Field(max_length=_MOST_MARKS)] = {}
    polygons: Annotated[
        dict[str, Annotated[list[Point], Field(max_length=_MOST_CORNERS)]],
        Field(max_length=MOST_SHAPES),
    ] = {}
    curves: Annotated[
        dict[str, Annotated[list[Point], Field(max_length=_MOST_CORNERS)]],
        Field(max_length=MOST_SHAPES),
    ] = {}
    shadows: Annotated[
        list[Annotated[list[Point], Field(max_length=_MOST_CORNERS)]],
        Field(max_length=MOST_SHAPES),
    ] = []
    permission: Words | None = None
    crop: tuple[Coordinate, Coordinate, Positive, Positive] | None = None
    focal_35mm: Positive | None = None

    @field_validator("marks")
    @classmethod
    def _one_spot_one_mark(cls, marks: dict[str, MarkModel]) -> dict[str, MarkModel]:
        placed = [(k, m) for k, m in marks.items() if m.visibility != Visibility.ABSENT]
        for i, (key, mark) in enumerate(placed):
            for other, there in placed[:i]:
                if max(abs(mark.x - there.x), abs(mark.y - there.y)) < SAME_SPOT_PX:
                    raise ValueError(
                        f"{other} and {key} lie in one spot ({mark.x:g}, {mark.y:g}); "
                        "move one of them or give it visibility 'absent'"
                    )
        return marks


class StateModel(_Open):
    """The drawing at one moment."""

    name: Words
    taken: str | None = None
    picture: PictureModel


class ScaleModel(_Open):
    """The scale school in force."""

    school: School = School.HEAD
    marks: Annotated[list[Words], Field(max_length=_MOST_MARKS)] = []


class AnchorModel(_Open):
    """An extra landmark that the learner named."""

    key: Words
    label: Words


class IntentModel(_Open):
    """A measure meant to differ by a factor."""

    measure: Words
    factor: Positive


class GuessModel(_Open):
    """A value guessed before any figure was shown."""

    measure: Words
    value: FiniteFloat
    at: str | None = None


TAGS = ("of a picture", "of sightings")
"""What a reference may be; no keys of a file, though places in messages of pydantic name them."""


def _sort_of_reference(value: Any) -> str:
    sighted = "sightings" in value if isinstance(value, dict) else hasattr(value, "sightings")
    return TAGS[1] if sighted else TAGS[0]


class StudyModel(_Open):
    """The whole study file."""

    format: Literal["bralto-study"]
    version: Literal[1, 2]
    title: Words = ""
    view: Words
    kind: StudyKind = StudyKind.OBSERVED
    scale: ScaleModel = ScaleModel()
    grade: Literal[tuple(GRADES)] = "developing"  # type: ignore[valid-type]
    reference: (
        Annotated[
            Annotated[PictureModel, Tag(TAGS[0])] | Annotated[SightingsModel, Tag(TAGS[1])],
            Discriminator(_sort_of_reference),
        ]
        | None
    ) = None
    states: Annotated[list[StateModel], Field(max_length=_MOST_STATES)] = []
    anchors: Annotated[list[AnchorModel], Field(max_length=MOST_ANCHORS)] = []
    intents: Annotated[list[IntentModel], Field(max_length=_MOST_NOTES)] = []
    guesses: Annotated[list[GuessModel], Field(max_length=_MOST_NOTES)] = []
    canon: str | None = None
    sightings: SightingsModel | None = None
