"""What a view is: landmarks, derived points, passes, parts and measures, as frozen values."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property
from typing import Literal, get_args

from bralto.core.terms import School
from bralto.core.tolerances import GRADES_OF, Grade
from bralto.core.views.limb_tree import Limb
from bralto.core.views.stances import Stance

__all__ = [
    "ALONG",
    "HEAD",
    "REGIONS",
    "Along",
    "DerivedPoint",
    "Landmark",
    "MeasureKind",
    "MeasureSpec",
    "Order",
    "Part",
    "Pass",
    "View",
]


MeasureKind = Literal[
    "height", "offset", "span", "fraction", "ratio", "tilt", "angle", "alignment", "balance"
]
"""What is measured, the first word of a measure's id; `measures.kinds` has the formulas."""

Along = Literal["straight", "plumb", "level", "both"]
ALONG: tuple[Along, ...] = get_args(Along)
"""In which direction, see `MeasureSpec.along`."""

HEAD = "head"
"""What drawings are planned by in most views."""

REGIONS = ("eyes", "nose", "mouth", "ears", "outline")
"""Regions of a head in the order in which they are looked at once the whole stands."""


@dataclass(frozen=True, slots=True)
class Landmark:
    """A named place on the body.

    Attributes:
        key: id, with ``_r`` or ``_l`` (the model's own side) where the body is paired.
        label: the trade's word with the model's side and the viewer's, said once.
        short: the label as it fits on a rung.
        how: one line of how to find it and what is often mistaken for it.
        step: key of the pass in which it is placed.
        region: of a head, the one of `REGIONS` that it belongs to, or "".
    """

    key: str
    label: str
    short: str
    how: str
    step: str
    region: str = ""


_OUTERMOST = frozenset({"lowest", "farthest"})
"""Rules of a derived point that is one of its marks."""


@dataclass(frozen=True, slots=True)
class DerivedPoint:
    """A point made from marks.

    Its rule is ``mean``, of all of them; ``lowest``, the one in sight that is; ``farthest``, the
    one that is from the crown along level, of a figure that lies; ``support``, the middle between
    the outermost; or ``mass``, the centre of the body's mass as its segments lie.
    """

    key: str
    label: str
    rule: str
    marks: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Pass:
    """One step of the practitioner's order: which marks are placed and which measures shown. An
    ``offer`` is not waited for: what it asks for is often out of sight, or wanted by few."""

    key: str
    title: str
    hint: str
    offer: bool = False


@dataclass(frozen=True, slots=True)
class Order:
    """Another order in which the short set is placed: ``marks`` come first, then the rest as ever.

    Practitioners disagree on where a head is begun.
    """

    key: str
    marks: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Part:
    """A part of the body and the spans (pairs of points) whose sum stands for its size."""

    key: str
    label: str
    spans: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class MeasureSpec:
    """A measure as data.

    Attributes:
        id: ``KIND.NAME``, a contract.
        kind: ``height``, ``offset``, ``span``, ``fraction``, ``ratio``, ``tilt``, ``angle``,
            ``alignment`` or ``balance``.
        points: the points of its formula. height, offset: (origin, point); span, tilt, alignment:
            (from, to); balance: (middle of the feet, centre of mass);
            fraction: (upper, at, lower); ratio, angle: both ends of the first line,
            then of the one it is held against, or of two whose mean it is.
        along: ``straight``, ``plumb`` or ``level``: direction of a span or of a fraction's axis;
            of an alignment, the line that both points should share; ``both`` of a ratio against
            the mean of two lines, straight.
        skill: ``heights``, ``widths``, ``tilts``, ``plumb``, ``lengths``, ``fractions``,
            ``angles`` or ``alignments``.
        telling: whether a list of errors names it; heights of marks that are no station, and
            formulas that stand twice, are measured but would only repeat what others say.
        step: key of the pass that shows it.
        counted: what lengths are counted in, the view's unit.
        posed: for a tilt, whether the pose sets it; the slope of a foot from heel to toe is the
            body's own and says nothing of a straightened pose.
        against_plumb: whether it is taken against plumb where the view has a centre line.
    """

    id: str
    label: str
    kind: MeasureKind
    points: tuple[str, ...]
    along: Along
    skill: str
    step: str
    telling: bool = True
    counted: str = "head"
    posed: bool = True
    against_plumb: bool = False


@dataclass(frozen=True, eq=False)
class View:
    """A named, ordered set of landmarks with all that is known about measuring them.

    Compared by identity: views come from `views.library`, one object a key.

    Attributes:
        head: the two marks whose distance is ``heads`` heads: crown and chin where they show.
        heads_scatter: standard deviation of that number from one body, or from one nod of the
            head, to the next, as a share of it; 0 where crown and chin are the head itself.
        unit: what lengths are counted in, in the singular; ``unit_along``, whether the distance
            that makes it is ``straight`` or along ``plumb``.
        seen_from: ``front``, ``back`` or ``side``; tells on which hand the model's right is.
        plumb: the mark through which the plumb line hangs for offsets.
        edges: the points that bound the envelope from top to bottom.
        facing: of a view from the side, a mark behind and one before it; or ().
        axis: marks of a head's centre line from the top down, along which and across which it is
            measured; or () where plumb is.
        axis_lean: degrees by which the foot of that line lies forward in an upright head.
        orders: other orders in which practitioners place the short set.
        short: the short set in placing order; any one of an entry's alternatives will do.
        placing: every landmark's key in the order in which practitioners place them.
        stations: points that the ladder shows.
        rails: points that the span rails show.
        limbs: the limb tree, a parent before what hangs from it.
        beyond: heads that the outline lies beyond the outermost marks at either side; these lie on
            joints where nothing else is said (0.25 then: common practice, no source).
        sized_by: what a drawing is planned by: the unit, or what the line between both marks of
            `head` is called where that is no head.
        size: ``figure``, ``portion`` of some heads, or ``part``: how large an error is tolerated
            (`tolerances.GRADES_OF`).
        lies: whether it is as a figure that lies is measured (`laid_down`).
        stance: how the model is placed of whom it is sighted from life; ``plain``, the view of one
            that stands where it is not that one itself.
    """

    key: str
    title: str
    school: School
    head: tuple[str, str]
    heads: float
    unit: str
    seen_from: str
    plumb: str
    edges: tuple[str, str]
    landmarks: tuple[Landmark, ...]
    points: tuple[DerivedPoint, ...]
    passes: tuple[Pass, ...]
    parts: tuple[Part, ...]
    measures: tuple[MeasureSpec, ...]
    short: tuple[tuple[str, ...], ...]
    placing: tuple[str, ...]
    stations: tuple[str, ...]
    rails: tuple[str, ...]
    limbs: tuple[Limb, ...]
    size: str = "figure"
    beyond: float = 0.25
    sized_by: str = HEAD
    heads_scatter: float = 0.0
    facing: tuple[str, ...] = ()
    axis: tuple[str, ...] = ()
    axis_lean: float = 0.0
    orders: tuple[Order, ...] = ()
    unit_along: Along = "straight"
    lies: bool = False
    stance: Stance = Stance.STANDING
    plain: View | None = None

    def first_marks(self, order: str) -> tuple[str, ...]:
        """The marks that an order puts first; () where the view has no such order."""
        return next((one.marks for one in self.orders if one.key == order), ())

    def grade(self, name: str) -> Grade:
        """The learner's grade of that name for what this view shows."""
        return GRADES_OF[self.size][name]

    def region(self, name: str) -> tuple[str, ...]:
        """Keys of the marks of a region, in placing order; () where the view has none."""
        return self._regions.get(name, ())

    @property
    def tall(self) -> float:
        """Heads between its edges, on an average: of a figure 7.5 (common practice, no source)."""
        return self.heads if self.head == self.edges else 7.5

    @property
    def sized_heads(self) -> float:
        """How many units that is which a drawing is planned by."""
        return 1.0 if self.sized_by == self.unit else self.heads

    def landmark(self, key: str) -> Landmark | None:
        """The landmark of that key, or None."""
        return self._by_key.get(key)

    def measure(self, measure_id: str) -> MeasureSpec | None:
        """The measure of that id, or None."""
        row = self.measure_rows.get(measure_id)
        return None if row is None else self.measures[row]

    @cached_property
    def once(self) -> frozenset[str]:
        """Ids of the measures that repeat no earlier one: two schools may name the same figure."""
        first: dict[tuple[object, ...], str] = {}
        for one in self.measures:
            first.setdefault((one.kind, one.along, one.points, one.against_plumb), one.id)
        return frozenset(first.values())

    @cached_property
    def measure_rows(self) -> dict[str, int]:
        """Row of each measure in `measures` by its id."""
        return {spec.id: row for row, spec in enumerate(self.measures)}

    @cached_property
    def point_rows(self) -> dict[str, int]:
        """Row of each point in arrays over points: landmarks first, then derived points."""
        keys = [mark.key for mark in self.landmarks] + [point.key for point in self.points]
        return {key: row for row, key in enumerate(keys)}

    @cached_property
    def _by_key(self) -> dict[str, Landmark]:
        return {mark.key: mark for mark in self.landmarks}

    @cached_property
    def _regions(self) -> dict[str, tuple[str, ...]]:
        keys = [key for key in self.placing if self._by_key[key].region]
        return {
            name: tuple(key for key in keys if self._by_key[key].region == name) for name in REGIONS
        }

    @cached_property
    def _labels(self) -> dict[str, str]:
        labels = {point.key: point.label for point in self.points}
        return labels | {mark.key: mark.short for mark in self.landmarks}

    def is_beyond(self, points: Iterable[str]) -> bool:
        """Whether one of some points is of the other leg or arm, which are often out of sight."""
        return not self._beyond.isdisjoint(points)

    @cached_property
    def _beyond(self) -> frozenset[str]:
        offers = {one.key for one in self.passes if one.offer}
        return frozenset(m.key for m in self.landmarks if m.step in offers and not m.region)

    def can_be_shown(self, key: str) -> bool:
        """Whether a person can put a finger, or a pencil, to a point: a mark, or the lowest of
        some."""
        return next((one.rule for one in self.points if one.key == key), "lowest") in _OUTERMOST

    def point_label(self, key: str) -> str:
        """The short label of a landmark or derived point."""
        return self._labels.get(key, key)
