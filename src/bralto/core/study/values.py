"""Study, Picture, Mark, State: frozen values; a change makes a new one.

Positions are in the image frame of their picture: px, x right, y down, (0, 0) the top-left
corner of the top-left pixel, after the file's EXIF orientation.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from bralto.core.study.curled import FLAT, Bends, of_other_corners
from bralto.core.study.taken import Sightings
from bralto.core.terms import School, StudyKind, Visibility
from bralto.core.tolerances import DEFAULT_SPREAD_PX
from bralto.core.views.model import View

__all__ = [
    "OUTLINE",
    "PERMISSIONS",
    "PUSH",
    "RENDERED",
    "Anchor",
    "Guess",
    "Intent",
    "Mark",
    "Picture",
    "Point",
    "Scale",
    "Sheet",
    "State",
    "Study",
]

_ABSENT = Visibility.ABSENT.value  # members are slow to compare; marks are asked at every paint
RENDERED = "rendered here"
"""The permission of the model's pictures."""
PERMISSIONS = ("my own", "permission given", "out of copyright", RENDERED, "not stated")
"""Where a picture may come from; a study file may say it in other words too."""
MOST_ANCHORS = 40
"""Points of their own that a study may have."""
MOST_SHAPES = 60
"""Shapes, curves and outlines of shadow that a picture may have of each."""

OUTLINE = "whole outline"
"""Name of the polygon that is a figure's own outline."""

PUSH = "push."
"""What the measure of an intent begins with that moves the reference itself
(`core.corrections.push`)."""

Point = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Mark:
    """One landmark on one picture: image px; ``spread`` is the SD of placing it, image px."""

    x: float
    y: float
    visibility: Visibility = Visibility.SEEN
    spread: float = DEFAULT_SPREAD_PX
    extra: Mapping[str, object] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Sheet:
    """A sheet of paper in a picture.

    Attributes:
        corners: image px, from the top-left clockwise.
        size_mm: width and height.
        spread: SD of where the sheet's plane lies, image px: of placing the corners, of a bent
            lens and of paper that curls. Every mark on the sheet has it on top of its own.
        bends: how its edges curl away from the lines between the corners (`core.study.curled`).
    """

    corners: tuple[Point, Point, Point, Point]
    size_mm: tuple[float, float]
    spread: float = 0.0
    extra: Mapping[str, object] = field(default_factory=dict)
    bends: Bends = FLAT

    def with_corners_in(self, order: Sequence[int]) -> Sheet:
        """The same sheet with its corners taken in another order: for each which of these it is."""
        a, b, c, d = (self.corners[i] for i in order)
        return replace(self, corners=(a, b, c, d), bends=of_other_corners(self.bends, order))


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture with its marks; turned counter-clockwise by ``plumb_deg``, plumb is vertical.

    Attributes:
        crop: left, top, width, height (image px) of what is looked at; marks outside it stay.
        focal_35mm: the lens's focal length as for a small picture, mm, where the photo said it.
        curves: lines drawn through it, by name, as their points from the top down or the root out
            (`core.action`).
        shadows: outlines of what is dark in it; one that lies within another cuts a light place
            out of it (`core.light`).
    """

    file: str
    width: int
    height: int
    marks: Mapping[str, Mark] = field(default_factory=dict)
    plumb_deg: float = 0.0
    sheet: Sheet | None = None
    polygons: Mapping[str, tuple[Point, ...]] = field(default_factory=dict)
    permission: str | None = None
    crop: tuple[float, float, float, float] | None = None
    focal_35mm: float | None = None
    curves: Mapping[str, tuple[Point, ...]] = field(default_factory=dict)
    shadows: tuple[tuple[Point, ...], ...] = ()
    extra: Mapping[str, object] = field(default_factory=dict)

    def placed(self) -> frozenset[str]:
        """Keys of the marks that have a place (seen or inferred)."""
        return frozenset(k for k, mark in self.marks.items() if mark.visibility != _ABSENT)

    def absent(self) -> frozenset[str]:
        """Keys of the marks of which it was said that they are not in the picture."""
        return frozenset(k for k, mark in self.marks.items() if mark.visibility == _ABSENT)

    def with_mark(self, key: str, mark: Mark | None) -> Picture:
        """A copy with that mark set, or taken away where ``mark`` is None."""
        marks = {k: m for k, m in self.marks.items() if k != key}
        if mark is not None:
            marks[key] = mark
        return replace(self, marks=marks)


@dataclass(frozen=True, slots=True)
class State:
    """A drawing at one moment; ``taken`` is an ISO 8601 instant, or None."""

    name: str
    picture: Picture
    taken: str | None = None
    extra: Mapping[str, object] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Scale:
    """The scale school in force; ``marks`` only for the anchors school."""

    school: School = School.HEAD
    marks: tuple[str, ...] = ()
    extra: Mapping[str, object] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Anchor:
    """An extra landmark that the learner named, marked on both pictures."""

    key: str
    label: str
    extra: Mapping[str, object] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Intent:
    """A measure the learner means to change by a factor of the reference's value."""

    measure: str
    factor: float
    extra: Mapping[str, object] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Guess:
    """A value guessed by eye before any figure was shown, in the measure's own unit."""

    measure: str
    value: float
    at: str | None = None
    extra: Mapping[str, object] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Study:
    """A reference, the states of one drawing of it, and how they are to be compared.

    ``own_view`` is the learner's own view of that key, where it is none that ships. From life there
    is no reference but ``sightings``: what was taken by eye and pencil. Beside a reference they
    are practice in sighting, and nothing is measured by them.
    """

    title: str
    view: str
    reference: Picture | None
    states: tuple[State, ...] = ()
    kind: StudyKind = StudyKind.OBSERVED
    scale: Scale = Scale()
    grade: str = "developing"
    anchors: tuple[Anchor, ...] = ()
    intents: tuple[Intent, ...] = ()
    guesses: tuple[Guess, ...] = ()
    canon: str | None = None
    own_view: View | None = None
    sightings: Sightings | None = None
    extra: Mapping[str, object] = field(default_factory=dict)

    def state(self, name: str | None = None) -> State | None:
        """The state of that name; the latest where no name is given; None where there is none."""
        if name is None:
            return self.states[-1] if self.states else None
        return next((state for state in self.states if state.name == name), None)

    @property
    def from_life(self) -> bool:
        """Whether what was sighted stands in the reference's place."""
        return self.reference is None and self.sightings is not None

    def pictures(self) -> dict[str, Picture]:
        """The pictures by the name of their state, in order; the reference first, under ""."""
        found = {} if self.reference is None else {"": self.reference}
        return found | {state.name: state.picture for state in self.states}

    def with_pictures(self, change: Callable[[str, Picture], Picture]) -> Study:
        """A copy with each picture changed; ``change`` is given its name as in `pictures`."""
        return replace(
            self,
            reference=None if self.reference is None else change("", self.reference),
            states=tuple(replace(s, picture=change(s.name, s.picture)) for s in self.states),
        )

    def against_state(self, name: str) -> Study:
        """The study with an earlier state of the drawing in the reference's place; what was meant
        otherwise than the reference says nothing of that.

        Raises:
            KeyError: there is no such state.
        """
        state = self.state(name)
        if state is None:
            raise KeyError(name)
        return replace(self.unpushed(), reference=state.picture)

    def unpushed(self) -> Study:
        """The study with its reference as it is seen, not as it is meant."""
        kept = tuple(one for one in self.intents if not one.measure.startswith(PUSH))
        return self if kept == self.intents else replace(self, intents=kept)

    def with_state(self, changed: State) -> Study:
        """A copy in which the state of the same name is replaced."""
        return replace(
            self, states=tuple(changed if s.name == changed.name else s for s in self.states)
        )
