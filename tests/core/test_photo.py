"""What a photo is good for, marks carried over, plumb by a line, a known length."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.studies import figure_marks, moved, seen_from, study_of

from bralto.core.examination.assessment import assess
from bralto.core.marking.carry import (
    carry_by_fit,
    carry_by_sheet,
    confirmed,
    is_proposed,
    plumb_from_line,
)
from bralto.core.page.known_length import sheet_from_corner, sheet_from_length
from bralto.core.page.photo import camera_distance, guess_paper, read_sheet_photo, side_ratio
from bralto.core.results import NotMeasurable
from bralto.core.study.frames import sheet_homography, warp
from bralto.core.study.values import Mark, Picture, Sheet
from bralto.core.tolerances import GRADES
from bralto.core.views.shipped_views import view_named

VIEW, GRADE = view_named("figure-front"), GRADES["developing"]


@pytest.mark.parametrize("slant", [0.0, 20.0, 45.0])
@pytest.mark.parametrize("around", [0.0, 35.0, -80.0])
def test_the_sides_of_a_sheet_come_out_of_its_perspective(slant: float, around: float) -> None:
    """Zhang and He 2007 on corners projected by a pinhole written out here."""
    corners = seen_from(slant, around, (210.0, 297.0))
    wide = 1100.0 / 1600.0
    assert side_ratio(corners, (1600, 1200), wide) == pytest.approx(210 / 297, rel=1e-9)
    assert side_ratio(corners, (1600, 1200)) == pytest.approx(210 / 297, rel=0.03)


def test_papers_of_the_same_sides_are_all_named_and_others_not() -> None:
    found = guess_paper(seen_from(30, 20, (297.0, 420.0)), 0.5, (1600, 1200))
    names = [name for name, _ in found.papers]
    assert names[:4] == ["A3", "A4", "A2", "A5"]
    # B sheets have the same sides (ISO 216); two pads are 1 % beside, within the doubt of a lens.
    pads = {"50 x 70 cm", "70 x 100 cm"}
    assert {"A1", "B4", "B3"} <= set(names) <= {*names[:4], "A1", "B4", "B3", *pads}
    assert found.papers[0][1] == (297.0, 420.0)
    lying = guess_paper(seen_from(30, 20, (279.4, 215.9)), 0.5, (1600, 1200))
    assert lying.papers[0] == ("Letter", (279.4, 215.9))
    assert {name for name, _ in lying.papers} <= {"Letter", "11 x 14 in", "50 x 65 cm"}
    none = guess_paper(seen_from(30, 20, (100.0, 400.0)), 0.5, (1600, 1200))
    assert none.papers == ()
    assert [name for name, _ in none.nearest] == ["Tabloid", "70 x 100 cm"]
    # By hand: 0.25 : 1 is 0.397 from 11 : 17, which no slip of a hand could be.
    assert all(off > 30.0 for _, off in none.nearest)


def test_a_photo_from_the_side_or_from_afar_is_taken_with_a_warning() -> None:
    def notes(corners: np.ndarray, spread: float = 0.5, head_mm: float = 45.0) -> tuple[str, ...]:
        sheet = Sheet(tuple(map(tuple, corners.tolist())), (297.0, 420.0), spread)
        return read_sheet_photo(sheet, GRADE, head_mm).notes

    good = seen_from(15, 0, (297.0, 420.0)) * 4.0
    assert notes(good) == ()
    (aslant,) = notes(seen_from(68, 0, (297.0, 420.0)) * 12.0)
    assert "taken from the side: the sheet is foreshortened 2." in aslant
    (small,) = notes(good / 4.0)
    assert "8 are wanted" in small
    assert any("corners are known to" in note for note in notes(good, spread=8.0))


def test_the_doubt_of_the_sheet_is_in_every_figure_in_mm() -> None:
    """Each mark's spread and the sheet's add as squares: 1.5 and 2 px are 2.5 px."""
    study = study_of(figure_marks(), moved(figure_marks(), 2.0, (0, 0)))
    corners = ((0.0, 0.0), (4000.0, 0.0), (4000.0, 4000.0), (0.0, 4000.0))

    def u(spread: float) -> float:
        state = study.states[0]
        picture = replace(state.picture, sheet=Sheet(corners, (400.0, 400.0), spread))
        exact = {key: replace(m, spread=0.0) for key, m in figure_marks().items()}
        one = replace(study, states=(replace(state, picture=picture),))
        one = replace(one, reference=replace(one.reference, marks=exact))
        return assess(one).reading("span.shoulders").u

    marks = study.states[0].picture.marks["shoulder_r"].spread
    assert u(2.0) / u(0.0) == pytest.approx(np.hypot(marks, 2.0) / marks, rel=1e-9)


@pytest.mark.parametrize(("head_px", "away"), [(400.0, 1.70), (1200.0, 0.57)])
def test_the_camera_distance_comes_from_lens_and_head(head_px: float, away: float) -> None:
    """By hand: 26 mm on 36 mm of a 4,096 px side is 2,958 px; 0.23 m of 400 px are 1.70 m off."""
    picture = Picture("a.jpg", 3072, 4096, focal_35mm=26.0)
    assert camera_distance(picture, head_px) == pytest.approx(away, abs=0.005)
    assert camera_distance(replace(picture, focal_35mm=None), head_px) is None


def photo(slant: float, around: float, marks: dict[str, Mark] | None = None) -> Picture:
    sheet = Sheet(tuple(map(tuple, seen_from(slant, around, (297.0, 420.0)).tolist())), (297, 420))
    return Picture("a.jpg", 1600, 1200, marks or {}, sheet=sheet)


def test_marks_go_with_the_paper_from_photo_to_photo() -> None:
    mm = {"crown": (150.0, 60.0), "navel": (140.0, 200.0), "toe_r": (120.0, 380.0)}
    first, second = photo(10, 0), photo(35, 40)
    places = {}
    for name, picture in (("first", first), ("second", second)):
        back = np.linalg.inv(sheet_homography(picture.sheet))
        places[name] = warp(back, np.array(list(mm.values())))[0]
    marks = {k: Mark(*xy, "seen", 1.0) for k, xy in zip(mm, places["first"].tolist(), strict=True)}
    found = carry_by_sheet(replace(first, marks=marks), second)
    for key, xy in zip(mm, places["second"], strict=True):
        assert (found[key].x, found[key].y) == pytest.approx(tuple(xy), abs=1e-6)
        assert found[key].visibility == "inferred"
        assert is_proposed(found[key])
        assert 0.4 < found[key].spread < 1.6
    looked_at = confirmed(found["crown"])
    assert (looked_at.visibility, is_proposed(looked_at)) == ("seen", False)
    other = replace(second, sheet=replace(second.sheet, size_mm=(210.0, 297.0)))
    assert "differ in size" in carry_by_sheet(first, other).reason
    assert "corners" in carry_by_sheet(first, replace(second, sheet=None)).reason


def test_marks_of_the_reference_come_where_a_faultless_drawing_has_them() -> None:
    seen = figure_marks()
    whole = moved(seen, 1.7, (40.0, -20.0))
    drawn = {key: mark for key, mark in whole.items() if key not in {"navel", "toe_l"}}
    study = study_of(seen, drawn)
    found = carry_by_fit(VIEW, study.reference, study.states[0].picture)
    assert set(found) == {"navel", "toe_l"}
    assert (found["navel"].x, found["navel"].y) == pytest.approx(
        (whole["navel"].x, whole["navel"].y), abs=1e-6
    )
    full = study_of(seen, whole)
    assert "has all the marks" in carry_by_fit(VIEW, full.reference, full.states[0].picture).reason
    bare = study_of(seen, {})
    assert isinstance(carry_by_fit(VIEW, bare.reference, bare.states[0].picture), NotMeasurable)


@pytest.mark.parametrize("lean", [-12.0, 0.0, 7.5])
@pytest.mark.parametrize("on_sheet", [False, True])
def test_a_line_drawn_along_a_vertical_stands_plumb(lean: float, on_sheet: bool) -> None:
    """A line that leans by an angle to the right is turned back by it, whichever end is first."""
    t = np.radians(lean)
    low, high = (500.0, 900.0), (500.0 + 400 * np.sin(t), 900.0 - 400 * np.cos(t))
    picture = Picture("a.jpg", 2000, 2000)
    if on_sheet:
        corners = ((0.0, 0.0), (2000.0, 0.0), (2000.0, 2000.0), (0.0, 2000.0))
        picture = replace(picture, sheet=Sheet(corners, (500.0, 500.0)))
    for one, two in ((low, high), (high, low)):
        assert plumb_from_line(picture, one, two) == pytest.approx(lean, abs=1e-9)
    left, right = (100.0, 300.0), (100.0 + 400 * np.cos(t), 300.0 + 400 * np.sin(t))
    for one, two in ((left, right), (right, left)):
        assert plumb_from_line(picture, one, two, level=True) == pytest.approx(lean, abs=1e-9)
    assert isinstance(plumb_from_line(picture, low, low), NotMeasurable)


def test_the_correction_makes_the_drawn_line_vertical_in_the_sight_frame() -> None:
    picture = Picture("a", 900, 900, {"crown": Mark(430, 100), "chin": Mark(400, 300)})
    found = plumb_from_line(picture, (430.0, 100.0), (400.0, 300.0))
    marks = figure_marks() | picture.marks
    upright = replace(study_of(marks, marks).reference, plumb_deg=found)
    turned = assess(replace(study_of(marks, marks), reference=upright))
    crown, chin = (turned.reading(f"offset.{key}").reference for key in ("crown", "chin"))
    assert crown == pytest.approx(chin, abs=1e-9)


def test_one_known_length_gives_millimetres() -> None:
    sheet = sheet_from_length((100.0, 100.0), (400.0, 500.0), 125.0, (1000, 800))  # 500 px
    assert sheet.size_mm == pytest.approx((250.0, 200.0))
    there, _ = warp(sheet_homography(sheet), np.array([[100.0, 100.0], [400.0, 500.0]]))
    assert np.hypot(*(there[1] - there[0])) == pytest.approx(125.0)
    assert isinstance(sheet_from_length((1.0, 1.0), (2.0, 1.0), 10.0, (99, 99)), NotMeasurable)


def test_one_corner_and_a_length_give_a_turned_frame_and_say_what_they_cannot_know() -> None:
    sheet = sheet_from_corner((200.0, 200.0), (600.0, 500.0), (140.0, 280.0), 250.0)
    there, _ = warp(sheet_homography(sheet), np.array([[600.0, 500.0], [200.0, 200.0]]))
    assert np.hypot(*(there[1] - there[0])) == pytest.approx(250.0)
    assert sheet.spread == pytest.approx(0.0, abs=1e-9)  # the edges are square to each other
    aslant = sheet_from_corner((200.0, 200.0), (600.0, 200.0), (240.0, 600.0), 250.0)
    assert aslant.spread > 5.0
    other_hand = sheet_from_corner((200.0, 600.0), (600.0, 600.0), (200.0, 300.0), 250.0)
    assert isinstance(sheet_homography(other_hand), np.ndarray)
    alike = sheet_from_corner((200.0, 200.0), (600.0, 200.0), (700.0, 210.0), 250.0)
    assert "run nearly alike" in alike.reason
