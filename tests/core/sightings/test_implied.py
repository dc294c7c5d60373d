"""The figure that sightings imply, its doubt, and a drawing held against it."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from bench.bodies import bodies
from bench.faults import figure_kinds
from tests.core.sightings.sitters import PX, picture, places, points_of, sighted, wild

from bralto.core.corrections.correction_words import Correction
from bralto.core.examination.assessment import assess
from bralto.core.measures.table import measure_table
from bralto.core.measures.verdict import tolerance_of
from bralto.core.results import NotMeasurable
from bralto.core.sightings.comparing import best_comparison
from bralto.core.sightings.contradictions import contradictions
from bralto.core.sightings.figure.alone import shown_marks, sighted_marks
from bralto.core.sightings.figure.formulas import AtOnce, Sighter
from bralto.core.sightings.figure.implied import Implied, imply
from bralto.core.sightings.figure.known_before import prior_of, view_asked
from bralto.core.sightings.figure.stand_in import NOT_SIGHTED
from bralto.core.sightings.held import held_against
from bralto.core.sightings.next_question import next_questions
from bralto.core.sightings.next_sighting import most_telling
from bralto.core.study.taken import Sighting, Sightings, Sort, sighting_of
from bralto.core.study.values import Scale, Sheet, State, Study
from bralto.core.views.shipped_views import view_named

FRONT = view_named("figure-front")

USUAL = ("span.figure", "height.crotch", "height.navel", "height.knee_r", "height.knee_l",
         "span.shoulders", "span.hips", "tilt.shoulders", "tilt.hips", "tilt.torso",
         "offset.heel_r", "offset.heel_l")  # fmt: skip

LENGTHS = ("span.upper_arm_r", "span.upper_arm_l", "span.forearm_r", "span.forearm_l",
           "span.thigh_r", "span.thigh_l", "span.shank_r", "span.shank_l")  # fmt: skip


def implied(view_key: str, items: tuple[Sighting, ...]) -> Implied:
    found = imply(view_named(view_key), items)
    assert isinstance(found, Implied)
    return found


def from_life(items: tuple[Sighting, ...], *drawn: State, view: str = "figure-front") -> Study:
    return Study("rope coiler", view, None, drawn, sightings=Sightings(items))


def everything(view_key: str) -> tuple[str, ...]:
    """Heights and offsets of all marks: enough to pin a figure."""
    view = view_named(view_key)
    out = []
    for mark in view.landmarks:
        for kind in ("height", "offset"):
            spec = view.measure(f"{kind}.{mark.key}")
            if spec is not None and len(set(spec.points)) == 2 and mark.key != view.head[1]:
                out.append(spec.id)
    return tuple(out)


def test_exact_and_complete_sightings_give_the_figures_of_marks() -> None:
    """Issue: *with sightings exact and enough the figures equal those from marks to 1e-6*."""
    seen, rng = places("figure-front", 1), np.random.default_rng(3)
    kind = next(k for k in figure_kinds(bodies("figure-front")[1], rng) if k.title == "head big")
    drawn = State("first", picture(kind.change(bodies("figure-front")[1], 0.12), 1.5))
    items = sighted("figure-front", seen, *everything("figure-front"), "tilt.head", u=0.0)
    by_sight = assess(from_life(items, drawn), corrections=True)
    by_marks = assess(Study("x", "figure-front", picture(seen), (drawn,)), corrections=True)
    told = 0
    for a, b in zip(by_sight.readings, by_marks.readings, strict=True):
        if b.error is None or a.error is None:
            assert a.error is b.error, a.spec.id
            continue
        told += 1
        assert a.reference == pytest.approx(b.reference, abs=1e-6), a.spec.id
        assert a.error == pytest.approx(b.error, abs=1e-6), a.spec.id
        assert a.u == pytest.approx(b.u, abs=1e-6), a.spec.id
        assert a.verdict == b.verdict
    assert told > 100
    assert not isinstance(by_sight.miss, NotMeasurable)
    assert not isinstance(by_marks.miss, NotMeasurable)
    assert by_sight.miss.value == pytest.approx(by_marks.miss.value, abs=1e-6)
    moves = [
        [(one.move, one.part) for one in found.corrections]  # type: ignore[union-attr]
        for found in (by_sight, by_marks)
    ]
    assert moves[0] == moves[1]
    assert ("scale", "head") in moves[0]


def test_it_is_the_normal_distribution_given_linear_sightings() -> None:
    """Heights and offsets are linear in the marks while the head is held, and so is its length
    along itself: the estimate is that of the conditional normal distribution, written out in full
    (Rasmussen and Williams 2006, Gaussian Processes, A.2, from memory)."""
    names = ("height.navel", "height.knee_r", "offset.heel_l")
    items = sighted("figure-front", places("figure-front"), *names)
    prior = prior_of(FRONT)
    assert not isinstance(prior, NotMeasurable)
    found = implied("figure-front", items)
    rows = {key: i for i, key in enumerate(prior.keys)}
    h = np.zeros((4, len(prior.mean)))
    for i, (above, below) in enumerate((("crown", "navel"), ("crown", "knee_r"))):
        h[i, 2 * rows[above] + 1], h[i, 2 * rows[below] + 1] = 1.0, -1.0
    h[2, 2 * rows["heel_l"]], h[2, 2 * rows["pit_of_neck"]] = 1.0, -1.0
    crown, chin = rows["crown"], rows["chin"]
    along = found.marks.xy[crown] - found.marks.xy[chin]
    h[3, [2 * crown, 2 * crown + 1]], h[3, [2 * chin, 2 * chin + 1]] = along, -along
    y = np.array([*(one.value for one in items), 1.0])
    r = np.diag([*(one.u**2 for one in items), 1e-6])
    gain = prior.cov @ h.T @ np.linalg.inv(h @ prior.cov @ h.T + r)
    mean = prior.mean + gain @ (y - h @ prior.mean)
    cov = prior.cov - gain @ h @ prior.cov
    assert found.marks.xy.ravel() == pytest.approx(mean, abs=2e-3)
    assert np.diag(found.cov) == pytest.approx(np.diag(cov), rel=1e-2, abs=1e-4)


def test_a_thumb_mark_of_the_head_ties_all_lengths_in_mm_together() -> None:
    seen = places("figure-front")
    heads = sighted("figure-front", seen, "span.figure", "span.shoulders")
    on_pencil = [replace(one, value=31.0 * one.value, u=31.0 * one.u, in_mm=True) for one in heads]
    head = Sighting(Sort.LENGTH, FRONT.head, 31.0, 0.01, in_mm=True)
    in_mm = implied("figure-front", (head, *on_pencil))
    assert in_mm.mm_per_head == pytest.approx(31.0, abs=0.02)
    plain = implied("figure-front", heads)
    assert in_mm.marks.xy == pytest.approx(plain.marks.xy, abs=0.01)
    assert plain.mm_per_head is None


@pytest.mark.parametrize("answer", [1.0, -1.0])
def test_an_answer_moves_the_figure_to_its_side(answer: float) -> None:
    ask = Sighting(Sort.LONGER, ("shoulder_l", "elbow_l"), answer, 0.03, ("elbow_l", "wrist_l"))
    before, after = (implied("figure-front", items) for items in ((), (ask,)))

    def longer(found: Implied) -> float:
        at = {k: found.marks.xy[i] for i, k in enumerate(found.marks.keys)}
        upper, lower = at["shoulder_l"] - at["elbow_l"], at["elbow_l"] - at["wrist_l"]
        return float(np.hypot(*upper) - np.hypot(*lower))

    assert longer(after) * answer > min(longer(before) * answer, 0.0)
    assert longer(after) * answer >= longer(before) * answer - 1e-6  # which was expected
    # It only bounds: an answer that was expected hardly moves anything.
    surely = replace(ask, of=("chin", "crown"), value=1.0)
    kept = implied("figure-front", (surely,))
    assert kept.marks.xy == pytest.approx(before.marks.xy, abs=0.02)
    less = np.trace(before.cov) - np.trace(after.cov)
    assert less > 0.0 if answer < 0.0 else abs(less) < 1e-6


def test_a_sure_answer_puts_the_figure_on_its_side() -> None:
    """With hardly any doubt of its own a *higher* cuts the normal distribution in two; the mode
    then lies at the cut or stays where it was (a mode, not a mean: nothing else moves it)."""
    up = Sighting(Sort.HIGHER, ("shoulder_r",), 1.0, 0.001, ("shoulder_l",))
    found = implied(
        "figure-front", (up, *sighted("figure-front", places("figure-front"), "span.shoulders"))
    )
    at = {k: found.marks.xy[i] for i, k in enumerate(found.marks.keys)}
    assert at["shoulder_r"][1] >= at["shoulder_l"][1] - 1e-6


def test_what_was_not_sighted_has_no_verdict_and_no_correction() -> None:
    """A body far from the average, of which nothing but heights was sighted: its arms are the
    canon's by no word."""
    body, rng = bodies("figure-front")[0], np.random.default_rng(4)
    kind = next(k for k in figure_kinds(body, rng) if k.title == "both arms")
    seen = kind.change(body, 0.2)  # the sitter's own arms are a fifth longer
    items = sighted("figure-front", seen, *USUAL)
    drawn = State("first", picture(seen, 1.5))
    found = assess(from_life(items, drawn), corrections=True)
    assert found.corrections == ()
    arm = found.reading("span.upper_arm_l")
    assert arm is not None
    assert arm.verdict in {"not measured", "cannot tell"}
    unsaid = [one for one in found.readings if one.verdict == "not measured"]
    assert any(NOT_SIGHTED in one.reason for one in unsaid)
    assert not [one.spec.id for one in found.off()]


def test_what_bodies_usually_are_tells_no_check() -> None:
    """Thighs, shanks and upper arms say much of forearms, as bodies usually are; but a forearm that
    was not sighted is held against nothing."""
    seen = places("figure-front")
    names = [name for name in (*USUAL, *LENGTHS) if "forearm" not in name]
    items = sighted("figure-front", seen, *names)
    drawn = State("first", picture(seen, 1.5))
    found = assess(from_life(items, drawn))
    forearm, thigh = found.reading("span.forearm_l"), found.reading("span.thigh_l")
    assert forearm is not None
    assert thigh is not None
    assert forearm.error is None
    assert NOT_SIGHTED in forearm.reason
    assert thigh.error is not None
    # The figure so far may show an elbow that is only likely, with its doubt; the sheet may not.
    figure = implied("figure-front", items)
    assert "elbow_l" not in sighted_marks(FRONT, figure)
    assert sighted_marks(FRONT, figure) <= sighted_marks(FRONT, figure, along_alone=True)
    assert shown_marks(FRONT, implied("figure-front", ())) == frozenset()


def test_a_check_that_was_sighted_once_is_what_was_sighted() -> None:
    """The average has no say in it, however far it lies: value and doubt are the pencil's own."""
    seen = places("figure-front")
    spec = FRONT.measure("span.shoulders")
    assert spec is not None
    wide = sighting_of(FRONT, spec, 2.6)  # where 1.7 is usual
    assert wide is not None
    found = assess(from_life((wide,), State("first", picture(seen))))
    shoulders = found.reading("span.shoulders")
    assert shoulders is not None
    assert shoulders.reference == pytest.approx(2.6, abs=0.02)
    assert shoulders.u == pytest.approx(wide.u, rel=0.05)
    assert shoulders.verdict == "under"


@pytest.mark.parametrize(("title", "size", "extra"), [
    ("head big", 0.15, ()), ("both legs", 0.15, LENGTHS), ("shoulders tilted", 8.0, USUAL),
    ("one arm", 0.2, LENGTHS),
])  # fmt: skip
def test_a_fault_is_named_from_sightings(title: str, size: float, extra: tuple[str, ...]) -> None:
    body, rng = bodies("figure-front")[0], np.random.default_rng(6)
    kind = next(k for k in figure_kinds(body, rng) if k.title == title)
    drawn = State("first", picture(kind.change(body, size), 1.5))
    names = (*USUAL, *LENGTHS, *extra)
    items = sighted("figure-front", dict(body.marks), *names)
    found = assess(from_life(items, drawn), corrections=True).corrections
    assert not isinstance(found, NotMeasurable)
    named: list[Correction] = [one for one in found if (one.move, one.part) in kind.names]
    assert named, [(one.move, one.part) for one in found]


def test_intervals_of_the_marks_hold() -> None:
    """Over bodies that the data were not made from: nine in ten marks at least within two SD."""
    rng, inside = np.random.default_rng(11), []
    for number in range(6):
        seen = places("figure-front", number)
        found = implied("figure-front", sighted("figure-front", seen, *USUAL, *LENGTHS, rng=rng))
        truth = np.array([seen[key] - seen[FRONT.plumb] for key in found.marks.keys])
        sd = np.sqrt(np.diag(found.cov)).reshape(-1, 2)
        free = np.array([key != FRONT.plumb for key in found.marks.keys])
        inside += (np.abs(found.marks.xy - truth) < 2.0 * sd)[free].ravel().tolist()
    assert np.mean(inside) > 0.9


def test_each_sighting_makes_the_figure_surer_and_the_next_is_what_tells_most() -> None:
    seen, items, traces = places("figure-front", 2), (), []
    grade = FRONT.grade("developing")
    for _ in range(14):
        now = implied("figure-front", items)
        traces.append(float(np.trace(now.cov)))
        found = most_telling(FRONT, now, grade)
        tells = [one.tells for one in found if one.sighting.measure != "span.figure"]
        assert tells == sorted(tells, reverse=True)
        best = found[0].sighting
        items = (*items, *sighted("figure-front", seen, best.measure))
    assert traces == sorted(traces, reverse=True)
    assert items[0].measure == "span.figure"  # the whole before any part
    # Fourteen that were chosen leave less open than the first fourteen of a school's order.
    usual: tuple[Sighting, ...] = ()
    for _ in range(14):
        asked = next_questions(FRONT, usual, grade, "heads")
        assert not isinstance(asked, NotMeasurable)
        usual = (*usual, *sighted("figure-front", seen, asked[0].sighting.measure))
    assert _open(items) < _open(usual)


def doubts(found: Implied) -> dict[str, float]:
    """Standard uncertainty of every telling check of an implied figure, in its own unit."""
    table = measure_table(FRONT, found.points)
    slopes = table.gradients.reshape(len(table.values), -1)
    sizes = np.sqrt(np.einsum("mi,ij,mj->m", slopes, found.cov, slopes))
    return {one.id: float(u) for one, u in zip(FRONT.measures, sizes, strict=True) if one.telling}


def _open(items: tuple[Sighting, ...]) -> float:
    """How far the checks are from their tolerance, four times as far as most."""
    grade = FRONT.grade("developing")
    found = doubts(implied("figure-front", items))
    limits = {one.id: tolerance_of(one.kind, grade) for one in FRONT.measures}
    return float(np.mean([min(u / limits[name], 4.0) for name, u in found.items()]))


def test_the_expected_fall_of_a_doubt_is_the_one_that_comes() -> None:
    """Design of experiments on a linear model is exact: what is foretold for a check is what is
    left once it was sighted (Chaloner and Verdinelli 1995)."""
    now = implied("figure-front", ())
    spec, rows = FRONT.measure("height.navel"), FRONT.point_rows
    assert spec is not None
    expected = now.points.xy[rows["crown"], 1] - now.points.xy[rows["navel"], 1]
    one = sighting_of(FRONT, spec, float(expected))
    assert one is not None
    before = doubts(now)["height.navel"]
    after = doubts(implied("figure-front", (one,)))["height.navel"]
    assert after == pytest.approx(1.0 / math.sqrt(1.0 / before**2 + 1.0 / one.u**2), rel=1e-3)


def test_a_contradiction_is_named_with_its_partner() -> None:
    seen, rng = places("figure-front", 3), np.random.default_rng(9)
    items = list(sighted("figure-front", seen, *USUAL, *LENGTHS, rng=rng))
    assert contradictions(FRONT, items) == ()
    at = USUAL.index("height.crotch")
    items[at] = replace(items[at], value=items[at].value + 1.0)  # miscounted by a head
    found = contradictions(FRONT, items)
    assert found
    assert at in found[0].rows
    twice = (*items[:at], items[at], replace(items[at], value=items[at].value - 1.5))
    assert set(contradictions(FRONT, twice)[0].rows) <= {at, len(twice) - 1}


@pytest.mark.parametrize(("name", "doubted"), [("span.shoulders", True), ("tilt.shoulders", False)])
def test_a_length_is_doubted_sooner_than_a_tilt(name: str, doubted: bool) -> None:
    """Two and a half standard deviations apart: a head may be miscounted (common practice, no
    source), the tilt that a pencil is laid along errs by little."""
    items = sighted("figure-front", places("figure-front", 3), "span.figure", name)
    apart = 2.5 * math.sqrt(2.0) * items[1].u
    again = replace(items[1], value=items[1].value + apart)
    found = contradictions(FRONT, (*items, again))
    assert ([set(one.rows) for one in found] == [{1, 2}]) is doubted
    # Three times as far is doubted, whatever it is.
    wild = replace(items[1], value=items[1].value + 3.0 * apart)
    assert set(contradictions(FRONT, (*items, wild))[0].rows) == {1, 2}


def test_the_head_is_sighted_along_its_own_centre_line() -> None:
    seen = places("head-front", 1)  # a head that is tilted
    view = view_named("head-front")
    names = ("fraction.eye_half", "fraction.nose_third", "ratio.width_height", "tilt.head",
             "fraction.brow_third")  # fmt: skip
    items = sighted("head-front", seen, *names)
    found = assess(from_life(items, State("first", picture(seen)), view="head-front"))
    eye = found.reading("fraction.eye_half")
    assert eye is not None
    assert eye.error == pytest.approx(0.0, abs=5e-3)
    assert eye.verdict == "within"
    asked = next_questions(view, items, view.grade("developing"))
    assert not isinstance(asked, NotMeasurable)
    assert asked


def test_each_sighting_is_held_against_the_drawing_with_both_doubts() -> None:
    """Against the textbook sum of squares (JCGM 100:2008, 5.1.2)."""
    seen = places("figure-front")
    drawing = picture(seen, 3.0)
    spec = FRONT.measure("height.navel")
    assert spec is not None
    one = sighting_of(FRONT, spec, 4.4)
    assert one is not None
    ask = Sighting(Sort.HIGHER, ("crown",), -1.0, 0.05, ("sole",))
    held = held_against(FRONT, Sightings((one, ask)), drawing, FRONT.grade("developing"))
    points = points_of("figure-front", seen)
    rows = FRONT.point_rows
    head = float(np.hypot(*(seen["crown"] - seen["chin"])))
    down = (points.xy[rows["crown"]] - points.xy[rows["navel"]])[1] / head
    assert held[0].drawn == pytest.approx(down)
    assert held[0].error == pytest.approx(down - 4.4)
    assert held[0].u is not None
    assert held[0].u > one.u
    assert held[0].verdict == "under"
    assert (held[1].drawn, held[1].verdict) == (1.0, "over")


def test_sight_size_is_held_mm_for_mm() -> None:
    """The paper twice as far as the pencil shows everything twice as large (similar triangles)."""
    seen = places("figure-front")
    head = Sighting(Sort.LENGTH, FRONT.head, 30.0, 0.0, in_mm=True)
    items = (head, *sighted("figure-front", seen, *everything("figure-front"), "tilt.head", u=0.0))
    drawing = picture(seen)
    # On a sheet photographed at 2 px a mm.
    sheet = Sheet(((0.0, 0.0), (4000.0, 0.0), (4000.0, 4000.0), (0.0, 4000.0)), (2000.0, 2000.0))
    drawing = replace(drawing, sheet=sheet)
    study = Study("x", "figure-front", None, (State("first", drawing),), scale=Scale("sight-size"),
                  sightings=Sightings(items, eye_mm=600.0, plane_mm=1200.0))  # fmt: skip
    figure = assess(study).reading("span.figure")
    assert figure is not None
    drawn_mm = PX / 2.0 * float(np.hypot(*(seen["crown"] - seen["chin"])))
    assert figure.reference is not None
    assert figure.error == pytest.approx(figure.reference * (drawn_mm / 60.0 - 1.0), abs=1e-5)


def test_a_comparison_is_asked_where_its_answer_is_not_known() -> None:
    """And one that was answered is not asked again, nor one whose answer everybody knows."""
    asked: set[tuple[object, ...]] = set()
    items: tuple[Sighting, ...] = sighted("figure-front", places("figure-front"), *USUAL, *LENGTHS)
    for _ in range(5):
        found = implied("figure-front", items)
        one = best_comparison(FRONT, found)
        if one is None:
            break
        assert one.sort.is_answer
        assert one.value == 0.0
        assert one.asks not in asked
        asked.add(one.asks)
        at = Sighter(FRONT, found.points).on(one)
        assert at is not None
        slope = at.gradient.ravel()
        assert abs(at.value) < 2.0 * math.sqrt(float(slope @ found.cov @ slope) + one.u**2)
        items = (*items, replace(one, value=math.copysign(1.0, at.value)))
    assert asked


@pytest.mark.parametrize("asked_alone", [False, True])
@pytest.mark.parametrize("view_key", ["figure-front", "head-front"])
def test_all_sightings_at_once_are_what_each_is_alone(view_key: str, asked_alone: bool) -> None:
    """Measures in one go, others beside them or as measures of what is asked alone; and one of
    which two points lie in one spot."""
    view = view_named(view_key)
    marks = places(view_key)
    measures = [spec.id for spec in view.measures if sighting_of(view, spec, 0.0) is not None]
    items = [*sighted(view, marks, *measures)]
    first, second = view.head
    items += [
        replace(items[0], in_mm=True),
        Sighting(Sort.LONGER, (first, second), 1.0, 0.1, of=(first, second), of_along="level"),
        Sighting(Sort.LENGTH, (first, first), 1.0, 0.1),
    ]
    rng = np.random.default_rng(7)
    items += [wild(view, rng) for _ in range(60)]  # of no measure of the view, every sort of them
    assert {one.sort for one in items[-60:]} == {*Sort}
    if asked_alone:
        view = view_asked(view, items)
        assert not AtOnce(view, items).others
    sighter = Sighter(view, points_of(view, marks), 37.0)
    values, slopes, ok = sighter.on_all(AtOnce(view, items))
    assert ok.sum() > 20
    for one, value, slope, had in zip(items, values, slopes, ok, strict=True):
        alone = sighter.on(one)
        assert (alone is not None) == had
        if alone is not None:
            assert value == pytest.approx(alone.value, abs=1e-12)
            assert slope == pytest.approx(alone.gradient.ravel(), abs=1e-12)
        else:
            assert value == 0.0
            assert not slope.any()
