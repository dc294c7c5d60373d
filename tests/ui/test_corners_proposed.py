"""An object on the bench: corners that both pictures have are proposed, and none is ever marked."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PIL import Image, ImageDraw
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle

from bralto.core.study.two_boards import BOARDS, Board
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.imaging.load import clean_picture
from bralto.store.instants import now_utc
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.boards.pixels import as_pixels
from bralto.ui.session import pointing, prompting
from bralto.ui.window import MainWindow

SEAT = {"top": (300.0, 100.0), "bottom": (620.0, 900.0), "left": (290.0, 110.0),
        "right": (700.0, 560.0)}  # fmt: skip
LINES = (
    ((300, 100), (330, 520)), ((520, 110), (540, 500)), ((300, 100), (520, 110)),
    ((330, 520), (540, 500)), ((540, 500), (700, 560)), ((330, 520), (480, 600)),
    ((480, 600), (700, 560)), ((330, 520), (345, 800)), ((480, 600), (490, 895)),
    ((700, 560), (690, 850)), ((480, 600), (620, 900)),
)  # fmt: skip
SEATED = ((330, 520), (540, 500), (700, 560), (480, 600))
SIZE = (1000, 1000)


def chair(path: Path, *, photo: bool, by: float = 1.0) -> None:
    """A chair of strokes: a painted thing on a dark wall, or lines on paper; ``by`` its size about
    the upper left corner."""
    big = Image.new("RGB", (2 * SIZE[0], 2 * SIZE[1]), (58, 66, 70) if photo else (244, 240, 230))
    pen = ImageDraw.Draw(big)

    def at(place: tuple[float, float]) -> tuple[float, float]:
        return 2 * by * place[0], 2 * by * place[1]

    if photo:
        pen.polygon([at(one) for one in SEATED], fill=(190, 150, 96))
    for start, end in LINES:
        colour = (214, 178, 120) if photo else (60, 56, 52)
        pen.line([at(start), at(end)], fill=colour, width=44 if photo else 7)
    small = np.asarray(big.resize(SIZE, Image.Resampling.BOX), np.float64)
    grain = np.random.default_rng(4).normal(0.0, 4.0, small.shape)
    Image.fromarray(np.clip(small + grain, 0, 255).astype(np.uint8)).save(path)


def kept(window: MainWindow, path: Path) -> str:
    """Name of a picture that was taken in."""
    return house(window).library.media.put(clean_picture(path))


@pytest.fixture
def on_bench(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> Bench:
    """A chair and its drawing, five sixths of its size, marked with what the view asks for."""
    by = 5.0 / 6.0
    chair(tmp_path / "chair.png", photo=True)
    chair(tmp_path / "drawn.png", photo=False, by=by)
    seen = {key: Mark(x, y, spread=1.0) for key, (x, y) in SEAT.items()}
    drawn = {key: Mark(by * x, by * y, spread=1.0) for key, (x, y) in SEAT.items()}
    study = Study(
        "Chair", "object", Picture("chair.png", *SIZE, seen),
        (State("evening", Picture("drawn.png", *SIZE, drawn)),),
    )  # fmt: skip
    media = {
        "": kept(window, tmp_path / "chair.png"),
        "evening": kept(window, tmp_path / "drawn.png"),
    }
    library: Library = house(window).library
    house(window).open_study(library.add(study, media, now_utc()))
    settle(qtbot, window)
    found = house(window).bench
    assert found is not None
    return found


def test_corners_of_both_are_shown_where_own_points_are_looked_at_and_none_is_marked(
    window: MainWindow, on_bench: Bench, qtbot: QtBot
) -> None:
    study = on_bench.study
    marked = [dict(study.picture(board).marks) for board in BOARDS]
    assert study.now.corners.seen == ()
    study.apply(prompting.enter_pass, "edges")
    assert study.now.corners.seen == ()
    study.apply(prompting.enter_pass, "widths")
    settle(qtbot, window)
    found, kept_corners = study.now.corners, dict(study.session.corners)
    assert len(found.seen) >= 4
    seen, drawn = np.array(found.seen), np.array(found.drawn)
    # Each lies by a joint of the chair, and so does what it is paired with: within the breadth of
    # the painted strokes.
    joints = np.array([place for line in LINES for place in line], float)
    away = np.linalg.norm(seen[:, None] - joints[None], axis=2)
    assert away.min(axis=1).max() < 30.0
    np.testing.assert_allclose(drawn, 5.0 / 6.0 * joints[away.argmin(axis=1)], atol=25.0)
    # Proposed, not marked.
    assert [dict(study.picture(board).marks) for board in BOARDS] == marked
    assert study.study.anchors == ()
    assert "corners that both pictures have" in window.prompt_line.prompt.how
    # They are seen on both boards: without them these look otherwise, about each corner.
    shown = [as_pixels(board.grab().toImage()).astype(int) for board in on_bench.boards]
    for media in study.session.corners:
        study.apply(pointing.see_corners, media, ())
    for board, before, places in zip(on_bench.boards, shown, (seen, drawn), strict=True):
        bare = as_pixels(board.grab().toImage()).astype(int)
        changed = np.abs(before - bare).max(axis=2) > 30
        for x, y in places:
            at = board.viewport.to_board(x, y)
            row, column = int(at.y()), int(at.x())
            assert changed[row - 8 : row + 9, column - 8 : column + 9].sum() > 20
    for media, corners in kept_corners.items():
        study.apply(pointing.see_corners, media, corners)
    # One of them is taken by the same gesture as any point, on either board.
    x, y = found.seen[0]
    place = on_bench.reference.viewport.to_board(x, y).toPoint()
    left, held = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier
    QTest.mouseClick(on_bench.reference, left, held, QPoint(place))
    (anchor,) = study.study.anchors
    mark = study.picture(Board.REFERENCE).marks[anchor.key]
    assert np.hypot(mark.x - x, mark.y - y) * on_bench.reference.viewport.zoom < 1.5
    assert anchor.key not in study.picture(Board.DRAWING).marks
    assert (x, y) not in study.now.corners.seen  # what is measured is proposed no more


def test_a_view_with_marks_of_its_own_is_not_searched_for_corners(
    window: MainWindow, bench: Bench, qtbot: QtBot
) -> None:
    bench.study.apply(prompting.enter_pass, "widths")
    settle(qtbot, window)
    assert bench.study.session.corners == {}


def test_another_photo_of_the_drawing_is_looked_at_anew(
    window: MainWindow, on_bench: Bench, qtbot: QtBot, tmp_path: Path
) -> None:
    study = on_bench.study
    study.apply(prompting.enter_pass, "widths")
    settle(qtbot, window)
    assert len(study.session.corners) == 2
    first = study.now.corners
    chair(tmp_path / "later.png", photo=False, by=0.5)
    chosen = kept(window, tmp_path / "later.png")
    marks = {key: Mark(0.5 * x, 0.5 * y, spread=1.0) for key, (x, y) in SEAT.items()}
    study.pictures.add_state(State("later", Picture("later.png", *SIZE, marks)), chosen)
    settle(qtbot, window)
    assert study.session.state_name == "later"
    assert len(study.session.corners) == 3
    drawn = np.array(study.now.corners.drawn)
    assert len(drawn) >= 4
    assert drawn.max() < 0.55 * 1000.0 < np.array(first.drawn).max()
