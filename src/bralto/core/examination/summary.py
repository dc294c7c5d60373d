"""What is kept of a measured study, so that shelf and record need not measure it again.

Light on purpose: the window reads thousands of these before it loads NumPy.
"""

from __future__ import annotations

from bralto.core.quick_tuples import NamedTuple
from bralto.core.results import NotMeasurable

__all__ = ["NO_FACTS", "SCIENCE", "SKILLS", "Facts", "MissFigure", "SkillFigure", "Summary"]

SCIENCE = 21
"""Version of the science: one more whenever the same marks come to other figures. Summaries of an
earlier one are measured again. A test holds the figures of a study against this number."""

SKILLS = ("heights", "widths", "tilts", "plumb", "halves", "thirds")
"""The skills that measures tell, in the order of the work. Besides there are ``shapes``, how far
two outlines lie apart at most, ``bend``, how far the bend that was drawn is from all of it, and
``seeing`` and ``hand`` where it was guessed first, and ``sighting`` where the reference was sighted
for practice, with the bias of each family of sightings (`sighting_told.SIGHTED`)."""


class MissFigure(NamedTuple):
    """A typical miss (`fit.miss.Miss`), reference heads: value, standard uncertainty ``u``, mark
    limit, and how many marks it rests on."""

    value: float
    u: float
    limit: float
    marks: int


class SkillFigure(NamedTuple):
    """How well one skill went, in ``unit``: the mean of the middle half of the sizes of its errors
    once the whole is put right, with its standard uncertainty ``u``, what the placing of marks
    alone makes of it (``limit``), and how many measures it rests on."""

    skill: str
    unit: str
    value: float
    u: float
    limit: float
    measures: int


class Summary(NamedTuple):
    """What the record keeps of a study.

    Attributes:
        tracked: typical miss over the short set, comparable between studies, or why not.
        miss: typical miss over all marks.
        skills: a figure for each skill that has been measured.
        unit: what lengths are counted in, in the singular.
    """

    tracked: MissFigure | NotMeasurable
    miss: MissFigure | NotMeasurable
    skills: tuple[SkillFigure, ...]
    unit: str = "head"

    def skill(self, name: str) -> SkillFigure | None:
        """The figure of that skill, or None."""
        return next((figure for figure in self.skills if figure.skill == name), None)

    @property
    def only_sighted(self) -> bool:
        """Whether there is no drawing, and the reference was sighted for practice."""
        sighted = [one.skill.startswith("sighting") for one in self.skills]
        return bool(sighted) and all(sighted) and not self.miss


class Facts(NamedTuple):
    """What a study is told apart from others by.

    Attributes:
        school, grade: in force. paper: name of the sheet drawn on, its size in mm, or "".
        source: what was drawn from: ``model``, ``photo``, ``life`` or ``canon``.
        hard: how hard the model's pose is, 1 to 5; 0 where that is not known.
        again: id of the study of which this is another try, or "".
        cropped: ``cropped`` where marks of the short set are not in the picture, or "".
    """

    school: str
    grade: str
    paper: str
    source: str
    hard: int
    again: str
    cropped: str = ""


NO_FACTS = Facts("", "", "", "", 0, "")
