"""Which sighting is asked for from life: the order in force, what was put off, what is repeated."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from bralto.core.results import NotMeasurable
from bralto.core.sightings.next_question import Next, next_questions
from bralto.core.sightings.orders import MOST_TELLING
from bralto.core.study.taken import PENCIL_MM, Sighting, Sort
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

__all__ = ["Asking", "Asks"]

Asks = tuple[object, ...]
"""What a sighting asks (`Sighting.asks`)."""


@dataclass(frozen=True, slots=True)
class Asking:
    """Nothing of it is kept.

    Attributes:
        order: key of a school's order, or of *what tells most*.
        skipped: what could not be sighted.
        chosen: what was taken in place of the first, or None.
        own: a question of the learner's own, or None.
        again: what is sighted once more, blind, or None.
        arm: how many times as far the learner's own sightings scatter, by family
            (`own_arm.known_arm`).
        told: whether practice shows how well it was sighted.
        in_mm: lengths are taken as thumb marks on the pencil, mm; the head before any other.
    """

    order: str = MOST_TELLING
    skipped: frozenset[Asks] = frozenset()
    chosen: Asks | None = None
    own: Next | None = None
    again: Asks | None = None
    arm: Mapping[str, float] = field(default_factory=dict)
    told: bool = False
    in_mm: bool = False

    def questions(self, view: View, items: Sequence[Sighting], grade: Grade) -> tuple[Next, ...]:
        """What is asked now and what may be taken instead; none where an order is done."""
        found = next_questions(view, items, grade, self.order, self.skipped)
        open_to = () if isinstance(found, NotMeasurable) else found
        if self.in_mm:
            open_to = self._on_the_pencil(view, items, open_to)
        repeated = next((one for one in reversed(items) if one.asks == self.again), None)
        if repeated is not None:
            return Next(repeated, ""), *open_to
        if self.own is not None:
            own = self.own.sighting
            lengths = self.in_mm and own.sort is Sort.LENGTH and not own.of
            return _in_mm(self.own) if lengths else self.own, *open_to
        first = [one for one in open_to if one.sighting.asks == self.chosen]
        return (*first, *(one for one in open_to if one not in first))

    def _on_the_pencil(
        self, view: View, items: Sequence[Sighting], found: Sequence[Next]
    ) -> tuple[Next, ...]:
        """The same with lengths in mm, as far as a pencil goes; the head first, against which they
        are all counted."""
        head = Sighting(Sort.LENGTH, view.head, 0.0, 0.0, in_mm=True)
        marked = [one.value for one in items if one.asks == head.asks]
        out = [] if marked or head.asks in self.skipped else [Next(head, "")]
        longest = PENCIL_MM / (marked[-1] if marked else PENCIL_MM)
        for one in found:
            length = one.sighting.sort is Sort.LENGTH and not one.sighting.of
            length = length and one.sighting.value < longest
            out.append(_in_mm(one) if length else one)
        return tuple(out)


def _in_mm(one: Next) -> Next:
    """The same length, read off in mm."""
    return replace(one, sighting=replace(one.sighting, in_mm=True, measure="", value=0.0, u=0.0))
