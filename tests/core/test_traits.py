"""What one study gives the record, and what many of them tell: traits, skills, habits."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from bench.bodies import bodies
from scipy import stats
from tests.puppet import Pose, landmarks, scale_part
from tests.studies import POSE, figure_marks, moved, study_of

from bralto.core.examination.assessment import measured
from bralto.core.longitudinal.kept import Kept, keep_of
from bralto.core.longitudinal.skills import middle_half
from bralto.core.longitudinal.traits.comparison import compared, last_ten
from bralto.core.longitudinal.traits.habit_words import (
    change_words,
    habit_figure,
    habit_title,
    note_words,
    range_words,
)
from bralto.core.longitudinal.traits.study_traits import OF_HEAD, StudyTraits
from bralto.core.longitudinal.traits.trait_habits import FEWEST, Habit, found_habits, rest_of_body
from bralto.core.longitudinal.traits.trait_table import fit_spec, trait_named, traits_of
from bralto.core.mannequin.posing.poses import named_poses
from bralto.core.results import NotMeasurable
from bralto.core.session.passes import session_passes
from bralto.core.study.values import Guess, Intent, Mark, Study
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.store.record.trait_documents import read_traits_document, traits_document

GROUPS = ("figure", "head", "hand", "arm", "leg", "torso")


def kept_of(study: Study) -> Kept:
    return keep_of(measured(study), study.guesses)


def drawn_with(parts: dict[str, float], pose: Pose = POSE, width: float = 1.0) -> dict[str, Mark]:
    """The puppet with parts drawn larger, 1.6 times as high as `figure_marks` has it."""
    body = landmarks(pose)
    for part, factor in parts.items():
        body = scale_part(body, part, factor)
    return {
        key: Mark(900.0 + 160.0 * width * float(x), 1700.0 - 160.0 * float(y), "seen", 1.5)
        for key, (x, y) in body.items()
        if key not in {"hip_r", "hip_l"}
    }


def traits_with(parts: dict[str, float], **other: object) -> StudyTraits:
    found = kept_of(study_of(figure_marks(), drawn_with(parts, **other))).traits
    assert isinstance(found, StudyTraits)
    return found


def against_rest(found: StudyTraits) -> dict[str, float]:
    """Sizes against the mean of all others, as shares."""
    values = {key: one.value for key, one in found.sizes.items()}
    mean = np.median(list(values.values()))
    return {key: float(np.expm1(value - mean)) for key, value in values.items()}


# The table


@pytest.mark.parametrize("group", GROUPS)
def test_every_trait_names_what_there_is(group: str) -> None:
    views = [view_named(key) for key in view_keys() if key.split("-")[0] == group]
    measures = {spec.id for view in views for spec in view.measures}
    steps = {step.key for view in views for step in session_passes(view)}
    assert fit_spec(group) is not None
    for trait in traits_of(group):
        assert trait.step in steps
        assert set(trait.poses) <= set(named_poses())
        assert trait.measures == () or set(trait.measures) & (measures | set(OF_HEAD))
        assert trait_named(trait.key) == trait
        assert ("{}" in trait.told) == (trait.kind == "slope")
        assert trait.first
        assert trait.drill
    assert len({trait.key for trait in traits_of(group)}) == len(traits_of(group))


# One study


def test_a_perfect_copy_has_no_trait() -> None:
    found = traits_with({})
    assert all(abs(one.value) < 1e-6 for one in found.sizes.values())
    assert all(abs(one.value) < 1e-5 for one in found.values.values())
    for there in found.pairs.values():
        assert all(one.seen == pytest.approx(one.drawn, abs=1e-6) for one in there)
    assert all(np.hypot(*away) < 1e-6 for away in found.misses.values())


@pytest.mark.parametrize(
    ("part", "trait", "factor"),
    [("head", "head", 1.12), ("head", "head", 0.9), ("arm_l", "sides.arm", 1.15)],
)
def test_one_part_too_large_is_one_trait(part: str, trait: str, factor: float) -> None:
    found = traits_with({part: factor})
    if trait == "head":
        sizes = against_rest(found)
        assert sizes["head"] == pytest.approx(factor - 1.0, abs=0.02)
        assert all(abs(sizes[key]) < 0.02 for key in sizes if key != "head")
        assert abs(found.values["width"].value) < 0.01
    else:
        assert np.expm1(found.values[trait].value) == pytest.approx(factor - 1.0, abs=0.03)
        assert abs(found.values["sides.leg"].value) < 0.01


def test_a_wide_drawing_is_wide_and_not_broad_in_the_shoulders() -> None:
    found = traits_with({}, width=1.08)
    assert np.expm1(found.values["width"].value) == pytest.approx(0.08, abs=0.01)
    sizes = against_rest(found)
    assert all(abs(size) < 0.02 for size in sizes.values())


def test_what_is_wrong_with_the_whole_is_out_of_the_skills() -> None:
    """Wide by 8 %, turned by 3 degrees, twice as high on another page: nothing is misplaced."""
    seen = figure_marks()
    wide = {k: Mark(1.08 * m.x, m.y, "seen", m.spread) for k, m in seen.items()}
    kept = kept_of(study_of(seen, moved(wide, 2.0, (300, 400), clockwise=3.0)))
    for name, most in (("heights", 0.01), ("widths", 0.01), ("plumb", 0.01), ("tilts", 0.3)):
        assert kept.summary.skill(name).value < most
    assert np.expm1(kept.traits.values["width"].value) == pytest.approx(0.08, abs=0.01)


def test_a_big_head_does_not_make_every_height_wrong() -> None:
    study = study_of(figure_marks(), drawn_with({"head": 1.15}))
    kept, plain = kept_of(study), measured(study).assessment.readings
    raw = [r for r in plain if r.spec.skill == "heights" and r.spec.telling and r.u]
    assert np.median([abs(r.error) for r in raw]) > 0.15
    assert kept.summary.skill("heights").value < 0.02


def test_skills_mean_the_same_under_every_school() -> None:
    """Whichever mark the drawing is counted from, and whatever head it is counted in."""
    seen, drawn = figure_marks(), drawn_with({"head": 1.1, "leg_r": 0.95})
    found = [
        kept_of(study_of(seen, drawn, school=school)) for school in ("head", "best-fit", "envelope")
    ]
    for name in ("heights", "widths", "tilts", "plumb"):
        values = [one.summary.skill(name).value for one in found]
        assert values == pytest.approx([values[0]] * 3, rel=1e-6)
    assert found[0].traits == found[1].traits


def test_the_uncertainty_of_a_skill_is_what_repeated_placing_scatters() -> None:
    rng = np.random.default_rng(5)
    seen, drawn = figure_marks(), drawn_with({"arm_r": 1.12, "leg_l": 0.93, "head": 1.08})

    def again(marks: dict[str, Mark]) -> dict[str, Mark]:
        return {
            k: replace(m, x=m.x + rng.normal(0, 1.5), y=m.y + rng.normal(0, 1.5))
            for k, m in marks.items()
        }

    once = kept_of(study_of(seen, drawn)).summary
    many = [kept_of(study_of(again(seen), again(drawn))).summary for _ in range(150)]
    for name in ("heights", "widths", "tilts", "plumb"):
        spread = np.std([one.skill(name).value for one in many])
        assert 0.6 * spread < once.skill(name).u < 2.0 * spread


def test_the_middle_half_leaves_out_the_smallest_and_the_largest() -> None:
    sizes = np.array([9.0, 1.0, 2.0, 3.0, 100.0, 4.0, 0.0, 5.0])
    assert sorted(sizes[middle_half(sizes)]) == [2.0, 3.0, 4.0, 5.0]
    assert middle_half(np.array([3.0, 1.0])).tolist() == [0, 1]


def test_the_skill_of_shapes_is_how_far_outlines_lie_apart() -> None:
    block = ((100.0, 100.0), (200.0, 100.0), (200.0, 300.0), (100.0, 300.0))
    wide = ((100.0, 100.0), (240.0, 100.0), (240.0, 300.0), (100.0, 300.0))
    study = study_of(figure_marks(), figure_marks())
    reference = replace(study.reference, polygons={"gap": block, "mass": block})
    picture = replace(study.states[0].picture, polygons={"gap": wide, "mass": block})
    state = replace(study.states[0], picture=picture)
    shapes = kept_of(replace(study, reference=reference, states=(state,))).summary.skill("shapes")
    # Laid centre on centre the wide one stands out by 0.2 head (of 100 px) to each side.
    assert (shapes.value, shapes.measures) == (pytest.approx(0.1), 2)
    assert shapes.unit == "head"


def test_seeing_and_hand_are_counted_in_tolerances_where_it_was_guessed() -> None:
    study = study_of(figure_marks(), figure_marks())
    true = measured(study).assessment.reading("tilt.shoulders").reference
    found = kept_of(replace(study, guesses=(Guess("tilt.shoulders", true + 6.0),))).summary
    # Developing: 3 degrees. The eye was 6 off, and the hand drew what is there, 6 from the guess.
    assert found.skill("seeing").value == pytest.approx(2.0)
    assert found.skill("hand").value == pytest.approx(2.0)
    assert kept_of(study).summary.skill("seeing") is None


def test_what_was_meant_is_no_habit() -> None:
    study = study_of(figure_marks(), drawn_with({"head": 1.2}))
    meant = replace(study, intents=(Intent("span.head", 1.2), Intent("tilt.shoulders", 1.5)))
    plain, found = (kept_of(one).traits for one in (study, meant))
    assert "head" in plain.sizes
    assert "head" not in found.sizes
    assert found.sizes["legs"] == plain.sizes["legs"]
    assert (len(plain.pairs["tilts"]), len(found.pairs["tilts"])) == (2, 1)  # the hips are left


def test_eyes_set_high_are_so_along_the_tilted_heads_own_axis() -> None:
    """A head tilted by 25 degrees, its eyes and brows 0.08 head too high along its centre line."""
    body = next(iter(bodies("head-front")))
    places = {key: at - body.marks["chin"] for key, at in body.marks.items()}
    high = {key: at + (np.array([0.0, 0.08]) if key.startswith(("eye_", "pupil", "lid_", "iris_",
            "brow", "nose_root")) else 0.0) for key, at in places.items()}  # fmt: skip
    c, s = np.cos(np.radians(25.0)), np.sin(np.radians(25.0))

    def marks(some: dict[str, np.ndarray]) -> dict[str, Mark]:
        turn = np.array([[c, -s], [s, c]])
        found = {}
        for key, at in some.items():
            x, y = 700.0 * (turn @ at) * [1.0, -1.0] + 2000.0
            found[key] = Mark(float(x), float(y), "seen", 1.5)
        return found

    study = study_of(marks(places), marks(high), view="head-front")
    found = kept_of(study).traits
    assert found.values["eyes"].value == pytest.approx(0.08, abs=0.005)


def test_marks_that_are_of_no_one_figure_tell_no_traits() -> None:
    rng = np.random.default_rng(3)
    seen = figure_marks()
    places = rng.permutation(len(seen))
    keys = list(seen)
    mixed = {keys[i]: seen[keys[j]] for i, j in enumerate(places)}
    found = kept_of(study_of(seen, mixed)).traits
    assert not found
    assert found.reason


def test_few_marks_tell_what_they_can() -> None:
    seen = {
        k: m for k, m in figure_marks().items() if k in {"crown", "chin", "pit_of_neck", "crotch"}
    }
    found = kept_of(study_of(seen, seen)).traits
    assert "sides.arm" not in found.values
    assert "hands" not in found.values
    alone = {k: seen[k] for k in ("crown", "chin")}
    assert not kept_of(study_of(alone, alone)).traits


def test_traits_come_back_from_their_document() -> None:
    found = traits_with({"head": 1.1})
    again = read_traits_document(traits_document(found))
    assert again.sizes.keys() == found.sizes.keys()
    assert again.sizes["head"].value == pytest.approx(found.sizes["head"].value, rel=1e-4)
    assert again.pairs["tilts"][0].seen == pytest.approx(found.pairs["tilts"][0].seen, rel=1e-4)
    assert again.misses.keys() == found.misses.keys()
    assert read_traits_document(traits_document(NotMeasurable("too few marks"))) is None
    whole = traits_document(found)
    wrong = '{"sizes":{"a":[1,1e999]}}'
    for damaged in ("", "{}", whole.replace("sizes", "seizes"), whole.replace("[", "[[", 1), wrong):
        assert read_traits_document(damaged) is None


# Many studies


def course(
    count: int, seed: int, parts: dict[str, float], sway: float = 0.02, straight: float = 1.0
) -> list[StudyTraits]:
    """A learner's studies of poses by chance; every part comes and goes by ``sway``."""
    rng = np.random.default_rng(seed)
    found = []
    for _ in range(count):
        pose = Pose(
            hips=float(rng.uniform(-10, 10)), shoulders=float(rng.uniform(-10, 10)),
            head=float(rng.uniform(-6, 6)), lean=float(rng.uniform(-4, 4)),
            arms=POSE.arms, legs=POSE.legs,
        )  # fmt: skip
        stiff = replace(
            pose, hips=straight * pose.hips, shoulders=straight * pose.shoulders,
            head=straight * pose.head, lean=straight * pose.lean,
        )  # fmt: skip
        sizes = {
            part: parts.get(part, 1.0) * float(1.0 + rng.normal(0.0, sway))
            for part in ("head", "arm_r", "arm_l", "leg_r", "leg_l")
        }
        drawn = {
            key: replace(m, x=m.x + rng.normal(0.0, 1.5), y=m.y + rng.normal(0.0, 1.5))
            for key, m in drawn_with(sizes, stiff).items()
        }
        kept = kept_of(study_of(figure_marks(pose), drawn)).traits
        assert isinstance(kept, StudyTraits)
        found.append(kept)
    return found


DEVELOPING = GRADES["developing"]


def told(studies: list[StudyTraits]) -> dict[str, Habit]:
    return {one.trait.key: one for one in found_habits("figure", studies, DEVELOPING)}


def test_a_habit_is_named_with_its_size_and_what_is_sound_is_not() -> None:
    habits = told(course(14, 1, {"head": 1.1}))
    head = habits["head"]
    assert head.state == "habit"
    assert head.low < 0.10 < head.high
    assert habit_title(head) == "You make heads big"
    assert habit_figure(head).startswith("+")
    assert "against the rest" in note_words(head)
    assert [key for key, one in habits.items() if one.state == "habit"] == ["head"]
    assert next(iter(habits)) == "head"  # habits come first


def test_straightened_tilts_are_found_by_their_slope_alone() -> None:
    studies = course(20, 2, {}, straight=0.6)
    errors = [one.drawn - one.seen for study in studies for one in study.pairs["tilts"]]
    assert abs(np.mean(errors)) < 2.0 * np.std(errors) / np.sqrt(len(errors))  # nothing signed
    habits = told(studies)
    tilts = habits["tilts"]
    assert tilts.state == "habit"
    assert tilts.low < 0.6 < tilts.high
    assert habit_title(tilts) == "You straighten tilts"
    assert note_words(tilts) == f"you draw {100 * tilts.value:.0f} % of the tilt you see"


def test_an_interval_has_the_signs_of_its_figure() -> None:
    """*−4 % (2 to 5 %)* stood there of legs that come out short."""
    one = told(course(9, 3, {"head": 1.03}, 0.01))["head"]
    for low, value, high, words in (
        (-0.05, -0.035, -0.02, "−5 to −2 %"),
        (0.02, 0.035, 0.05, "2 to 5 %"),
        (-0.05, -0.02, 0.004, "−5 to 0 %"),
    ):
        habit = replace(one, value=value, low=low, high=high, nothing=0.0)
        assert range_words(habit) == words
        figure = float(habit_figure(habit).removesuffix(" %").replace("−", "-"))
        ends = [float(end) for end in words.removesuffix(" %").replace("−", "-").split(" to ")]
        assert ends[0] <= figure <= ends[1]


def test_what_cannot_be_told_yet_says_how_many_studies_more() -> None:
    habits = told(course(5, 3, {"head": 1.03}, 0.05))
    head = habits["head"]
    assert (head.state, habit_title(head)) == ("open", "Heads: cannot tell yet")
    assert head.more is None or head.more >= 1
    assert "%" in range_words(head)


def test_so_many_more_studies_would_settle_it_if_they_scatter_alike() -> None:
    """The smallest number whose t interval is as narrow as the mean, or as half the tolerance."""
    asked = 0
    for habit in found_habits("figure", course(6, 4, {"head": 1.04}), DEVELOPING):
        if habit.state != "open" or habit.more is None or habit.nothing != 0.0:
            continue
        asked += 1
        n, half = habit.n, 0.5 * (habit.high - habit.low)
        sd = half / stats.t.ppf(0.975, n - 1) * np.sqrt(n)
        wanted = max(abs(habit.value), 0.5 * habit.tolerance)

        def reach(many: int, sd: float = sd) -> float:
            return float(stats.t.ppf(0.975, many - 1) * sd / np.sqrt(many))

        assert reach(n + habit.more) <= wanted
        assert habit.more == 1 or reach(n + habit.more - 1) > wanted
    assert asked >= 3


@pytest.mark.parametrize("many", [0, 1, FEWEST - 1])
def test_too_few_studies_ask_nothing(many: int) -> None:
    assert found_habits("figure", course(many, 5, {}), DEVELOPING) == ()


def test_studies_that_are_all_alike_tell_no_habit_surer_than_marks_can() -> None:
    one = traits_with({})
    for habit in found_habits("figure", [one] * 40, DEVELOPING):
        assert habit.state in {"none", "open"}
        assert np.isfinite([habit.value, habit.low, habit.high, habit.p]).all()


def test_a_big_head_is_not_a_short_body_over_many_studies() -> None:
    studies = course(12, 6, {"head": 1.15})
    bears = rest_of_body("figure", studies)
    assert bears["head"] < 0.05 * bears["legs"]
    habits = told(studies)
    assert all(abs(habits[key].value) < 0.03 for key in ("trunk", "legs", "arms"))


def test_what_changed_in_the_last_ten_is_told() -> None:
    studies = course(10, 7, {"head": 1.12}) + course(10, 8, {"head": 1.02})
    changes = last_ten("figure", studies)
    assert [one.trait.key for one in changes][:1] == ["head"]
    head = changes[0]
    assert head.helped
    assert head.low < 1.02 / 1.12 - 1.0 < head.high
    assert change_words(head).startswith("heads: +")
    assert last_ten("figure", studies[:11]) == ()
    assert compared("figure", trait_named("head"), studies[:2], studies[10:]) is None
