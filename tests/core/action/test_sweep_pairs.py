"""The action of studies: proposals from marks, ribcage on pelvis, what is told, files and store."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from tests.puppet import Pose
from tests.studies import figure_marks, study_of

from bralto.core.action.action_facts import (
    kept_within,
    kept_words,
    limb_facts,
    mass_facts,
    sweep_facts,
    weight_facts,
)
from bralto.core.action.bend_kept import Kept
from bralto.core.action.ribs_on_pelvis import Masses
from bralto.core.action.sweep_pairs import Sweep
from bralto.core.action.sweeps import WHOLE, curves_of, table_of
from bralto.core.action.weight import Weighing
from bralto.core.corrections.push import (
    POSE,
    push_intent,
    push_label,
    pushable,
    pushed_picture,
    pushes_of,
)
from bralto.core.doubts.doubt import Doubt
from bralto.core.doubts.remedies import remedied_picture
from bralto.core.examination.assessment import assess
from bralto.core.examination.examine import examine
from bralto.core.light.light_facts import light_facts
from bralto.core.light.shadows_held import LightReading
from bralto.core.mannequin.setting import set_up
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Intent, Mark, Picture, State, Study
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.exchange.study_file import parse_study, study_text
from bralto.stand.model.answer import answer_key
from bralto.stand.model.model_study import model_study
from bralto.stand.model.stage import Stage
from bralto.store.instants import now_utc
from bralto.store.library import Library

VIEW = view_named("figure-front")
STANDS = Pose(hips=9, shoulders=-8, legs={"r": (0, 0), "l": (12, 6)})


def with_curve(study: Study, seen, drawn, name: str = WHOLE) -> Study:
    """The study with a curve of that name on both pictures."""

    def drawn_on(which: str, picture: Picture) -> Picture:
        points = seen if which == "" else drawn
        return replace(picture, curves={**picture.curves, name: tuple(map(tuple, points))})

    return study.with_pictures(drawn_on)


def bow(height: float, n: int = 7) -> np.ndarray:
    """Points down a figure of 750 px whose greatest distance from straight is so many px."""
    at = np.linspace(0.0, 1.0, n)
    return np.column_stack([400.0 + height * np.sin(np.pi * at), 70.0 + 750.0 * at])


@pytest.mark.parametrize("key", view_keys())
def test_every_stop_of_a_view_is_a_mark_of_it(key: str) -> None:
    view, table = view_named(key), table_of(view_named(key))
    stops = [
        *table.line,
        *table.ribs,
        *table.pelvis,
    ]
    for stop in stops:
        for part in stop.split("+"):
            for side in ("r", "l") if "?" in part else ("",):
                assert part.replace("?", side) in view.point_rows, (key, part)
    assert curves_of(view)[0] == WHOLE


def test_a_sweep_is_proposed_through_the_leg_that_bears_and_only_from_marks() -> None:
    marks = figure_marks(STANDS)
    side = examine(study_of(marks, marks)).seen
    found = side.proposed
    assert not isinstance(found, NotMeasurable)
    bearing = min(("r", "l"), key=lambda one: marks[f"hip_point_{one}"].y)  # the higher hip
    heel = marks[f"heel_{bearing}"]
    assert found[0] == pytest.approx([marks["crown"].x, marks["crown"].y])
    assert found[-1] == pytest.approx([heel.x, heel.y])
    few = {key: marks[key] for key in ("crown", "chin")}
    lacking = examine(study_of(few, few)).seen.proposed
    assert isinstance(lacking, NotMeasurable)


def test_few_stops_still_make_a_sweep_that_can_be_drawn() -> None:
    marks = {
        k: m for k, m in figure_marks(STANDS).items() if k in {"crown", "chin", "navel", "heel_r"}
    }
    found = examine(study_of(marks, marks)).seen.proposed
    assert not isinstance(found, NotMeasurable)
    assert len(found) == 5


def test_ribcage_on_pelvis_is_the_geometry_of_its_marks() -> None:
    marks = {
        "crown": (0, 700), "chin": (0, 600), "pit_of_neck": (10, 560),
        "shoulder_r": (-90, 540), "shoulder_l": (90, 560), "hip_point_r": (-50, 400),
        "hip_point_l": (50, 380), "crotch": (0, 330), "navel": (0, 430),
    }  # fmt: skip
    placed = {key: Mark(500.0 + x, 1000.0 - y, "seen", 0.5) for key, (x, y) in marks.items()}
    found = examine(study_of(placed, placed)).seen.masses
    assert isinstance(found, Masses)
    ribs, pelvis = (np.degrees(np.arctan2(rise, run)) for rise, run in ((20, 180), (-20, 100)))
    assert found.tilt.value == pytest.approx(ribs - pelvis)
    assert found.shift.value == pytest.approx(0.0)
    right, left = np.hypot(40, 140), np.hypot(40, 180)
    assert found.sides.value == pytest.approx(right / left)
    assert found.squeezed == "right"
    # The pit stands 100 of 180 px along the line of the shoulders, and 2 px across adds nothing.
    assert found.turn is not None
    along = ((100 * 180) + (20 * 20)) / (180**2 + 20**2)
    crotch = ((50 * 100) + (-70 * -20)) / (100**2 + 20**2)
    assert found.turn.value == pytest.approx(100 * (along - crotch))
    # An end that is 0.5 px unsure turns a line of 180 px by 0.5 / 180 rad a side.
    per_line = [np.degrees(0.5 * np.sqrt(2) / np.hypot(*line)) for line in ((180, 20), (100, 20))]
    assert found.tilt.u == pytest.approx(np.hypot(*per_line), rel=1e-3)


def test_a_bend_that_is_kept_by_seventy_percent_is_said_so() -> None:
    marks = figure_marks(STANDS)
    study = with_curve(study_of(marks, marks), bow(40.0), bow(28.0))
    found = examine(study)
    (pair,) = found.sweeps
    assert isinstance(pair.kept, Kept)
    assert pair.kept.share == pytest.approx(0.7, abs=0.02)
    assert kept_words(pair) == "You kept 70 % of the bend"
    assert kept_within(pair).endswith("%, nineteen times in twenty")
    facts = {one.label: one for one in sweep_facts(pair, found.grade)}
    assert facts["bend kept"].verdict == "under"
    head = found.seen.figure.head.value
    assert float(facts["farthest from straight"].seen) == pytest.approx(40.0 / head, abs=0.02)
    assert facts["bulges to your"].seen == "right"


def test_a_sweep_is_told_before_any_mark_is_set_in_parts_of_its_length() -> None:
    study = Study(
        "", "figure-front", Picture("r.png", 900, 900),
        (State("first", Picture("d.png", 900, 900)),),
    )  # fmt: skip
    found = examine(with_curve(study, bow(40.0), bow(20.0)))
    (pair,) = found.sweeps
    assert isinstance(pair.seen, Sweep)
    assert pair.seen.counted == "length"
    assert isinstance(pair.kept, Kept)
    assert pair.kept.share == pytest.approx(0.5, abs=0.02)
    facts = {one.label: one for one in sweep_facts(pair, found.grade)}
    assert facts["farthest from straight"].seen == "5 %"  # 40 of 750 px


def test_a_sweep_on_one_picture_alone_says_what_is_lacking() -> None:
    marks = figure_marks(STANDS)
    study = study_of(marks, marks)
    alone = replace(
        study, reference=replace(study.reference, curves={WHOLE: tuple(map(tuple, bow(30.0)))})
    )
    (pair,) = examine(alone).sweeps
    assert "drawing" in kept_within(pair)


def test_the_run_of_a_limb_is_held_against_the_seen_one() -> None:
    marks = figure_marks(STANDS)
    at = np.linspace(0.0, 1.0, 6)
    outer = np.column_stack([300.0 - 20.0 * np.sin(np.pi * at), 500.0 + 300.0 * at])
    inner = np.column_stack([380.0 - 20.0 * at, 500.0 + 300.0 * at])
    study = with_curve(study_of(marks, marks), outer, outer - [15.0, 0.0], "R leg, outer edge")
    study = with_curve(study, inner, inner - [-15.0, 0.0], "R leg, inner edge")
    found = examine(study)
    ((limb, facts),) = limb_facts(found.seen.runs, found.drawn.runs, found.grade)
    assert limb == "R leg"
    wide = {one.label: one for one in facts}["width at the half"]
    assert wide.verdict == "over"
    seen, drawn = float(wide.seen), float(wide.drawn)
    assert drawn - seen == pytest.approx(30.0 / found.seen.figure.head.value, abs=0.02)


def test_facts_of_the_masses_name_a_straightened_tilt() -> None:
    stiff = replace(STANDS, hips=1, shoulders=-1)
    found = examine(study_of(figure_marks(STANDS), figure_marks(stiff)))
    facts = {
        one.label: one for one in mass_facts(found.seen.masses, found.drawn.masses, found.grade)
    }
    assert facts["ribcage tilts on the pelvis"].verdict == "under"


def test_curves_and_shadows_go_through_the_file_and_are_not_written_where_there_are_none() -> None:
    marks = figure_marks(STANDS)
    plain = study_of(marks, marks)
    assert '"curves"' not in study_text(plain)
    assert '"shadows"' not in study_text(plain)
    study = with_curve(plain, bow(40.0), bow(28.0))
    ring = ((10.0, 10.0), (60.0, 10.0), (60.0, 80.0))
    study = replace(study, reference=replace(study.reference, shadows=(ring,)))
    assert parse_study(study_text(study), "study") == study


def test_curves_and_shadows_are_kept_by_the_library(tmp_path: Path) -> None:
    marks = figure_marks(STANDS)
    study = with_curve(study_of(marks, marks), bow(40.0), bow(28.0))
    ring = ((10.0, 10.0), (60.0, 10.0), (60.0, 80.0))
    study = replace(study, reference=replace(study.reference, shadows=(ring,)))
    with Library.open(tmp_path / "library") as library:
        key = library.add(study, {}, now_utc())
        stored = library.stored(key)
    assert stored is not None
    assert stored.study.reference.curves == study.reference.curves
    assert stored.study.reference.shadows == (ring,)
    assert stored.study.states[0].picture.curves == study.states[0].picture.curves


def test_a_mirrored_picture_takes_its_curves_and_shadows_along() -> None:
    marks = figure_marks(STANDS)
    picture = replace(
        study_of(marks, marks).reference, curves={WHOLE: ((10.0, 5.0), (30.0, 50.0))},
        shadows=(((0.0, 0.0), (20.0, 0.0), (20.0, 9.0)),),
    )  # fmt: skip
    doubt = Doubt("mirrored", (), Board.REFERENCE, "mirror", "")
    mirrored = remedied_picture(VIEW, picture, doubt)
    assert mirrored.curves[WHOLE] == ((3990.0, 5.0), (3970.0, 50.0))
    assert mirrored.shadows == (((4000.0, 0.0), (3980.0, 0.0), (3980.0, 9.0)),)


def test_a_pushed_pose_is_held_against_what_is_meant() -> None:
    """A drawing of the pushed figure has no error; of the seen one it keeps less than is meant."""
    marks = figure_marks(STANDS)
    study = replace(
        study_of(marks, marks), intents=(push_intent(POSE, 1.4), push_intent("scale:head", 1.2))
    )
    meant = pushed_picture(VIEW, study.reference, pushes_of(study.intents))
    assert isinstance(meant, Picture)
    as_meant = study.with_state(State("first", replace(study.states[0].picture, marks=meant.marks)))
    assert all(abs(one.error) < 1e-6 for one in assess(as_meant).readings if one.error is not None)
    found = assess(study)
    tilt, factor = found.reading("tilt.shoulders"), 1.4
    assert tilt.reference == pytest.approx(
        factor * assess(study_of(marks, marks)).reading("tilt.shoulders").reference, rel=0.05
    )
    assert tilt.verdict == "under"
    assert found.reading("span.figure").error > 0.5  # heads that are smaller than meant
    told = with_curve(study, bow(40.0), bow(56.0))
    (pair,) = examine(told).sweeps
    assert isinstance(pair.kept, Kept)
    assert pair.kept.share == pytest.approx(1.0, abs=0.03)
    assert "of the bend you meant" in kept_words(pair)


def test_what_can_be_pushed_is_named_and_one_side_alone_is_an_asymmetry() -> None:
    marks = figure_marks(STANDS)
    keys = tuple(marks)
    assert pushable(VIEW, ()) == {}
    names = pushable(VIEW, keys)
    assert next(iter(names)) == POSE
    assert {"scale:head", "scale:legs", "scale:hands", "scale:leg_r"} <= set(names)
    assert all(push_label(VIEW, name) for name in names)
    study = replace(study_of(marks, marks), intents=(push_intent("scale:hand_l", 1.5),))
    meant = examine(study).meant.picture.marks
    grown = np.hypot(
        meant["fingertip_l"].x - meant["wrist_l"].x, meant["fingertip_l"].y - meant["wrist_l"].y
    )
    seen = np.hypot(
        marks["fingertip_l"].x - marks["wrist_l"].x, marks["fingertip_l"].y - marks["wrist_l"].y
    )
    assert grown == pytest.approx(1.5 * seen)
    assert meant["fingertip_r"] == marks["fingertip_r"]


def test_a_model_comes_with_its_sweep_and_a_try_without_marks_is_told_by_one_stroke() -> None:
    """Quick poses: no mark on the photo of the sketch, the stroke alone."""
    stage = Stage.of(set_up("weight-right"))
    key = answer_key(stage, stage.view(480, 640))
    study = model_study("quick", key, "pose.png", (480, 640), {})
    seen = study.reference.curves[WHOLE]
    assert 5 <= len(seen) <= 9
    xy = np.array(seen)
    chord = xy[-1] - xy[0]
    normal = np.array([-chord[1], chord[0]]) / np.hypot(*chord)
    straighter = xy - 0.5 * ((xy - xy[0]) @ normal)[:, None] * normal
    sketch = Picture("sketch.png", 900, 1200, curves={WHOLE: tuple(map(tuple, 1.8 * straighter))})
    (pair,) = examine(replace(study, states=(State("30 s", sketch),))).sweeps
    assert isinstance(pair.kept, Kept)
    assert pair.kept.share == pytest.approx(0.5, abs=0.03)
    assert isinstance(pair.drawn, Sweep)
    assert pair.drawn.counted == "length"


def test_what_goes_out_on_one_side_is_weighed_up_on_the_other() -> None:
    marks = figure_marks(STANDS)
    side = examine(study_of(marks, marks)).seen
    found = side.weighing
    assert isinstance(found, Weighing)
    head = side.figure.head.value
    # By hand: the middles of the marks, less the plumb of the centre of mass.
    centre = side.balance.centre[0] + marks["pit_of_neck"].x / head
    for name, keys in (
        ("pelvis", ("hip_point_r", "hip_point_l")),
        ("ribcage", ("shoulder_r", "shoulder_l")),
    ):
        middle = np.mean([marks[key].x for key in keys]) / head
        assert found.beside[name].value == pytest.approx(middle - centre, abs=1e-9)
    assert found.bears in {"r", "l"}
    heel = marks[f"heel_{found.bears}"]
    assert found.pit.value == pytest.approx((marks["pit_of_neck"].x - heel.x) / head)
    rise = (marks["hip_point_l"].y - marks["hip_point_r"].y) / head
    assert found.hip.value == pytest.approx(rise)
    assert (found.hip.value > 0.0) == (found.bears == "r")


def test_weight_is_told_of_figures_that_stand_alone() -> None:
    lies = {key: replace(mark, x=mark.y, y=mark.x) for key, mark in figure_marks(STANDS).items()}
    assert isinstance(examine(study_of(lies, lies)).seen.weighing, NotMeasurable)
    few = {
        k: m for k, m in figure_marks(STANDS).items() if k in {"crown", "chin", "heel_r", "heel_l"}
    }
    assert isinstance(examine(study_of(few, few)).seen.weighing, NotMeasurable)
    stands, stiff = figure_marks(STANDS), figure_marks(replace(STANDS, hips=0, shoulders=0))
    found = examine(study_of(stands, stiff))
    facts = {
        f.label: f
        for f in weight_facts(found.seen.weighing, found.drawn.weighing, VIEW, found.grade)
    }
    assert facts["R hip above the L"].verdict == "under"


def test_a_stroke_from_the_bottom_up_is_the_same_stroke() -> None:
    marks = figure_marks(STANDS)
    down = with_curve(study_of(marks, marks), bow(40.0), bow(28.0))
    up = with_curve(study_of(marks, marks), bow(40.0), bow(28.0)[::-1])
    (one,), (two,) = examine(down).sweeps, examine(up).sweeps
    assert isinstance(one.kept, Kept)
    assert isinstance(two.kept, Kept)
    assert two.kept.share == pytest.approx(one.kept.share, abs=1e-6)
    assert isinstance(two.drawn, Sweep)
    assert two.drawn.bend.bulges == "right"


def test_an_earlier_state_in_the_references_place_is_not_pushed() -> None:
    marks = figure_marks(STANDS)
    study = replace(
        study_of(marks, marks), intents=(push_intent(POSE, 1.5), Intent("span.head", 1.1))
    )
    study = replace(study, states=(*study.states, replace(study.states[0], name="second")))
    against = study.against_state("first")
    assert [one.measure for one in against.intents] == ["span.head"]
    found = assess(against, against.state("second"))
    assert found.reading("tilt.shoulders").error == pytest.approx(0.0)
    assert examine(against, against.state("second")).pushes == {}


def _scribble(rng: np.random.Generator) -> tuple[tuple[float, float], ...]:
    """Points that no hand would set, but a file may hold."""
    n = int(rng.integers(0, 12))
    kinds = (
        lambda: rng.uniform(-5000.0, 9000.0, (n, 2)),
        lambda: np.round(rng.uniform(0.0, 3.0, (n, 2))),
        lambda: np.column_stack([np.full(n, 400.0), np.linspace(0.0, 700.0, n)]),
        lambda: np.repeat(rng.uniform(0.0, 900.0, (1, 2)), n, axis=0),
        lambda: rng.uniform(0.0, 1.0, (n, 2)) * 1e6,
        lambda: np.cumsum(rng.normal(size=(n, 2)), axis=0) * 50.0 + 400.0,
    )
    return tuple(map(tuple, kinds[int(rng.integers(len(kinds)))]().tolist()))


@pytest.mark.parametrize("seed", range(4))
def test_whatever_lines_a_file_holds_give_figures_or_reasons(seed: int) -> None:
    """1,500 such studies were tried; warnings are errors here."""
    rng, marks = np.random.default_rng(seed), figure_marks(STANDS)
    for _ in range(25):
        study = study_of(marks, marks)
        for name in (WHOLE, "R leg, outer edge", "R leg, inner edge", "unheard of"):
            study = with_curve(study, _scribble(rng), _scribble(rng), name)
        study = study.with_pictures(
            lambda _, picture: replace(
                picture, shadows=tuple(_scribble(rng) for _ in range(int(rng.integers(0, 4))))
            )
        )
        found = examine(study)
        for pair in found.sweeps:
            assert kept_words(pair)
            assert kept_within(pair)
            sweep_facts(pair, found.grade)
        limb_facts(found.seen.runs, found.drawn.runs, found.grade)
        if isinstance(found.both.light, LightReading):
            assert light_facts(found.both.light, found.grade)
        else:
            assert found.both.light.reason
