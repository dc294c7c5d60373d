"""A picture as it is laid on a board: its sheet seen straight on, cropped, turned."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPointF, QRectF, QSizeF
from PyQt6.QtGui import QColor, QImage, QPainter
from tests.studies import figure_marks, moved, study_of

from bralto.core.errors import UserError
from bralto.core.examination.assessment import assess
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Picture, Sheet
from bralto.ui.boards.board_view import head_px, lay
from bralto.ui.boards.laying import paint_laid
from bralto.ui.boards.pixels import as_image, as_pixels
from bralto.ui.boards.pyramid import level_of, load_preview, load_pyramid
from bralto.ui.boards.shown_picture import ShownPicture

CORNERS = ((400.0, 300.0), (1500.0, 250.0), (1700.0, 1800.0), (250.0, 1850.0))
PHOTO = Picture("a.jpg", 2000, 2000, sheet=Sheet(CORNERS, (297.0, 420.0)))
BOARD = QSizeF(300.0, 480.0)


def test_the_sheet_fills_the_board_with_square_corners() -> None:
    view = lay(PHOTO).fitted(BOARD)
    places = [view.to_board(x, y) for x, y in CORNERS]
    left, top, right, bottom = places[0].x(), places[0].y(), places[2].x(), places[2].y()
    for place, (x, y) in zip(
        places, [(left, top), (right, top), (right, bottom), (left, bottom)], strict=True
    ):
        assert (place.x(), place.y()) == pytest.approx((x, y), abs=1e-6)
    assert (right - left) / (bottom - top) == pytest.approx(297.0 / 420.0)
    assert max((right - left) / BOARD.width(), (bottom - top) / BOARD.height()) == pytest.approx(1)
    back = view.to_image(QPointF(right, bottom))
    assert (back.x(), back.y()) == pytest.approx(CORNERS[2], abs=1e-6)


def test_a_scan_and_a_picture_without_a_sheet_are_shown_as_they_are() -> None:
    whole = ((0.0, 0.0), (2000.0, 0.0), (2000.0, 2000.0), (0.0, 2000.0))
    for sheet in (None, Sheet(whole, (400.0, 400.0))):
        view = lay(replace(PHOTO, sheet=sheet))
        assert (view.flat, view.frame) == (None, None)
    folded = (CORNERS[0], CORNERS[2], CORNERS[1], CORNERS[3])
    assert lay(replace(PHOTO, sheet=Sheet(folded, (297.0, 420.0)))).flat is None


def test_a_crop_is_what_is_fitted_and_turns_and_mirror_stay() -> None:
    bare = replace(PHOTO, sheet=None, crop=(500.0, 200.0, 300.0, 600.0))
    before = replace(lay(bare), mirrored=True, quarters=2)
    view = lay(bare, before).fitted(BOARD)
    assert (view.mirrored, view.quarters) == (True, 2)
    assert view.zoom == pytest.approx(480.0 / 600.0)
    middle = view.to_board(650.0, 500.0)
    assert (middle.x(), middle.y()) == pytest.approx((150.0, 240.0))
    on_sheet = lay(replace(PHOTO, crop=(600.0, 500.0, 500.0, 700.0)))
    assert on_sheet.frame[2] < lay(PHOTO).frame[2]


def test_a_quarter_turn_puts_the_top_at_the_right() -> None:
    view = lay(replace(PHOTO, sheet=None)).quarter(BOARD)
    top = view.to_board(1000.0, 0.0)
    assert top.x() > view.to_board(1000.0, 2000.0).x()
    again = view.quarter(BOARD).quarter(BOARD).quarter(BOARD)
    assert again.quarters == 0


def test_a_head_is_as_long_on_the_board_as_crown_and_chin_lie_apart() -> None:
    """On a flattened sheet, where every px of the photo is another length, and on a plain one."""
    study = study_of(figure_marks(), moved(figure_marks(), 1.8, (300.0, 100.0)))
    plain = study.states[0].picture
    for picture in (plain, replace(plain, sheet=Sheet(
        ((200.0, 50.0), (1800.0, 80.0), (1900.0, 1900.0), (100.0, 1800.0)), (297.0, 420.0))
    )):  # fmt: skip
        one = replace(study, states=(replace(study.states[0], picture=picture),))
        view = lay(picture)
        crown, chin = (
            view.to_board(picture.marks[k].x, picture.marks[k].y) for k in ("crown", "chin")
        )
        apart = np.hypot(crown.x() - chin.x(), crown.y() - chin.y())
        assert head_px(assess(one), picture, Board.DRAWING) == pytest.approx(apart, rel=1e-6)
    seen = study.reference
    apart = np.hypot(
        seen.marks["crown"].x - seen.marks["chin"].x, seen.marks["crown"].y - seen.marks["chin"].y
    )
    assert head_px(assess(study), seen, Board.REFERENCE) == pytest.approx(apart)
    none = study_of({}, {})
    assert head_px(assess(none), none.reference, Board.REFERENCE) is None


def test_nothing_outside_the_frame_is_painted() -> None:
    photo = QImage(200, 200, QImage.Format.Format_RGB32)
    photo.fill(QColor("red"))
    board = QImage(300, 480, QImage.Format.Format_RGB32)
    board.fill(QColor("white"))
    view = lay(PHOTO).fitted(QSizeF(200.0, 300.0)).panned(QPointF(50.0, 90.0))
    painter = QPainter(board)
    paint_laid(painter, view, photo)
    assert painter.clipBoundingRect() == QRectF()  # left as it was found
    painter.end()
    frame = view.outline().boundingRect()
    for x in range(5, 300, 15):
        for y in range(5, 480, 15):
            inside = frame.adjusted(-1, -1, 1, 1).contains(x, y)
            surely = frame.adjusted(1, 1, -1, -1).contains(x, y)
            colour = board.pixelColor(x, y)
            assert surely == inside or abs(x - frame.x()) < 2 or abs(y - frame.y()) < 2
            if surely:
                assert colour == QColor("red")
            elif not inside:
                assert colour == QColor("white")


def test_pixels_go_there_and_back() -> None:
    pixels = np.random.default_rng(0).integers(0, 255, (7, 5, 3), dtype=np.uint8)
    assert np.array_equal(as_pixels(as_image(pixels)), pixels)  # rows of five are padded by Qt


def test_a_preview_is_small_and_levels_are_chosen_by_need(tmp_path: Path) -> None:
    image = QImage(3000, 2000, QImage.Format.Format_RGB32)
    image.fill(QColor("gray"))
    image.save(str(tmp_path / "a.jpg"))
    (preview,) = load_preview(tmp_path / "a.jpg")
    assert (preview.width(), preview.height()) == (1400, 933)
    levels = load_pyramid(tmp_path / "a.jpg")
    assert [one.width() for one in levels[:3]] == [3000, 1500, 750]
    assert level_of(levels, 1400.0).width() == 1500
    assert level_of(levels, 9000.0).width() == 3000
    assert level_of(levels, 1.0) is levels[-1]
    assert level_of((), 10.0) is None
    with pytest.raises(UserError, match="is gone"):
        load_preview(tmp_path / "none.jpg")


@pytest.mark.parametrize("size", [(3000, 2000), (800, 1100)])
def test_a_preview_that_comes_late_changes_nothing(tmp_path: Path, size: tuple[int, int]) -> None:
    """Both are loaded by threads of their own; the preview of a small picture is as wide as the
    picture itself, and was painted in its place, unfiltered, where it came last."""
    image = QImage(*size, QImage.Format.Format_RGB32)
    image.fill(QColor("gray"))
    image.save(str(tmp_path / "a.jpg"))
    preview, whole = load_preview(tmp_path / "a.jpg"), load_pyramid(tmp_path / "a.jpg")
    told: list[str] = []
    shown = ShownPicture(lambda: told.append("painted"), lambda: None)
    for levels in (preview, whole, preview):
        shown.take(levels)
    assert told == ["painted", "painted"]
    assert shown.level_for(200) is level_of(whole, 200)
    assert shown.whole(size[0]) is whole[0]
