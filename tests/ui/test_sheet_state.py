"""What the sheet's slip knows, without its widgets."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from tests.studies import seen_from

from bralto.core.page.page_plan import PAPERS
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Picture, Sheet
from bralto.core.tolerances import GRADES
from bralto.imaging.outcome import FoundSheet
from bralto.ui.sheet.sheet_state import WAYS, SheetState

PICTURE = Picture("photo.jpg", 1600, 1200)
CORNERS = tuple((float(x), float(y)) for x, y in seen_from(25.0, 15.0, (297.0, 420.0)))


BENDS = ((0.1, 0.2, 0.1), (0.0, 0.1, 0.1), (-12.0, -21.0, -14.0), (0.0, 0.1, 0.0))


def found(corners: object = CORNERS, **more: object) -> FoundSheet:
    plain = FoundSheet(np.array(corners), 0.4, np.full(4, 0.2), np.ones(4), BENDS)
    return replace(plain, **more)


def state(**more: object) -> SheetState:
    made = SheetState(PICTURE, GRADES["developing"], **more)
    made.take(found())
    return made


def test_what_was_found_is_said_with_its_doubt() -> None:
    one = state()
    assert one.points == CORNERS
    assert one.status == "Found: the corners are where the edges meet, ± 0.8 px."
    assert one.spread == pytest.approx(np.hypot(0.4, 0.1))
    covered = SheetState(PICTURE, GRADES["developing"])
    covered.take(found(seen=np.array([1.0, 0.6, 1.0, 1.0])))
    assert "one edge shows only 60 %" in covered.status
    bent = SheetState(PICTURE, GRADES["developing"])
    bent.take(found(bows=np.full(4, 9.0)))
    assert "bow by 9 px" in bent.status
    assert bent.spread == pytest.approx(0.4)  # straightened
    faint = SheetState(PICTURE, GRADES["developing"])
    faint.take(found(bows=np.full(4, 1.4)))
    assert faint.bends == ()
    assert faint.spread == pytest.approx(np.hypot(0.4, 0.7))  # doubt
    curled = SheetState(PICTURE, GRADES["developing"])
    curled.take(found(bows=np.array([0.2, 0.3, 21.0, 0.1])))
    assert "The lower edge curls by 21 px" in curled.status
    assert curled.sheet().bends == BENDS
    curled.turn()  # the right-hand edge is the upper one now
    assert curled.sheet().bends == (*BENDS[1:], BENDS[0])
    curled.move(0, 10.0, 10.0, 1.0)
    assert curled.sheet().bends == ()  # the edges were followed from other corners


def test_what_was_not_found_is_asked_for_and_nothing_shown_is_lost() -> None:
    one = SheetState(PICTURE, GRADES["developing"])
    one.take(NotMeasurable("no sheet stands out in this picture; show its four corners"))
    assert one.status.startswith("No sheet stands out")
    one.start_again()
    one.add(10.0, 10.0, 1.0)
    one.take(NotMeasurable("no sheet"))
    assert one.points == ((10.0, 10.0),)
    assert one.status == "Click the top-right corner."


def test_the_paper_used_last_is_taken_where_it_fits() -> None:
    fitting = [name for name, _ in state().guess().papers]
    assert "A3" in fitting
    assert state().size_mm == PAPERS["A3"]
    assert state(usual=(PAPERS["A2"],)).size_mm == PAPERS["A2"]
    across = PAPERS["A4"][::-1]  # it lay across then, and stands upright now
    assert state(usual=(across,)).size_mm == PAPERS["A4"]
    assert state(usual=((100.0, 400.0),)).size_mm == PAPERS["A3"]
    one = state()
    one.set_size((100.0, 400.0))
    assert "The paper chosen does not fit these sides." in one.notes()


@pytest.mark.parametrize("way", list(WAYS))
def test_each_way_asks_for_its_points_in_turn(way: str) -> None:
    one = state()
    one.use(way)
    wanted = list(WAYS[way][1])
    places = [(300.0, 300.0), (800.0, 300.0), (800.0, 1000.0), (300.0, 1000.0)]
    if way == "corner":
        places = [(300.0, 300.0), (800.0, 300.0), (300.0, 900.0)]
    if way == "corners":  # the way that is in force keeps its points
        one.start_again()
    for name, (x, y) in zip(wanted, places, strict=False):
        assert one.asked == name
        assert isinstance(one.sheet(), NotMeasurable)
        one.add(x, y, 1.5)
    assert one.asked is None
    if way == "none":
        assert one.sheet() is None
        assert one.status == "Figures in heads, none in mm."
        return
    one.set_known(250.0)
    if way == "corners":
        one.set_size((250.0, 350.0))
    sheet = one.sheet()
    assert isinstance(sheet, Sheet)
    if way == "length":
        assert sheet.size_mm[0] == pytest.approx(1600 * 250.0 / 500.0)
    else:
        assert sheet.spread >= 1.5 - 1e-9  # as finely as it was clicked
    one.add(5.0, 5.0, 1.0)  # nothing more is asked for
    assert len(one.points) == len(wanted)


def test_a_corner_may_lie_a_little_outside_the_photo() -> None:
    one = state()
    one.move(0, -90.0, 20.0, 0.7)
    assert one.points[0] == (-90.0, 20.0)
    one.move(0, -9000.0, 20.0, 0.7)
    assert one.points[0] == (-400.0, 20.0)
    assert one.status == "Set by hand."
    assert one.spread == pytest.approx(0.7)


def test_paper_that_lies_a_quarter_round_turns_with_its_size() -> None:
    one = state()
    one.turn()
    assert one.points == (*CORNERS[1:], CORNERS[0])
    assert one.size_mm == PAPERS["A3"][::-1]
    for _ in range(3):
        one.turn()
    assert (one.points, one.size_mm) == (CORNERS, PAPERS["A3"])


def test_edges_may_move_clicked_corners_a_little_and_only_those() -> None:
    clicked = tuple((x + 2.0, y - 1.0) for x, y in CORNERS)
    one = SheetState(PICTURE, GRADES["developing"])
    for x, y in clicked:
        one.add(x, y, 1.0)
    one.draw_to_edges(clicked, found())
    assert one.points == CORNERS
    assert one.status == "Set by hand and drawn to the edges, by 2.2 px at most."
    far = tuple((x + 40.0, y) for x, y in CORNERS)
    one.draw_to_edges(CORNERS, found(far))  # another edge than was meant
    assert one.points == CORNERS
    one.move(2, 1100.0, 950.0, 1.0)
    one.draw_to_edges(CORNERS, found())  # an answer to what has been moved since
    assert one.points[2] == (1100.0, 950.0)
    one.draw_to_edges(one.points, NotMeasurable("lost"))
    assert one.points[2] == (1100.0, 950.0)


def test_a_small_or_slanting_photo_is_said_before_anything_is_marked() -> None:
    assert not any("wanted" in note for note in state(head_mm=400.0).notes())
    assert any("8 are wanted" in note for note in state().notes())  # a ninth of 420 mm a head
    flat = ((300.0, 700.0), (1300.0, 700.0), (1590.0, 820.0), (10.0, 820.0))
    one = SheetState(PICTURE, GRADES["developing"])
    one.take(found(flat))
    one.set_size(PAPERS["A3"])
    assert any(note.startswith("Taken from the side") for note in one.notes())


def test_a_kept_sheet_is_shown_as_it_was_kept() -> None:
    kept = Sheet(CORNERS, (420.0, 594.0), 0.9)
    one = SheetState(replace(PICTURE, sheet=kept), GRADES["developing"])
    assert one.status == "As it was kept."
    assert one.sheet() == kept
