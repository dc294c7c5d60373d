"""What the slips of the passes say: plumb lines, shapes, the gate. Rows only; no widget."""

from __future__ import annotations

import math
from collections.abc import Sequence

from bralto.core.action.action_facts import weight_facts
from bralto.core.corrections.corrected import move_label, name_of
from bralto.core.corrections.push import push_label, pushes_of
from bralto.core.discover.balance import Balance
from bralto.core.discover.crossing import worst_of
from bralto.core.discover.lines import SightLine, held_against
from bralto.core.examination.typical_faults import typical_faults
from bralto.core.measures.shapes import ShapeReading
from bralto.core.measures.verdict import verdict_on
from bralto.core.measures.verdict_names import Verdict
from bralto.core.results import NotMeasurable
from bralto.core.session.facts import canon_facts, facts_of
from bralto.core.session.gate import CHECKS, findings, order_findings
from bralto.core.session.head_facts import head_facts
from bralto.core.session.polygons import shape_verdict, shape_words, suggested_shapes
from bralto.core.session.tapes import TapeOrder
from bralto.core.study.two_boards import Board
from bralto.core.views.pass_keys import PassKey
from bralto.core.words.fact import Fact
from bralto.core.words.phrases import minutes, sentence, signed
from bralto.ui.bench.passes.ground_rows import ground_rows
from bralto.ui.bench.passes.likeness_rows import fact_row, person_rows, told_row
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.theme.tokens import LIGHT
from bralto.ui.widgets.row_list import Row, Tick

__all__ = [
    "ANSWER",
    "LINE",
    "LOGGED",
    "MEANT",
    "NEW_SHAPE",
    "SHAPE",
    "fact_rows",
    "gate_rows",
    "line_rows",
    "shape_rows",
]

LINE, SHAPE, NEW_SHAPE, ANSWER, MEANT = "line:", "shape:", "new shape:", "answer:", "meant:"
LOGGED = "log"
"""What the keys of rows begin with."""

_OWN = "a shape of your own"

_MOST_ALIGNED = 8


def fact_rows(study: OpenStudy) -> tuple[Row, ...]:
    """The figures of a pass beside the ladder."""
    facts = facts_of(
        study.assessment,
        study.current_pass,
        study.examination.seen.figure,
        study.examination.drawn.figure,
    )
    beside = _beside_canon(study)
    if beside:
        beside.append(Row("", "Seen and drawn", right=("drawn", "seen"), title=True))
    if study.current_pass == PassKey.TILTS:
        listed = {one.move for one in study.corrections}
        facts = (*head_facts(study.examination.both.heads, study.grade, listed), *facts)
    person = person_rows(study) if study.current_pass == PassKey.EDGES else []
    return (*beside, *_facts(facts), *person)


def _facts(facts: Sequence[Fact]) -> tuple[Row, ...]:
    return tuple(fact_row(one) for one in facts)


def _beside_canon(study: OpenStudy) -> list[Row]:
    """How this model departs from an average, in what the pass shows: a question to the eye before
    anything is drawn, and no verdict on a body."""
    canon = study.session.canon
    if canon is None:
        return []
    facts = canon_facts(study.view, canon, study.examination.beside(canon), study.current_pass)
    if not facts:
        return []
    title = Row("", "This model", canon.title, ("seen", "average"), title=True)
    return [title, *(fact_row(one) for one in facts)]


def _names(study: OpenStudy, keys: tuple[str, ...]) -> str:
    return ", ".join(study.view.point_label(key) for key in keys)


def line_rows(study: OpenStudy) -> tuple[Row, ...]:
    """Suggested plumb lines, what stands below or level with what, and the weight; that before all
    where the action comes first."""
    seen, drawn = (
        study.examination.seen.figure,
        study.examination.drawn.figure,
    )
    if isinstance(seen, NotMeasurable):
        return (Row("", "No line yet", sentence(seen.reason)),)
    grade, chosen = study.grade, study.line
    rows = [Row("", "Hang a plumb line", "choose one of them", title=True)]
    rows += [_line(study, line, held=line == chosen) for line in study.examination.seen.lines]
    rows.append(Row("", "In line with each other", "seen on the reference", title=True))
    for one in study.examination.seen.alignments[:_MOST_ALIGNED]:
        other = None if isinstance(drawn, NotMeasurable) else held_against(one, drawn)
        way = "below each other" if one.along == "plumb" else "level"
        right = f"{other.miss:.2f} off" if other else ""
        verdict: Verdict | None = None
        if other is not None:
            verdict = verdict_on(other.miss - one.miss, math.hypot(one.u, other.u), grade.head)
            if verdict == Verdict.UNDER:  # straighter than it was seen
                verdict = Verdict.WITHIN
        role = LIGHT.verdict(verdict)
        names = _names(study, one.keys)
        rows.append(Row("", names, way, (right,), verdict, "right", role, points=one.keys))
    weight = _weight(study)
    return (*weight, *rows) if study.session.tape == TapeOrder.ACTION else (*rows, *weight)


def _line(study: OpenStudy, line: SightLine, *, held: bool) -> Row:
    found = study.examination.both.crossings(line)
    others = tuple(one.key for one in found)
    worst, known = worst_of(found), [one for one in found if one.drawn is not None]
    right, verdict = "", None
    if worst is not None and worst.drawn is not None:
        verdict, right = worst.verdict, f"{signed(worst.drawn - worst.seen, 2)}"
    elif known:
        unsure = any(one.verdict == Verdict.CANNOT_TELL for one in known)
        verdict = Verdict.CANNOT_TELL if unsure else Verdict.WITHIN
    role = LIGHT.verdict(verdict)
    way = "right" if verdict == Verdict.OVER else "left"
    label = f"from the {study.view.point_label(line.anchor)}"
    detail = f"crosses {_names(study, others)}"
    key = LINE + ",".join(line.keys)
    return Row(key, label, detail, (right,), verdict, way, role, held=held, points=line.keys)


def _weight(study: OpenStudy) -> list[Row]:
    balance, other = study.examination.seen.balance, study.examination.drawn.balance
    rows = [Row("", "Weight", "in the picture plane, an estimate", title=True)]
    if isinstance(balance, NotMeasurable):
        rows.append(Row("", "Cannot be told yet", sentence(balance.reason)))
    else:
        rows.append(_balance(balance, "seen"))
    if isinstance(other, Balance):
        rows.append(_balance(other, "drawn"))
    seen, drawn = study.examination.seen.weighing, study.examination.drawn.weighing
    facts = weight_facts(seen, drawn, study.view, study.grade)
    if facts:
        rows.append(Row("", "What weighs against what", right=("drawn", "seen"), title=True))
        rows += [fact_row(one) for one in facts]
    return [*rows, *ground_rows(study)]


def _balance(one: Balance, whose: str) -> Row:
    side = "right" if one.offset > 0.0 else "left"
    words = f"{abs(one.offset):.2f} head to your {side} of the feet's middle"
    legs = {"r": "on the model's right leg", "l": "on the model's left leg", "both": "on both legs"}
    inside = "inside the feet" if one.inside else "outside the feet: it would fall, or leans"
    return Row("", f"{whose.capitalize()}: {words}", f"{legs[one.bearing]}, {inside}")


def shape_rows(study: OpenStudy) -> tuple[Row, ...]:
    """The shapes that are there, and those that could be looked for."""
    seen, drawn = study.picture(Board.REFERENCE).polygons, study.picture(Board.DRAWING).polygons
    grade = study.grade
    read = {
        (one.name if isinstance(one, ShapeReading) else one[0]): one
        for one in study.assessment.shapes
    }
    rows = [Row("", "Shapes", "straight lines from corner to corner", title=True)]
    for name in dict.fromkeys((*seen, *drawn)):
        one = read.get(name)
        held = study.session.shape == name
        if isinstance(one, ShapeReading):
            verdict = shape_verdict(one, grade)
            role = LIGHT.verdict(verdict)
            same = f"{100.0 * one.overlap:.0f} % alike"
            rows.append(
                Row(
                    SHAPE + name, name, shape_words(one), (same,), verdict, "right", role, held=held
                )
            )
            continue
        lacking = Board.DRAWING if name in seen else Board.REFERENCE
        detail = f"draw it on the {lacking} too"
        if one is not None:
            detail = sentence(one[1].reason)
        elif study.now.alone:
            detail = "on the reference"
        rows.append(Row(SHAPE + name, name, detail, glyph=Tick.OPEN, held=held))
    if len(rows) == 1:
        rows.append(Row("", "None yet", "a gap has no name: the eye sees it as it is"))
    rows.append(Row("", "Draw a new one", title=True))
    fresh = [name for name in suggested_shapes(study.view) if name not in {**seen, **drawn}]
    rows += [Row(NEW_SHAPE + name, name) for name in fresh]
    rows.append(Row(NEW_SHAPE, _OWN))
    return tuple(rows)


def gate_rows(study: OpenStudy) -> tuple[Row, ...]:
    """What was checked and what was not; five questions on how the drawing was made."""
    told = findings(study.assessment, study.now.progress())
    rows = [Row("", "What the marks say", title=True)]
    rows += [told_row(one.words, one.detail, one.good) for one in told]
    rows += _order(study)
    rows += person_rows(study) + _faults(study) + _meant(study) + _put_right(study)
    rows.append(Row("", "How it was made", "Enter or click: yes, partly, no", title=True))
    given = study.notes.answers.get(study.session.state_name, {})
    for key, question, why in CHECKS:
        answer = given.get(key, "")
        glyph = {"yes": Tick.DONE, "no": Tick.OPEN, "partly": Tick.OPEN}.get(answer)
        rows.append(Row(ANSWER + key, question, why, (answer,), glyph))
    return (*rows, *_logged(study), *_times(study))


def _order(study: OpenStudy) -> list[Row]:
    """How the drawing was gone about, as its states show it."""
    off = study.assessment.off()
    found = order_findings(study.examination.order, off, study.session.straight)
    if not found:
        return []
    title = Row("", "How it came about", "by the photos of its stages", title=True)
    return [title, *(told_row(one.words, one.detail, one.good) for one in found)]


def _logged(study: OpenStudy) -> list[Row]:
    """What was written about it, or that it can be."""
    log = study.notes.log
    said = [(key, log[key]) for key in ("well", "next") if key in log]
    rows = [Row("", "Your log", title=True)]
    for key, words in said:
        title = {"well": "Went well", "next": "Next time"}[key]
        rows.append(Row(LOGGED, title, words))
    if not said:
        rows.append(Row(LOGGED, "What went well, what next?", "Enter or click: write it down"))
    return rows


def _times(study: OpenStudy) -> list[Row]:
    """Minutes in each pass."""
    seconds = study.notes.seconds
    spent = [(one, seconds.get(one.key, 0.0)) for one in study.now.ground.passes]
    rows = [Row("", one.title, right=(minutes(took),)) for one, took in spent if took >= 30.0]
    whole = minutes(sum(took for _, took in spent))
    return [Row("", "Time", f"{whole} on this study", title=True), *rows] if rows else []


def _faults(study: OpenStudy) -> list[Row]:
    """Typical faults that occur here, with what the eye does."""
    pictures = (study.picture(Board.REFERENCE), study.picture(Board.DRAWING))
    figures = (
        study.examination.seen.figure,
        study.examination.drawn.figure,
    )
    found = typical_faults(study.assessment, study.corrections, pictures, figures)
    if not found:
        return []
    title = Row("", "Often behind it", "it happens to most", title=True)
    return [title, *(Row("", one.words, one.why) for one in found)]


def _meant(study: OpenStudy) -> list[Row]:
    """What was changed on purpose."""
    rows = []
    for intent in study.study.intents:
        spec = study.view.measure(intent.measure)
        pushed = next(iter(pushes_of((intent,))), "")
        label = spec.label if spec else push_label(study.view, pushed) or intent.measure
        rows.append(Row(MEANT + intent.measure, label, right=(f"x {intent.factor:.2f}",)))
    title = Row("", "Meant so", "click what is not meant any more", title=True)
    return [title, *rows] if rows else []


def _put_right(study: OpenStudy) -> list[Row]:
    """What was ticked on the state before, checked on this one."""
    names = [state.name for state in study.study.states]
    at = names.index(study.session.state_name) if study.session.state_name in names else 0
    ticked = study.notes.put_right.get(names[at - 1], ()) if at > 0 else ()
    if not ticked or study.now.listed.awaits_list:
        return []
    open_now = {name_of(one): one for one in study.corrections}
    rows = [Row("", f"Put right since '{names[at - 1]}'", "checked on this state", title=True)]
    for name in ticked:
        still = open_now.get(name)
        detail = "no longer off" if still is None else f"still: {still.words} ({still.doubt})"
        tick = Tick.OPEN if still else Tick.DONE
        rows.append(Row("", move_label(study.view, name), detail, glyph=tick))
    return rows
