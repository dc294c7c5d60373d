"""What sightings come to, for the commands: held against a drawing, and what is open."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from bralto.core.results import NotMeasurable
from bralto.core.sightings.figure.implied import imply
from bralto.core.sightings.figure.read_off import head_changed
from bralto.core.sightings.held import held_against
from bralto.core.sightings.next_question import next_questions
from bralto.core.sightings.sighting_words import (
    asked,
    doubt_said,
    error_said,
    head_change_said,
    label_of,
    value_said,
)
from bralto.core.sightings.stance import doubted, stance_doubt
from bralto.core.sightings.told_skills import told_so_far
from bralto.core.study.anchored import view_of
from bralto.core.study.taken import Sighting, Sightings
from bralto.core.study.values import State, Study
from bralto.core.views.model import View
from bralto.core.words.phrases import how_many

__all__ = [
    "contradiction_lines",
    "doubts_document",
    "find_document",
    "find_text",
    "held_document",
    "held_text",
]


def held_document(study: Study, state: State, grade: str) -> list[dict[str, Any]]:
    """Each sighting held against a drawing."""
    view, sightings = view_of(study), study.sightings or Sightings()
    return [
        {
            "what": label_of(view, one.sighting), "sighted": one.sighting.value,
            "sighted_u": one.sighting.u, "drawing": one.drawn, "error": one.error, "u": one.u,
            "verdict": one.verdict,
        }
        for one in held_against(view, sightings, state.picture, view.grade(grade))
    ]  # fmt: skip


def held_text(study: Study, state: State, grade: str) -> str:
    """The same in lines."""
    view, sightings = view_of(study), study.sightings or Sightings()
    lines = ["", "Each sighting, held against the drawing:"]
    for one in held_against(view, sightings, state.picture, view.grade(grade)):
        said = one.sighting
        error = "" if one.error is None else error_said(said, one.error, one.u)
        lines.append(
            f"  {label_of(view, said):<38} {value_said(said):>22}  {error:>14}  {one.verdict}"
        )
    return "\n".join(lines)


def doubts_document(view: View, items: Sequence[Sighting]) -> dict[str, Any]:
    """How the model is said to be placed and what suits better, and what cannot both be."""
    likelier, cannot = doubted(view, items)
    return {
        "stance": view.stance, "suits_better": likelier,
        "contradictions": [[row + 1 for row in one.rows] for one in cannot],
    }  # fmt: skip


def contradiction_lines(study: Study) -> list[str]:
    """What cannot be, in words."""
    view, items = view_of(study), (study.sightings or Sightings()).items
    changed = head_changed(view, items)
    lines = [] if changed is None else [head_change_said(changed)]
    likelier, cannot = doubted(view, items)
    if likelier is not None:
        lines.append(stance_doubt(view, likelier))
    for found in cannot:
        names = " and ".join(f"{row + 1} ({label_of(view, items[row])})" for row in found.rows)
        lines.append(
            f"One of these cannot be: {names}; sight again."
            if len(found.rows) > 1
            else f"{names} does not fit the others; sight it again."
        )
    return lines


def find_document(study: Study) -> dict[str, Any]:
    """What the sightings tell, what they contradict, and what to sight next."""
    view, items = view_of(study), (study.sightings or Sightings()).items
    grade = view.grade(study.grade)
    implied = imply(view, items)
    following = next_questions(view, items, grade)
    told = () if isinstance(implied, NotMeasurable) else told_so_far(view, implied, grade)
    asks = () if isinstance(following, NotMeasurable) else following
    return {
        "told": [
            {
                "skill": one.skill,
                "u": one.u,
                "unit": one.unit,
                "sighted": one.sighted,
                "clear": one.clear,
            }
            for one in told
        ],
        **doubts_document(view, items),
        "next": [
            {"measure": one.sighting.measure, "question": asked(view, one.sighting).text}
            for one in asks
        ],
    }


def find_text(study: Study) -> str:
    """The same in lines."""
    view, found = view_of(study), find_document(study)
    items = (study.sightings or Sightings()).items
    lines = [f"{how_many(len(items), 'sighting')} from life."]
    lines += [
        f"  {label_of(view, one):<38} {value_said(one):>22}  {doubt_said(one)}" for one in items
    ]
    lines += contradiction_lines(study)
    lines.append("What they tell:")
    for row in found["told"]:
        unit = {"degree": "°", "head": " head"}.get(row["unit"], "")
        doubt = "not sighted yet" if row["u"] is None else f"± {2.0 * row['u']:.2f}{unit}"
        lines.append(f"  {row['skill']}: {doubt}, {100.0 * row['sighted']:.0f} % sighted")
    if found["next"]:
        lines.append("To be sighted next:")
        lines += [f"  {row['question']}" for row in found["next"]]
    return "\n".join(lines)
