"""What a learner notes on the bench beside marks: the plan, what was put right, the gate's answers.

It goes into the study file as an object under ``bench``; whatever in it is not understood, as of a
later version or of a hand that wrote it, is kept and counts as not there.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from bralto.core.study.values import Study

__all__ = ["KEY", "LOG", "Notes", "PlanNote", "notes_of", "with_notes"]

KEY = "bench"
"""Under which the notes stand in a study file."""

LOG = ("well", "next", "materials", "before", "after")
"""What the log holds: what went well, what to measure more carefully next time, the materials, and
the learner's own rating before and after any figure was seen (1 to 5)."""


@dataclass(frozen=True, slots=True)
class PlanNote:
    """How the sheet was planned; see `sheet.plan_sheet`. ``head_mm`` None is the largest;
    ``print_mm``, how high the picture stands beside the sheet, or None where that is not said."""

    paper: str = "A3"
    margin: float = 20.0
    head_mm: float | None = None
    landscape: bool | None = None
    print_mm: float | None = None


@dataclass(frozen=True, slots=True)
class Notes:
    """All of it.

    Attributes:
        plan: of the sheet, or None before it was looked at.
        line: the chosen plumb line as its marks, or () for the one that is suggested first.
        put_right: state -> the names of the corrections that were ticked on it.
        answers: state -> question -> answer of the gate.
        seconds: pass -> time spent in it.
        level_with: id of the study that shows the same head from another side, or "".
        again_of: id of the first study of the same pose, of which this is another try, or "".
        focal: where on the reference the eye should go to, image px, or None.
        horizon: name of a state, or "" of the reference -> any place at the height of the eye on
            its picture, image px.
        log: what the learner wrote about it afterwards: question -> words (`LOG`).
    """

    plan: PlanNote | None = None
    line: tuple[str, ...] = ()
    put_right: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    answers: Mapping[str, Mapping[str, str]] = field(default_factory=dict)
    seconds: Mapping[str, float] = field(default_factory=dict)
    level_with: str = ""
    again_of: str = ""
    log: Mapping[str, str] = field(default_factory=dict)
    focal: tuple[float, float] | None = None
    horizon: Mapping[str, tuple[float, float]] = field(default_factory=dict)

    def wrote(self, question: str, words: str) -> Notes:
        """With other words to a question of the log; none take it away."""
        kept = {key: said for key, said in self.log.items() if key != question}
        if words.strip():
            kept[question] = words.strip()
        return replace(self, log=kept)

    def ticked(self, state: str, name: str) -> bool:
        """Whether a correction is ticked as put right on that state."""
        return name in self.put_right.get(state, ())

    def tick(self, state: str, name: str) -> Notes:
        """With a correction ticked, or not any more."""
        there = self.put_right.get(state, ())
        now = tuple(n for n in there if n != name) if name in there else (*there, name)
        return replace(self, put_right={**self.put_right, state: now})

    def answer(self, state: str, question: str, answer: str | None) -> Notes:
        """With a question answered, or None: not answered any more."""
        given = {k: v for k, v in self.answers.get(state, {}).items() if k != question}
        if answer is not None:
            given[question] = answer
        return replace(self, answers={**self.answers, state: given})

    def spend(self, step: str, seconds: float) -> Notes:
        """With more time in a pass."""
        return replace(
            self, seconds={**self.seconds, step: self.seconds.get(step, 0.0) + max(seconds, 0.0)}
        )


def _number(value: object) -> float | None:
    if isinstance(value, bool) or not isinstance(value, int | float):
        return None
    return float(value) if math.isfinite(value) else None


def _table(value: object) -> Mapping[str, object]:
    return {k: v for k, v in value.items() if isinstance(k, str)} if isinstance(value, dict) else {}


def _words(value: object) -> tuple[str, ...]:
    return tuple(one for one in value if isinstance(one, str)) if isinstance(value, list) else ()


def _place(value: object) -> tuple[float, float] | None:
    if not isinstance(value, list) or len(value) != 2:
        return None
    x, y = (_number(one) for one in value)
    return None if x is None or y is None else (x, y)


def notes_of(study: Study) -> Notes:
    """The notes of a study."""
    kept = _table(study.extra.get(KEY))
    plan = None
    if isinstance(kept.get("plan"), dict):
        said, plain = _table(kept["plan"]), PlanNote()
        paper, lies = said.get("paper"), said.get("landscape")
        margin = _number(said.get("margin"))
        plan = PlanNote(
            paper if isinstance(paper, str) else plain.paper,
            plain.margin if margin is None else margin,
            _number(said.get("head_mm")),
            lies if isinstance(lies, bool) else None,
            _number(said.get("print_mm")),
        )
    answers = {
        state: {k: v for k, v in _table(given).items() if isinstance(v, str)}
        for state, given in _table(kept.get("answers")).items()
    }
    times = {k: _number(v) for k, v in _table(kept.get("seconds")).items()}
    level, again = kept.get("level_with"), kept.get("again_of")
    log = {k: v for k, v in _table(kept.get("log")).items() if isinstance(v, str)}
    return Notes(
        plan,
        _words(kept.get("line")),
        {state: _words(names) for state, names in _table(kept.get("put_right")).items()},
        answers,
        {k: v for k, v in times.items() if v is not None},
        level if isinstance(level, str) else "",
        again if isinstance(again, str) else "",
        log,
        _place(kept.get("focal")),
        {k: at for k, v in _table(kept.get("horizon")).items() if (at := _place(v)) is not None},
    )


def with_notes(study: Study, notes: Notes) -> Study:
    """A copy of a study with other notes; what of the old ones was not understood stays."""
    kept = dict(_table(study.extra.get(KEY)))
    plan = notes.plan
    kept |= {
        "line": list(notes.line),
        "put_right": {state: list(names) for state, names in notes.put_right.items()},
        "answers": {state: dict(given) for state, given in notes.answers.items()},
        "seconds": {step: round(took, 1) for step, took in notes.seconds.items()},
    }
    for key, value in (
        ("level_with", notes.level_with), ("again_of", notes.again_of), ("log", dict(notes.log)),
        ("focal", list(notes.focal or ())),
        ("horizon", {name: list(at) for name, at in notes.horizon.items()}),
    ):  # fmt: skip
        kept.pop(key, None)
        if value:
            kept[key] = value
    if plan is not None:
        kept["plan"] = {
            "paper": plan.paper,
            "margin": plan.margin,
            "head_mm": plan.head_mm,
            "landscape": plan.landscape,
            "print_mm": plan.print_mm,
        }
    return replace(study, extra={**study.extra, KEY: kept})
