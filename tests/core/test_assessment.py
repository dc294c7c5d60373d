"""The assessment as a whole: invariance, named faults, and reasons where there is no figure."""

from __future__ import annotations

import math
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.learner import Faults, draw_body
from tests.studies import POSE, figure_marks, moved, study_of

from bralto.core.errors import UserError
from bralto.core.examination.assessment import assess
from bralto.core.longitudinal.study_facts import facts_of
from bralto.core.measures.short_set import short_set_of
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Intent, Mark, Sheet
from bralto.core.views.shipped_views import view_named
from bralto.exchange.study_file import read_study

DATA = Path(__file__).parents[1] / "data"


def drawn_with(faults: Faults, scale: float = 100.0) -> dict[str, Mark]:
    """Marks of the hand-made pose drawn with faults, exactly placed."""
    body = draw_body(POSE, faults, seed=5)
    keys = [m.key for m in view_named("figure-front").landmarks]
    return {k: Mark(400 + scale * body[k][0], 820 - scale * body[k][1], "seen", 0.2) for k in keys}


@settings(max_examples=40)
@given(
    scale=st.floats(0.2, 6.0),
    x=st.floats(-500, 500),
    y=st.floats(-500, 500),
    turn=st.floats(-40, 40),
    school=st.sampled_from(["head", "envelope", "best-fit"]),
)
def test_errors_do_not_depend_on_how_the_drawing_was_photographed(
    scale: float, x: float, y: float, turn: float, school: str
) -> None:
    """Scale, shift and a turn that the plumb correction undoes change no error and no miss."""
    seen, drawn = figure_marks(), drawn_with(Faults({"head": 1.1}, 0.7, 1.05, 0.03))
    plain = assess(study_of(seen, drawn, school=school))
    other = assess(study_of(seen, moved(drawn, scale, (x, y), turn), school=school, plumb_deg=turn))
    for a, b in zip(plain.readings, other.readings, strict=True):
        assert a.error == pytest.approx(b.error, abs=1e-6), a.spec.id
    assert plain.miss.value == pytest.approx(other.miss.value, rel=1e-6)


def test_nothing_is_ever_nan() -> None:
    """Every figure of a study with marks missing at random is a finite number or None."""
    rng = np.random.default_rng(2)
    seen, drawn = figure_marks(), drawn_with(Faults(miss=0.05))
    for _ in range(25):
        some = {k: m for k, m in seen.items() if rng.random() < 0.6}
        other = {k: m for k, m in drawn.items() if rng.random() < 0.6}
        for school in ("head", "envelope", "best-fit"):
            found = assess(study_of(some, other, school=school))
            for r in found.readings:
                figures = (r.reference, r.drawing, r.error, r.percent, r.u)
                assert all(v is None or math.isfinite(v) for v in figures), r.spec.id
                assert (r.error is None) == (r.verdict == "not measured")
                assert r.reason or (r.error is not None), r.spec.id


def test_a_head_drawn_too_big_shows_in_the_parts_and_the_schools_disagree() -> None:
    seen, drawn = figure_marks(), drawn_with(Faults({"head": 1.2}))
    by_head = assess(study_of(seen, drawn, school="head"))
    by_fit = assess(study_of(seen, drawn, school="best-fit"))
    head = next(p for p in by_head.parts if p.part == "head")
    assert head.scale == pytest.approx(1.2, abs=0.02)
    assert by_head.reading("span.head").error == pytest.approx(0.0, abs=1e-12)
    assert by_fit.reading("span.head").percent == pytest.approx(20.0, abs=2.0)
    assert by_fit.reading("span.thigh_r").error == pytest.approx(0.0, abs=0.04)
    assert by_head.reading("span.thigh_r").verdict == "under"  # as the head school must see it


def test_too_wide_lean_and_tilt_are_read_from_the_affine_map() -> None:
    """x' = 1.1 x - 0.02 y leans verticals by arctan(0.02) to the left of plumb (y is up)."""
    seen = figure_marks()
    wide = {k: Mark(1.1 * m.x + 0.02 * m.y, m.y) for k, m in seen.items()}
    affine = assess(study_of(seen, wide)).affine
    assert affine.width_scale == pytest.approx(1.1, rel=1e-6)
    assert affine.too_wide_percent == pytest.approx(100 * (1.1 / math.hypot(1, 0.02) - 1), rel=1e-6)
    assert affine.verticals_lean_deg == pytest.approx(math.degrees(math.atan(0.02)), rel=1e-6)
    assert affine.levels_tilt_deg == pytest.approx(0.0, abs=1e-9)


def test_one_wild_mark_does_not_drag_the_fit() -> None:
    seen = figure_marks()
    wild = moved(seen, 2.0, (0.0, 0.0))
    wild["wrist_l"] = Mark(3000.0, 300.0)
    assert assess(study_of(seen, wild)).fit.scale == pytest.approx(2.0, rel=0.01)


def test_a_mirrored_drawing_is_not_perfect() -> None:
    seen = figure_marks()
    mirrored = {k: Mark(2000.0 - m.x, m.y) for k, m in seen.items()}
    found = assess(study_of(seen, mirrored))
    assert found.miss.value > 0.3
    tilt = found.reading("tilt.shoulders")
    assert tilt.verdict == "over"
    assert "other side" in tilt.note
    assert found.reading("offset.shoulder_r").note == "on the other side of the plumb line"


def test_a_toe_marked_on_one_picture_only_does_not_lengthen_the_figure() -> None:
    seen = figure_marks()
    drawn = moved(seen, 2.0, (10.0, 10.0))
    for key in ("toe_r", "toe_l"):
        del drawn[key]
    found = assess(study_of(seen, drawn))
    assert found.reading("span.figure").error == pytest.approx(0.0, abs=1e-12)


def test_without_a_chin_the_rest_is_still_measured() -> None:
    """The head school has no unit then; tilts and fractions need none."""
    seen, drawn = figure_marks(), figure_marks()
    del drawn["chin"]
    found = assess(study_of(seen, drawn))
    assert isinstance(found.unit, NotMeasurable)
    assert "chin" in found.unit.reason
    assert found.reading("tilt.hips").verdict == "within"
    assert found.reading("fraction.crotch_half").error == pytest.approx(0.0)
    assert found.reading("span.shoulders").verdict == "not measured"
    assert found.miss.value == pytest.approx(0.0, abs=1e-9)


@pytest.mark.parametrize("keep", [(), ("crown",), ("crown", "chin")])
def test_too_few_marks_give_reasons(keep: tuple[str, ...]) -> None:
    some = {k: m for k, m in figure_marks().items() if k in keep}
    found = assess(study_of(some, some))
    assert isinstance(found.affine, NotMeasurable)
    assert isinstance(found.short_miss, NotMeasurable)
    assert "short set lacks" in found.short_miss.reason


def test_marks_on_one_line_cannot_tell_width_from_height() -> None:
    line = {
        k: Mark(100.0, 50.0 + 90 * i) for i, k in enumerate(("crown", "chin", "navel", "crotch"))
    }
    assert "one line" in assess(study_of(line, line)).affine.reason


def test_an_intended_exaggeration_is_held_against_the_intention() -> None:
    seen = figure_marks(spread=0.2)
    drawn = drawn_with(Faults({"leg_r": 1.3, "leg_l": 1.3}))
    study = study_of(seen, drawn)
    assert assess(study).reading("span.shank_r").verdict == "over"
    declared = replace(study, intents=(Intent("span.shank_r", 1.3),))
    reading = assess(declared).reading("span.shank_r")
    assert reading.verdict == "intended"
    assert reading.error == pytest.approx(reading.drawing - 1.3 * reading.reference)


def test_a_sheet_gives_millimetres_and_folded_corners_are_refused() -> None:
    """4 px a millimetre: 420 mm on 1680 px; a head of 100 px is 25 mm."""
    study = study_of(figure_marks(), figure_marks())
    state = study.states[0]
    sheet = Sheet(((0, 0), (1188, 0), (1188, 1680), (0, 1680)), (297.0, 420.0))
    flat = replace(state, picture=replace(state.picture, sheet=sheet))
    found = assess(replace(study, states=(flat,)))
    assert found.unit.drawing_mm == pytest.approx(25.0)
    assert found.unit.drawing_px == pytest.approx(100.0)
    assert found.fit.scale == pytest.approx(0.25)
    folded = replace(sheet, corners=((0, 0), (1188, 1680), (1188, 0), (0, 1680)))
    bad = replace(state, picture=replace(state.picture, sheet=folded))
    with pytest.raises(UserError, match="fold"):
        assess(replace(study, states=(bad,)))


def test_the_short_set_makes_studies_comparable() -> None:
    """A study with 14 marks and one with 31 have the same tracked miss for the same drawing."""
    seen, drawn = figure_marks(), drawn_with(Faults({"head": 1.1}, miss=0.04))
    short = [keys[0] for keys in view_named("figure-front").short]
    few = assess(study_of({k: seen[k] for k in short}, {k: drawn[k] for k in short}))
    whole = assess(study_of(seen, drawn))
    assert few.short_miss.marks == whole.short_miss.marks == 14
    assert few.short_miss.value == pytest.approx(whole.short_miss.value, rel=1e-12)
    assert few.miss.marks == 14
    assert whole.miss.marks == 31


def test_a_figure_cropped_at_the_knee_is_measured_by_what_can_be_seen() -> None:
    gone = ("heel_r", "heel_l", "knee_r", "knee_l")
    feet = {"toe_r", "toe_l", "ankle_r", "ankle_l"}
    absent = {key: Mark(0.0, 0.0, "absent", 0.0) for key in gone}
    seen, drawn = figure_marks(), drawn_with(Faults({"head": 1.1}, 0.7, 1.05, 0.03))
    bare = [
        {k: m for k, m in marks.items() if k not in feet | set(gone)} for marks in (seen, drawn)
    ]
    said = study_of(*(marks | absent for marks in bare))
    found = assess(said)
    assert not isinstance(found.short_miss, NotMeasurable)
    assert found.short_miss.marks == 14 - 3  # one heel and two knees
    assert facts_of(said).cropped == "cropped"
    assert facts_of(study_of(seen, drawn)).cropped == ""
    # What cuts the set for the one cuts it for the other: one heel is as good as both.
    one_heel = {"heel_r": absent["heel_r"]}
    half = study_of(*({k: m for k, m in marks.items() if k != "heel_l"} | one_heel
                      for marks in (seen, drawn)))  # fmt: skip
    assert assess(half).short_miss.marks == 13
    assert facts_of(half).cropped == "cropped"
    # Not said to be absent, they are lacking.
    lacking = assess(study_of(*bare)).short_miss
    assert isinstance(lacking, NotMeasurable)
    assert "heel" in lacking.reason
    # A head and a neck alone are no figure.
    view = view_named("figure-front")
    every = {key for keys in view.short for key in keys}
    few = ("crown", "chin", "pit_of_neck")
    assert isinstance(short_set_of(view, few, every - set(few)), NotMeasurable)


def test_what_two_schools_name_alike_is_off_once() -> None:
    """The mouth between the base of the nose and the chin is a half to one school and a third to
    another, and one error of the drawing."""
    study = read_study(DATA / "pencil-head.json")
    reference, drawn = study.reference, study.states[0].picture
    assert reference is not None
    mouth = drawn.marks["mouth_mid"]
    low = replace(mouth, y=mouth.y + 0.5 * (drawn.marks["chin"].y - mouth.y))
    marked = {**drawn.marks, "mouth_mid": low}
    state = replace(study.states[0], picture=replace(drawn, marks=marked))
    found = assess(replace(study, states=(state,)))
    both = {"fraction.mouth_half", "fraction.mouth_third"}
    assert all(one.verdict.off for one in found.readings if one.spec.id in both)
    assert [one.spec.id for one in found.off() if one.spec.id in both] == ["fraction.mouth_half"]
