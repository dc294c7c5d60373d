"""What the pass of plumb and weight says of the ground under the figure."""

from __future__ import annotations

from bralto.core.action.eye_level import shows_ground
from bralto.core.action.ground import StandingGround
from bralto.core.action.ground_facts import ground_facts, ground_words
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import BOARDS
from bralto.core.words.phrases import sentence
from bralto.ui.bench.passes.likeness_rows import fact_row, told_row
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.widgets.row_list import Row

__all__ = ["BOX_ROW", "HORIZON_ROW", "ground_rows"]

HORIZON_ROW, BOX_ROW = "horizon:", "box on the ground"
"""What the keys of rows are, or begin with."""

_TOLD_BY = {
    "named": "as you named it",
    "model": "as the model is seen",
    "feet": "as both feet tell it",
    "reference": "the reference's",
}


def ground_rows(study: OpenStudy) -> list[Row]:
    """Height of the eye, the feet on one ground, the box in perspective."""
    if study.imagined or not shows_ground(study.view):
        return []  # nor is what a view can never tell offered
    rows = [Row("", "The ground", "from the feet and the height of the eye", title=True)]
    for board in BOARDS[: 1 if study.undrawn else 2]:
        named = study.session.picture_name(board) in study.notes.horizon
        label = f"the height of the eye on the {board}"
        detail = "click: not named any more" if named else "click, then a place at that height"
        rows.append(Row(HORIZON_ROW + board, label, detail, held=named))
    seen, drawn = study.grounds
    facts = ground_facts(seen, drawn, study.grade)
    if facts:
        held = study.session.boxed
        rows.append(Row(BOX_ROW, "the box it stands in, in perspective", held=held))
        columns = Row("", "On the ground, heads", right=("drawn", "seen"), title=True)
        rows += [columns, *(fact_row(one) for one in facts)]
    for found, whose in ((seen, "Seen"), (drawn, "Drawn")):
        if isinstance(found, StandingGround):
            words, more, good = ground_words(found)
            eye = f"height of the eye: {_TOLD_BY[found.eye.told_by]}"
            how = f"{more}; {eye}" if more else eye
            rows.append(told_row(f"{whose}: {words}", how, good))
    if isinstance(seen, NotMeasurable):
        rows.append(Row("", "Cannot be told yet", sentence(seen.reason)))
    return rows
