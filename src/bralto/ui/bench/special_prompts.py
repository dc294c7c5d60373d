"""What the prompt line says besides asking for the next mark."""

from __future__ import annotations

from collections.abc import Sequence

from bralto.core.photo import NEAR_M, camera_distance
from bralto.core.results import NotMeasurable
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.tools import TOOLS
from bralto.ui.prompt import Prompt
from bralto.ui.state.open_study import OpenStudy

__all__ = ["near_note", "special_prompt"]


_OVER = {
    "ghost": ("Your drawing over the reference:", "as a veil"),
    "blink": ("Drawing and reference by turns:", "what jumps is off"),
    "wipe": ("Your drawing to the right of the pointer:", "move it over the reference"),
}


def special_prompt(
    study: OpenStudy, boards: Sequence[PictureBoard], told: str, over: str | None = None
) -> Prompt | None:
    """A tool in hand, something to be told, blind passes, carried marks, the drawing laid over the
    reference; None for the usual."""
    for board in boards:
        if board.tool is not None:
            lead, how = TOOLS[board.tool.name]
            return Prompt(lead, how, (("Drag", "draw"), ("Esc", "leave it")))
    run = study.repeating
    if run is not None and run.asked is not None:
        mark = study.view.landmark(run.asked)
        label = mark.label if mark else run.asked
        where = "reference" if run.board == "reference" else "drawing"
        how = f"without looking where it was; {run.left} to go"
        return Prompt(f"Again: the {label} on the {where},", how, (("Esc", "leave it"),))
    if told:
        return Prompt(told, "", (("Ctrl+Z", "undo"),))
    if over is not None:
        lead, how = _OVER[over]
        fitted = f"{how}, fitted by {study.study.scale.school}"
        return Prompt(lead, fitted, (("Space", "veil"), ("B", "blink"), ("W", "wipe")))
    if study.held is not None:
        return Prompt(f"{study.held.words}:", study.held.doubt, (("1 to 9", "hold another"),))
    asked = study.asked_proposal
    if asked is not None:
        left = len(study.proposals("drawing"))
        label = study.view.point_label(asked[1])
        how = f"drag it, or leave it; {left} carried over"
        keys = (("Enter", "right where it is"), ("Drag", "mend"))
        return Prompt(f"Is the {label} there on the drawing?", how, keys)
    return None


def near_note(study: OpenStudy) -> str:
    """A note when the reference was probably taken from near: near lenses distort."""
    if study.view.key == "object":
        return ""
    unit = study.assessment.unit
    head = None if isinstance(unit, NotMeasurable) else unit.reference_px
    away = camera_distance(study.picture("reference"), head) if head else None
    if away is None or away >= NEAR_M:
        return ""
    return f"taken from {away:.1f} m: what is near looks large"
