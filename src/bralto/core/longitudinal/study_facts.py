"""By what a study is told apart from others in the record."""

from __future__ import annotations

from collections.abc import Mapping

from bralto.core.examination.summary import Facts
from bralto.core.mannequin.known import MODEL
from bralto.core.mannequin.posing.poses import named_poses
from bralto.core.measures.short_set import short_set_of
from bralto.core.page.page_plan import PAPERS
from bralto.core.session.notes import notes_of
from bralto.core.study.anchored import view_of
from bralto.core.study.values import RENDERED, Study

__all__ = ["answers_of", "facts_of"]

_NEAR_MM = 3.0
"""A sheet whose sides are this near to those of a paper is one."""


def facts_of(study: Study) -> Facts:
    """Of a study as it is."""
    if study.from_life:
        source = "life"
    elif study.reference is None:
        source = "canon"
    elif MODEL in study.extra or study.reference.permission == RENDERED:
        source = "model"
    else:
        source = "photo"
    return Facts(
        study.scale.school, study.grade, _paper(study), source, _hard(study),
        notes_of(study).again_of, _cropped(study),
    )  # fmt: skip


def answers_of(study: Study) -> tuple[tuple[str, str], ...]:
    """Of its last state: question and answer on how it was made."""
    drawn = study.state()
    return () if drawn is None else tuple(notes_of(study).answers.get(drawn.name, {}).items())


def _paper(study: Study) -> str:
    drawn = study.state()
    if drawn is None or drawn.picture.sheet is None:
        return ""
    sides = sorted(drawn.picture.sheet.size_mm)
    for name, size in PAPERS.items():
        if all(abs(a - b) <= _NEAR_MM for a, b in zip(sides, sorted(size), strict=True)):
            return name
    return f"{sides[0]:.0f} x {sides[1]:.0f} mm"


def _cropped(study: Study) -> str:
    """Whether the short set is cut to what can be seen, as it is for the typical miss."""
    drawn = study.state()
    pictures = [one for one in (study.reference, drawn.picture if drawn else None) if one]
    view, absent = view_of(study), frozenset[str]().union(*(one.absent() for one in pictures))
    if not absent:
        return ""
    placed = frozenset.intersection(*(one.placed() for one in pictures))
    short = short_set_of(view, placed, absent)
    return "cropped" if isinstance(short, tuple) and len(short) < len(view.short) else ""


def _hard(study: Study) -> int:
    """How hard the model's pose is, by its title."""
    model = study.extra.get(MODEL)
    setting = model.get("setting") if isinstance(model, Mapping) else None
    title = setting.get("title") if isinstance(setting, Mapping) else None
    return next((one.hard for one in named_poses().values() if one.title == title), 0)
