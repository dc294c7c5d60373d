"""The marks are doubted first: accidents are told as what they are, and faults are not."""

from __future__ import annotations

import re
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from tests.studies import figure_marks, study_of

from bralto.core.doubts.doubt import KINDS, WHOLE_PICTURE
from bralto.core.doubts.keystone import flattened, projected
from bralto.core.doubts.remedies import REMEDIED, remedied
from bralto.core.examination.assessment import Assessment, assess
from bralto.core.results import NotMeasurable
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture, Sheet, Study
from bralto.core.views.shipped_views import view_named

VIEW = view_named("figure-front")
SEEN = figure_marks(scale=300.0)
SIDED = [key[:-2] for key in SEEN if key.endswith("_r")]
Marks = dict[str, Mark]


def shaky(marks: Marks, seed: int = 1) -> Marks:
    """The same, drawn by a hand of 0.01 head."""
    rng = np.random.default_rng(seed)
    return {
        k: replace(m, x=m.x + rng.normal(0, 3), y=m.y + rng.normal(0, 3)) for k, m in marks.items()
    }


DRAWN = shaky(SEEN)


def swapped(marks: Marks, stems: list[str]) -> Marks:
    out = dict(marks)
    for stem in stems:
        out[f"{stem}_r"], out[f"{stem}_l"] = marks[f"{stem}_l"], marks[f"{stem}_r"]
    return out


def mapped(marks: Marks, change) -> Marks:
    return {k: replace(m, **dict(zip("xy", map(float, change(m.x, m.y)), strict=True)))
            for k, m in marks.items()}  # fmt: skip


def told(drawn: Marks, **more: object) -> Assessment:
    return assess(study_of(SEEN, drawn, **more), corrections=True)


def in_order(by: int, at: int) -> Marks:
    """From mark ``at`` on each where its neighbour in the order of placing belongs."""
    order = [key for key in VIEW.placing if key in DRAWN]
    out = dict(DRAWN)
    for i in range(at, len(order)):
        if 0 <= i + by < len(order):
            out[order[i]] = DRAWN[order[i + by]]
    return out


WHOLE = {
    "exchanged-sides": swapped(DRAWN, SIDED),
    "mirrored": mapped(DRAWN, lambda x, y: (2000 - x, y)),
    "turned": mapped(DRAWN, lambda x, y: (y, 2000 - x)),
    "order-shifted": in_order(1, 5),
}


@pytest.mark.parametrize("kind", WHOLE)
def test_a_picture_that_cannot_be_true_is_doubted_and_nothing_is_corrected(kind: str) -> None:
    said = told(WHOLE[kind])
    (doubt,) = said.doubts
    assert doubt.kind == kind
    assert doubt.of_the_whole
    assert said.corrections == ()
    assert doubt.words.endswith(".")


@pytest.mark.parametrize("kind", WHOLE)
def test_its_remedy_leaves_what_an_untouched_drawing_gives(kind: str) -> None:
    study = study_of(SEEN, WHOLE[kind])
    (doubt,) = assess(study, corrections=True).doubts
    assert doubt.remedy in REMEDIED
    mended = assess(remedied(VIEW, study, "first", doubt), corrections=True)
    sound = told(DRAWN)
    assert not isinstance(mended.miss, NotMeasurable)
    assert not isinstance(sound.miss, NotMeasurable)
    assert mended.miss.value == pytest.approx(sound.miss.value, abs=0.01)
    assert mended.doubts == ()


def test_a_mark_that_was_set_twice_shifts_the_order_the_other_way() -> None:
    (doubt,) = told(in_order(-1, 6)).doubts
    assert (doubt.kind, doubt.amount) == ("order-shifted", -1.0)


def test_one_pair_exchanged_is_a_doubt_and_has_no_say_in_the_corrections() -> None:
    big = DRAWN | {"crown": replace(DRAWN["crown"], y=DRAWN["crown"].y - 0.2 * 300)}
    said = told(swapped(big, ["knee"]))
    assert [(one.kind, one.marks) for one in said.doubts] == [
        ("exchanged-pair", ("knee_r", "knee_l"))
    ]
    assert [(one.move, one.part) for one in said.corrections] == [("scale", "head")]
    assert all("knee" not in key for one in said.corrections for key in one.shifts)


def test_a_limb_exchanged_is_one_doubt() -> None:
    (doubt,) = told(swapped(DRAWN, ["deltoid", "elbow", "wrist", "fingertip"])).doubts
    assert doubt.kind == "exchanged-limb"
    assert {key[:-2] for key in doubt.marks} == {"deltoid", "elbow", "wrist", "fingertip"}
    assert "elbow, wrist and fingertip" in doubt.words


def test_the_board_whose_sides_lie_against_the_view_is_named() -> None:
    """Seen from the front the model's right is on the viewer's left."""
    study = study_of(swapped(SEEN, ["hip_point"]), DRAWN)
    (doubt,) = assess(study, corrections=True).doubts
    assert (doubt.kind, doubt.board) == ("exchanged-pair", Board.REFERENCE)
    mended = remedied(VIEW, study, "first", doubt)
    assert mended.reference is not None
    assert mended.reference.marks["hip_point_r"] == SEEN["hip_point_r"]


def test_one_wild_mark_is_to_be_looked_at_again() -> None:
    wild = DRAWN | {"navel": replace(DRAWN["navel"], x=DRAWN["navel"].x + 300)}
    said = told(wild)
    (doubt,) = said.doubts
    assert (doubt.kind, doubt.marks, doubt.remedy) == ("wild-mark", ("navel",), "look")
    assert "1.0 head" in doubt.words
    assert said.corrections == ()


def test_a_heel_at_the_ankle_is_no_short_foot() -> None:
    heel = DRAWN | {
        "heel_r": replace(DRAWN["heel_r"], y=DRAWN["ankle_r"].y + 2, x=DRAWN["ankle_r"].x)
    }
    (doubt,) = told(heel).doubts
    assert (doubt.kind, doubt.marks) == ("heel-not-sole", ("heel_r",))


@pytest.mark.parametrize("long", [1.10, 0.90])
def test_a_heel_at_the_ankle_of_a_leg_that_is_off_itself_is_still_asked_about(long: float) -> None:
    """The whole leg drawn 10 % long or short takes the ankle far from where the rest puts it; a
    leg's short foot is no heel at the ankle."""
    hip = DRAWN["hip_point_r"]
    leg = {
        key: replace(DRAWN[key], y=hip.y + long * (DRAWN[key].y - hip.y))
        for key in ("knee_r", "ankle_r", "heel_r", "toe_r")
    }
    at_ankle = {"heel_r": replace(DRAWN["heel_r"], x=leg["ankle_r"].x + 3, y=leg["ankle_r"].y)}
    found = {one.kind: one.marks for one in told(DRAWN | leg | at_ankle).doubts}
    assert found.get("heel-not-sole") == ("heel_r",)
    ankle = leg["ankle_r"]
    short = {
        key: replace(leg[key], x=ankle.x + 0.6 * (leg[key].x - ankle.x),
                     y=ankle.y + 0.6 * (leg[key].y - ankle.y))
        for key in ("heel_r", "toe_r")
    }  # fmt: skip
    assert "heel-not-sole" not in {one.kind for one in told(DRAWN | leg | short).doubts}


def test_a_head_small_by_what_lies_above_the_hairline_is_asked_about_and_still_listed() -> None:
    down = 0.14 * (DRAWN["chin"].y - DRAWN["crown"].y)
    said = told(DRAWN | {"crown": replace(DRAWN["crown"], y=DRAWN["crown"].y + down)})
    assert [one.kind for one in said.doubts] == ["crown-at-hairline"]
    assert [(one.move, one.part) for one in said.corrections] == [("scale", "head")]


def test_a_photo_that_is_turned_may_be_turned_back() -> None:
    c, s = np.cos(np.radians(5.0)), np.sin(np.radians(5.0))
    study = study_of(SEEN, mapped(DRAWN, lambda x, y: (c * x - s * y + 900, s * x + c * y)))
    (doubt,) = assess(study, corrections=True).doubts
    assert doubt.kind == "tilted-photo"
    assert doubt.amount == pytest.approx(5.0, abs=0.3)  # counter-clockwise undoes a clockwise turn
    mended = assess(remedied(VIEW, study, "first", doubt), corrections=True)
    assert mended.doubts == mended.corrections == ()


def on_paper(corners: tuple[int, int, int, int] = (0, 1, 2, 3), size=(297.0, 420.0)) -> Study:
    """The drawing on a sheet that lies square in its photo, 0.2 mm a px."""
    study = study_of(SEEN, mapped(DRAWN, lambda x, y: (0.3 * x + 400, 0.3 * y + 700)))
    places = ((0.0, 0.0), (1485.0, 0.0), (1485.0, 2100.0), (0.0, 2100.0))
    a, b, c, d = (places[i] for i in corners)
    state = study.states[0]
    picture = replace(state.picture, sheet=Sheet((a, b, c, d), size))
    return study.with_state(replace(state, picture=picture))


@pytest.mark.parametrize("corners", [(1, 2, 3, 0), (2, 3, 0, 1), (3, 2, 1, 0), (1, 0, 3, 2)])
def test_corners_that_begin_elsewhere_are_set_right(corners: tuple[int, int, int, int]) -> None:
    study = on_paper(corners)
    (doubt,) = assess(study, corrections=True).doubts
    assert doubt.kind == "sheet-corners"
    mended = remedied(VIEW, study, "first", doubt)
    assert mended.states[0].picture.sheet == on_paper().states[0].picture.sheet


def test_a_paper_that_was_said_to_lie_across_stands_up_again() -> None:
    study = on_paper(size=(420.0, 297.0))
    (doubt,) = assess(study, corrections=True).doubts
    assert (doubt.kind, doubt.size_mm) == ("paper", (297.0, 420.0))
    assert "A3 upright" in doubt.words
    assert assess(remedied(VIEW, study, "first", doubt), corrections=True).doubts == ()


def test_marks_that_nothing_explains_are_said_to_be_so_and_nothing_is_listed() -> None:
    rng = np.random.default_rng(4)
    said = told(
        {k: replace(m, x=rng.uniform(0, 4000), y=rng.uniform(0, 4000)) for k, m in SEEN.items()}
    )
    (doubt,) = said.doubts
    assert doubt.kind == "unexplained"
    assert len(doubt.marks) == 3
    assert said.corrections == ()


def test_the_same_picture_twice_is_said() -> None:
    picture = Picture("a.png", 4000, 4000, SEEN)
    study = study_of(SEEN, SEEN)
    state = replace(study.states[0], picture=picture)
    twice = replace(study, reference=picture, states=(state,))
    assert [one.kind for one in assess(twice, corrections=True).doubts] == ["same-picture"]
    # Set twice by a hand they are still one picture.
    again = replace(state, picture=replace(picture, marks=shaky(SEEN)))
    doubts = assess(replace(twice, states=(again,)), corrections=True).doubts
    assert [one.kind for one in doubts] == ["same-picture"]
    # Two pictures whose marks agree are a good drawing.
    assert assess(study, corrections=True).doubts == ()


def test_a_keystone_is_found_by_its_terms() -> None:
    """Hartley and Zisserman 2004, 2.3: a projective map is affine but for its last row."""
    rng = np.random.default_rng(2)
    p = rng.uniform(-1.0, 1.0, (30, 2)) * [1.0, 4.0]
    q = (p * [1.1, 0.9] + [3.0, -2.0]) / (1.0 + p @ [0.01, 0.02])[:, None]
    flat, aslant, terms = projected(p, q)
    assert flat > 0.05
    assert aslant < 0.1 * flat
    size = np.ptp(p, axis=0).max()
    assert terms / size == pytest.approx([0.01, 0.02], rel=0.25)
    assert projected(p, flattened(p, q))[0] < 0.2 * flat


def test_a_photo_from_aside_is_doubted_and_only_what_is_left_is_corrected() -> None:
    xy = np.array([[m.x, m.y] for m in DRAWN.values()])
    middle, tall = xy.mean(axis=0), np.ptp(xy[:, 1])

    def aslant(x: float, y: float) -> np.ndarray:
        away = np.array([x, y]) - middle
        return middle + away / (1.0 + 0.2 * away[1] / tall)

    said = told(mapped(DRAWN, aslant))
    assert [one.kind for one in said.doubts] == ["keystone"]
    assert said.corrections == ()


@pytest.mark.parametrize("part", ["leg", "arm"])
def test_a_strong_fault_is_no_accident(part: str) -> None:
    """Both limbs a fifth too long about where they begin."""
    keys = ("knee", "ankle", "heel", "toe") if part == "leg" else ("elbow", "wrist", "fingertip")
    out = dict(DRAWN)
    for side in "rl":
        root = DRAWN[f"{'trochanter' if part == 'leg' else 'shoulder'}_{side}"]
        for key in (f"{k}_{side}" for k in keys):
            m = DRAWN[key]
            out[key] = replace(m, x=root.x + 1.2 * (m.x - root.x), y=root.y + 1.2 * (m.y - root.y))
    said = told(out)
    assert said.doubts == ()
    assert said.corrections


def test_the_kinds_of_the_whole_picture_are_those_of_the_formats_page() -> None:
    """docs/formats.md says which doubts leave the corrections empty."""
    page = (Path(__file__).parents[2] / "docs" / "formats.md").read_text("utf-8")
    between = page.partition("Doubts of the whole")[2].partition("leave")[0]
    assert set(re.findall(r"`([a-z-]+)`", between)) == set(WHOLE_PICTURE)
    assert set(WHOLE_PICTURE) < set(KINDS)
