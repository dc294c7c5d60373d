"""Skills that no marks of a drawing tell: how well the bend of a pose was kept, by the sweeps drawn
through both pictures, and how well the reference was sighted for practice."""

from __future__ import annotations

from bralto.core.action.bend_kept import Kept
from bralto.core.action.sweep_pairs import sweep_pairs, sweeps_of
from bralto.core.action.sweeps import WHOLE
from bralto.core.corrections.push import POSE, pushes_of
from bralto.core.discover.figures import figure_of
from bralto.core.examination.summary import SkillFigure, Summary
from bralto.core.longitudinal.sighting_told import sighting_of_study
from bralto.core.results import NotMeasurable
from bralto.core.study.anchored import view_of
from bralto.core.study.values import State, Study
from bralto.core.tolerances import COVERAGE

__all__ = ["bend_of_study", "sighted_alone", "skills_besides"]


def skills_besides(study: Study, state: State | None = None) -> tuple[SkillFigure, ...]:
    """All of them.

    Args:
        state: of the drawing; the latest where none is given.
    """
    bend = bend_of_study(study, state)
    return (*(() if bend is None else (bend,)), *sighting_of_study(study))


def sighted_alone(study: Study, why: str) -> Summary | None:
    """What the record keeps of a study that cannot be measured but was sighted for practice.

    Args:
        why: it cannot be measured.
    """
    found, nothing = sighting_of_study(study), NotMeasurable(why)
    return Summary(nothing, nothing, found) if found else None


def bend_of_study(study: Study, state: State | None = None) -> SkillFigure | None:
    """How far the share of the bend that was drawn is from all of it, or of what is meant; None
    where the sweep of the whole is not drawn on both pictures. Marks are not wanted for it.

    Args:
        state: of the drawing; the latest where none is given.
    """
    state = state or study.state()
    if study.reference is None or state is None:
        return None
    pictures = (study.reference, state.picture)
    if not all(WHOLE in picture.curves for picture in pictures):
        return None
    view = view_of(study)
    seen, drawn = (sweeps_of(view, one, figure_of(view, one)) for one in pictures)
    meant = pushes_of(study.intents).get(POSE, 1.0)
    kept = next(one for one in sweep_pairs(seen, drawn, meant) if one.name == WHOLE).kept
    if not isinstance(kept, Kept):
        return None
    u = 0.5 * (kept.high - kept.low) / COVERAGE
    return SkillFigure("bend", "fraction", abs(kept.share - 1.0), u, 0.0, 1)
