"""Marks and lines on what learners bring: a busy street, a dark studio, a white page.

The contrast of each is measured in the pixels that are painted: what is drawn against the lightest
or darkest beside it, averaged along the line so that a busy ground does not count as contrast. At
least 3 : 1 (WCAG 2.2, 1.4.11, non-text contrast), both themes.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QImage
from pytestqt.qtbot import QtBot
from tests.ui.conftest import house, settle

from bralto.app import make_house
from bralto.core.action.ground import StandingGround
from bralto.core.light.three_values import ThreeValues
from bralto.core.study.frames import image_points
from bralto.core.study.two_boards import Board
from bralto.store.library import Library
from bralto.ui.bench.bench import Bench
from bralto.ui.boards.overlays.marks_and_loupe import direction_of
from bralto.ui.boards.picture_board import PictureBoard
from bralto.ui.boards.pixels import as_pixels
from bralto.ui.session import pointing, prompting
from bralto.ui.theme.tokens import DARK, LIGHT
from bralto.ui.window import MainWindow

LEAST = 3.0
_BESIDE = 5


def street(size: tuple[int, int]) -> np.ndarray:
    """Walls, windows, signs and foliage by chance: hard edges and fine grain of all lightnesses."""
    rng = np.random.default_rng(8)
    wide, high = size
    picture = np.full((high, wide, 3), 120.0)
    for _ in range(260):
        x, y = rng.integers(0, wide), rng.integers(0, high)
        w, h = rng.integers(10, 160), rng.integers(10, 240)
        picture[y : y + h, x : x + w] = rng.uniform(0, 255, 3)
    grain = rng.normal(0.0, 38.0, picture.shape)
    return np.clip(picture + grain, 0, 255).astype(np.uint8)


def studio(size: tuple[int, int]) -> np.ndarray:
    """A dark room with one lit edge."""
    wide, high = size
    across = np.linspace(-1.0, 1.0, wide)[None, :]
    light = 12.0 + 60.0 * np.exp(-np.square((across - 0.3) / 0.1)) * np.ones((high, 1))
    noise = np.random.default_rng(9).normal(0.0, 4.0, (high, wide))
    return np.clip(light + noise, 0, 255).astype(np.uint8)[..., None].repeat(3, axis=2)


def page(size: tuple[int, int]) -> np.ndarray:
    """White paper."""
    return np.full((size[1], size[0], 3), 252, np.uint8)


GROUNDS = {"street": street, "studio": studio, "page": page}


@pytest.fixture(params=[LIGHT, DARK], ids=["light", "dark"])
def themed(request: pytest.FixtureRequest, demo_copy: Path, qtbot: QtBot) -> Iterator[MainWindow]:
    """The newest study on the bench in a theme."""
    library = Library.open(demo_copy)
    made = make_house(library, request.param)
    made.window.resize(1280, 800)
    made.window.show()
    made.open_study(made.shelf_state.entries[0].id)
    settle(qtbot, made.window)
    yield made.window
    made.window.close()
    library.close()
    made.window.deleteLater()


def put(board: PictureBoard, ground: str) -> None:
    """Another picture on a board."""
    size = board.viewport.width, board.viewport.height
    pixels = np.ascontiguousarray(GROUNDS[ground](size))
    image = QImage(pixels.data, *size, 3 * size[0], QImage.Format.Format_RGB888).copy()
    board.shown.empty()
    board.shown.take((image,))


def on_ground(window: MainWindow, ground: str) -> Bench:
    """The bench with another picture on both boards."""
    bench = house(window).bench
    assert bench is not None
    for one in bench.boards:
        put(one, ground)
    return bench


def luminance(pixels: np.ndarray) -> np.ndarray:
    """Relative luminance (WCAG 2.2)."""
    c = pixels.astype(np.float64) / 255.0
    linear = np.where(c <= 0.04045, c / 12.92, ((c + 0.055) / 1.055) ** 2.4)
    return np.asarray(linear @ np.array([0.2126, 0.7152, 0.0722]))


def shown(board: PictureBoard) -> np.ndarray:
    image = board.grab().toImage().convertToFormat(QImage.Format.Format_RGB888)
    return luminance(as_pixels(image)[..., :3])


def contrast(profile: np.ndarray) -> float:
    """Between the darkest and the lightest of a profile across a line."""
    return float((profile.max() + 0.05) / (profile.min() + 0.05))


def across(light: np.ndarray, at: float, along: slice, *, upright: bool) -> float:
    """Contrast of a plumb or level line: means along it, by px across it."""
    middle = int(at)
    near = slice(max(0, middle - _BESIDE), middle + _BESIDE + 1)
    strip = light[along, near] if upright else light[near, along].T
    return contrast(strip.mean(axis=0))


def round_mark(light: np.ndarray, at: QPointF) -> float:
    """Contrast of a dot: means of the rings about its middle."""
    x, y = at.x() - 0.5, at.y() - 0.5
    rows, columns = np.mgrid[0 : light.shape[0], 0 : light.shape[1]]
    away = np.hypot(columns - x, rows - y)
    rings = [light[(away >= r) & (away < r + 1.5)].mean() for r in (0.0, 1.5, 3.0, 4.0, 6.0)]
    return contrast(np.array(rings))


@pytest.mark.parametrize("ground", GROUNDS)
def test_marks_and_lines_read_on_real_photographs(themed: MainWindow, ground: str) -> None:
    bench: Bench = house(themed).bench
    study = bench.study
    study.apply(prompting.enter_pass, "heights")
    for board in bench.boards:
        put(board, ground)
    board = bench.reference
    light = shown(board)
    found = {}
    plumb = board.at(study.view.plumb)
    for key in study.picture(Board.REFERENCE).placed():
        at = board.at(key)
        if study.now.in_sight(key) and board.rect().adjusted(9, 9, -9, -9).contains(at.toPoint()):
            found[f"mark {key}"] = round_mark(light, at)
    found["plumb"] = across(light, plumb.x(), slice(20, board.height() - 20), upright=True)
    for key in ("chin", "navel"):
        at = board.at(key)
        beside = slice(int(at.x()) + 16, board.width() - 4)
        found[f"sight {key}"] = across(light, at.y(), beside, upright=False)
    # A name beside a mark that is pointed at.
    study.apply(pointing.point_at, "navel")
    at = board.at("navel")
    named = shown(board)[int(at.y()) - 20 : int(at.y()) - 6, int(at.x()) + 15 : int(at.x()) + 45]
    found["name"] = contrast(np.percentile(named, (4, 96)))
    faint = {what: round(value, 2) for what, value in found.items() if value < LEAST}
    assert not faint


@pytest.mark.parametrize("ground", GROUNDS)
def test_sweeps_and_edges_of_shadow_read_on_real_photographs(
    themed: MainWindow, ground: str
) -> None:
    bench = on_ground(themed, ground)
    study, board = bench.study, bench.reference
    wide, high = board.viewport.width, board.viewport.height
    x, top, bottom = 0.42 * wide, 0.2 * high, 0.8 * high
    down = tuple((x, y) for y in np.linspace(top, bottom, 6))
    study.apply(prompting.enter_pass, "action")
    study.pictures.set_curve(Board.REFERENCE, "action", down)
    for leg in ("R leg's sweep", "L leg's sweep"):
        aside = 0.1 * wide * (1 if leg[0] == "L" else -1)
        study.pictures.set_curve(Board.REFERENCE, leg, tuple((px + aside, y) for px, y in down))

    def upright(px: float) -> float:
        """Contrast of a line down the picture where it lies on the board by now."""
        ends = [board.viewport.to_board(px, y) for y in (top, bottom)]
        along = slice(int(ends[0].y()) + 6, int(ends[1].y()) - 6)
        return across(shown(board), ends[0].x(), along, upright=True)

    found = {}
    for name, (px, _) in (
        ("action", down[0]), ("leg", study.picture(Board.REFERENCE).curves["L leg's sweep"][0]),
    ):  # fmt: skip
        found[name] = upright(px)
    right = 0.7 * wide
    box = ((x, top), (right, top), (right, bottom), (x, bottom))
    study.pictures.set_shadows(Board.REFERENCE, (box,))
    study.apply(pointing.insist)
    study.apply(prompting.enter_pass, "light")
    found["shadow"] = upright(x)
    faint = {what: round(value, 2) for what, value in found.items() if value < LEAST}
    assert not faint


@pytest.mark.parametrize("ground", GROUNDS)
def test_horizon_box_points_and_values_read_on_real_photographs(
    themed: MainWindow, ground: str
) -> None:
    bench = on_ground(themed, ground)
    study, board = bench.study, bench.reference
    wide, high = board.viewport.width, board.viewport.height
    navel = study.picture(Board.REFERENCE).marks["navel"]
    study.head.note(replace(study.notes, horizon={"": (navel.x, navel.y)}))
    study.apply(prompting.enter_pass, "plumb")
    study.apply(pointing.toggle_box)
    seen, _ = study.grounds
    assert isinstance(seen, StandingGround)
    figure = study.examination.side(Board.REFERENCE).figure
    box = image_points(study.picture(Board.REFERENCE), seen.box * figure.head.value)
    edge = [board.viewport.to_board(float(x), float(y)) for x, y in box]
    light, y = shown(board), board.viewport.to_board(navel.x, navel.y).y()
    found = {
        "horizon": across(light, y, slice(board.width() - 60, board.width() - 8), upright=False),
        "near edge of the box": across(
            light, edge[0].y(), slice(int(edge[0].x()) + 8, int(edge[1].x()) - 8), upright=False
        ),
        "post of the box": across(
            light, edge[0].x(), slice(int(edge[4].y()) + 8, int(edge[0].y()) - 8), upright=True
        ),
    }
    x, top, bottom = 0.42 * wide, 0.2 * high, 0.8 * high
    down = tuple((x, y) for y in np.linspace(top, bottom, 6))
    study.pictures.set_curve(Board.REFERENCE, "action", down)
    study.apply(prompting.enter_pass, "action")
    board.hover = board.viewport.to_board(*down[2]) + QPointF(30.0, 0.0)
    ringed = board.viewport.to_board(*down[2])
    light = shown(board)
    row = light[int(ringed.y()), int(ringed.x()) - 9 : int(ringed.x()) + 10]
    found["point"] = contrast(row)
    ring = ((x, top), (0.7 * wide, top), (0.7 * wide, bottom), (x, bottom))
    study.apply(pointing.insist)
    study.apply(prompting.enter_pass, "light")
    study.apply(
        pointing.see_values, Board.REFERENCE, ThreeValues((0.3, 0.3, 0.4), (ring,), (ring,))
    )
    ends = [board.viewport.to_board(x, y) for y in (top, bottom)]
    along = slice(int(ends[0].y()) + 6, int(ends[1].y()) - 6)
    found["value"] = across(shown(board), ends[0].x(), along, upright=True)
    faint = {what: round(value, 2) for what, value in found.items() if value < LEAST}
    assert not faint


def slanting(light: np.ndarray, a: QPointF, b: QPointF) -> float:
    """Contrast of a straight line between two places of the board: means along its middle four
    fifths, by px across it, within what the board shows."""
    start, end = np.array([a.x(), a.y()]), np.array([b.x(), b.y()])
    along = (end - start) / np.linalg.norm(end - start)
    normal = np.array([-along[1], along[0]])
    places = start + np.linspace(0.1, 0.9, 400)[:, None] * (end - start)
    inside = np.all((places > 10.0) & (places < np.array(light.shape[::-1]) - 10.0), axis=1)
    assert inside.sum() >= 40
    profile = []
    for offset in range(-_BESIDE, _BESIDE + 1):
        x, y = np.floor(places[inside] + offset * normal).astype(int).T
        profile.append(light[y, x].mean())
    return contrast(np.array(profile))


def triangular(light: np.ndarray, at: QPointF, direction: str) -> float:
    """Contrast of a verdict's triangle against the rim about it: means of both, a px clear of
    where they meet."""
    rows, columns = np.mgrid[0 : light.shape[0], 0 : light.shape[1]] + 0.5
    x, y = columns - at.x(), rows - at.y()
    # Turned so that it points down, as `theme.paint.triangle` has it.
    x, y = {"down": (x, y), "up": (x, -y), "right": (y, x), "left": (y, -x)}[direction]

    def within(size: float) -> np.ndarray:
        # Its base lies at -0.8, its tip at 0.9 of the size; half the base is the size.
        side = (np.abs(x) / size) + (y / size + 0.8) / 1.7
        return np.asarray((y > -0.8 * size) & (side < 1.0))

    inner, rim = light[within(4.4)], light[within(7.2) & ~within(6.4)]
    return contrast(np.array([inner.mean(), rim.mean()]))


@pytest.mark.parametrize("ground", GROUNDS)
def test_tilts_shapes_and_triangles_read_on_real_photographs(
    themed: MainWindow, ground: str
) -> None:
    bench = on_ground(themed, ground)
    study = bench.study
    found = {}
    # A drawing with errors, so that there are coloured lines and triangles.
    crotch = study.picture(Board.DRAWING).marks["crotch"]
    for key, dx, dy in (("crotch", 0.0, 0.05), ("shoulder_r", 0.0, 0.04), ("navel", 0.0, -0.04)):
        mark = study.picture(Board.DRAWING).marks[key]
        tall = study.picture(Board.DRAWING).height
        study.edits.move(Board.DRAWING, key, mark.x + dx * tall, mark.y + dy * tall, crotch.spread)
    study.apply(prompting.enter_pass, "tilts")
    for board in bench.boards:
        light = shown(board)
        for reading in study.assessment.readings:
            if reading.spec.kind != "tilt":
                continue
            ends = [board.at(key) for key in reading.spec.points]
            if None not in ends and (ends[0] - ends[1]).manhattanLength() > 60.0:
                verdict = reading.verdict if board is bench.drawing else "seen"
                found[f"{reading.spec.id}, {verdict}"] = slanting(light, *ends)
    assert {"seen", "over"} <= {name.split(", ")[1] for name in found}
    study.apply(prompting.enter_pass, "heights")
    light = shown(bench.drawing)
    triangles = 0
    for key in study.picture(Board.DRAWING).placed():
        reading, at = study.assessment.reading(f"height.{key}"), bench.drawing.at(key)
        clear = bench.drawing.rect().adjusted(12, 12, -12, -12).contains(at.toPoint())
        if clear and reading is not None and reading.verdict in {"over", "under"}:
            found[f"triangle {key}"] = triangular(light, at, direction_of(reading))
            triangles += 1
    assert triangles >= 2
    wide, high = bench.reference.viewport.width, bench.reference.viewport.height
    corners = [(0.3 * wide, 0.3 * high), (0.7 * wide, 0.4 * high), (0.45 * wide, 0.7 * high)]
    study.pictures.set_polygon(Board.REFERENCE, "gap", corners)
    study.apply(prompting.enter_pass, "shapes")
    light = shown(bench.reference)
    at = [bench.reference.viewport.to_board(x, y) for x, y in corners]
    for number in range(3):
        found[f"side {number} of a shape"] = slanting(light, at[number], at[(number + 1) % 3])
    study.apply(pointing.choose_shape, "gap")
    light = shown(bench.reference)
    for number in range(3):
        found[f"side {number}, lit"] = slanting(light, at[number], at[(number + 1) % 3])
    faint = {what: round(value, 2) for what, value in found.items() if value < LEAST}
    assert not faint
