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
from bralto.core.results import NotMeasurable
from bralto.core.study.anchored import view_of
from bralto.core.study.frames import SightMarks, sight_marks
from bralto.core.study.stages import STAGES
from bralto.core.study.values import State, Study
from bralto.core.tolerances import COVERAGE, Grade

__all__ = [
    "EARLY", "Order", "Settled", "early_state", "order_of", "settled_edges", "since",
]  # fmt: skip

EARLY = STAGES[1:3]
"""Stages in which big shapes are blocked in, with straight lines; the action before them is one
curve (common practice, no source)."""

_MOST_STATES = 8
"""States of one drawing that are measured; each takes some milliseconds."""


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
