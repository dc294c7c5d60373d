"""Canons as data, and pictures held against them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.studies import figure_marks, moved, study_of

from bralto.core.canons.compare import against_canon, averages_beside, completed
from bralto.core.canons.figure import canon_averages
from bralto.core.canons.shipped_canons import Average, canon_keys, canon_named, canons_of
from bralto.core.errors import UserError
from bralto.core.examination.assessment import assess
from bralto.core.measures.readings import Reading
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named

FIGURE = view_named("figure-front")
PICTURE = Picture("", 4000, 4000, figure_marks())
KEYS = [key if key != "child" else "child-at-3" for key in canon_keys()]


def held(view: str, canon: str, picture: Picture) -> dict[str, Reading]:
    found = against_canon(view_named(view), canon_named(canon), picture, GRADES["developing"])
    assert not isinstance(found, NotMeasurable), found
    return {one.spec.id: one for one in found}


@pytest.mark.parametrize("key", KEYS)
def test_a_canon_says_its_source_and_speaks_of_measures_that_exist(key: str) -> None:
    canon = canon_named(key)
    assert canon.source
    assert canon.views
    for view in canon.views:
        assert canon.values(view)
        for name, one in canon.values(view).items():
            assert view_named(view).measure(name) is not None, (view, name)
            assert one.low <= one.high


@pytest.mark.parametrize("key", KEYS)
def test_no_canon_contradicts_its_own_stations(key: str) -> None:
    """What it says of a measure is what its heights give, where they give one."""
    canon = canon_named(key)
    for name in canon.views:
        view, said = view_named(name), canon.values(name)
        heights = {k: one for k, one in said.items() if k.startswith("height.")}
        bare = canon_averages(view, replace(canon, by_view={name: heights}))
        for measure in said.keys() & bare.keys():
            one, other = said[measure], bare[measure].middle
            assert one.low - 1e-4 <= other <= one.high + 1e-4, (name, measure)


def test_the_groin_of_seven_and_a_half_heads_is_counted_in_both_ways() -> None:
    """3.75 from the top; or two heads from foot to knee and two to the groin, so 3.5, with half a
    head between navel and groin (common practice, no source)."""
    half, twos = (
        canon_averages(FIGURE, canon_named(key))
        for key in ("seven-and-a-half-heads", "seven-and-a-half-by-twos")
    )
    assert half["height.crotch"].middle == 7.5 / 2
    assert half["fraction.crotch_half"].middle == pytest.approx(0.5)
    assert twos["span.crotch_to_knee"].middle == pytest.approx(2.0)
    assert twos["span.knee_to_sole"].middle == pytest.approx(2.0)
    assert twos["height.crotch"].middle - twos["height.navel"].middle == pytest.approx(0.5)
    # Knee to foot against knee to waist: 2 : 2.5 of both, not 1 : 1.
    assert half["ratio.knee_foot_waist"].middle == pytest.approx(0.8)


def test_the_bony_tips_are_those_of_measured_adults_and_two_heads_the_deltoids() -> None:
    """Heinz et al. 2003 (507 adults, `openintro` bdims): biacromial over height .2322 and .2215,
    over .130 of the height in a head: 1.79 and 1.70, each with 0.08 between people."""
    for key in ("seven-and-a-half-heads", "seven-and-a-half-by-twos", "eight-heads"):
        tips = canon_named(key).values("figure-front")["span.shoulders"]
        assert tips.low == pytest.approx(0.2215 / 0.130, abs=1e-3)
        assert tips.high == pytest.approx(0.2322 / 0.130, abs=1e-3)
    assert canon_named("seven-and-a-half-heads").values("figure-back")["span.deltoids"].middle == 2


def test_schools_stand_side_by_side() -> None:
    beside = averages_beside(FIGURE)["height.crotch"]
    assert {key: one.middle for key, one in beside.items()} == {
        "eight-heads": 4.0, "seven-and-a-half-heads": 3.75, "seven-and-a-half-by-twos": 3.5,
    }  # fmt: skip
    face = averages_beside(view_named("head-front"))
    assert face["ratio.face_eyes"]["five-eyes"].middle == 5.0
    assert face["ratio.face_eyes"]["four-eyes"].middle == 4.0
    assert completed(view_named("head-front"), canon_named("face-halves"))[
        "ratio.face_eyes"
    ] == Average(5.0, 5.0)  # stylised faces complete no other school


def test_a_child_has_fewer_heads_the_younger_it_is() -> None:
    """Between the ages of the table in a straight line: halfway from 2 to 6 it is 5 1/2."""
    for view in ("figure-front", "figure-back", "figure-side"):
        heads = [
            canon_named(f"child-at-{age}").values(view)["span.figure"].middle
            for age in (0, 2, 4, 12, 18)
        ]
        assert heads == [4.0, 5.0, 5.5, 7.0, 7.5]
    for wrong in ("child", "child-at-19", "child-at-", "grown-up"):
        with pytest.raises(UserError, match="canon"):
            canon_named(wrong)
    child = completed(FIGURE, canon_named("child-at-6"))
    assert "span.deltoids" not in child  # a grown-up's
    assert "ratio.sides_thigh" in child


def test_a_picture_is_more_or_less_than_a_canon_within_its_own_doubt() -> None:
    found = held("figure-front", "eight-heads", PICTURE)
    whole = found["span.figure"]
    own = assess(study_of(figure_marks(), figure_marks())).reading("span.figure")
    assert (whole.reference, whole.drawing) == (8.0, pytest.approx(own.drawing))
    assert whole.u == pytest.approx(own.u / 2**0.5)  # one picture doubts, the canon does not
    assert whole.verdict == "under"
    unsaid = found["tilt.hips"]
    assert (unsaid.verdict, unsaid.error) == ("not measured", None)
    assert "says nothing" in unsaid.reason


def test_what_lies_between_the_ends_of_an_average_has_no_error() -> None:
    """Fingertips at 35 to 50 % of the way from groin to knee: at 42 % they are usual, at 60 % by
    10 % too low."""
    marks = figure_marks()
    for share, error in ((0.42, 0.0), (0.60, 0.10), (0.30, -0.05)):
        tip = {
            f"fingertip_{s}": Mark(
                marks["crotch"].x + share * (marks[f"knee_{s}"].x - marks["crotch"].x),
                marks["crotch"].y + share * (marks[f"knee_{s}"].y - marks["crotch"].y),
            )
            for s in "rl"
        }
        found = held("figure-front", "seven-and-a-half-heads", Picture("", 4000, 4000, marks | tip))
        for side in "rl":
            one = found[f"fraction.fingertip_thigh_{side}"]
            assert one.error == pytest.approx(error, abs=1e-9)


def side_marks(*, left: bool) -> dict[str, Mark]:
    """A figure in profile as `usual-body` has it, 100 px a head, facing right or left."""
    at = {
        "crown": (0.0, 0.0), "chin": (0.3, 1.0), "ear": (0.0, 0.6), "nape": (-0.35, 1.06),
        "pit_of_neck": (0.2, 1.45), "sternum_end": (0.4, 2.2), "ribcage_base": (0.6, 2.95),
        "elbow": (-0.1, 2.95), "trochanter": (0.0, 3.6), "knee": (0.1, 5.5), "ankle": (0.0, 7.2),
        "heel": (-0.25, 7.5), "toe": (0.9, 7.5),
    }  # fmt: skip
    way = -1.0 if left else 1.0
    return {
        key: Mark(2000 + way * 100 * x, 100 + 100 * y, spread=0.3) for key, (x, y) in at.items()
    }


@pytest.mark.parametrize("left", [False, True])
def test_the_heel_is_behind_the_ankle_whichever_way_the_figure_faces(left: bool) -> None:
    picture = Picture("", 4000, 4000, side_marks(left=left))
    found = held("figure-side", "seven-and-a-half-heads", picture)
    for key in (
        "alignment.heel_ankle", "alignment.nape_ear", "alignment.nape_pit", "alignment.elbow_ribs",
        "ratio.ribcage_breastbone",
    ):  # fmt: skip
        assert found[key].verdict == "within", (key, found[key])
    wrong = side_marks(left=left)
    wrong["heel"] = replace(wrong["heel"], x=wrong["ankle"].x)
    one = held("figure-side", "seven-and-a-half-heads", Picture("", 4000, 4000, wrong))
    assert one["alignment.heel_ankle"].verdict in {"over", "under"}


def test_a_head_that_is_an_average_doubts_every_count() -> None:
    """From the back 7.5 heads are known to 3.5 % at best: 0.26 head."""
    view = view_named("figure-back")
    marks = {"crown": Mark(500, 100), "nape": Mark(500, 208), "heel_r": Mark(480, 890, spread=0.1)}
    whole = held("figure-back", "eight-heads", Picture("", 999, 999, marks))["span.figure"]
    assert whole.drawing == pytest.approx(7.9)
    assert whole.u == pytest.approx(view.heads_scatter * 7.9, rel=0.2)
    assert whole.verdict == "cannot tell"


def test_a_kneeling_figure_is_not_held_against_the_heights_of_a_standing_one() -> None:
    marks = figure_marks()
    low = marks["knee_r"].y + 40.0
    for side in "rl":
        for key in ("ankle", "heel", "toe"):
            marks[f"{key}_{side}"] = replace(marks[f"{key}_{side}"], y=low - 120.0)
        marks[f"knee_{side}"] = replace(marks[f"knee_{side}"], y=low)
    found = held("figure-front", "seven-and-a-half-heads", Picture("", 4000, 4000, marks))
    for key in ("height.crotch", "span.figure", "fraction.crotch_half"):
        assert found[key].verdict == "not measured", key
        assert "stands on its feet" in found[key].reason
    assert found["ratio.ribcage_breastbone"].error is not None


def test_a_drawing_from_imagination_is_held_against_its_canon_and_what_others_say() -> None:
    marks = figure_marks()
    study = replace(study_of(marks, marks), reference=None, canon="eight-heads", kind="imagined")
    found = assess(study, corrections=True)
    assert found.canon == "eight-heads"
    assert found.reading("span.figure").reference == 8.0
    assert found.unit.drawing_px == pytest.approx(100.0)
    measured = {r.spec.id for r in found.readings if r.verdict != "not measured"}
    assert len(measured) >= 40  # of 146; tilts, and how far a limb is held out, no canon knows
    assert measured >= {
        "height.crotch", "span.deltoids", "span.hand_r", "ratio.ribcage_breastbone",
        "alignment.elbow_ribs_l", "fraction.fingertip_thigh_r", "ratio.sides_thigh",
    }  # fmt: skip
    for nothing in (found.fit, found.miss, found.short_miss, found.corrections):
        assert isinstance(nothing, NotMeasurable)
        assert "only the canon eight-heads" in nothing.reason
    with pytest.raises(UserError, match="name one of antique-eight-heads") as refused:
        assess(replace(study, canon=None))
    assert "face-halves" not in str(refused.value)  # that is none of a figure
    with pytest.raises(UserError, match="against a canon, and none is of object; add a reference"):
        assess(replace(study, view="object", canon=None))
    with pytest.raises(UserError, match=r"one of head-front, .*not of figure-front"):
        assess(replace(study, canon="face-thirds"))


def test_an_imagined_head_is_held_against_halves_thirds_and_eyes() -> None:
    view = view_named("head-front")
    rng = np.random.default_rng(2)
    marks = {m.key: Mark(*rng.uniform(100, 900, 2)) for m in view.landmarks}
    marks |= {"crown": Mark(500, 50), "chin": Mark(500, 950)}
    found = held("head-front", "face-halves", Picture("", 999, 999, marks))
    told = {key for key, one in found.items() if one.verdict != "not measured"}
    assert told >= {
        "fraction.eye_half", "fraction.brow_third", "ratio.face_eyes", "ratio.between_eyes",
        "alignment.mouth_pupil_r", "alignment.ear_base_nose_l", "fraction.neck_edge_r",
    }  # fmt: skip


def test_what_lacks_the_head_is_still_held_where_heads_do_not_count() -> None:
    marks = {k: m for k, m in figure_marks().items() if k != "chin"}
    found = against_canon(
        FIGURE, canon_named("eight-heads"), Picture("", 9, 9, marks), GRADES["learning"]
    )
    by_id = {r.spec.id: r for r in found}
    assert by_id["fraction.crotch_half"].error is not None
    assert by_id["height.crotch"].error is None
    assert "lacks the mark 'chin'" in by_id["height.crotch"].reason


def test_a_larger_picture_of_the_same_figure_is_held_alike() -> None:
    larger = Picture("", 9000, 9000, moved(figure_marks(), 1.7, (40.0, 25.0)))
    one, other = (held("figure-front", "eight-heads", p) for p in (PICTURE, larger))
    for key, reading in one.items():
        assert reading.error == (
            None if other[key].error is None else pytest.approx(other[key].error, abs=1e-9)
        )
    assert len(canons_of("figure-front")) >= 5
