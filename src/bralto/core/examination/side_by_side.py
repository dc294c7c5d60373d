"""What is known of two pictures beside each other; painters, rows and commands read it.

Everything is worked out when it is first asked for, once.
"""

from __future__ import annotations

from collections.abc import Iterable
from functools import cached_property

from bralto.core.discover.crossing import Crossing, crossings
from bralto.core.discover.life import Life, life_of_pose
from bralto.core.discover.likeness import Likeness, likeness, push_of
from bralto.core.discover.lines import SightLine
from bralto.core.examination.sides import Side
from bralto.core.heads.heads_held import HeadPair, head_of, heads_of
from bralto.core.light.shadows_held import LightReading, read_light
from bralto.core.mannequin.known import standpoint_of
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Study

__all__ = ["SideBySide"]


class SideBySide:
    """The reference, or what stands in for it, and the drawing; nothing is measured for it.

    Attributes:
        study: whose pictures they are.
        seen, drawn: what is known of either alone; of a drawing that is not there yet, why nothing.
    """

    def __init__(self, study: Study, seen: Side, drawn: Side) -> None:
        self.study, self.view, self.grade = study, seen.view, seen.grade
        self.seen, self.drawn = seen, drawn
        self._crossings: dict[tuple[str, ...], tuple[Crossing, ...]] = {}

    @cached_property
    def heads(self) -> HeadPair:
        """How the heads of both pictures stand in space; of a figure why that is not told."""
        figure = self.seen.figure
        return heads_of(head_of(figure, standpoint_of(self.study)), figure, self.drawn.figure)

    def crossings(self, line: SightLine) -> tuple[Crossing, ...]:
        """What crosses one of the reference's plumb lines, and how far the drawing strays."""
        seen = self.seen.figure
        if isinstance(seen, NotMeasurable):
            return ()
        if line.keys not in self._crossings:
            found = tuple(crossings(line, seen, self.drawn.figure, self.grade))
            self._crossings[line.keys] = found
        return self._crossings[line.keys]

    def line(self, chosen: Iterable[str]) -> SightLine | None:
        """The plumb line that hangs: that with most of the marks chosen, or else the fullest."""
        wanted, lines = set(chosen), self.seen.lines
        best = max(lines, key=lambda one: len(wanted & set(one.keys)), default=None)
        return best if best and wanted & set(best.keys) else next(iter(lines), None)

    @cached_property
    def person(self) -> Likeness | NotMeasurable:
        """How the sitter of a head departs from the average, and what the drawing makes of it."""
        if not self.view.axis:
            return NotMeasurable("it is no head")
        seen = self.seen.figure
        if isinstance(seen, NotMeasurable):
            return seen
        return likeness(self.view, seen, self.drawn.figure, self.grade.percent)

    @property
    def push(self) -> float:
        """How many times as far the sitter's departures are meant to be taken."""
        found = self.person
        return 1.0 if isinstance(found, NotMeasurable) else push_of(found, self.study.intents)

    @cached_property
    def light(self) -> LightReading | NotMeasurable:
        """The drawing's shadows held against the reference's."""
        if self.seen.unseen:
            return NotMeasurable(self.seen.unseen)
        return read_light(self.view, self.seen.picture, self.drawn.picture)

    @cached_property
    def life(self) -> Life | NotMeasurable:
        """Whether the drawing's tilts keep up with those that are seen."""
        seen, drawn = self.seen.figure, self.drawn.figure
        if isinstance(seen, NotMeasurable):
            return seen
        return drawn if isinstance(drawn, NotMeasurable) else life_of_pose(seen, drawn)
