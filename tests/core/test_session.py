"""The passes of a session, its notes, and what single passes find out."""

from __future__ import annotations

import json
import math
from dataclasses import replace

import pytest
from tests.studies import figure_marks, moved, study_of

from bralto.core.discover.crossing import crossings, worst_of
from bralto.core.discover.envelope import envelope_of
from bralto.core.discover.figures import figure_of
from bralto.core.discover.lines import sight_lines
from bralto.core.examination.assessment import assess
from bralto.core.marking.placing import next_step
from bralto.core.measures.kinds import fold_degrees
from bralto.core.measures.verdict import verdict_on
from bralto.core.measures.verdict_names import VERDICTS
from bralto.core.results import NotMeasurable
from bralto.core.session.facts import facts_of
from bralto.core.session.gate import CHECKS, checked, findings
from bralto.core.session.notes import KEY, Notes, PlanNote, notes_of, with_notes
from bralto.core.session.passes import progress_of, session_passes, worth_next
from bralto.core.session.polygons import suggested_shapes
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.exchange.study_file import parse_study, study_document

VIEW = view_named("figure-front")
GRADE = GRADES["developing"]


def aside(marks: dict, key: str, heads: float) -> dict:
    """The marks with one of them moved to the viewer's right by heads of 100 px."""
    at = marks[key]
    return marks | {key: replace(at, x=at.x + 100.0 * heads)}


@pytest.mark.parametrize("key", view_keys())
def test_every_view_has_the_passes_in_the_practitioners_order(key: str) -> None:
    """Eight, and once the whole has been looked at of a head the likeness, of a side view the other
    leg and arm."""
    view = view_named(key)
    passes = session_passes(view)
    likeness = ["likeness"] if view.axis else ["far"] if key == "figure-side" else []
    assert [one.key for one in passes] == [
        "sheet", "edges", "plumb", "heights", "widths", "tilts", *likeness, "action", "shapes",
        "light", "verdict",
    ]  # fmt: skip
    first = session_passes(view, tape="action")
    assert [one.key for one in first] == [
        "sheet", "action", "plumb", "edges", "tilts", "heights", "widths", *likeness, "shapes",
        "light", "verdict",
    ]  # fmt: skip
    # All landmarks are asked for in one pass; plumb and likeness look at some of them once more.
    again = {"plumb", "likeness"}
    asked = [mark for one in passes if one.key not in again for mark in one.marks]
    of_likeness = [mark.key for mark in view.landmarks if mark.step == "likeness"]
    assert sorted(asked + of_likeness) == sorted(mark.key for mark in view.landmarks)
    assert bool(of_likeness) == ("likeness" in likeness)
    assert {one.key for one in passes if not one.asked} >= set(likeness)


def test_what_is_worth_doing_is_the_first_pass_that_lacks_a_mark() -> None:
    passes = session_passes(VIEW)
    edges = {key for one in passes if one.key == "edges" for key in one.marks}
    progress = progress_of(passes, edges, edges, {"verdict": (0, 5)})
    assert next(one for one in progress if one.of.key == "edges").complete
    assert worth_next(progress, "edges").key == "plumb"
    assert worth_next(progress, "plumb").key == "heights"  # it can be left at any time
    every = set(VIEW.placing)
    progress = progress_of(passes, every, every, {"verdict": (0, 5)})
    assert worth_next(progress, "tilts").key == "verdict"
    assert worth_next(progress, "verdict") is None
    # On the reference alone nothing waits for the drawing.
    alone = progress_of(passes, every, (), {}, only=Board.REFERENCE)
    assert all(one.complete for one in alone if one.of.marks)
    assert not any(one.done for one in progress_of(passes, every, (), {}))


def test_a_pass_asks_for_its_own_marks_alone_and_on_the_reference_first() -> None:
    within = next(one.marks for one in session_passes(VIEW) if one.key == "tilts")
    step = next_step(VIEW, (), (), (), within)
    assert step.board == Board.REFERENCE
    assert step.key in within
    done = next_step(VIEW, within, (), (), within, only=Board.REFERENCE)
    assert done is None
    assert next_step(VIEW, within, (), (), within).board == Board.DRAWING


def test_notes_survive_the_study_file_and_keep_what_they_do_not_understand() -> None:
    marks = figure_marks()
    notes = Notes(PlanNote("A2", 25.0, 44.5, True), ("chin", "navel"))
    notes = notes.tick("first", "scale:head").answer("first", "plumb", "partly").spend("edges", 12)
    study = replace(study_of(marks, marks), extra={KEY: {"later": [1, 2]}, "other": 3})
    kept = with_notes(study, notes)
    back = parse_study(json.dumps(study_document(kept)), "here")
    assert notes_of(back) == notes
    assert back.extra[KEY]["later"] == [1, 2]
    assert back.extra["other"] == 3
    assert notes.ticked("first", "scale:head")
    assert not notes.tick("first", "scale:head").ticked("first", "scale:head")
    assert notes.answer("first", "plumb", None).answers["first"] == {}
    assert notes.spend("edges", 3.0).spend("edges", -5.0).seconds["edges"] == 15.0


@pytest.mark.parametrize(
    "written",
    [
        None, 3, [], {"plan": 7}, {"plan": {"paper": 3, "margin": "x", "head_mm": True}},
        {"line": "chin", "put_right": [1], "answers": {"first": 3}, "seconds": {"edges": "long"}},
        {"line": [1, "chin"], "put_right": {"first": [None]}, "seconds": {"edges": float("inf")}},
    ],
)  # fmt: skip
def test_notes_of_a_strangers_hand_count_as_not_there(written: object) -> None:
    study = replace(study_of({}, {}), extra={KEY: written})
    notes = notes_of(study)
    assert notes.plan in (None, PlanNote())
    assert notes.put_right in ({}, {"first": ()})
    assert notes.answers in ({}, {"first": {}})
    assert notes.seconds == {}
    assert set(notes.line) <= {"chin"}
    assert notes_of(with_notes(study, notes)) == notes


def test_the_envelope_is_the_box_of_the_outermost_marks_with_its_uncertainty() -> None:
    marks = figure_marks(spread=2.0)
    figure = figure_of(VIEW, study_of(marks, {}).reference)
    assert not isinstance(figure, NotMeasurable)
    box = envelope_of(figure)
    xs = [m.x for m in marks.values()]
    ys = [m.y for m in marks.values()]
    wide, high = max(xs) - min(xs), max(ys) - min(ys)
    assert box.ratio == pytest.approx(wide / high)
    assert box.marks["top"] == "crown"
    # By hand: both ends of each side scatter by 2 px.
    by_hand = (wide / high) * (8.0 / wide**2 + 8.0 / high**2) ** 0.5
    assert box.u == pytest.approx(by_hand)


def test_edge_facts_name_a_drawing_that_is_too_wide_and_the_mark_that_sticks_out() -> None:
    marks = figure_marks(spread=0.5)
    wide = {key: replace(m, x=400.0 + 1.2 * (m.x - 400.0)) for key, m in marks.items()}
    study = study_of(marks, aside(wide, "knee_r", -2.5))
    figures = [figure_of(VIEW, p) for p in (study.reference, study.states[0].picture)]
    facts = facts_of(assess(study), "edges", *figures)
    ratio = facts[0]
    assert (ratio.verdict, ratio.more) == ("over", True)
    left = next(fact for fact in facts if fact.label == "outermost, left")
    assert left.drawn == "R knee"
    assert left.verdict == "not measured"
    assert "knee_r" in left.points
    alone = facts_of(assess(study), "edges", figures[0], NotMeasurable("no drawing"))
    assert all(fact.drawn == "" for fact in alone)
    assert facts_of(assess(study), "edges", NotMeasurable("none"), figures[1]) == ()


def test_facts_of_a_pass_put_what_is_off_first_and_fold_lines_that_have_no_ends() -> None:
    marks = figure_marks(spread=0.3)
    study = study_of(marks, aside(marks, "elbow_r", 0.6))
    facts = facts_of(assess(study), "tilts", *[NotMeasurable("")] * 2)
    off = [fact.verdict in {"over", "under"} for fact in facts]
    assert off == sorted(off, reverse=True)
    assert any(off)
    tilts = [f for f in facts if f.label.startswith(("R foot", "L foot", "R forearm"))]
    assert tilts
    assert all(abs(int(f.seen.strip("°").replace("−", "-"))) <= 90 for f in tilts)
    widths = {fact.label for fact in facts_of(assess(study), "widths", *[NotMeasurable("")] * 2)}
    assert {"shoulder width, bony tips", "R upper arm to L"} <= widths


def test_a_line_that_is_nearly_plumb_is_drawn_on_the_side_on_which_it_is_seen() -> None:
    """Seen at -88 degrees and drawn at -91: *89°* beside *−88°* read as if it were turned round."""
    marks = figure_marks(spread=0.3)
    elbow = marks["elbow_r"]

    def hanging(degrees: float) -> dict[str, Mark]:
        way = math.radians(degrees)
        at = (elbow.x + 150.0 * math.cos(way), elbow.y - 150.0 * math.sin(way))
        return marks | {"wrist_r": replace(marks["wrist_r"], x=at[0], y=at[1])}

    study = study_of(hanging(-88.0), hanging(-91.0))
    facts = facts_of(assess(study), "tilts", *[NotMeasurable("")] * 2)
    (forearm,) = [one for one in facts if one.label == "R forearm"]
    assert (forearm.seen, forearm.drawn) == ("−88°", "−91°")


LINES = [(143.0, -37.0), (-90.0, 90.0), (180.0, 0.0), (91.0, -89.0)]


@pytest.mark.parametrize(("angle", "line"), LINES)
def test_a_line_without_ends_points_between_minus_90_and_90(angle: float, line: float) -> None:
    assert fold_degrees(angle) == pytest.approx(line)


def test_one_verdict_is_the_same_as_among_many() -> None:
    assert verdict_on(0.2, 0.02, 0.05) == "over"
    assert verdict_on(-0.2, 0.02, 0.05) == "under"
    assert verdict_on(0.2, 0.11, 0.05) == "cannot tell"
    assert verdict_on(0.01, 0.01, 0.05) == "within"
    assert verdict_on(0.01, 0.06, 0.05) == "cannot tell"
    assert set(VERDICTS) >= {"over", "under", "within"}


def test_a_hung_plumb_line_says_which_mark_strays_and_by_how_much() -> None:
    marks = figure_marks(spread=0.3)
    study = study_of(marks, moved(aside(marks, "heel_r", 0.3), 2.0, (30.0, 10.0)))
    seen = figure_of(VIEW, study.reference)
    drawn = figure_of(VIEW, study.states[0].picture)
    line = next(one for one in sight_lines(seen, "plumb", GRADE) if "heel_r" in one.keys)
    found = crossings(line, seen, drawn, GRADE)
    assert [one.key for one in found] == [key for key in line.keys if key != line.anchor]
    worst = worst_of(found)
    head = seen.head.value
    if line.anchor == "heel_r":  # then all the others stray, the other way
        assert all(one.drawn - one.seen == pytest.approx(-30.0 / head) for one in found)
    else:
        assert worst.key == "heel_r"
        assert worst.drawn - worst.seen == pytest.approx(30.0 / head)
        assert worst.verdict == "over"
    lacking = crossings(line, seen, NotMeasurable("no drawing"), GRADE)
    assert {one.verdict for one in lacking} == {"not measured"}
    assert worst_of(lacking) is None


def test_the_gate_says_what_is_open_and_counts_answered_questions() -> None:
    marks = figure_marks(spread=0.3)
    study = study_of(marks, aside(marks, "wrist_r", 0.5))
    passes = session_passes(VIEW)
    fewer = set(VIEW.placing) - {"navel"}
    told = findings(assess(study), progress_of(passes, fewer, fewer, {}))
    heights = next(one for one in told if one.words == "Heights")
    assert (heights.good, heights.detail) == (False, "1 mark to go")
    worst = next(one for one in told if one.words.endswith("is the worst"))
    assert worst.good is False
    assert "times what 'developing' allows" in worst.detail
    same = findings(assess(study_of(marks, marks)), progress_of(passes, marks, marks, {}))
    assert next(one for one in same if one.words == "Nothing is off").good
    notes = Notes().answer("first", CHECKS[0][0], "no").answer("first", "unknown", "yes")
    assert checked(notes, "first") == (CHECKS[0][0],)
    assert checked(notes, "second") == ()


def test_shapes_are_suggested_by_what_a_view_shows() -> None:
    assert "gap between the legs" in suggested_shapes(VIEW)
    head = suggested_shapes(view_named("head-front"))
    assert "gap between the legs" not in head
    assert "head and hair" in head
    assert all("whole outline" in suggested_shapes(view_named(key)) for key in view_keys())
