"""The plan of a sheet, against pencil and paper."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.studies import figure_marks

from bralto.core.errors import UserError
from bralto.core.page.page_extent import Extent, extent_by_hand, extent_of_marks
from bralto.core.page.page_plan import divider_words, plan_sheet
from bralto.core.results import NotMeasurable
from bralto.core.study.values import Mark, Picture
from bralto.core.views.shipped_views import view_named

VIEW = view_named("figure-front")
MARKS = {
    "crown": Mark(500, 100), "chin": Mark(500, 200), "pit_of_neck": Mark(500, 240),
    "wrist_r": Mark(350, 480), "wrist_l": Mark(600, 500), "crotch": Mark(510, 480),
    "heel_r": Mark(480, 850),
}  # fmt: skip


def extent(marks: dict[str, Mark] | None = None) -> Extent:
    found = extent_of_marks(VIEW, Picture("", 1000, 1000, marks or MARKS))
    assert isinstance(found, Extent)
    return found


def test_the_largest_figure_fills_the_height_between_the_margins() -> None:
    """750 px tall in 420 - 40 mm: 0.50667 mm a px, so a head of 100 px is 50.667 mm."""
    plan = plan_sheet(extent(), (297, 420), 20)
    assert plan.fits
    assert plan.scale == pytest.approx(380 / 750)
    assert (plan.top, plan.tall, plan.head) == pytest.approx((20, 380, 50.6667), abs=1e-3)
    # From plumb 150 px to the left and 100 to the right, and the outline beyond at each side.
    assert plan.wide == pytest.approx((250 + 2 * 25) * 380 / 750)
    assert plan.plumb - plan.left == pytest.approx((150 + 25) * 380 / 750)
    assert 2 * plan.left + plan.wide == pytest.approx(297)
    crotch = next(one for one in plan.stations if one.key == "crotch")
    assert crotch.down == pytest.approx(20 + 380 * 380 / 750)
    assert crotch.across == pytest.approx(10 * 380 / 750)


HEAD = {
    "crown": Mark(500, 100), "chin": Mark(500, 500), "nose_base": Mark(500, 380),
    "face_edge_r": Mark(360, 300), "face_edge_l": Mark(640, 300),
}  # fmt: skip


def test_a_head_may_be_as_large_as_the_sheet_lets_it() -> None:
    """400 px high, 280 wide and 40 more at either side: 257 mm by 360, so 285.6 mm high on A3. A
    quarter of a head at either side, as of a figure, would leave 214 mm of it."""
    found = extent_of_marks(view_named("head-front"), Picture("", 1000, 1000, HEAD))
    assert isinstance(found, Extent)
    plan = plan_sheet(found, (297, 420), 20, landscape=False)
    assert plan.largest_head == pytest.approx(400 * 257 / 360)
    assert plan_sheet(found, (297, 420), 20, head_mm=280, landscape=False).fits


def test_a_figure_that_lies_has_its_outline_above_and_below() -> None:
    """The marks of the figure that stands, turned about (500, 500) until its head is at the left:
    750 px long, 250 from wrist to wrist, 25 more above and below."""
    lying = {key: replace(m, x=m.y, y=1000 - m.x) for key, m in MARKS.items()}
    found = extent(lying)
    assert found.lies
    assert (found.left + found.right, found.height) == pytest.approx((750, 250 + 2 * 25))
    crown = next(one for one in found.stations if one.key == "crown")
    # The upper wrist lies at 1000 - 600, and the outline 25 above it.
    assert crown.down == pytest.approx(500 - 400 + 25)


def test_what_bounds_a_thing_is_its_outline() -> None:
    """A chair's four extremes: 600 px high and 300 wide fill a square between the margins."""
    marks = {
        "top": Mark(500, 100), "bottom": Mark(500, 700), "left": Mark(350, 300),
        "right": Mark(650, 300),
    }  # fmt: skip
    found = extent_of_marks(view_named("object"), Picture("", 1000, 1000, marks))
    assert isinstance(found, Extent)
    assert (found.left + found.right, found.height) == pytest.approx((300, 600))
    # It has no head: 600 px are 380 mm of A3.
    plan = plan_sheet(found, (297, 420), 20, landscape=False)
    assert (plan.size, plan.largest) == pytest.approx((380, 380))
    assert divider_words(plan) == "380.0 mm for the height"


def test_a_hand_is_planned_by_itself() -> None:
    """400 px from wrist to fingertip and 200 wide, which are 0.77 head: 26 px more at either side.
    On A4 of 250 mm between the margins that many mm of it; 100 mm where they are wanted."""
    marks = {
        "wrist": Mark(500, 600), "middle_tip": Mark(500, 200), "thumb_tip": Mark(400, 400),
        "little_tip": Mark(600, 300),
    }  # fmt: skip
    found = extent_of_marks(view_named("hand"), Picture("", 1000, 1000, marks))
    assert isinstance(found, Extent)
    assert found.left + found.right == pytest.approx(200 + 2 * 0.05 * 400 / 0.77)
    plan = plan_sheet(found, (210, 297), 23.5)
    assert (plan.size, plan.sized_by) == (pytest.approx(250), "hand")
    assert plan.head == pytest.approx(250 / 0.77)
    assert divider_words(plan) == "250.0 mm for the hand"
    smaller = plan_sheet(found, (210, 297), 23.5, head_mm=100 / 0.77)
    assert (smaller.size, smaller.tall) == pytest.approx((100, 100))
    with pytest.raises(UserError, match="a hand of -10 mm is none"):
        plan_sheet(found, (210, 297), 23.5, head_mm=-10 / 0.77)


def test_a_wide_pose_is_held_by_the_width_or_turns_the_paper() -> None:
    wide = extent(MARKS | {"wrist_l": Mark(1400, 300)})
    upright = plan_sheet(wide, (297, 420), 20, landscape=False)
    assert upright.wide == pytest.approx(257)
    assert upright.tall < 380
    across = plan_sheet(wide, (297, 420), 20)
    assert (across.width, across.height) == (420, 297)
    assert across.scale > upright.scale


def test_a_head_that_is_too_large_is_refused_with_what_would_fit() -> None:
    plan = plan_sheet(extent(), (210, 297), 20, head_mm=70)
    assert not plan.fits
    assert plan.head == pytest.approx(70)
    assert plan.largest_head == pytest.approx(100 * 257 / 750)
    assert {"crown", "sole", "R heel"} <= set(plan.leaving)
    assert plan_sheet(extent(), (210, 297), 20, head_mm=30).leaving == ()


def test_measures_by_hand_stand_in_for_marks() -> None:
    """Thumbs on a pencil: 7.5 tall, 2.5 wide; on A4 with margins of 23.5 a thumb is 33.33 mm."""
    by_hand = extent_by_hand(VIEW, 7.5, 2.5, {"chin": 1.0, "crotch": 3.75})
    plan = plan_sheet(by_hand, (210, 297), 23.5)
    assert (plan.scale, plan.unit, plan.head) == (
        pytest.approx(100 / 3), "thumb", pytest.approx(100 / 3),
    )  # fmt: skip
    assert [one.down for one in plan.stations] == pytest.approx([23.5 + 100 / 3, 148.5])


def test_what_cannot_be_planned_is_said() -> None:
    few = extent_of_marks(VIEW, Picture("", 10, 10, {"crown": Mark(1, 1)}))
    assert isinstance(few, NotMeasurable)
    level = extent_of_marks(VIEW, Picture("", 10, 10, {"crown": Mark(1, 1), "chin": Mark(5, 1)}))
    assert isinstance(level, NotMeasurable)
    headless = extent({k: m for k, m in figure_marks().items() if k != "chin"})
    with pytest.raises(UserError, match="crown and chin"):
        plan_sheet(headless, (297, 420), 20, head_mm=40)
    for margin in (-1.0, 148.5, float("nan")):
        with pytest.raises(UserError, match="margins"):
            plan_sheet(extent(), (297, 420), margin)
    with pytest.raises(UserError, match="no point 'chinn'"):
        extent_by_hand(VIEW, 7.5, 2.5, {"chinn": 1.0})
    with pytest.raises(UserError, match="within 0 to"):
        extent_by_hand(VIEW, 7.5, 2.5, {"chin": 9.0})
