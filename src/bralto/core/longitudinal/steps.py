"""From one drawing to the next of the same pose, or from one state of it to the next: what of its
errors came in, and what was put right."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bralto.core.examination.summary import MissFigure, SkillFigure, Summary
from bralto.core.measures.readings import Reading
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.tolerances import COVERAGE

__all__ = ["SkillStep", "Step", "skill_step", "step_between"]


@dataclass(frozen=True, slots=True)
class Step:
    """Readings of the later drawing: ``came_in`` are off now and were not; ``put_right`` were off
    and are within tolerance now; ``still`` are off in both. Each worst first."""

    came_in: tuple[Reading, ...]
    put_right: tuple[Reading, ...]
    still: tuple[Reading, ...]


def step_between(before: Mapping[str, Reading], after: Mapping[str, Reading]) -> Step:
    """Compare the telling readings that both have, by measure id."""
    came: list[Reading] = []
    right: list[tuple[float, Reading]] = []
    still: list[Reading] = []
    for key, one in after.items():
        old = before.get(key)
        if not one.spec.telling or old is None or old.error is None or one.error is None:
            continue
        if one.verdict.off and old.verdict.off:
            still.append(one)
        elif one.verdict.off and old.verdict == Verdict.WITHIN:
            came.append(one)
        elif one.verdict == Verdict.WITHIN and old.verdict.off:
            right.append((old.severity, one))
    came.sort(key=lambda one: -one.severity)
    still.sort(key=lambda one: -one.severity)
    right.sort(key=lambda pair: -pair[0])
    return Step(tuple(came), tuple(one for _, one in right), tuple(still))


@dataclass(frozen=True, slots=True)
class SkillStep:
    """A figure of a skill in one of several drawings: its value, and how it went from the one
    before: ``closer``, ``further``, ``same`` (no change that can be told) or "" for the first."""

    value: float
    u: float
    way: str


def skill_step(skill: str, summaries: Sequence[Summary]) -> tuple[SkillStep | None, ...]:
    """One skill (or ``miss``) over several drawings; None where it was not measured."""
    out: list[SkillStep | None] = []
    before: SkillStep | None = None
    for one in summaries:
        figure: SkillFigure | MissFigure | NotMeasurable | None
        figure = one.miss if skill == "miss" else one.skill(skill)
        if figure is None or isinstance(figure, NotMeasurable):
            out.append(None)
            continue
        way = ""
        if before is not None:
            by = figure.value - before.value
            doubt = COVERAGE * (figure.u**2 + before.u**2) ** 0.5
            way = "same" if abs(by) <= doubt else "closer" if by < 0.0 else "further"
        before = SkillStep(figure.value, figure.u, way)
        out.append(before)
    return tuple(out)
