"""The learner's own studies: named, tagged, hidden, put away, written out, read in."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QApplication, QFileDialog, QLabel
from pytestqt.qtbot import QtBot
from tests.ui.conftest import Opener, house, refusing, settle

from bralto.core.study.two_boards import Board
from bralto.ui.shelf.shelf import Shelf
from bralto.ui.shelf.study_slips import EraseSlip, TagSlip
from bralto.ui.slips.name_slip import NameSlip
from bralto.ui.window import MainWindow

CTRL, NONE = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.NoModifier
LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def window(open_window: Opener, demo_copy: Path, qtbot: QtBot) -> MainWindow:
    window = open_window(demo_copy)
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    return window


@pytest.fixture
def shelf(window: MainWindow) -> Shelf:
    return house(window).shelf


def at(shelf: Shelf, row: int) -> object:
    return shelf.list.visualRect(shelf.entries.index(row, 0)).center()


def choose(shelf: Shelf, qtbot: QtBot, *rows: int) -> list[str]:
    """Select studies with Ctrl and a click; gives their names."""
    shelf.list.clearSelection()
    for row in rows:
        qtbot.mouseClick(shelf.list.viewport(), LEFT, CTRL, at(shelf, row))
    return [entry.title for entry in shelf.selected()]


def key(window: MainWindow, qtbot: QtBot, code: Qt.Key, held: Qt.KeyboardModifier = NONE) -> None:
    window.activateWindow()  # no window manager gives the focus back after a slip
    qtbot.waitUntil(window.isActiveWindow)
    house(window).shelf.list.setFocus()
    qtbot.keyClick(house(window).shelf.list, code, held)


def titles(shelf: Shelf) -> list[str]:
    return [entry.title for entry in shelf.state.entries]


def test_several_go_into_the_bin_and_undo_brings_them_back(
    window: MainWindow, shelf: Shelf, qtbot: QtBot
) -> None:
    before = titles(shelf)
    gone = choose(shelf, qtbot, 1, 3)
    assert len(gone) == 2
    assert window.prompt_line.prompt.lead == "2 studies selected:"
    key(window, qtbot, Qt.Key.Key_Delete)
    assert [one for one in before if one not in gone] == titles(shelf)
    assert "in the bin for 30 days" in window.prompt_line.prompt.lead
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert titles(shelf) == before
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert len(titles(shelf)) == len(before) - 2
    window.go("Record")
    settle(qtbot, window)
    assert window.prompt_line.prompt.lead == f"{len(before) - 6} studies of figures on record:"


def test_from_the_bin_a_study_comes_back_or_goes_for_good_with_its_pictures(
    window: MainWindow, shelf: Shelf, qtbot: QtBot, demo_copy: Path
) -> None:
    library = house(window).library
    choose(shelf, qtbot, 0, 1)
    first, second = shelf.selected()
    media = set(library.stored(first.id).media.values())
    key(window, qtbot, Qt.Key.Key_Delete)
    shelf.look_at("bin")
    assert titles(shelf) == [first.title, second.title]
    qtbot.mouseClick(shelf.list.viewport(), LEFT, NONE, at(shelf, 0))
    assert window.place == "Shelf"  # nothing is opened in there
    choose(shelf, qtbot, 1)
    house(window).acts.take_out()
    assert titles(shelf) == [first.title]
    choose(shelf, qtbot, 0)
    key(window, qtbot, Qt.Key.Key_Delete)
    slip = window.findChild(EraseSlip)
    said = " ".join(label.text() for label in slip.findChildren(QLabel))
    assert "2 pictures that no other study has" in said
    qtbot.mouseClick(slip.keep, LEFT)
    assert titles(shelf) == []
    assert "deleted for good, with 2 pictures" in window.prompt_line.prompt.lead
    assert library.find(first.id) is None
    left = {path.name.split(".")[0] for path in (demo_copy / "media").glob("??/*")}
    assert not left & {name.rsplit("/")[-1].split(".")[0] for name in media}
    key(window, qtbot, Qt.Key.Key_Escape)
    assert shelf.state.show == "shelf"
    assert second.title in titles(shelf)
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)  # what is gone for good is no step of undo
    assert library.find(first.id) is None


def test_the_open_study_leaves_the_bench_when_it_goes_into_the_bin(
    window: MainWindow, shelf: Shelf, qtbot: QtBot
) -> None:
    qtbot.mouseClick(shelf.list.viewport(), LEFT, NONE, at(shelf, 0))
    settle(qtbot, window)
    assert window.place == "Bench"
    window.go("Shelf")
    choose(shelf, qtbot, 0)
    key(window, qtbot, Qt.Key.Key_Delete)
    assert house(window).bench is None
    window.go("Bench")
    assert "No study is on the bench" in window.prompt_line.prompt.lead


def test_a_study_is_renamed_also_while_it_is_on_the_bench(
    window: MainWindow, shelf: Shelf, qtbot: QtBot
) -> None:
    def rename(row: int, name: str) -> None:
        choose(shelf, qtbot, row)
        key(window, qtbot, Qt.Key.Key_F2)
        slip = next(one for one in window.findChildren(NameSlip) if one.isVisible())
        slip.name.setText(name)
        qtbot.mouseClick(slip.keep, LEFT)
        qtbot.waitUntil(lambda: not window.findChildren(NameSlip))

    rename(2, "Chain maker")
    assert titles(shelf)[2] == "Chain maker"
    assert not house(window).shelf_state.busy  # it is not measured again for a name
    house(window).open_study(shelf.state.entries[2].id)
    settle(qtbot, window)
    window.go("Shelf")
    rename(2, "Chain maker, again")
    assert house(window).bench.study.study.title == "Chain maker, again"
    study = house(window).bench.study
    assert (
        study.edits.set_mark(Board.DRAWING, "crown", study.picture(Board.DRAWING).marks["chin"])
        is False
    )
    study.head.set_grade("exacting")  # the bench still has the study's last version
    assert house(window).library.find(study.id).grade == "exacting"
    window.go("Shelf")
    assert titles(shelf)[2] == "Chain maker, again"


def test_tags_are_given_found_and_taken_away(
    window: MainWindow, shelf: Shelf, qtbot: QtBot
) -> None:
    choose(shelf, qtbot, 0, 1)
    key(window, qtbot, Qt.Key.Key_T, CTRL)
    slip = window.findChild(TagSlip)
    slip.new.setText("hands,  quick   ones , ")
    qtbot.mouseClick(slip.keep, LEFT)
    assert [entry.tags for entry in shelf.state.entries[:2]] == [("hands", "quick ones")] * 2
    qtbot.waitUntil(lambda: not window.findChildren(TagSlip))
    choose(shelf, qtbot, 1, 2)
    key(window, qtbot, Qt.Key.Key_T, CTRL)
    slip = window.findChild(TagSlip)
    half = {name: box.checkState() for name, box in slip.boxes.items()}
    assert half == {
        "hands": Qt.CheckState.PartiallyChecked,
        "quick ones": Qt.CheckState.PartiallyChecked,
    }
    slip.boxes["hands"].setCheckState(Qt.CheckState.Unchecked)
    qtbot.mouseClick(slip.keep, LEFT)
    assert [entry.tags for entry in shelf.state.entries[:3]] == [
        ("hands", "quick ones"), ("quick ones",), (),
    ]  # fmt: skip
    key(window, qtbot, Qt.Key.Key_F, CTRL)
    qtbot.keyClicks(shelf.finder, "HANDS")
    assert len(titles(shelf)) == 1
    assert "1 study with" in shelf.counted.text()
    shelf.finder.setText("try oar")
    assert titles(shelf)
    assert all("Oar" in title for title in titles(shelf))
    qtbot.keyClick(shelf.finder, Qt.Key.Key_Escape)
    assert len(titles(shelf)) == 19
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert shelf.state.entries[1].tags == ("hands", "quick ones")


def test_a_hidden_study_is_out_of_sight_and_still_on_record(
    window: MainWindow, shelf: Shelf, qtbot: QtBot
) -> None:
    (name,) = choose(shelf, qtbot, 4)
    key(window, qtbot, Qt.Key.Key_H, CTRL)
    assert name not in titles(shelf)
    shelf.look_at("hidden")
    assert titles(shelf) == [name]
    window.go("Record")
    settle(qtbot, window)
    assert window.prompt_line.prompt.lead == "15 studies of figures on record:"
    window.go("Shelf")
    choose(shelf, qtbot, 0)
    key(window, qtbot, Qt.Key.Key_H, CTRL)
    shelf.look_at("shelf")
    assert name in titles(shelf)


def test_heads_are_a_series_of_their_own_on_record(window: MainWindow, qtbot: QtBot) -> None:
    window.go("Record")
    settle(qtbot, window)
    record = house(window).record
    figures = set(record.accuracy.charts["miss"].dots.studies)
    record.state.count_only("subject", "head")
    settle(qtbot, window)
    heads = set(record.accuracy.charts["miss"].dots.studies)
    views = {entry.id: entry.row.view for entry in house(window).shelf_state.entries}
    assert (len(figures), len(heads)) == (15, 4)
    assert all(views[study].startswith("head") for study in heads)
    assert not any(views[study].startswith("head") for study in figures)
    assert window.prompt_line.prompt.lead == "4 studies of heads on record:"
    assert "15 of other subjects" in window.prompt_line.prompt.how


def test_a_duplicate_is_a_study_of_its_own(window: MainWindow, shelf: Shelf, qtbot: QtBot) -> None:
    (name,) = choose(shelf, qtbot, 0)
    key(window, qtbot, Qt.Key.Key_D, CTRL)
    settle(qtbot, window)
    assert titles(shelf)[:2] == [f"{name}, copy", name]
    copy, source = shelf.state.entries[:2]
    assert copy.summary == source.summary


def test_a_study_goes_out_as_a_bundle_and_comes_back_by_dropping_it(
    window: MainWindow, shelf: Shelf, qtbot: QtBot, tmp_path: Path, open_window: Opener,
    monkeypatch: pytest.MonkeyPatch,
) -> None:  # fmt: skip
    (name,) = choose(shelf, qtbot, 2)
    source = house(window).library.stored(shelf.selected()[0].id)
    out = tmp_path / "out.bralto"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(out), ""))
    key(window, qtbot, Qt.Key.Key_E, CTRL)
    settle(qtbot, window)
    assert f"“{name}” is written to" in window.prompt_line.prompt.lead
    other = open_window(tmp_path / "other")
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(out))])
    QApplication.sendEvent(
        other, QDragEnterEvent(QPoint(200, 200), Qt.DropAction.CopyAction, data, LEFT, NONE)
    )
    QApplication.sendEvent(
        other, QDropEvent(QPointF(200, 200), Qt.DropAction.CopyAction, data, LEFT, NONE)
    )
    settle(qtbot, other)
    assert titles(house(other).shelf) == [name]
    back = house(other).library.stored(house(other).shelf_state.entries[0].id)
    assert back.study == source.study
    assert back.media == source.media  # byte for byte the same pictures
    assert all(house(other).library.media.is_sound(one) for one in back.media.values())


def test_a_card_is_dragged_out_of_the_window_as_a_bundle(shelf: Shelf) -> None:
    data = shelf.entries.mimeData([shelf.entries.index(0, 0), shelf.entries.index(1, 0)])
    files = [Path(url.toLocalFile()) for url in data.urls()]
    assert [path.suffix for path in files] == [".bralto", ".bralto"]
    from bralto.exchange.bundle import read_bundle

    assert read_bundle(files[0]).title == titles(shelf)[0]


@pytest.mark.parametrize(
    "title", ["a/b: c?", "...", "", "\x1b[2J", "画" * 300, "🎨" * 200, "x" * 300]
)
def test_whatever_a_study_is_called_it_has_a_file_name(
    title: str, window: MainWindow, shelf: Shelf, qtbot: QtBot, tmp_path: Path
) -> None:
    shelf.state.rename(shelf.state.entries[0], title)
    shelf.state.rename(shelf.state.entries[1], title)
    data = shelf.entries.mimeData([shelf.entries.index(i, 0) for i in (0, 1)])
    names = {Path(url.toLocalFile()).name for url in data.urls()}
    assert len(names) == 2
    assert all(len(name.encode()) < 200 and name.isprintable() for name in names)
    house(window).acts.write_to(list(shelf.state.entries[:1]), [tmp_path / names.pop()])
    settle(qtbot, window)
    assert len(list(tmp_path.glob("*.bralto"))) == 1


def test_files_that_are_no_studies_are_said_and_the_good_ones_come(
    window: MainWindow, shelf: Shelf, qtbot: QtBot, tmp_path: Path
) -> None:
    (tmp_path / "bad.json").write_text("{}")
    good = Path(__file__).parents[1] / "data/pencil-head.json"
    house(window).incoming.take([tmp_path / "bad.json", good])
    settle(qtbot, window)
    assert "not a Bralto study" in window.prompt_line.prompt.lead
    assert len(titles(shelf)) == 20
    assert "Pencil and paper, a head" in titles(shelf)
    assert [entry.title for entry in shelf.selected()] == ["Pencil and paper, a head"]


def test_an_edit_that_the_library_refuses_leaves_no_dead_step(
    window: MainWindow, shelf: Shelf, qtbot: QtBot
) -> None:
    """As on a disk that is full."""
    library, before = house(window).library, titles(shelf)
    with refusing(library):
        shelf.state.bin(shelf.state.entries[:1], "2026-11-01T10:00:00Z")
        assert window.prompt_line.prompt.trouble
        assert (titles(shelf), shelf.state.undo_stack.count()) == (before, 0)
    choose(shelf, qtbot, 0)
    key(window, qtbot, Qt.Key.Key_Delete)
    with refusing(library):
        qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)  # it is refused: it can be tried again
        assert len(titles(shelf)) == len(before) - 1
        qtbot.waitUntil(lambda: shelf.state.undo_stack.index() == 1)
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert titles(shelf) == before


def test_the_menu_offers_what_can_be_done_now(shelf: Shelf, qtbot: QtBot) -> None:
    def offered() -> dict[str, bool]:
        menu = shelf.acts.menu(shelf, shelf.look_at)
        return {a.text().split("\t")[0]: a.isEnabled() for a in menu.actions() if a.text()}

    shelf.list.clearSelection()
    assert not offered()["Tags …"]
    assert offered()["Bring in …"]
    choose(shelf, qtbot, 0, 1)
    assert offered()["Put into the bin"]
    assert not offered()["Rename …"]
    shelf.look_at("bin")
    assert set(offered()) >= {"Take out again", "Delete for good …", "Empty the bin …"}


def test_escape_lets_go_of_what_is_selected(window: MainWindow, shelf: Shelf, qtbot: QtBot) -> None:
    choose(shelf, qtbot, 0)
    key(window, qtbot, Qt.Key.Key_Escape)
    assert shelf.selected() == []
