"""Which sighting is asked for from life: the order in force, what was put off, what is repeated."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

from bralto.core.results import NotMeasurable
from bralto.core.sightings.next_question import Next, next_questions
from bralto.core.sightings.orders import MOST_TELLING
from bralto.core.sightings.taken import PENCIL_MM, Sighting, Sort
from bralto.core.tolerances import Grade
from bralto.core.views.model import View

if TYPE_CHECKING:
    from bralto.ui.session.state import Ground, SessionState

__all__ = [
    "Asking", "answered", "ask_again", "ask_own", "choose_order", "choose_question", "know_arm",
    "put_off", "toggle_mm", "toggle_told",
]  # fmt: skip

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


def toggle_mm(state: SessionState, _ground: Ground) -> SessionState:
    """Take lengths as thumb marks on the pencil, or count them in heads again."""
    return _with(state, replace(state.asking, in_mm=not state.asking.in_mm, chosen=None))


def _with(state: SessionState, asking: Asking) -> SessionState:
    return state if asking == state.asking else replace(state, asking=asking)


def choose_order(state: SessionState, _ground: Ground, order: str) -> SessionState:
    """Ask in the order of another school."""
    return _with(state, replace(state.asking, order=order, chosen=None, own=None, again=None))


def choose_question(state: SessionState, _ground: Ground, asks: Asks) -> SessionState:
    """Ask another of those that are offered."""
    return _with(state, replace(state.asking, chosen=asks, own=None, again=None))


def ask_own(state: SessionState, _ground: Ground, one: Next) -> SessionState:
    """Ask what the learner would sight."""
    return _with(state, replace(state.asking, own=one, chosen=None, again=None))


def put_off(state: SessionState, _ground: Ground, asks: Asks) -> SessionState:
    """It cannot be sighted: it is not asked for again in this session."""
    asking = state.asking
    # A length that no thumb takes is no easier counted in heads.
    both = {asks, (*asks[:-1], False)}
    skipped = asking.skipped if asking.again == asks else asking.skipped | both
    return _with(state, replace(asking, skipped=skipped, chosen=None, own=None, again=None))


def ask_again(state: SessionState, _ground: Ground, asks: Asks) -> SessionState:
    """Sight something once more, without what was said before."""
    return _with(state, replace(state.asking, again=asks))


def know_arm(state: SessionState, _ground: Ground, arm: Mapping[str, float]) -> SessionState:
    """From here on sightings are worth what the learner's own arm is."""
    return _with(state, replace(state.asking, arm=arm))


def toggle_told(state: SessionState, _ground: Ground) -> SessionState:
    """Show how well it was sighted, or sight on without knowing."""
    return _with(state, replace(state.asking, told=not state.asking.told))


def answered(state: SessionState, _ground: Ground) -> SessionState:
    """Go on to the next."""
    return _with(state, replace(state.asking, chosen=None, own=None, again=None))
