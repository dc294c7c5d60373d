"""Pictures that come in: a watched folder, what is offered, what is asked and kept."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from PIL import Image
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel
from pytestqt.qtbot import QtBot
from tests.studies import figure_marks, study_of
from tests.ui.conftest import Opener, house, settle

from bralto.core.study.two_boards import Board
from bralto.core.study.values import PERMISSIONS, State
from bralto.ui.arrivals.offer import Offer
from bralto.ui.arrivals.permission import PermissionSlip
from bralto.ui.arrivals.watch import FolderWatch
from bralto.ui.bench.board_menu import board_menu
from bralto.ui.running.tasks import Tasks
from bralto.ui.settings import Settings
from bralto.ui.shelf.new_study import NewStudy
from bralto.ui.slips.settings_slip import SettingsSlip
from bralto.ui.window import MainWindow


def picture(path: Path) -> Path:
    Image.new("RGB", (80, 60), "gray").save(path)
    return path


def test_a_file_is_told_once_when_it_is_whole_and_what_is_no_picture_never(
    tmp_path: Path, qtbot: QtBot
) -> None:
    watch, told = FolderWatch(), []
    watch.arrived.connect(lambda path: told.append(path.name))
    picture(tmp_path / "old.png")
    assert watch.watch(tmp_path)
    with (tmp_path / "slow.jpg").open("wb") as file:
        for _ in range(3):  # a phone saves bit by bit
            file.write(b"x" * 1000)
            file.flush()
            qtbot.wait(150)
    picture(tmp_path / ".hidden.png")
    (tmp_path / "notes.txt").write_text("no")
    picture(tmp_path / "new.png")
    qtbot.waitUntil(lambda: len(told) == 2, timeout=8000)
    assert sorted(told) == ["new.png", "slow.jpg"]
    (tmp_path / "new.png").unlink()
    qtbot.wait(100)
    picture(tmp_path / "new.png")  # the same name again is a new picture
    qtbot.waitUntil(lambda: len(told) == 3, timeout=8000)
    assert not watch.watch(tmp_path / "nowhere")
    assert watch.folder == tmp_path  # what was watched is watched still
    assert watch.watch(None)
    picture(tmp_path / "late.png")
    qtbot.wait(900)
    assert len(told) == 3


@pytest.mark.parametrize("text", ["", "no json", "[1, 2]", '{"drop_folder": 7}', '{"other": 1}'])
def test_settings_that_are_damaged_count_as_none(tmp_path: Path, text: str) -> None:
    (tmp_path / "settings.json").write_text(text)
    settings = Settings(tmp_path)
    assert settings.drop_folder is None
    settings.set_drop_folder(tmp_path / "phone")
    assert Settings(tmp_path).drop_folder == tmp_path / "phone"
    settings.set_drop_folder(None)
    assert Settings(tmp_path).drop_folder is None


def test_an_offer_gives_a_free_name_and_shows_what_it_can(tmp_path: Path, qtbot: QtBot) -> None:
    study = study_of(figure_marks(), figure_marks())
    names = ("state 2", "state 3")
    states = (*study.states, *(State(name, study.states[0].picture) for name in names))
    tasks = Tasks()
    offer = Offer(picture(tmp_path / "a.png"), replace(study, states=states), tasks)
    qtbot.addWidget(offer)
    qtbot.waitUntil(lambda: not offer.preview.pixmap().isNull())
    assert offer.name.text() == "state 4"
    offer.name.setText("  ")
    offer.state.click()
    assert (offer.choice, offer.fault.text()) == ("", "Give this state a name of its own.")
    offer.new.click()
    assert offer.choice == "study"
    scan = tmp_path / "scan.pdf"
    scan.write_bytes(b"%PDF-1.4")  # Qt shows none; the ending stands in
    qtbot.addWidget(other := Offer(scan, study, tasks))
    qtbot.waitUntil(lambda: not tasks.busy)
    assert other.preview.text() == "PDF"
    assert other.name.text() == "state 2"


def test_the_first_photo_of_a_drawing_is_offered_as_that(tmp_path: Path, qtbot: QtBot) -> None:
    """Of a study that waits for its drawing it was *a later state*, *state 1*, with marks to be
    carried over that nobody had set."""
    study = replace(study_of(figure_marks(), figure_marks()), title="", states=())
    qtbot.addWidget(offer := Offer(picture(tmp_path / "a.png"), study, Tasks()))
    assert (offer.name.text(), offer.state.text()) == ("first", "The drawing of this study")
    said = [one.text() for one in offer.findChildren(QLabel)]
    assert "Your drawing for \u201cUntitled study\u201d? Its sheet is looked for." in said
    offer.state.click()
    assert offer.choice == "state"


def test_permission_is_never_empty(qtbot: QtBot) -> None:
    slip = PermissionSlip(None)
    qtbot.addWidget(slip)
    assert slip.said == "not stated"
    slip.choice.setCurrentText("cast in the school's hall")
    assert slip.said == "cast in the school's hall"
    slip.choice.setCurrentText("   ")
    assert slip.said == PERMISSIONS[-1]


@pytest.fixture
def window(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> MainWindow:
    window = open_window(demo_copy)
    entry = next(e for e in house(window).shelf_state.entries if e.states > 1)
    house(window).open_study(entry.id)
    settle(qtbot, window)
    return window


def test_several_at_once_are_offered_one_after_another(
    window: MainWindow, tmp_path: Path, qtbot: QtBot
) -> None:
    files = [picture(tmp_path / f"{name}.png") for name in "abc"]
    house(window).arrivals.take(files)

    def offers() -> list[str]:
        return [one.path.name for one in window.findChildren(Offer) if one.isVisible()]

    for name in ("a.png", "b.png", "c.png"):
        qtbot.waitUntil(lambda name=name: offers() == [name])
        next(one for one in window.findChildren(Offer) if one.isVisible()).reject()
    qtbot.waitUntil(lambda: offers() == [])


def offered(window: MainWindow) -> list[Offer]:
    return [one for one in window.findChildren(Offer) if one.isVisible()]


def test_one_that_cannot_be_read_does_not_keep_the_next_from_being_offered(
    window: MainWindow, tmp_path: Path, qtbot: QtBot
) -> None:
    bad = tmp_path / "bad.png"
    bad.write_bytes(b"no picture at all")
    house(window).incoming.take([bad, picture(tmp_path / "good.png")])
    qtbot.waitUntil(lambda: [one.path.name for one in offered(window)] == ["bad.png"])
    offered(window)[0].state.click()
    qtbot.waitUntil(lambda: [one.path.name for one in offered(window)] == ["good.png"])
    assert "bad.png" in window.prompt_line.prompt.lead
    offered(window)[0].reject()


def test_a_photo_for_a_study_that_has_left_the_bench_meanwhile_goes_nowhere_and_says_so(
    window: MainWindow, tmp_path: Path, qtbot: QtBot
) -> None:
    here, there = house(window).bench.study, house(window).shelf_state.entries[-1].id
    files = [picture(tmp_path / f"{name}.png") for name in ("late", "next")]
    house(window).incoming.take(files)
    qtbot.waitUntil(lambda: [one.path.name for one in offered(window)] == ["late.png"])
    offered(window)[0].state.click()
    house(window).open_study(there)  # the photo is still being decoded
    # What came with it is offered for the study that is there now.
    qtbot.waitUntil(lambda: [one.path.name for one in offered(window)] == ["next.png"])
    assert house(window).arrivals.slip is None
    assert f"“{here.study.title}” has left the bench" in window.prompt_line.prompt.lead
    stored = house(window).library.stored(here.id)
    assert stored is not None
    assert stored.study == here.study
    offered(window)[0].state.click()
    qtbot.waitUntil(lambda: house(window).arrivals.slip is not None)
    house(window).arrivals.slip.reject()
    assert len(house(window).bench.study.study.states) == 2


def test_settings_that_stand_open_reach_the_study_that_was_there_no_more(
    window: MainWindow, qtbot: QtBot
) -> None:
    house(window).show_settings()
    slip = next(one for one in window.findChildren(SettingsSlip) if one.isVisible())
    house(window).open_study(house(window).shelf_state.entries[-1].id)
    settle(qtbot, window)
    slip.figures.setCurrentIndex(1 - slip.figures.currentIndex())
    slip.figures.activated.emit(slip.figures.currentIndex())
    assert house(window).settings.figures_begin == slip.figures.currentData()
    slip.done(0)


def test_a_question_about_a_picture_goes_with_its_study(window: MainWindow, qtbot: QtBot) -> None:
    house(window).bench_place.ask_permission(Board.DRAWING)
    assert any(one.isVisible() for one in window.findChildren(PermissionSlip))
    house(window).open_study(house(window).shelf_state.entries[-1].id)
    settle(qtbot, window)
    qtbot.waitUntil(lambda: not window.findChildren(PermissionSlip))


def test_what_comes_with_the_two_pictures_of_a_new_study_is_offered_after_them(
    open_window: Opener, demo_copy: Path, tmp_path: Path, qtbot: QtBot
) -> None:
    window = open_window(demo_copy)
    files = [picture(tmp_path / f"{name}.png") for name in ("seen", "drawn", "later", "last")]
    house(window).incoming.take(files)
    slip = next(one for one in window.findChildren(NewStudy) if one.isVisible())
    qtbot.waitUntil(slip.start.isEnabled)
    slip.start.click()
    qtbot.waitUntil(lambda: house(window).bench is not None)
    settle(qtbot, window)
    for dialog in window.findChildren(PermissionSlip):
        dialog.accept()
    qtbot.waitUntil(lambda: house(window).arrivals.slip is not None)
    house(window).arrivals.slip.reject()  # the sheet of the first drawing, another time
    for name in ("later.png", "last.png"):
        qtbot.waitUntil(lambda name=name: [o.path.name for o in offered(window)] == [name])
        offered(window)[0].reject()


def test_a_watched_folder_is_named_on_the_shelf_and_can_be_let_go(
    window: MainWindow, tmp_path: Path
) -> None:
    assert house(window).shelf.watch.text() == "Watch a folder …"
    house(window).arrivals.set_drop_folder(tmp_path)
    assert tmp_path.name in house(window).shelf.watch.text()
    house(window).incoming.choose_drop_folder()  # a second press lets go
    assert house(window).arrivals.settings.drop_folder is None
    assert house(window).shelf.watch.text() == "Watch a folder …"


def test_a_picture_of_a_person_that_says_nothing_is_asked_about_once(
    window: MainWindow, qtbot: QtBot
) -> None:
    study = house(window).bench.study
    study.pictures.set_permission(Board.REFERENCE, None)
    study_id = study.id
    study.time.spend(2.0)  # kept as it leaves the bench: no later edit is refused for it
    house(window).open_study(study_id)
    (slip,) = [one for one in window.findChildren(PermissionSlip) if one.isVisible()]
    slip.reject()  # closing it says that nothing is stated
    qtbot.waitUntil(lambda: not window.findChildren(PermissionSlip))
    assert house(window).bench.study.picture(Board.REFERENCE).permission == "not stated"
    house(window).open_study(study_id)
    assert window.findChildren(PermissionSlip) == []


def test_the_menu_over_a_board_has_its_states_looks_and_acts(window: MainWindow) -> None:
    study, done = house(window).bench.study, []
    acts = {name: (lambda name=name: done.append(name)) for name in ("sheet", "crop", "carry")}

    def menu(board: str, look: str = "plain") -> object:
        return board_menu(study, board, look, acts, done.append)

    drawing, reference = menu(Board.DRAWING), menu(Board.REFERENCE, "squint")
    labels = dict(drawing.options)
    assert labels["state:block-in"] == "State: block-in"
    assert "whole" not in labels  # nothing is cropped
    assert drawing.current == {"state:evening", "look:plain"}
    assert drawing.words == "evening"
    assert reference.words == "squint"
    assert "new_state" not in dict(reference.options)
    assert dict(reference.options)["against:block-in"] == "Compare with state: block-in"
    drawing.take("sheet")
    drawing.take("look:squint")
    assert done == ["sheet", "squint"]
    reference.take("against:block-in")
    assert study.session.against == "block-in"
    assert menu("reference").words == "block-in"
    drawing.take("state:block-in")  # on the drawing's own board it is no comparison any more
    assert (study.session.state_name, study.session.against) == ("block-in", "")
    study.pictures.set_crop(Board.DRAWING, (10.0, 10.0, 100.0, 100.0))
    assert "whole" in dict(menu(Board.DRAWING).options)


def test_enter_confirms_a_carried_mark_from_either_board(window: MainWindow, qtbot: QtBot) -> None:
    """With the drawing's own zoom, wherever the keys go."""
    study = house(window).bench.study
    study.edits.set_marks(Board.DRAWING, {"toe_r": None, "toe_l": None})
    study.edits.propose_from_reference()
    assert study.now.asked_proposal == (Board.DRAWING, study.now.proposals(Board.DRAWING)[0])
    house(window).bench.reference.zoom(3.0)
    for board in (house(window).bench.reference, house(window).bench.drawing):
        key = study.now.proposals(Board.DRAWING)[0]
        board.setFocus()
        qtbot.keyClick(board, Qt.Key.Key_Return)
        mark = study.picture(Board.DRAWING).marks[key]
        assert mark.visibility == "seen"
        assert mark.spread == pytest.approx(house(window).bench.drawing.spread())
    assert study.now.proposals(Board.DRAWING) == ()
    study.edits.propose_from_reference()
    assert "has all the marks" in window.prompt_line.prompt.lead


def test_a_state_can_be_named_after_the_stage_of_the_drawing(qtbot: QtBot, tmp_path: Path) -> None:
    study = study_of(figure_marks(), figure_marks())
    study = replace(study, states=(replace(study.states[0], name="block-in"),))
    qtbot.addWidget(offer := Offer(picture(tmp_path / "a.png"), study, Tasks()))
    stages = [offer.stage.itemData(i) for i in range(offer.stage.count())]
    assert stages == ["", "straight lines", "before shading", "end"]
    for at in (1, 0):  # choosing none leaves what stands there
        offer.stage.setCurrentIndex(at)
        offer.stage.activated.emit(at)
        assert offer.name.text() == "straight lines"
