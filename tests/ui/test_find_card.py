"""How to find a landmark: every one has its place on a diagram, and the card follows the prompt."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot
from shapely.geometry import Point, Polygon
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.two_boards import Board
from bralto.core.views.diagrams import diagram_of
from bralto.core.views.shipped_views import view_keys, view_named
from bralto.ui.session import prompting


@pytest.mark.parametrize("key", view_keys())
def test_every_landmark_of_every_view_has_a_place_on_the_body(key: str) -> None:
    view = view_named(key)
    diagram = diagram_of(view)
    assert diagram is not None
    assert set(diagram.places) == {mark.key for mark in view.landmarks}
    body = Polygon(diagram.outline)
    assert body.is_valid  # the outline does not cross itself
    height = max(y for _, y in diagram.outline) - min(y for _, y in diagram.outline)
    for name, place in diagram.places.items():
        assert body.distance(Point(place)) < 0.08 * height, name  # on the body, or at its edge
    assert len(set(diagram.places.values())) == len(diagram.places)


@pytest.mark.parametrize("key", ["figure-front", "figure-back", "torso-front", "torso-back"])
def test_the_models_right_is_on_the_side_where_the_viewer_has_it(key: str) -> None:
    view = view_named(key)
    places = diagram_of(view).places
    for name, (x, _) in places.items():
        if name.endswith("_r"):
            assert (x < 0.0) == (view.seen_from == "front")
            assert places[name[:-2] + "_l"][0] == -x


def test_heights_of_the_diagram_are_in_the_order_in_which_the_view_lists_its_stations() -> None:
    """Stations run from the crown down; a diagram that has them otherwise would teach wrong."""
    for key in ("figure-front", "figure-back", "torso-front"):
        view = view_named(key)
        places = diagram_of(view).places
        down = [places[s][1] for s in view.stations if s in places and not s.endswith(("_r", "_l"))]
        assert down == sorted(down)


def test_the_card_follows_the_prompt_and_hides_nothing_that_is_asked_about(
    open_window: Opener, demo_copy: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    bench = house(window).bench
    study, card = bench.study, bench.find_card
    study.edits.remove(Board.DRAWING, "elbow_l")
    study.edits.remove(Board.DRAWING, "navel")
    study.apply(prompting.enter_pass, "widths")
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Question)
    assert card.isVisible()
    assert card.key == "elbow_l"
    assert "middle of the joint" in card.accessibleDescription()
    seen = card.grab().toImage()
    study.apply(prompting.enter_pass, "heights")
    assert card.key == "navel"
    assert card.grab().toImage() != seen
    for size in ((1280, 800), (1024, 700)):
        window.resize(*size)
        qtbot.wait(20)
        assert not card.geometry().intersects(bench.drawing.geometry())
        assert bench.rect().contains(card.geometry())
    qtbot.keyClick(bench.drawing, Qt.Key.Key_Question)
    assert not card.isVisible()
    study.apply(prompting.enter_pass, "shapes")  # nothing is asked for
    bench.find_card.toggle()
    assert not card.isVisible()


def test_pointing_teaches(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> None:
    window = open_window(demo_copy)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    board = house(window).bench.reference
    qtbot.mouseMove(board, board.at("chin").toPoint())
    qtbot.waitUntil(lambda: "lowest point of the jaw" in board.toolTip())
    share = (window.tape.width() - 48) / len(house(window).bench.segments())
    at = window.tape.rect().center()
    at.setX(int(24 + 2.5 * share))
    qtbot.mouseMove(window.tape, at)
    qtbot.waitUntil(lambda: "what stands below what" in window.tape.toolTip())
