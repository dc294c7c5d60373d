"""What is known of one picture alone: painters, rows and commands read it.

Everything is worked out when it is first asked for, once.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import cached_property

from bralto.core.action.limbs import Run
from bralto.core.action.ribs_on_pelvis import Masses, masses_of
from bralto.core.action.sweep_pairs import Sweep, limb_runs, sweeps_of
from bralto.core.action.sweeps import Pair, proposed
from bralto.core.action.weight import Weighing, weighing_of
from bralto.core.arrays import Floats
from bralto.core.discover.balance import Balance, likely_bearing, read_balance
from bralto.core.discover.constructions import Form, construct
from bralto.core.discover.cross_lines import CrossLines, read_cross_lines
from bralto.core.discover.envelope import Envelope, envelope_of
from bralto.core.discover.figures import Figure, figure_of
from bralto.core.discover.lines import Alignment, SightLine, find_alignments, sight_lines
from bralto.core.measures.own_frame import own_frames
from bralto.core.measures.posture import LIES, posture
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

__all__ = ["Side"]


class Side:
    """What is known of one board's picture alone."""

    def __init__(self, view: View, picture: Picture, grade: Grade, *, unseen: str = "") -> None:
        """``unseen`` says why there is nothing to sight at, where the picture only stands in."""
        self.view, self.picture, self.grade, self.unseen = view, picture, grade, unseen

    def is_of(self, other: Side) -> bool:
        """Whether all that is known of either is known of the other."""
        mine = (self.unseen, self.grade, self.view, self.picture)
        return mine == (other.unseen, other.grade, other.view, other.picture)

    @cached_property
    def shape(self) -> Figure | NotMeasurable:
        """Its marks in heads of their own; also of what stands in, which has a shape at least."""
        return figure_of(self.view, self.picture)

    @property
    def figure(self) -> Figure | NotMeasurable:
        """Its marks in heads of their own; of what stands in for a picture why there are none."""
        return NotMeasurable(self.unseen) if self.unseen else self.shape

    @cached_property
    def lies(self) -> bool:
        """Whether the figure lies, as far as its marks tell."""
        found = self.shape
        return not isinstance(found, NotMeasurable) and posture(self.view, found.marks) == LIES

    @cached_property
    def tilt_deg(self) -> float:
        """How far a head is tilted, counter-clockwise; 0 where it is none, or its centre line is
        not marked."""
        if isinstance(self.figure, NotMeasurable):
            return 0.0
        frames = own_frames(self.view, [self.figure.points])
        return 0.0 if frames is None else math.degrees(frames[0].radians)

    @cached_property
    def lines(self) -> tuple[SightLine, ...]:
        """The plumb lines that cross most marks, fullest first."""
        if isinstance(self.figure, NotMeasurable):
            return ()
        return sight_lines(self.figure, "plumb", self.grade)

    @cached_property
    def levels(self) -> tuple[SightLine, ...]:
        """The level lines that cross most marks, fullest first."""
        if isinstance(self.figure, NotMeasurable):
            return ()
        return sight_lines(self.figure, "level", self.grade)

    @cached_property
    def alignments(self) -> tuple[Alignment, ...]:
        """Marks that stand below or level with each other, the most telling first."""
        if isinstance(self.figure, NotMeasurable):
            return ()
        return find_alignments(self.figure, self.grade)

    @cached_property
    def cross_lines(self) -> CrossLines | NotMeasurable:
        """Whether the lines across the pose run together."""
        found = self.figure
        return found if isinstance(found, NotMeasurable) else read_cross_lines(found)

    @cached_property
    def balance(self) -> Balance | NotMeasurable:
        """Where the weight falls."""
        found = self.figure
        return found if isinstance(found, NotMeasurable) else read_balance(found, self.grade)

    @cached_property
    def sweeps(self) -> Mapping[str, Sweep | NotMeasurable]:
        """The curves that were drawn through it, by name."""
        return {} if self.unseen else sweeps_of(self.view, self.picture, self.figure)

    @cached_property
    def runs(self) -> Mapping[Pair, Run | NotMeasurable]:
        """How each limb runs of which both edges were drawn."""
        return limb_runs(self.view, self.sweeps)

    @cached_property
    def masses(self) -> Masses | NotMeasurable:
        """Ribcage against pelvis; also of what stands in for a picture."""
        return self.shape if isinstance(self.shape, NotMeasurable) else masses_of(self.shape)

    @cached_property
    def weighing(self) -> Weighing | NotMeasurable:
        """How the masses of a standing figure weigh against each other."""
        found = self.figure
        return found if isinstance(found, NotMeasurable) else weighing_of(found, self.grade)

    @cached_property
    def proposed(self) -> Floats | NotMeasurable:
        """Where the marks let the sweep of the whole run, as (n, 2) points, image px."""
        if isinstance(self.figure, NotMeasurable):
            return self.figure
        return proposed(self.figure, self.picture, likely_bearing(self.figure, self.grade))

    @cached_property
    def envelope(self) -> Envelope | None:
        """The outermost marks on each side."""
        return None if isinstance(self.figure, NotMeasurable) else envelope_of(self.figure)

    @cached_property
    def forms(self) -> tuple[Form, ...]:
        """The big forms that the marks make, in heads."""
        return () if isinstance(self.shape, NotMeasurable) else tuple(construct(self.shape))
