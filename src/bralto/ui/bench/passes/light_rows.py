"""What the pass of the light says: shadows of both pictures, their edges, the place of focus."""

from __future__ import annotations

import numpy as np

from bralto.core.light.light_facts import apart_words, light_facts, shape_words_of
from bralto.core.light.shadows_held import LightReading, carried_with_marks
from bralto.core.light.three_values import ThreeValues, value_facts
from bralto.core.marking.whereabouts import about_a_head
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.session.gate import not_yet
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.words.phrases import sentence
from bralto.ui.bench.passes.likeness_rows import fact_row
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.widgets.row_list import Row, Tick

__all__ = [
    "FIND", "FOCUS_ROW", "INSIST", "OUTLINE_ROW", "TAKE_AWAY", "VALUES", "light_prompt",
    "light_rows", "opens",
]  # fmt: skip

FIND, OUTLINE_ROW, TAKE_AWAY = "find:", "outline:", "take away:"
INSIST, FOCUS_ROW, VALUES = "insist", "focus", "values"
"""What the keys of rows are, or begin with."""


def opens(study: OpenStudy) -> str:
    """Why the light is not looked at yet, or ""."""
    if study.undrawn or study.session.insists or study.picture(Board.DRAWING).shadows:
        return ""
    return not_yet(study.now.advice)


def light_rows(study: OpenStudy) -> tuple[Row, ...]:
    """Shadows held together, once the proportions hold or the learner insists."""
    early = opens(study)
    if early:
        return (
            Row("", "No shading before the proportions hold", title=True),
            Row("", "Not yet", sentence(early), glyph=Tick.OPEN),
            Row(INSIST, "Look at the light all the same", "Enter or click"),
        )
    found = study.examination.both.light
    rows = [Row("", "Light and shadow", right=("drawn", "seen"), title=True)]
    if isinstance(found, LightReading):
        rows += [fact_row(one) for one in light_facts(found, study.grade)]
        rows += _shapes(found)
    elif not study.undrawn:
        rows.append(Row("", "Cannot be told yet", sentence(found.reason)))
    else:
        rows.append(Row("", "Two shapes, before any middle tone", "squint at it: Q"))
    return (*rows, *_values(study), *_focus(study), *_offers(study))


def _shapes(found: LightReading) -> list[Row]:
    rows = []
    kinds = ((found.lost, True, Verdict.UNDER), (found.invented, False, Verdict.OVER))
    for patches, lost, glyph in kinds:
        if patches:
            words = shape_words_of(patches, lost)
            way = "left" if lost else "right"
            rows.append(Row("", words, glyph=glyph, way=way, role=LIGHT.verdict(glyph)))
    return rows


def _values(study: OpenStudy) -> list[Row]:
    """The figure in three values, on wish."""
    found = study.session.values
    parted = {name: one for name, one in found.items() if isinstance(one, ThreeValues)}
    both = parted.get(Board.REFERENCE), parted.get(Board.DRAWING)
    facts = value_facts(*both, study.grade) if parted else ()
    detail = (
        "click: two again" if found else "dark, half-tone and light, as they part by themselves"
    )
    title = Row("", "Three values", right=("drawn", "seen") if facts else (), title=True)
    row = Row(VALUES, "look at it in three values", detail, held=bool(found))
    lacking = [
        Row("", f"The {name} has none", sentence(one.reason))
        for name, one in found.items()
        if isinstance(one, NotMeasurable)
    ]
    return [title, *(fact_row(one) for one in facts), *lacking, row]


def _focus(study: OpenStudy) -> list[Row]:
    """Where light and dark meet most sharply, against where the eye should go to."""
    rows = [Row("", "Where the eye goes", title=True)]
    named = study.notes.focal
    tones = study.session.tones
    if named is None:
        where = Board.DRAWING if study.imagined else Board.REFERENCE
        rows.append(Row(FOCUS_ROW, "Name the place of focus", f"then click it on the {where}"))
    else:
        rows.append(Row(FOCUS_ROW, "The place that you named", "click: name another", held=True))
    for board in BOARDS:
        if board not in tones:
            continue
        place = tones[board][1:]
        there, verdict = "ringed", None
        picture = study.picture(board)
        meant = named
        if named is not None and board == Board.DRAWING and not study.imagined:
            meant = _on_drawing(study, named)
        if meant is not None:
            head = about_a_head(study.view, picture)
            there, verdict = apart_words(meant, place, head, study.grade)
        label = f"sharpest contrast, the {board}"
        rows.append(Row("", label, right=(there,), glyph=verdict, role=LIGHT.verdict(verdict)))
    return rows


def _on_drawing(study: OpenStudy, place: tuple[float, float]) -> tuple[float, float] | None:
    """Where a place of the reference, image px, lies on the drawing."""
    by = carried_with_marks(
        study.view, study.picture(Board.REFERENCE), study.picture(Board.DRAWING)
    )
    found = by if isinstance(by, NotMeasurable) else by.to_image(np.array([place]))
    return None if isinstance(found, NotMeasurable) else (float(found[0, 0]), float(found[0, 1]))


def _offers(study: OpenStudy) -> list[Row]:
    rows = [Row("", "Find and mend", title=True)]
    for board in BOARDS:
        if not study.has_picture(board):
            continue
        tone = study.session.tones.get(board)
        rings = study.picture(board).shadows
        detail = "" if tone is None else f"below {100.0 * tone[0]:.0f} % of white; [ less, ] more"
        glyph, many = (Tick.DONE, f"{len(rings)}") if rings else (None, "")
        rows.append(Row(FIND + board, f"shadows of the {board}", detail, (many,), glyph))
        rows.append(Row(OUTLINE_ROW + board, f"outline one by hand on the {board}"))
        if rings:
            rows.append(Row(TAKE_AWAY + board, f"take one away on the {board}"))
    return rows


def light_prompt(study: OpenStudy) -> Prompt:
    """What to do next about the light."""
    go_on = ("Ctrl+→", "next pass")
    if opens(study):
        lead = "Proportions first, then light:"
        return Prompt(
            lead, "put the greatest correction right", (go_on, ("F6", "look all the same"))
        )
    pictured = [board for board in BOARDS if study.has_picture(board)]
    lacking = [board for board in pictured if not study.picture(board).shadows]
    if lacking:
        return Prompt(
            f"Two shapes on the {lacking[0]}, light and shadow:",
            "squint first, then let them be found",
            (("Enter", "find them"), ("D", "outline one"), ("Q", "squint"), go_on),
        )  # fmt: skip
    return Prompt(
        "Red: your dark goes too far; blue: it falls short:", "big edges before small",
        (("[ ]", "less, more"), ("Drag", "a corner"), ("D", "outline one"), ("Q", "squint"), go_on),
    )  # fmt: skip
