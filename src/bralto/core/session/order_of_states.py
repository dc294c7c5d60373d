"""What the states of one drawing tell of its order: which edge stood first, since when what is off
is off, and whether it was blocked in with straight lines."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bralto.core.discover.envelope import EDGES, envelope_of
from bralto.core.discover.figures import figure_of
from bralto.core.errors import UserError
from bralto.core.examination.assessment import Assessment, measured
from bralto.core.measures.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.session.gate import Finding
from bralto.core.session.stages import STAGES
from bralto.core.study.frames import SightMarks, sight_marks
from bralto.core.study.values import State, Study
from bralto.core.tolerances import COVERAGE, Grade
from bralto.core.views.anchored import view_of
from bralto.core.words.phrases import spread

__all__ = [
    "EARLY", "Order", "Settled", "early_state", "order_findings", "order_of", "settled_edges",
    "since",
]  # fmt: skip

EARLY = STAGES[1:3]
"""Stages in which big shapes are blocked in, with straight lines; the action before them is one
curve (common practice, no source)."""

_MOSTLY = 0.5
"""Share of its lines from which on a drawing is blocked in with straight ones (chosen, no
source)."""

_MOST_STATES = 8
"""States of one drawing that are measured; each takes some milliseconds."""

_NAMED = 3
"""Measures of which it is said since when they are off, the worst first."""


@dataclass(frozen=True, slots=True)
class Settled:
    """Since which state each edge of the figure stands where it stands in the last one.

    Attributes:
        states: names of the states that were compared, oldest first.
        at: by `envelope.EDGES`, the place in ``states``.
    """

    states: tuple[str, ...]
    at: dict[str, int]

    @property
    def sides(self) -> str:
        """The state from which on both sides stand."""
        return self.states[max(self.at["left"], self.at["right"])]

    @property
    def top(self) -> str:
        """The state from which on the top stands."""
        return self.states[self.at["top"]]

    @property
    def sides_first(self) -> bool:
        """Whether the sides stood no later than the top."""
        return max(self.at["left"], self.at["right"]) <= self.at["top"]


def settled_edges(study: Study, grade: Grade) -> Settled | NotMeasurable:
    """Compare the outermost marks of the last state through all states, on the sheet.

    Only states whose sheet is marked and which have those marks are compared.
    """
    last = study.state()
    view = view_of(study)
    figure = None if last is None else figure_of(view, last.picture)
    if last is None or figure is None or isinstance(figure, NotMeasurable):
        return NotMeasurable("the last state has too few marks")
    box = envelope_of(figure)
    if box is None or figure.marks.unit != "mm":
        return NotMeasurable("the sheet is not marked on the last photo")
    keys = tuple(dict.fromkeys(box.marks[edge] for edge in EDGES))
    there: list[tuple[str, SightMarks]] = []
    for state in study.states:
        if state.picture.sheet is None or not set(keys) <= set(state.picture.placed()):
            continue
        marks = sight_marks(state.picture, keys)
        if not isinstance(marks, NotMeasurable):
            there.append((state.name, marks))
    if len(there) < 2:
        return NotMeasurable("two states with the sheet and the outermost marks are wanted")
    allowed = grade.head * figure.head.value
    at = {}
    for edge in EDGES:
        axis, row = int(edge in ("top", "bottom")), keys.index(box.marks[edge])
        end, first = there[-1][1], len(there) - 1
        for i in range(len(there) - 2, -1, -1):
            marks = there[i][1]
            off = abs(float(marks.xy[row, axis] - end.xy[row, axis]))
            doubt = float(np.sqrt(marks.cov[row, axis, axis] + end.cov[row, axis, axis]))
            if off > max(allowed, COVERAGE * doubt):
                break
            first = i
        at[edge] = first
    return Settled(tuple(name for name, _ in there), at)


def early_state(study: Study) -> State | None:
    """The last state of the stages in which a drawing is blocked in, or None."""
    named = [state for state in study.states if state.name in EARLY]
    return max(named, key=lambda one: STAGES.index(one.name), default=None)


@dataclass(frozen=True, slots=True)
class Order:
    """What the states of a drawing tell together.

    Attributes:
        settled: since when each edge stands, or why that is not known.
        states: the last that can be measured, oldest first.
    """

    settled: Settled | NotMeasurable
    states: tuple[tuple[str, Assessment], ...]


def order_of(study: Study, grade: Grade) -> Order:
    """Measure all states of a drawing."""
    return Order(settled_edges(study, grade), _measured_states(study))


def order_findings(
    order: Order, off: Sequence[Reading], straight: tuple[str, float, float] | None
) -> tuple[Finding, ...]:
    """How the drawing was gone about, as its states show it.

    Args:
        off: measures that are off in the last state, the worst first.
        straight: of the state that was blocked in its name, the share of straight lines, and its
            standard uncertainty.
    """
    found = []
    if straight is not None:
        name, share, u = straight
        doubt = COVERAGE * u
        good = None if abs(share - _MOSTLY) <= doubt else share > _MOSTLY
        words = f"Straight lines early: {100.0 * share:.0f} % of '{name}'"
        detail = f"± {spread(100.0 * doubt, 0)}; big angles first, curves once they stand"
        found.append(Finding(words, good, detail))
    settled = order.settled
    if isinstance(settled, Settled) and max(settled.at[edge] for edge in EDGES if edge != "bottom"):
        detail = f"sides stand since '{settled.sides}', the top since '{settled.top}'"
        words = "Sides before top" if settled.sides_first else "The top before the sides"
        found.append(Finding(words, settled.sides_first, detail))
    if len(order.states) > 1:
        for reading in off[:_NAMED]:
            name = since(reading.spec.id, order.states)
            if name:
                label = reading.spec.label[:1].upper() + reading.spec.label[1:]
                found.append(Finding(f"{label}: off since '{name}'", False))
    return tuple(found)


def _measured_states(study: Study) -> tuple[tuple[str, Assessment], ...]:
    """The last states that can be measured, oldest first, without advice."""
    found = []
    for state in study.states[-_MOST_STATES:]:
        try:
            found.append((state.name, measured(study, state).assessment))
        except UserError:
            continue  # it has too few marks
    return tuple(found)


def since(measure: str, states: Sequence[tuple[str, Assessment]]) -> str:
    """Since which state a measure is off the same way without a break, up to the last one; "" where
    it is not off there."""
    name, way = "", None
    for state, found in reversed(states):
        reading = found.reading(measure)
        if reading is None or not reading.verdict.off:
            break
        if way not in (None, reading.verdict):
            break
        name, way = state, reading.verdict
    return name
