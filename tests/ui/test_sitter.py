"""The sitter of practice: how far away, and in any window."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QLabel, QMenu
from pytestqt.qtbot import QtBot
from tests.core.sightings.sitters import picture, places, posed, sighted
from tests.ui.conftest import Opener, house, settle

from bralto.core.longitudinal.practice import PLAN, Plan, plan_document
from bralto.core.page.photo import HEAD_M
from bralto.core.sightings.standing_off import DISTANCES_M
from bralto.core.study.taken import Sightings
from bralto.core.study.two_boards import Board
from bralto.core.study.values import Mark, Picture, Study
from bralto.imaging.load import clean_picture
from bralto.store.instants import now_utc
from bralto.store.intake import keeping
from bralto.store.library import Library
from bralto.ui.record.today_page import TodayPage
from bralto.ui.sight.sight_prompt import sight_prompt
from bralto.ui.sight.sight_room import SightRoom
from bralto.ui.widgets.heading import Choice, Heading
from bralto.ui.window import MainWindow

SIZE = (900, 1200)
TOP, CHIN, BOTTOM = 60, 210, 1110
"""Rows of the picture: a post of 1,050 px that is seven times what is called its head."""

PX_PER_MM = 4.0


def sitting(folder: Path, open_window: Opener, qtbot: QtBot, *, chin: bool = True) -> MainWindow:
    """A post that is practised before, in a window of 1280x800."""
    folder.mkdir()
    pixels = np.full((SIZE[1], SIZE[0], 3), 236, np.uint8)
    pixels[TOP:BOTTOM, 430:470] = 0
    Image.fromarray(pixels).save(folder / "post.png")
    marks = {"crown": Mark(450.0, TOP), "sole_r": Mark(450.0, BOTTOM)}
    if chin:
        marks["chin"] = Mark(450.0, CHIN)
    with Library.open(folder / "library") as library:
        study = Study("A post", "figure-front", Picture("post.png", *SIZE, marks))
        with keeping(library) as keep:
            media = {"": keep(clean_picture(folder / "post.png"))}
            study_id = library.add(study, media, now_utc())
    window = open_window(folder / "library")
    window.resize(1280, 800)
    house(window).open_study(study_id)
    settle(qtbot, window)
    bench = house(window).bench
    assert bench is not None
    bench.work.menu(bench.reference).take("practise")
    settle(qtbot, window)
    return window


def room_of(window: MainWindow) -> SightRoom:
    bench = house(window).bench
    assert bench is not None
    assert bench.room is not None
    return bench.room


def heading(room: SightRoom) -> Heading:
    return next(one for one in room.findChildren(Heading) if "sitter" in one.accessibleName())


def choice(room: SightRoom) -> Choice:
    found = heading(room).choice
    assert found is not None
    return found


def height_px(room: SightRoom) -> int:
    """Rows of the sitter's board in which the post is black."""
    assert room.seated is not None
    image = room.seated.sitter.grab().toImage().convertToFormat(QImage.Format.Format_Grayscale8)
    bits = image.constBits()
    assert bits is not None
    bits.setsize(image.sizeInBytes())
    grey = np.frombuffer(bytes(bits), np.uint8).reshape(image.height(), image.bytesPerLine())
    return int((grey[:, : image.width()] < 100).any(axis=1).sum())


@pytest.mark.parametrize(("metres", "eye_mm"), [(8, 600), (10, 600), (12, 500), (6, 400)])
def test_it_is_as_large_as_a_person_is_at_that_distance(
    tmp_path: Path, open_window: Opener, qtbot: QtBot, metres: int, eye_mm: int
) -> None:
    """Measured on the screen: seven heads of 22.5 cm, seen at so many metres by an eye so far from
    the screen, by similar triangles."""
    window = sitting(tmp_path / "at", open_window, qtbot)
    room = room_of(window)
    house(window).settings.set_px_per_mm(PX_PER_MM)
    choice(room).take(f"eye {eye_mm}")
    choice(room).take(f"away {metres}")
    assert height_px(room) == pytest.approx(
        7.0 * HEAD_M * eye_mm / metres * PX_PER_MM, abs=1.5
    )  # px
    assert choice(room).words == f"{metres} m away"
    assert f"{eye_mm // 10} cm" in heading(room).accessibleName()
    assert choice(room).current == {f"away {metres}", f"eye {eye_mm}"}


def test_as_near_as_there_is_room_it_says_how_near_that_is(
    tmp_path: Path, open_window: Opener, qtbot: QtBot
) -> None:
    window = sitting(tmp_path / "at", open_window, qtbot)
    room = room_of(window)
    assert choice(room).words.startswith("about ")  # no card was laid on the screen yet
    house(window).settings.set_px_per_mm(PX_PER_MM)
    choice(room).take("near")
    said = float(choice(room).words.split()[0])
    assert said == pytest.approx(7.0 * HEAD_M * 600.0 * PX_PER_MM / height_px(room), abs=0.06)
    window.resize(1500, 1000)  # more room: nearer by
    settle(qtbot, window)
    nearest = float(choice(room).words.split()[0])
    assert nearest < said
    # Nothing is offered that is nearer than there is room for, and all that is not.
    offered = {float(key.split()[1]) for key, _ in choice(room).options if key.startswith("away")}
    surely, at_most = (
        {one for one in DISTANCES_M["figure"] if one > nearest + by} for by in (0.05, -0.05)
    )  # what is said is rounded to a tenth
    assert surely <= offered <= at_most
    assert offered


def test_what_is_chosen_holds_for_the_next_sitter(
    tmp_path: Path, open_window: Opener, qtbot: QtBot
) -> None:
    window = sitting(tmp_path / "one", open_window, qtbot)
    choice(room_of(window)).take("away 12")
    before = height_px(room_of(window))
    window = open_window(tmp_path / "one" / "library")
    window.resize(1280, 800)
    house(window).open_study(house(window).shelf_state.entries[0].id)
    settle(qtbot, window)
    bench = house(window).bench
    assert bench is not None
    bench.enter_pass("sight")
    settle(qtbot, window)
    assert height_px(room_of(window)) == before
    assert choice(room_of(window)).words.endswith("12 m away")


def test_the_menu_opens_by_a_key_and_offers_the_card(
    tmp_path: Path, open_window: Opener, qtbot: QtBot
) -> None:
    room = room_of(sitting(tmp_path / "at", open_window, qtbot))
    qtbot.keyClick(room.board, Qt.Key.Key_P)
    menu = room.findChild(QMenu)
    assert menu is not None
    words = [one.text() for one in menu.actions()]
    assert any("as there is room" in one for one in words)
    assert any("bank card" in one for one in words)
    menu.close()


def test_without_a_head_nothing_is_said_of_a_distance(
    tmp_path: Path, open_window: Opener, qtbot: QtBot
) -> None:
    room = room_of(sitting(tmp_path / "at", open_window, qtbot, chin=False))
    assert heading(room).choice is None
    assert height_px(room) > 300


def test_a_small_window_keeps_the_sitter_and_lets_the_list_go(
    tmp_path: Path, open_window: Opener, qtbot: QtBot
) -> None:
    """At 175 % on 1280x800: without a sitter there was nothing to sight."""
    window = sitting(tmp_path / "at", open_window, qtbot)
    room = room_of(window)
    assert room.listed.isVisible()
    window.resize(731, 457)
    settle(qtbot, window)
    assert room.seated is not None
    assert room.seated.isVisible()
    assert not room.listed.isVisible()
    assert room.slip.question.width() > 300
    window.resize(1280, 800)
    settle(qtbot, window)
    assert room.listed.isVisible()


def test_the_next_sitter_comes_by_a_key(tmp_path: Path, open_window: Opener, qtbot: QtBot) -> None:
    """A model by chance, marked and waiting to be sighted; a key held down asks for one."""
    window = sitting(tmp_path / "at", open_window, qtbot)
    before = house(window).on_bench()
    assert before is not None
    assert "next sitter" in [words for _, words in sight_prompt(before).keys]
    for _ in range(3):
        qtbot.keyClick(room_of(window).board, Qt.Key.Key_X)
    settle(qtbot, window)
    study = house(window).on_bench()
    assert study is not None
    assert study.id != before.id
    assert len(house(window).library.rows()) == 2
    assert study.current_pass == "sight"
    assert study.study.sightings is not None
    assert study.study.sightings.items == ()
    assert len(study.picture(Board.REFERENCE).marks) > 20
    room = room_of(window)
    assert room.seated is not None
    assert room.seated.isVisible()
    assert choice(room).words.endswith("m away")


def test_what_stands_on_the_model_is_sighted_for_practice(
    tmp_path: Path, open_window: Opener, qtbot: QtBot
) -> None:
    window = open_window(tmp_path / "library")
    window.resize(1280, 800)
    window.go("Model")
    model = house(window).model
    qtbot.waitUntil(lambda: not model.busy, timeout=60_000)
    model.state.choose_pose("lying-side")
    qtbot.mouseClick(model.sight, Qt.MouseButton.LeftButton)
    settle(qtbot, window)
    study = house(window).on_bench()
    assert study is not None
    assert window.place == "Bench"
    assert (study.study.title, study.current_pass) == ("Lying on the side", "sight")
    assert study.sighted.kept.stance.is_lying
    assert room_of(window).seated is not None


def test_what_nothing_is_known_of_is_not_sighted_for_practice(
    tmp_path: Path, open_window: Opener, qtbot: QtBot
) -> None:
    """Of a box no sighting could be asked for; one that lies is sighted along itself."""
    ends = {"top": (450, 100), "bottom": (450, 900), "left": (200, 500), "right": (700, 500)}
    marks = {key: Mark(float(x), float(y)) for key, (x, y) in ends.items()}
    lying = picture(posed("lying-side"), 1.0)
    with Library.open(tmp_path / "library") as library:
        for title, view, seen in (
            ("A box", "object", Picture("box.png", *SIZE, marks)),
            ("One who lies", "figure-front", lying),
        ):
            library.add(Study(title, view, seen), {}, now_utc())
    window = open_window(tmp_path / "library")
    offered = {}
    for entry in house(window).shelf_state.entries:
        house(window).open_study(entry.id)
        settle(qtbot, window)
        bench = house(window).bench
        assert bench is not None
        menu = bench.work.menu(bench.reference)
        offered[entry.title] = "practise" in [key for key, _ in menu.options]
        if offered[entry.title]:
            menu.take("practise")
            settle(qtbot, window)
            study = house(window).on_bench()
            assert study is not None
            assert study.sighted.view.lies
    assert offered == {"A box": False, "One who lies": True}
    window.go("Model")
    model = house(window).model
    qtbot.waitUntil(lambda: not model.busy, timeout=60_000)
    for subject, can in (("box", False), ("head", True)):
        model.state.choose_subject(subject)
        qtbot.waitUntil(lambda: not model.busy, timeout=60_000)
        assert model.sight.isEnabled() is can


def test_how_one_sights_is_told_on_the_record(
    tmp_path: Path, open_window: Opener, qtbot: QtBot
) -> None:
    seen = places("figure-front")
    exact = sighted("figure-front", seen, "height.navel", "height.crotch", "span.shoulders")
    with Library.open(tmp_path / "library") as library:
        for day, factor in enumerate((1.05, 1.06, 1.07), start=1):
            items = tuple(replace(one, value=factor * one.value) for one in exact)
            study = Study("A sitter", "figure-front", picture(seen), sightings=Sightings(items))
            library.add(study, {}, f"2026-10-{day:02}T10:00:00Z")
    window = open_window(tmp_path / "library")
    window.go("Record")
    settle(qtbot, window)
    said = [one.text() for one in house(window).record.findChildren(QLabel) if one.isVisible()]
    assert any("How you sight, 3 sitters: lengths +6.0" in one for one in said)
    # And it is practised today, by the next sitter.
    record = house(window).record
    library = house(window).library
    library.note_practice(PLAN, plan_document(Plan(60)), now_utc())
    record.show_page("Today")
    settle(qtbot, window)
    page = record.shown
    assert isinstance(page, TodayPage)
    assert page.found is not None
    (row,) = [i for i, one in enumerate(page.found.items) if one.key == "sight"]
    page.items.taken.emit(row, QPointF())
    settle(qtbot, window)
    study = house(window).on_bench()
    assert study is not None
    assert study.current_pass == "sight"
