"""The titles over the bench's columns, and the tape."""

from __future__ import annotations

from collections.abc import Sequence

from bralto.core.canons.shipped_canons import canon_named
from bralto.core.heads.head_forms import HEAD_SCHOOLS
from bralto.core.page.photo import NEAR_M, camera_distance
from bralto.core.results import NotMeasurable
from bralto.core.session.passes import Progress
from bralto.core.session.tapes import TAPES, TapeOrder
from bralto.core.sightings.sighting_words import implied_by_said
from bralto.core.study.stages import stage_at
from bralto.core.study.two_boards import Board
from bralto.core.terms import School
from bralto.core.tolerances import GRADES_OF
from bralto.ui.bench.passes.pass_pages import page_of
from bralto.ui.bench.scales.rungs import heads_tall
from bralto.ui.bench.told.correction_list import ON_SLIPS
from bralto.ui.document.open_study import OpenStudy
from bralto.ui.session import pointing, prompting
from bralto.ui.session.state import BANDS
from bralto.ui.widgets.heading import Choice, Heading
from bralto.ui.widgets.tape import Segment

__all__ = ["ladder_title", "tape_of", "write_headings"]

_BANDS, _TAPE, _TRUST, _BUILT = "bands:", "tape:", "trust", "built:"


def tape_of(progress: Sequence[Progress], states: Sequence[str]) -> tuple[Segment, ...]:
    """The passes side by side, a tick for each thing in them; ``states`` names the drawing's."""
    share = 1.0 / len(progress)
    return tuple(
        Segment(
            one.of.key,
            one.of.title,
            f"{one.done}/{one.total}" if one.of.asked or one.done else "",
            i * share,
            (i + 1) * share,
            ticks=one.total,
            filled=one.done,
            done=one.complete,
            hint=one.of.hint,
            due=stage_at(one.of.key, states) if states else "",
        )
        for i, one in enumerate(progress)
    )


def write_headings(
    study: OpenStudy,
    headings: Sequence[Heading],
    menus: Sequence[Choice | str],
    *,
    eye_first: str = "",
) -> None:
    """Say what each column holds.

    Args:
        headings: over the reference, the middle, the drawing and the list.
        menus: over the reference and over the drawing.
        eye_first: what the eye is asked before anything may be told, or "".
    """
    reference, middle, drawing, off = headings
    near, note = _near_note(study), heads_tall(study, Board.REFERENCE)
    if study.examination.pushes and note:
        note = f"{note}, as you mean it"
    title = f"State {study.session.against}" if study.session.against else "Reference"
    if study.from_life:
        many = len(study.sighted.kept.items)
        title, note = "The figure so far", implied_by_said(many)
    elif study.imagined:
        title, note = "Canon", canon_named(str(study.study.canon)).title.lower()
    schools = tuple((key, f"fitted by {key}") for key in study.now.schools)
    school = study.study.scale.school
    reference.say(title, f"{note} · {near}" if near else note, menus[0])
    if not study.undrawn and not study.imagined:
        schools += ((_TRUST, "fitted by two marks you trust …"),)
    options, current = schools, frozenset[str]({school})
    counted = f"in {study.view.unit}s"
    if study.view.axis:
        options += (("", ""), *((_BANDS + one, f"staff in {one}") for one in BANDS))
        current |= {_BANDS + study.session.bands}
        options += (("", ""), *((_BUILT + key, f"build: {of}") for key, of in HEAD_SCHOOLS.items()))
        current |= {_BUILT + study.session.built}
        counted = (
            "halves and thirds" if study.session.bands == "both" else f"in {study.session.bands}"
        )

    options += (("", ""), *((_TAPE + key, f"tape: {words}") for key, words in TAPES.items()))
    current |= {_TAPE + study.session.tape}

    def choose(key: str) -> None:
        if key.startswith(_TAPE):
            study.apply(prompting.lay_tape, TapeOrder(key.removeprefix(_TAPE)))
        elif key.startswith(_BANDS):
            study.apply(pointing.divide_face, key.removeprefix(_BANDS))
        elif key.startswith(_BUILT):
            study.apply(pointing.build_head, key.removeprefix(_BUILT))
        elif key == _TRUST:
            study.apply(pointing.begin_trust)
        else:
            study.head.set_school(School(key))

    choice = Choice(f"fitted by {school}", options, current, choose)
    page = page_of(study.current_pass)
    if eye_first:
        reference.say(title, "", menus[0])
        middle.say(eye_first, "", "")
        drawing.say("Your drawing", "", menus[1])
        return
    if page.ladder:
        middle.say(ladder_title(study), counted, choice)
    else:
        unit = f"in {study.view.unit}s" if page.unit else ""
        middle.say(page.heading, unit, "" if page.paper else choice)
    if page.paper:
        drawing.say("Your paper", "drag margins, size", "")
    else:
        drawing.say("Your drawing", heads_tall(study, Board.DRAWING), menus[1])
    grades = tuple(
        (g.name, f"{g.name}: {g.head:g} head, {g.degrees:g}°, {g.percent:g} %")
        for g in GRADES_OF[study.view.size].values()
    )
    grade = study.study.grade
    title, note = "What is off", "worst first"
    if study.corrections:
        title, note = "Corrections", "the whole first"
        if study.session.by_share:
            note = "the greatest first"
        if len(study.corrections) > ON_SLIPS:
            note = f"{ON_SLIPS} of {len(study.corrections)}, {note}"
    if study.now.listed.awaits_list:
        title, note = "Corrections", "being looked for"
    if study.now.in_doubt:
        title, note = "Look at this first", ""
    if study.imagined and not study.from_life:
        title, note = "Unlike the average", "a question"
    off.say(title, note, Choice(grade, grades, grade, study.head.set_grade))


def ladder_title(study: OpenStudy) -> str:
    """What stands over the ladder; of a figure that lies, over what stands in its place."""
    here = (one.title for one in study.now.ground.passes if one.key == study.current_pass)
    return next(here, "Heights") if study.lies else "Heights"


def _near_note(study: OpenStudy) -> str:
    """A note when the reference was probably taken from near: near lenses distort."""
    if study.view.key == "object" or study.imagined:
        return ""
    unit = study.assessment.unit
    head = None if isinstance(unit, NotMeasurable) else unit.reference_px
    away = camera_distance(study.picture(Board.REFERENCE), head) if head else None
    if away is None or away >= NEAR_M:
        return ""
    return f"taken from {away:.1f} m: what is near looks large"
