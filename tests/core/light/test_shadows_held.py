"""Shadows held together: rectangles whose overlap, distance and share are known by hand."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from shapely import Polygon
from tests.studies import figure_marks, moved, study_of

from bralto.core.corrections.push import POSE, push_intent
from bralto.core.examination.examine import examine
from bralto.core.light.light_facts import apart_words, light_facts, shape_words_of
from bralto.core.light.shadows_held import LightReading, carried_with_marks
from bralto.core.results import NotMeasurable
from bralto.core.session.gate import not_yet
from bralto.core.study.pairing import pair_marks
from bralto.core.study.values import OUTLINE, Intent, Study
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named
from bralto.exchange.study_file import parse_study, study_text

VIEW = view_named("figure-front")
GRADE = GRADES["developing"]
MARKS = figure_marks()
HEAD = MARKS["chin"].y - MARKS["crown"].y
"""px of the figure's head, which is upright but for its tilt."""


def box(left: float, top: float, wide: float, high: float) -> tuple[tuple[float, float], ...]:
    return ((left, top), (left + wide, top), (left + wide, top + high), (left, top + high))


def shaded(seen: tuple, drawn: tuple, outline: tuple | None = None, marks=None) -> Study:
    study = study_of(MARKS, MARKS if marks is None else marks)
    shapes = {} if outline is None else {OUTLINE: outline}
    reference = replace(study.reference, shadows=seen, polygons=shapes)
    picture = replace(study.states[0].picture, shadows=drawn)
    return replace(study, reference=reference).with_state(replace(study.states[0], picture=picture))


def read(*args, **kwargs) -> LightReading:
    found = examine(shaded(*args, **kwargs)).both.light
    assert isinstance(found, LightReading), found
    return found


@pytest.fixture(scope="module")
def head() -> float:
    side = examine(study_of(MARKS, MARKS)).seen
    return side.figure.head.value


FIGURE = box(300.0, 100.0, 200.0, 600.0)
DARK = box(400.0, 100.0, 100.0, 600.0)
"""The right half of the figure: its left edge, at x = 400, runs over the form."""


@pytest.mark.parametrize("px", [-24.0, -6.0, 0.0, 9.0, 30.0])
def test_a_terminator_that_is_moved_is_found_where_it_was_moved(px: float, head: float) -> None:
    found = read((DARK,), (box(400.0 - px, 100.0, 100.0 + px, 600.0),), FIGURE)
    assert found.edge is not None
    assert found.edge.value == pytest.approx(px / head, abs=1e-6)
    assert found.edge.u < 0.05
    assert found.seen_share == pytest.approx(0.5)
    assert found.drawn_share == pytest.approx((100.0 + px) / 200.0)
    wide = (100.0, 100.0 + px)
    assert found.overlap.value == pytest.approx(min(wide) / max(wide))


def test_overlap_is_shapelys_own_of_two_slanted_shapes() -> None:
    one, two = (
        ((310.0, 200.0), (430.0, 240.0), (360.0, 500.0)),
        ((330.0, 220.0), (450.0, 230.0), (350.0, 520.0)),
    )
    found = read((one,), (two,))
    a, b = Polygon(one), Polygon(two)
    assert found.overlap.value == pytest.approx(a.intersection(b).area / a.union(b).area)


@pytest.mark.parametrize("push", [push_intent(POSE, 1.5), push_intent("scale:head", 1.4)])
def test_what_is_meant_otherwise_moves_no_shadow(push: Intent) -> None:
    """The light is seen, not meant: a push alters nothing that is told of it."""
    study = shaded((DARK,), (box(391.0, 100.0, 109.0, 600.0),), FIGURE)
    plain, pushed = (examine(one).both.light for one in (study, replace(study, intents=(push,))))
    assert isinstance(plain, LightReading)
    assert isinstance(pushed, LightReading)
    assert plain.edge is not None
    assert pushed.edge == plain.edge
    assert pushed.overlap == plain.overlap
    assert pushed.drawn_share == plain.drawn_share


def test_a_light_within_a_shadow_is_cut_out_of_it(head: float) -> None:
    hole = box(420.0, 300.0, 40.0, 100.0)
    found = read((DARK, hole), (DARK,), FIGURE)
    assert found.seen_share == pytest.approx((100.0 * 600.0 - 40.0 * 100.0) / (200.0 * 600.0))
    (patch,) = found.beyond
    assert patch.area == pytest.approx(40.0 * 100.0 / head**2, rel=0.01)
    assert not found.short


def test_shapes_that_one_picture_alone_has_are_lost_or_invented(head: float) -> None:
    small = box(320.0, 550.0, 40.0, 60.0)
    lost = read((DARK, small), (DARK,), FIGURE)
    assert [patch.area for patch in lost.lost] == pytest.approx([40.0 * 60.0 / head**2])
    assert not lost.invented
    invented = read((DARK,), (DARK, small), FIGURE)
    assert len(invented.invented) == 1
    assert invented.invented[0].centre == pytest.approx([340.0 / head, -580.0 / head], abs=0.01)
    assert shape_words_of(lost.lost, lost=True).startswith("1 shape lost: ")


def test_a_restless_edge_has_more_corners_and_big_turns_are_counted_apart() -> None:
    saw = [(400.0 + (8.0 if i % 2 else 0.0), 100.0 + 20.0 * i) for i in range(31)]
    restless = (*saw, (500.0, 700.0), (500.0, 100.0))
    found = read((DARK,), (tuple(restless),), FIGURE)
    assert found.seen_corners == 4
    assert found.big_corners == 4
    assert found.drawn_corners > 25
    facts = {one.label: one for one in light_facts(found, GRADE)}
    assert facts["its edge turns"].verdict == "over"


def test_a_shadow_on_a_limb_that_is_drawn_aside_goes_with_it(head: float) -> None:
    """An arm drawn 0.3 head beside its place, its shadow with it: no error of light."""
    arm = {
        key: replace(MARKS[key], x=MARKS[key].x + 0.3 * head)
        for key in ("elbow_l", "wrist_l", "fingertip_l")
    }
    at = MARKS["wrist_l"]
    dark = box(at.x - 15.0, at.y - 60.0, 30.0, 90.0)
    beside = tuple((x + 0.3 * head, y) for x, y in dark)
    found = read((dark,), (beside,), marks=MARKS | arm)
    assert found.overlap.value > 0.45
    study = shaded((dark,), (beside,), marks=MARKS | arm)
    pair = pair_marks(VIEW, study.reference, study.states[0].picture)
    fit = pair.best_fit()
    # By the fit alone the two would hardly touch.
    plain = fit.scale * np.array(dark) * [1.0, -1.0] + fit.shift
    a, b = Polygon(plain), Polygon(np.array(beside) * [1.0, -1.0])
    assert a.intersection(b).area / a.union(b).area < 0.3
    by = carried_with_marks(VIEW, study.reference, study.states[0].picture)
    there = by.to_sight(np.array(dark))
    assert np.hypot(*(there - np.array(beside) * [1.0, -1.0]).mean(axis=0)) < 0.12 * head


def test_scale_and_place_of_the_drawing_change_nothing(head: float) -> None:
    def onto(ring: tuple) -> tuple:
        return tuple((1.7 * x + 100.0, 1.7 * y - 40.0) for x, y in ring)

    found = read((DARK,), (onto(box(388.0, 100.0, 112.0, 600.0)),), FIGURE,
                 marks=moved(MARKS, 1.7, (100.0, -40.0)))  # fmt: skip
    assert found.edge.value == pytest.approx(12.0 / head, abs=1e-3)


def test_what_is_lacking_is_said() -> None:
    study = study_of(MARKS, MARKS)
    found = examine(study).both.light
    assert isinstance(found, NotMeasurable)
    assert "reference and the drawing" in found.reason
    crossed = ((300.0, 100.0), (400.0, 100.0), (300.0, 100.0))
    flat = examine(shaded((crossed,), (DARK,))).both.light
    assert isinstance(flat, NotMeasurable)
    assert "line" in flat.reason


def test_facts_name_dark_that_goes_too_far_with_its_doubt() -> None:
    found = read((DARK,), (box(370.0, 100.0, 130.0, 600.0),), FIGURE)
    facts = {one.label: one for one in light_facts(found, GRADE)}
    edge = facts["shadow edge into the light"]
    assert edge.verdict == "over"
    assert edge.more
    assert edge.drawn.startswith("+0.")
    assert facts["of the figure is dark"].seen == "50 %"


@pytest.mark.parametrize(("away", "verdict"), [(0.1, "within"), (0.9, "over")])
def test_a_place_of_focus_is_there_or_so_many_heads_off(away: float, verdict: str) -> None:
    words, said = apart_words((100.0, 100.0), (100.0 + 80.0 * away, 100.0), 80.0, GRADE)
    assert said == verdict
    assert words == ("there" if verdict == "within" else f"{away:.1f} heads off")


def test_light_waits_until_nothing_would_move_what_is_shaded() -> None:
    fine = examine(study_of(MARKS, MARKS)).advised
    assert not_yet(fine) == ""
    wide = {k: replace(m, x=400.0 + 1.3 * (m.x - 400.0)) for k, m in MARKS.items()}
    early = not_yet(examine(study_of(MARKS, wide)).advised)
    assert "correction" in early


def test_the_place_of_focus_is_noted_in_the_file() -> None:
    from bralto.core.session.notes import Notes, notes_of, with_notes

    study = with_notes(study_of(MARKS, MARKS), Notes(focal=(410.5, 160.0)))
    assert notes_of(parse_study(study_text(study), "x")).focal == (410.5, 160.0)
    for wrong in ([1.0], "there", [1.0, None], [1.0, True]):
        damaged = replace(study, extra={**study.extra, "bench": {"focal": wrong}})
        assert notes_of(damaged).focal is None
