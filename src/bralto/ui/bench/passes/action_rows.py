"""What the pass of the action says: the sweep, ribcage on pelvis, legs and limbs."""

from __future__ import annotations

from bralto.core.action.action_facts import (
    kept_verdict,
    kept_within,
    kept_words,
    limb_facts,
    mass_facts,
    sweep_facts,
)
from bralto.core.action.bend_and_leans import leans_beside
from bralto.core.action.sweep_pairs import SweepPair
from bralto.core.action.sweeps import WHOLE, table_of
from bralto.core.corrections.push import push_label
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.words.phrases import sentence
from bralto.ui.bench.passes.likeness_rows import fact_row
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.prompt import Prompt
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.widgets.row_list import Row, Tick

__all__ = ["CURVES", "PUSH_NEW", "PUSH_OFF", "TAKE", "action_prompt", "action_rows"]

CURVES, TAKE, PUSH_OFF, PUSH_NEW = "curves:", "take", "push off:", "push new"
"""What the keys of rows are, or begin with."""

_COLUMNS = ("drawn", "seen")


def action_rows(study: OpenStudy) -> tuple[Row, ...]:
    """The sweep first, then the masses that it carries, then what can be drawn."""
    found = study.examination
    rows: list[Row] = []
    for pair in found.sweeps:
        rows += _sweep(study, pair)
    if not any(pair.name == WHOLE for pair in found.sweeps):
        rows.append(Row("", "The sweep", title=True))
        rows.append(Row("", "Not drawn yet", "one stroke, from the top to what bears the weight"))
    masses = found.meant.masses, found.drawn.masses
    facts = mass_facts(*masses, study.grade)
    if facts:
        columns = ("drawn", "meant") if found.pushes else _COLUMNS
        rows.append(Row("", "Ribcage and pelvis", right=columns, title=True))
        rows += [fact_row(one) for one in facts]
    elif isinstance(masses[0], NotMeasurable) and table_of(study.view).ribs:
        rows.append(Row("", "Ribcage and pelvis", title=True))
        rows.append(Row("", "Cannot be told yet", sentence(masses[0].reason)))
    for limb, of_limb in limb_facts(found.seen.runs, found.drawn.runs, study.grade):
        rows.append(Row("", f"{limb}, edge to edge", right=_COLUMNS, title=True))
        rows += [fact_row(one) for one in of_limb]
    return (*rows, *_pushes(study), *_offers(study))


def _sweep(study: OpenStudy, pair: SweepPair) -> list[Row]:
    title = "The sweep" if pair.name == WHOLE else pair.name
    facts = sweep_facts(pair, study.grade)
    if not facts or pair.name in {n for p in table_of(study.view).pairs for n in (p.one, p.other)}:
        return []
    rows = [Row("", title, right=_COLUMNS, title=True)]
    verdict, way = None, "left"
    if not isinstance(pair.kept, NotMeasurable):
        verdict = kept_verdict(pair.kept, study.grade)
        way = "right" if pair.kept.share > 1.0 else "left"
        facts = facts[1:]
    words, why = kept_words(pair), kept_within(pair)
    rows.append(Row("", words, why, glyph=verdict, way=way, role=LIGHT.verdict(verdict)))
    leans = leans_beside(study.corrections) if pair.name == WHOLE else ""
    if leans:
        rows.append(Row("", "By the marks", leans))
    return rows + [fact_row(one) for one in facts]


def _pushes(study: OpenStudy) -> list[Row]:
    """What is meant otherwise than it is seen, and that it can be."""
    if study.imagined:
        return []
    rows = [Row("", "Push", "what you mean otherwise than you see it", title=True)]
    for name, factor in study.examination.pushes.items():
        label = push_label(study.view, name)
        detail = "meant so; click to see it as it is again"
        rows.append(Row(PUSH_OFF + name, label, detail, (f"× {factor:.2f}",), held=True))
    rows.append(Row(PUSH_NEW, "push the pose or a part …"))
    return rows


def _offers(study: OpenStudy) -> list[Row]:
    """What can be drawn, and what is."""
    rows = [Row("", "Draw", "from the top down, from the root outwards", title=True)]
    if _proposal(study):
        rows.append(Row(TAKE, "the proposed sweep", "dashed: as the marks have it"))
    table = table_of(study.view)
    singles = [(name, (name,)) for name in (WHOLE, *table.legs)]
    pairs = [(f"the {one.limb}'s two edges", (one.one, one.other)) for one in table.pairs]
    for label, names in (*singles, *pairs):
        rows.append(_offer(study, label, names))
    return rows


def _offer(study: OpenStudy, label: str, names: tuple[str, ...]) -> Row:
    boards = [study.picture(board) for board in BOARDS if study.has_picture(board)]
    many = sum(name in picture.curves for picture in boards for name in names)
    whole = len(boards) * len(names)
    words = "the sweep of the whole" if label == WHOLE else label
    glyph = Tick.DONE if whole and many == whole else None
    count = f"{many} of {whole}" if many else ""
    held = len(names) == 1 and study.session.shape == names[0]
    return Row(CURVES + "|".join(names), words, right=(count,), glyph=glyph, held=held)


def _proposal(study: OpenStudy) -> bool:
    """Whether the marks propose a sweep that the reference has not."""
    if study.imagined or WHOLE in study.picture(Board.REFERENCE).curves:
        return False
    return not isinstance(study.examination.seen.proposed, NotMeasurable)


def action_prompt(study: OpenStudy) -> Prompt:
    """What to do next about the sweep."""
    seen, drawn = study.picture(Board.REFERENCE), study.picture(Board.DRAWING)
    go_on = ("Ctrl+→", "next pass")
    if WHOLE not in seen.curves and not study.imagined:
        keys = [("Click", "first point"), ("D", "draw it"), go_on]
        if _proposal(study):
            keys = [("Enter", "as proposed"), *keys]
        return Prompt(
            "One stroke along the whole pose, on the reference:",
            "what the pose does, not its outline",
            tuple(keys),
        )
    if WHOLE not in drawn.curves and not study.undrawn:
        keys = [("Click", "first point"), ("D", "draw it"), go_on]
        return Prompt(
            "The same stroke on your drawing:", "as it is drawn, not as meant", tuple(keys)
        )
    if study.undrawn:
        return Prompt(
            "One stroke over the photo of your sketch tells its bend:",
            "drop the photo on the right",
            (("Drag", "a point"), ("D", "draw anew"), go_on),
        )
    lead, how = "Both strokes lie there:", "hold yours against the dotted one"
    if table_of(study.view).ribs:
        lead = "Ribcage against pelvis, one leg against the other:"
        how = "which side is squeezed, which is stretched?"
    return Prompt(
        lead,
        how,
        (("Enter", "go on"), ("Drag", "a point"), ("D", "draw anew"), go_on),
    )
