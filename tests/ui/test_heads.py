"""A portrait on the bench: as large as the window allows, read along its own centre line."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from bench.bodies import bodies
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QImage, QPainter
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, settle

from bralto.core.canons.figure import canon_stations
from bralto.core.canons.shipped_canons import canon_named
from bralto.core.study.two_boards import BOARDS
from bralto.core.study.values import Mark, Picture, State, Study
from bralto.core.views.diagrams import diagram_of
from bralto.core.views.shipped_views import view_named
from bralto.ui.bench.bench import Bench
from bralto.ui.bench.scales.rungs import face_bands
from bralto.ui.session import pointing, prompting
from bralto.ui.widgets.heading import Heading
from bralto.ui.window import MainWindow

SIZE = (900, 1200)


def marks(view: str, tilt: float = 0.0, wide: float = 1.0) -> dict[str, Mark]:
    """The model's head at 500 px, turned clockwise on the sheet, its outline wider."""
    body = bodies(view)[0].marks
    c, s = np.cos(np.radians(tilt)), np.sin(np.radians(tilt))
    middle = np.mean(list(body.values()), axis=0)
    out = {}
    for key, at in body.items():
        x, y = at - middle
        x *= wide if key.startswith(("face_edge", "ear")) else 1.0
        x, y = c * x + s * y, -s * x + c * y
        out[key] = Mark(450.0 + 500.0 * x, 600.0 - 500.0 * y, spread=0.8)
    return out


def head_study(view: str, tilts: tuple[float, float] = (0.0, 0.0), wide: float = 1.0) -> Study:
    seen = Picture("a.png", *SIZE, marks(view, tilts[0]), permission="rendered here")
    drawn = Picture("b.png", *SIZE, marks(view, tilts[1], wide), permission="my own drawing")
    return Study("A head", view, seen, (State("first", drawn),))


@pytest.fixture
def window(open_window: Opener, tmp_path: Path) -> MainWindow:
    return open_window(tmp_path / "library")


def opened(window: MainWindow, qtbot: QtBot, study: Study, key: str = "heights") -> Bench:
    house(window).open_study(house(window).library.add(study, {}, "2026-11-01T10:00:00Z"))
    settle(qtbot, window)
    assert house(window).bench is not None
    house(window).bench.study.apply(prompting.enter_pass, key)
    settle(qtbot, window)
    return house(window).bench


@pytest.mark.parametrize("view", ["head-front", "head-profile", "head-three-quarter"])
@pytest.mark.parametrize("size", [(1024, 700), (1280, 800), (1920, 1200)])
def test_a_head_is_as_large_as_the_window_allows(
    window: MainWindow, qtbot: QtBot, view: str, size: tuple[int, int]
) -> None:
    window.resize(*size)
    bench = opened(window, qtbot, head_study(view))
    for board in bench.boards:
        # Hair and the foot of the neck lie beyond the head that is read here.
        head = [m.key for m in bench.study.view.landmarks if m.step != "likeness"]
        places = [board.at(key) for key in head]
        xs, ys = [at.x() for at in places], [at.y() for at in places]
        assert min(xs) >= 0.0
        assert max(xs) <= board.width()
        assert min(ys) >= 0.0
        assert max(ys) <= board.height()
        # It fills the board, in width or in height.
        assert max(np.ptp(xs) / board.width(), np.ptp(ys) / board.height()) > 0.7


@pytest.mark.parametrize("tilts", [(14.0, -9.0), (-20.0, -20.0)])
def test_a_tilted_head_stands_upright_where_it_is_read_along_itself(
    window: MainWindow, qtbot: QtBot, tilts: tuple[float, float]
) -> None:
    bench = opened(window, qtbot, head_study("head-front", tilts))
    for board in bench.boards:
        crown, chin = board.at("crown"), board.at("chin")
        assert crown.x() == pytest.approx(chin.x(), abs=1.0)
        for key in ("crown", "chin", "nose_base"):
            heads = bench.study.assessment.reading(f"height.{key}").reference
            assert board.at(key).y() == pytest.approx(bench.ladder.y_of(heads), abs=1.5)
    told = {one.spec.id for one in bench.study.assessment.off()}
    assert told == ({"tilt.head"} if tilts[0] != tilts[1] else set())
    moves = [(one.move, one.part) for one in bench.study.corrections]
    assert moves == ([("turn", None)] if tilts[0] != tilts[1] else [])
    if moves:
        assert bench.study.corrections[0].words.startswith("Turn the head 23°")
    # It may be the photo, too; but no mirror image, as which it would pass.
    assert {one.kind for one in bench.study.assessment.doubts} <= {"tilted-photo"}
    bench.study.apply(prompting.enter_pass, "tilts")  # as it was drawn
    for board, tilt in zip(bench.boards, tilts, strict=True):
        way = board.at("chin") - board.at("crown")
        assert np.degrees(np.arctan2(-way.x(), way.y())) == pytest.approx(tilt, abs=0.5)


def test_the_staff_is_banded_in_halves_or_thirds(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, head_study("head-front"))
    ladder, readings = bench.ladder, bench.study.assessment
    hairline = readings.reading("height.hairline").reference
    assert face_bands(bench.study, ladder.rungs, reference=True) == [
        pytest.approx([0.0, 0.5, 0.75, 0.875, 1.0])
    ]
    shots = [ladder.grab().toImage()]
    for bands, edges in (("thirds", 5), ("both", 5)):
        bench.study.apply(pointing.divide_face, bands)
        found = face_bands(bench.study, ladder.rungs, reference=True)[-1]
        assert len(found) == edges
        steps = np.diff(found[1:])
        assert steps == pytest.approx(np.full(3, (1.0 - hairline) / 3.0))
        shots.append(ladder.grab().toImage())
    assert len(face_bands(bench.study, ladder.rungs, reference=True)) == 2
    assert shots[0] != shots[1] != shots[2]


def test_the_rail_counts_in_this_face_s_own_eyes(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, head_study("head-front", wide=1.15), "widths")
    for rail, side in zip(bench.rails, BOARDS, strict=True):
        reading = bench.study.assessment.reading
        both = [getattr(reading(f"span.eye_{one}"), side) for one in "rl"]
        assert rail.eye_width() == pytest.approx(sum(both) / 2.0)
        rail.grab()
    across = bench.study.assessment.reading("ratio.face_eyes")
    assert across.drawing / across.reference == pytest.approx(1.15, abs=0.01)
    assert ("widen", "face_sides") in [(one.move, one.part) for one in bench.study.corrections]


def test_thirds_are_laid_over_a_face_from_its_own_hairline(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench = opened(window, qtbot, head_study("head-front"))
    canon, view = canon_named("face-thirds"), bench.study.view
    bare = [board.grab().toImage() for board in bench.boards]
    bench.study.apply(pointing.lay_canon, canon)
    assert all(b.grab().toImage() != was for b, was in zip(bench.boards, bare, strict=True))
    stations = canon_stations(view, canon, (("hairline", 0.1),))
    assert stations["brow_mid"] == pytest.approx(0.1 + 0.9 / 3.0)
    assert stations["nose_base"] == pytest.approx(0.1 + 2.0 * 0.9 / 3.0)
    assert stations["mouth_mid"] == pytest.approx(0.7 + 0.3 / 3.0)
    assert set(canon_stations(view, canon)) == {"crown", "chin"}


def test_what_makes_this_person_stands_in_edges_and_verdict(
    window: MainWindow, qtbot: QtBot
) -> None:
    bench = opened(window, qtbot, head_study("head-front", wide=1.05), "verdict")
    for key, rows in (("verdict", bench.column.list_of("verdict")), ("edges", bench.column.below)):
        bench.study.apply(prompting.enter_pass, key)
        settle(qtbot, window)
        titles = [row.label for row in rows.rows if row.title]
        assert "What makes this person" in titles
    told = {row.label: row.detail for row in bench.column.below.rows}
    eyes = next(detail for label, detail in told.items() if label.startswith("large eyes"))
    assert eyes.startswith("flattened")  # a wider face is nearer to five eyes


@pytest.mark.parametrize("view", ["hand", "object", "leg", "arm", "torso-front"])
def test_a_part_fills_its_boards_whichever_way_it_points(
    window: MainWindow, qtbot: QtBot, view: str
) -> None:
    """The schematic of each view as its marks; a hand points up, so all lies above its wrist."""
    diagram, chosen = diagram_of(view_named(view)), view_named(view)
    assert diagram is not None
    places = {}
    for mark in chosen.landmarks:
        own = mark.key in diagram.places
        x, y = diagram.places[mark.key if own else mark.key[:-2]]
        places[mark.key] = np.array([x if own or mark.key.endswith("_l") else -x, y])
    xy = np.array(list(places.values()))
    scale = 700.0 / float(np.ptp(xy, axis=0).max())
    there = {
        key: Mark(*(np.array([450.0, 600.0]) + scale * (at - xy.mean(axis=0))).tolist())
        for key, at in places.items()
    }
    picture = Picture("a.png", *SIZE, there, permission="rendered here")
    bench = opened(window, qtbot, Study("A part", view, picture, (State("first", picture),)))
    for board in bench.boards:
        at = [board.at(key) for key in there]
        xs, ys = [one.x() for one in at], [one.y() for one in at]
        assert min(xs) >= -1.0
        assert max(xs) <= board.width() + 1.0
        assert min(ys) >= 0.0
        assert max(ys) <= board.height()
        assert max(np.ptp(xs) / board.width(), np.ptp(ys) / board.height()) > 0.6
    for one in bench.ladder.rungs:
        if one.reference is not None:
            assert 0.0 <= bench.ladder.y_of(one.reference) <= bench.ladder.height()


def _forms_over(bench: Bench) -> list[QImage]:
    return [board.grab().toImage() for board in bench.boards]


@pytest.mark.parametrize("view", ["head-front", "head-profile", "head-three-quarter"])
def test_a_head_is_built_up_school_by_school_by_one_key_or_the_menu(
    window: MainWindow, qtbot: QtBot, view: str
) -> None:
    bench = opened(window, qtbot, head_study(view), "widths")
    seen = [_forms_over(bench)]
    for built in ("oval", "ball", "wedge"):
        qtbot.keyClick(bench, Qt.Key.Key_K)
        settle(qtbot, window)
        assert (bench.study.session.forms_on, bench.study.session.built) == (True, built)
        seen.append(_forms_over(bench))
    qtbot.keyClick(bench, Qt.Key.Key_K)
    settle(qtbot, window)
    assert not bench.study.session.forms_on
    for i, one in enumerate(seen):
        for other in seen[i + 1 :]:
            assert all(a != b for a, b in zip(one, other, strict=True))
    choices = [choice for h in bench.findChildren(Heading) if (choice := h.choice)]
    menu = next(one for one in choices if any(key == "built:ball" for key, _ in one.options))
    menu.take("built:ball")
    settle(qtbot, window)
    assert bench.study.session.forms_on
    assert _forms_over(bench) == seen[2]


def test_a_figure_has_its_own_forms_and_no_schools_of_the_head(
    window: MainWindow, qtbot: QtBot
) -> None:
    body = bodies("figure-front")[0].marks
    placed = {
        key: Mark(450.0 + 120.0 * x, 600.0 - 120.0 * y, spread=0.8) for key, (x, y) in body.items()
    }
    picture = Picture("a.png", *SIZE, placed, permission="rendered here")
    drawn = Picture("b.png", *SIZE, placed, permission="my own drawing")
    study = Study("A figure", "figure-front", picture, (State("first", drawn),))
    bench = opened(window, qtbot, study, "tilts")
    for on in (True, False):
        qtbot.keyClick(bench, Qt.Key.Key_K)
        assert bench.study.session.forms_on is on
    choices = [choice for h in bench.findChildren(Heading) if (choice := h.choice)]
    assert all(not key.startswith("built:") for one in choices for key, _ in one.options)


def test_the_tilts_of_a_head_say_how_it_is_turned(window: MainWindow, qtbot: QtBot) -> None:
    bench = opened(window, qtbot, head_study("head-three-quarter"), "tilts")
    rows = {row.label: row.right for row in bench.column.list_of("tilts").rows}
    drawn, seen = rows["head turned"]
    assert seen in {"39° left", "40° left", "41° left"}  # as the camera of `bodies` stands
    assert drawn == seen
    assert "chin raised" in rows


def test_a_canon_lies_on_a_tilted_head_square_to_its_centre_line(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    from bralto.ui.boards.overlays import forms_and_canons

    drawn: list[tuple[float, float, float, float]] = []

    def veiled(_painter: object, points: list[QPointF], _pen: object) -> None:
        (a, b) = points
        drawn.append((a.x(), a.y(), b.x(), b.y()))

    bench = opened(window, qtbot, head_study("head-front", (14.0, -9.0)), "tilts")
    monkeypatch.setattr(forms_and_canons, "veiled", veiled)
    for board, tilt in zip(bench.boards, (14.0, -9.0), strict=True):
        drawn.clear()
        sheet = QImage(9, 9, QImage.Format.Format_RGB32)
        painter = QPainter(sheet)
        forms_and_canons.draw_canon(painter, board, canon_named("face-thirds"))
        painter.end()
        slopes = [np.degrees(np.arctan2(y1 - y0, x1 - x0)) for x0, y0, x1, y1 in drawn]
        assert slopes == pytest.approx([tilt] * len(slopes), abs=0.5)
        # The first lies on the crown, the last on the chin.
        by_height = sorted(drawn, key=lambda line: line[1] + line[3])
        for (x0, y0, x1, y1), key in ((by_height[0], "crown"), (by_height[-1], "chin")):
            at = board.at(key)
            aside = (x1 - x0) * (at.y() - y0) - (y1 - y0) * (at.x() - x0)
            assert abs(aside) / np.hypot(x1 - x0, y1 - y0) < 2.5
